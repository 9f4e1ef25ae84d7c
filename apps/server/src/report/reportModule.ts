import { Module } from '@nestjs/common';
import { BalanceModule } from '../balance/balanceModule.ts';
import { JobModule } from '../job/jobModule.ts';
import { QueueModule } from '../queue/queueModule.ts';
import { ShopModule } from '../shop/shopModule.ts';
import { ThreadModule } from '../thread/threadModule.ts';
import { ReportController } from './reportController.ts';
import { ReportRepository } from './reportRepository.ts';
import { Reports } from './reports.ts';

/** Papers and issued reports. */
@Module({
  imports: [BalanceModule, JobModule, QueueModule, ShopModule, ThreadModule],
  controllers: [ReportController],
  providers: [ReportRepository, Reports],
  exports: [ReportRepository, Reports],
})
export class ReportModule {}
