import { Module } from '@nestjs/common';
import { ShopModule } from '../shop/shopModule.ts';
import { JobController } from './jobController.ts';
import { JobRepository } from './jobRepository.ts';
import { Jobs } from './jobs.ts';
import { ReadJob } from './readJob.ts';
import { UnitController } from './unitController.ts';
import { UnitRepository } from './unitRepository.ts';
import { Units } from './units.ts';

/** Visits: intake, nameplate, the floor, one motor. */
@Module({
  imports: [ShopModule],
  controllers: [JobController, UnitController],
  providers: [JobRepository, Jobs, ReadJob, UnitRepository, Units],
  exports: [JobRepository, Jobs, ReadJob, UnitRepository, Units],
})
export class JobModule {}
