import { Module } from '@nestjs/common';
import { InstrumentModule } from '../instrument/instrumentModule.ts';
import { JobModule } from '../job/jobModule.ts';
import { ShopModule } from '../shop/shopModule.ts';
import { Coolings } from './coolings.ts';
import { LoadController } from './loadController.ts';
import { LoadGuard } from './loadGuard.ts';
import { LoadPoints } from './loadPoints.ts';
import { LoadRepository } from './loadRepository.ts';
import { LoadRuns } from './loadRuns.ts';

/** Motors on a dynamometer: what is sent of them, guarded as it comes. */
@Module({
  imports: [InstrumentModule, JobModule, ShopModule],
  controllers: [LoadController],
  providers: [Coolings, LoadGuard, LoadPoints, LoadRepository, LoadRuns],
  exports: [LoadRuns],
})
export class LoadModule {}
