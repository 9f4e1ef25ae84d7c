import { Module } from '@nestjs/common';
import { AuthModule } from '../auth/authModule.ts';
import { EvaluateModule } from '../evaluate/evaluateModule.ts';
import { JobModule } from '../job/jobModule.ts';
import { MeasurementModule } from '../measurement/measurementModule.ts';
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

/** Steps of the route. */
@Module({
  imports: [AuthModule, EvaluateModule, JobModule, MeasurementModule, ShopModule, TankModule, WindingModule],
  controllers: [RouteController, StepController],
  providers: [RouteChanges, StepJudging, StepRepository, Spells, Steps],
  exports: [StepRepository, Steps],
})
export class ProcessModule {}
