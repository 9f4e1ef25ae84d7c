import { Module } from '@nestjs/common';
import { JobModule } from '../job/jobModule.ts';
import { MeasurementModule } from '../measurement/measurementModule.ts';
import { ShopModule } from '../shop/shopModule.ts';
import { ThreadModule } from '../thread/threadModule.ts';
import { TraceModule } from '../trace/traceModule.ts';
import { EvaluateController } from './evaluateController.ts';
import { EvaluationRepository } from './evaluationRepository.ts';
import { Evaluations } from './evaluations.ts';

/** Tests, cures, balances and their verdicts. */
@Module({
  imports: [JobModule, MeasurementModule, ShopModule, ThreadModule, TraceModule],
  controllers: [EvaluateController],
  providers: [EvaluationRepository, Evaluations],
  exports: [EvaluationRepository, Evaluations],
})
export class EvaluateModule {}
