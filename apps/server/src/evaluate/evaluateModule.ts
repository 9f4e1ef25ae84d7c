import { Module } from '@nestjs/common';
import { JobModule } from '../job/jobModule.ts';
import { MeasurementModule } from '../measurement/measurementModule.ts';
import { QueueModule } from '../queue/queueModule.ts';
import { ShopModule } from '../shop/shopModule.ts';
import { ThreadModule } from '../thread/threadModule.ts';
import { TraceModule } from '../trace/traceModule.ts';
import { InstrumentModule } from '../instrument/instrumentModule.ts';
import { Analysers } from './analysers.ts';
import { ComparedTests } from './comparedTests.ts';
import { Cures } from './cures.ts';
import { EvaluateController } from './evaluateController.ts';
import { EvaluationRepository } from './evaluationRepository.ts';
import { Evaluations } from './evaluations.ts';
import { LongLog } from './longLog.ts';
import { WindingModule } from '../winding/windingModule.ts';
import { Rejudging } from './rejudging.ts';
import { RejudgingController } from './rejudgingController.ts';
import { TestTraces } from './testTraces.ts';
import { YieldController } from './yieldController.ts';
import { YieldRepository } from './yieldRepository.ts';

/** Tests, cures, balances and their verdicts. */
@Module({
  imports: [
    InstrumentModule,
    WindingModule,
    JobModule,
    MeasurementModule,
    QueueModule,
    ShopModule,
    ThreadModule,
    TraceModule,
  ],
  controllers: [EvaluateController, RejudgingController, YieldController],
  providers: [
    Analysers,
    ComparedTests,
    Cures,
    EvaluationRepository,
    Evaluations,
    LongLog,
    Rejudging,
    TestTraces,
    YieldRepository,
  ],
  exports: [Cures, EvaluationRepository, Evaluations, LongLog],
})
export class EvaluateModule {}
