import { Module } from '@nestjs/common';
import { JobModule } from '../job/jobModule.ts';
import { QueueModule } from '../queue/queueModule.ts';
import { ShopModule } from '../shop/shopModule.ts';
import { Archive } from './archive.ts';
import { ArchiveImport } from './archiveImport.ts';
import { ArchiveController } from './archiveController.ts';
import { ArchiveRepository } from './archiveRepository.ts';
import { Likeness } from './likeness.ts';

/** Every winding ever recorded. */
@Module({
  imports: [JobModule, QueueModule, ShopModule],
  controllers: [ArchiveController],
  providers: [Archive, ArchiveImport, ArchiveRepository, Likeness],
  exports: [Archive, ArchiveImport, ArchiveRepository, Likeness],
})
export class ArchiveModule {}
