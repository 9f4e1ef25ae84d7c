import { Module } from '@nestjs/common';
import { ShopModule } from '../shop/shopModule.ts';
import { JobController } from './jobController.ts';
import { JobRepository } from './jobRepository.ts';
import { Jobs } from './jobs.ts';
import { ReadJob } from './readJob.ts';

/** Visits: intake, nameplate, the floor, one motor. */
@Module({
  imports: [ShopModule],
  controllers: [JobController],
  providers: [JobRepository, Jobs, ReadJob],
  exports: [JobRepository, Jobs, ReadJob],
})
export class JobModule {}
