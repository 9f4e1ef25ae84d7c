import { Module } from '@nestjs/common';
import { TraceController } from './traceController.ts';
import { TraceRepository } from './traceRepository.ts';
import { Traces } from './traces.ts';

/** Long sampled series. */
@Module({ controllers: [TraceController], providers: [TraceRepository, Traces], exports: [TraceRepository, Traces] })
export class TraceModule {}
