import { Module } from '@nestjs/common';
import { JobModule } from '../job/jobModule.ts';
import { ShopModule } from '../shop/shopModule.ts';
import { Archive } from './archive.ts';
import { ArchiveController } from './archiveController.ts';
import { ArchiveRepository } from './archiveRepository.ts';

/** Every winding ever recorded. */
@Module({
  imports: [JobModule, ShopModule],
  controllers: [ArchiveController],
  providers: [Archive, ArchiveRepository],
  exports: [Archive, ArchiveRepository],
})
export class ArchiveModule {}
