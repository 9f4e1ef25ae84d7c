import { Module } from '@nestjs/common';
import { AuthModule } from '../auth/authModule.ts';
import { EvaluateModule } from '../evaluate/evaluateModule.ts';
import { JobModule } from '../job/jobModule.ts';
import { ShopModule } from '../shop/shopModule.ts';
import { BalanceController } from './balanceController.ts';
import { BalanceRepository } from './balanceRepository.ts';
import { Balances } from './balances.ts';

/** Rotors on the stand. */
@Module({
  imports: [AuthModule, EvaluateModule, JobModule, ShopModule],
  controllers: [BalanceController],
  providers: [BalanceRepository, Balances],
  exports: [BalanceRepository, Balances],
})
export class BalanceModule {}
