import { Module } from '@nestjs/common';
import { Queue } from './queue.ts';
import { QueueController } from './queueController.ts';
import { QueueRepository } from './queueRepository.ts';
import { Works } from './works.ts';

/** Work in the background: asked for, looked at, cancelled. */
@Module({
  controllers: [QueueController],
  providers: [Queue, QueueRepository, Works],
  exports: [Queue, QueueRepository, Works],
})
export class QueueModule {}
