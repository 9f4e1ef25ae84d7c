import { Module } from '@nestjs/common';
import { AuthModule } from '../auth/authModule.ts';
import { ShopModule } from '../shop/shopModule.ts';
import { StockModule } from '../stock/stockModule.ts';
import { TankController } from './tankController.ts';
import { TankRepository } from './tankRepository.ts';
import { Tanks } from './tanks.ts';

/** Resin tanks, their lots and shelf tests. */
@Module({
  imports: [AuthModule, ShopModule, StockModule],
  controllers: [TankController],
  providers: [TankRepository, Tanks],
  exports: [TankRepository, Tanks],
})
export class TankModule {}
