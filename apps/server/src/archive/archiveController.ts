import {
  archiveImportBody,
  archiveQuery,
  similarBody,
  type ArchiveEntry,
  type BroughtAnswer,
  type SimilarAnswer,
} from '@norther/contracts';
import { Controller, Get, HttpCode, Inject, Param, Post, Query } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { z } from 'zod';
import { Acting, Needs } from '../auth/guard.ts';
import type { Act } from '../database/writes.ts';
import { Read, Takes } from '../problem/body.ts';
import { badField } from '../problem/problem.ts';
import { Archive } from './archive.ts';

@ApiTags('archive')
@Controller('api/archive')
export class ArchiveController {
  readonly archive: Archive;
  constructor(@Inject(Archive) archive: Archive) {
    this.archive = archive;
  }

  @Get()
  find(@Query() query: Record<string, string>): Promise<ArchiveEntry[]> {
    const read = archiveQuery.safeParse(query);
    if (!read.success) {
      const issue = read.error.issues[0];
      throw badField(
        String(issue?.path[0] ?? 'q'),
        `${String(issue?.path[0] ?? 'q')}: ${issue?.message ?? 'not readable'}.`,
      );
    }
    return this.archive.find(read.data);
  }

  /** A search, not a change: any signed-in person may ask. */
  @Needs('viewer')
  @Post('similar')
  @HttpCode(200)
  @Takes(similarBody)
  similar(@Read(similarBody) body: z.output<typeof similarBody>, @Acting() act: Act): Promise<SimilarAnswer> {
    return this.archive.similar(act, body);
  }

  /** What a comparison with a large archive has come to: the work while it runs, then the most alike. */
  @Get('similar/:work')
  likeness(@Param('work') work: string): Promise<SimilarAnswer> {
    return this.archive.likenessOf(work);
  }

  @Needs('admin')
  @Post()
  @Takes(archiveImportBody)
  bring(@Read(archiveImportBody) body: z.output<typeof archiveImportBody>, @Acting() act: Act): Promise<BroughtAnswer> {
    return this.archive.bring(act, body);
  }
}
