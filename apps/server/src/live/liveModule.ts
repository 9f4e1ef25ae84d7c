import { Module } from '@nestjs/common';
import { AuthModule } from '../auth/authModule.ts';
import { HealthModule } from '../health/healthModule.ts';
import { Live } from './live.ts';
import { LiveController } from './liveController.ts';

/** What open screens are told. */
@Module({ imports: [AuthModule, HealthModule], controllers: [LiveController], providers: [Live], exports: [Live] })
export class LiveModule {}
