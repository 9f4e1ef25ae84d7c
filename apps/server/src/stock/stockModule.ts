import { Module } from '@nestjs/common';
import { JobModule } from '../job/jobModule.ts';
import { ShopModule } from '../shop/shopModule.ts';
import { ThreadModule } from '../thread/threadModule.ts';
import { LotTracing } from './lotTracing.ts';
import { MaterialController } from './materialController.ts';
import { Materials } from './materials.ts';
import { Stock } from './stock.ts';
import { StockController } from './stockController.ts';
import { StockRepository } from './stockRepository.ts';

/** Lots, bills, cutting and picking lists. */
@Module({
  imports: [JobModule, ShopModule, ThreadModule],
  controllers: [MaterialController, StockController],
  providers: [LotTracing, Materials, Stock, StockRepository],
  exports: [Materials, Stock, StockRepository],
})
export class StockModule {}
