import { Module } from '@nestjs/common';
import { ArchiveModule } from '../archive/archiveModule.ts';
import { NightBackup } from '../backup/nightBackup.ts';
import { EvaluateModule } from '../evaluate/evaluateModule.ts';
import { PruneRepository } from '../prune/pruneRepository.ts';
import { Pruning } from '../prune/pruning.ts';
import { ReportModule } from '../report/reportModule.ts';
import { QueueModule } from './queueModule.ts';
import { Worker } from './worker.ts';

/** Who does what is queued, and every kind of work there is. */
@Module({
  imports: [ArchiveModule, EvaluateModule, QueueModule, ReportModule],
  providers: [NightBackup, PruneRepository, Pruning, Worker],
  exports: [Worker],
})
export class WorkerModule {}
