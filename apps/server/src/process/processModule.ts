import { Module } from '@nestjs/common';
import { AuthModule } from '../auth/authModule.ts';
import { EvaluateModule } from '../evaluate/evaluateModule.ts';
import { JobModule } from '../job/jobModule.ts';
import { MeasurementModule } from '../measurement/measurementModule.ts';
import { SensorModule } from '../sensor/sensorModule.ts';
import { ShopModule } from '../shop/shopModule.ts';
import { TankModule } from '../tank/tankModule.ts';
import { WindingModule } from '../winding/windingModule.ts';
import { RouteChanges } from './routeChanges.ts';
import { RouteController } from './routeController.ts';
import { StepController } from './stepController.ts';
import { Spells } from './spells.ts';
import { StepJudging } from './stepJudging.ts';
import { StepRepository } from './stepRepository.ts';
import { Steps } from './steps.ts';
import { TemplateController } from './templateController.ts';
import { TemplateRepository } from './templateRepository.ts';

/** Steps of the route. */
@Module({
  imports: [
    AuthModule,
    EvaluateModule,
    JobModule,
    MeasurementModule,
    SensorModule,
    ShopModule,
    TankModule,
    WindingModule,
  ],
  controllers: [RouteController, StepController, TemplateController],
  providers: [RouteChanges, StepJudging, StepRepository, Spells, Steps, TemplateRepository],
  exports: [StepRepository, Steps],
})
export class ProcessModule {}
