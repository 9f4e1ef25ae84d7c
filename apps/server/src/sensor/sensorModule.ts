import { Module } from '@nestjs/common';
import { AuthModule } from '../auth/authModule.ts';
import { JobModule } from '../job/jobModule.ts';
import { ShopModule } from '../shop/shopModule.ts';
import { SensorController } from './sensorController.ts';
import { SensorRepository } from './sensorRepository.ts';
import { Sensors } from './sensors.ts';

/** Temperature sensors and heaters of windings. */
@Module({
  imports: [AuthModule, JobModule, ShopModule],
  controllers: [SensorController],
  providers: [SensorRepository, Sensors],
  exports: [SensorRepository, Sensors],
})
export class SensorModule {}
