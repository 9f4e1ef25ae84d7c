import { Module } from '@nestjs/common';
import { AuthModule } from '../auth/authModule.ts';
import { EvaluateModule } from '../evaluate/evaluateModule.ts';
import { InstrumentModule } from '../instrument/instrumentModule.ts';
import { JobModule } from '../job/jobModule.ts';
import { MeasurementModule } from '../measurement/measurementModule.ts';
import { ShopModule } from '../shop/shopModule.ts';
import { ThreadModule } from '../thread/threadModule.ts';
import { TraceModule } from '../trace/traceModule.ts';
import { BalanceController } from './balanceController.ts';
import { BalanceRepository } from './balanceRepository.ts';
import { Balances } from './balances.ts';
import { Families } from './families.ts';
import { FamilyController } from './familyController.ts';
import { FamilyRepository } from './familyRepository.ts';
import { StandRuns } from './standRuns.ts';

/** Rotors on the stand. */
@Module({
  imports: [
    AuthModule,
    EvaluateModule,
    InstrumentModule,
    JobModule,
    MeasurementModule,
    ShopModule,
    ThreadModule,
    TraceModule,
  ],
  controllers: [BalanceController, FamilyController],
  providers: [BalanceRepository, Balances, Families, FamilyRepository, StandRuns],
  exports: [BalanceRepository, Balances, Families],
})
export class BalanceModule {}
