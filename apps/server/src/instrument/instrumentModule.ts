import { Module } from '@nestjs/common';
import { JobModule } from '../job/jobModule.ts';
import { InstrumentController } from './instrumentController.ts';
import { InstrumentRepository } from './instrumentRepository.ts';
import { Instruments } from './instruments.ts';

/** What measures and sends by itself. */
@Module({
  imports: [JobModule],
  controllers: [InstrumentController],
  providers: [InstrumentRepository, Instruments],
  exports: [InstrumentRepository, Instruments],
})
export class InstrumentModule {}
