import { Module } from '@nestjs/common';
import { AuthModule } from '../auth/authModule.ts';
import { JobModule } from '../job/jobModule.ts';
import { ProcessModule } from '../process/processModule.ts';
import { ShopModule } from '../shop/shopModule.ts';
import { StockModule } from '../stock/stockModule.ts';
import { TankModule } from '../tank/tankModule.ts';
import { CycleCourses } from './cycleCourse.ts';
import { VesselController } from './vesselController.ts';
import { VesselRepository } from './vesselRepository.ts';
import { VesselSetUps } from './vesselSetUps.ts';
import { Vessels } from './vessels.ts';

/** Vacuum-pressure vessels and their cycles. */
@Module({
  imports: [AuthModule, JobModule, ProcessModule, ShopModule, StockModule, TankModule],
  controllers: [VesselController],
  providers: [CycleCourses, VesselRepository, VesselSetUps, Vessels],
  exports: [VesselSetUps, Vessels],
})
export class VesselModule {}
