import { Module } from '@nestjs/common';
import { JobModule } from '../job/jobModule.ts';
import { FileRepository } from './fileRepository.ts';
import { Files } from './files.ts';
import { FilesController } from './filesController.ts';

/** Photographs and documents. */
@Module({
  imports: [JobModule],
  controllers: [FilesController],
  providers: [FileRepository, Files],
  exports: [FileRepository, Files],
})
export class FilesModule {}
