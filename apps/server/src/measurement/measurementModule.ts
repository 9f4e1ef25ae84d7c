import { Module } from '@nestjs/common';
import { MeasurementController } from './measurementController.ts';
import { MeasurementRepository } from './measurementRepository.ts';
import { Trends } from './trends.ts';

/** Measured quantities and their trends. */
@Module({
  controllers: [MeasurementController],
  providers: [MeasurementRepository, Trends],
  exports: [MeasurementRepository, Trends],
})
export class MeasurementModule {}
