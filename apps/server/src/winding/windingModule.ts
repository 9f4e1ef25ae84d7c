import { Module } from '@nestjs/common';
import { JobModule } from '../job/jobModule.ts';
import { ShopModule } from '../shop/shopModule.ts';
import { StockModule } from '../stock/stockModule.ts';
import { ThreadModule } from '../thread/threadModule.ts';
import { FailureController } from './failureController.ts';
import { Failures } from './failures.ts';
import { Joints } from './joints.ts';
import { JointsController } from './jointsController.ts';
import { WindingController } from './windingController.ts';
import { WindingFilesController } from './windingFiles.ts';
import { WindingRepository } from './windingRepository.ts';
import { Windings } from './windings.ts';

/** Winding records, plans, joints. */
@Module({
  imports: [JobModule, ShopModule, StockModule, ThreadModule],
  controllers: [FailureController, JointsController, WindingController, WindingFilesController],
  providers: [Failures, Joints, WindingRepository, Windings],
  exports: [Failures, Joints, WindingRepository, Windings],
})
export class WindingModule {}
