import { Module } from '@nestjs/common';
import { LiveModule } from '../live/liveModule.ts';
import { ShopModule } from '../shop/shopModule.ts';
import { JobModule } from '../job/jobModule.ts';
import { CommandController } from './commandController.ts';
import { CommandRepository } from './commandRepository.ts';
import { Commands } from './commands.ts';
import { InstrumentController } from './instrumentController.ts';
import { InstrumentRepository } from './instrumentRepository.ts';
import { Instruments } from './instruments.ts';

/** What measures and sends by itself. */
@Module({
  imports: [JobModule, LiveModule, ShopModule],
  controllers: [CommandController, InstrumentController],
  providers: [CommandRepository, Commands, InstrumentRepository, Instruments],
  exports: [CommandRepository, Commands, InstrumentRepository, Instruments],
})
export class InstrumentModule {}
