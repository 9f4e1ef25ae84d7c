import { BalanceModule } from '../balance/balanceModule.ts';
import { SensorModule } from '../sensor/sensorModule.ts';
import { Module } from '@nestjs/common';
import { EvaluateModule } from '../evaluate/evaluateModule.ts';
import { FilesModule } from '../files/filesModule.ts';
import { JobModule } from '../job/jobModule.ts';
import { MeasurementModule } from '../measurement/measurementModule.ts';
import { ShopModule } from '../shop/shopModule.ts';
import { TraceModule } from '../trace/traceModule.ts';
import { WindingModule } from '../winding/windingModule.ts';
import { Exchange } from './exchange.ts';
import { ExchangeController } from './exchangeController.ts';
import { ExchangeRepository } from './exchangeRepository.ts';

/** A job as a file, out and in. */
@Module({
  imports: [
    BalanceModule,
    SensorModule,
    EvaluateModule,
    FilesModule,
    JobModule,
    MeasurementModule,
    ShopModule,
    TraceModule,
    WindingModule,
  ],
  controllers: [ExchangeController],
  providers: [Exchange, ExchangeRepository],
  exports: [Exchange, ExchangeRepository],
})
export class ExchangeModule {}
