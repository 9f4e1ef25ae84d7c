import { Module } from '@nestjs/common';
import { JobModule } from '../job/jobModule.ts';
import { SearchController } from './searchController.ts';
import { SearchRepository } from './searchRepository.ts';

/** The search from anywhere, histories. */
@Module({
  imports: [JobModule],
  controllers: [SearchController],
  providers: [SearchRepository],
  exports: [SearchRepository],
})
export class SearchModule {}
