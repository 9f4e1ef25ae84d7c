import type { BackgroundView, WorkView } from '@norther/contracts';
import { Controller, Get, HttpCode, Inject, Param, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { Acting, Needs } from '../auth/guard.ts';
import type { Act } from '../database/writes.ts';
import { Works } from './works.ts';

@ApiTags('background work')
@Controller('api/work')
export class QueueController {
  readonly works: Works;
  constructor(@Inject(Works) works: Works) {
    this.works = works;
  }

  /** What waits and runs, who works, and the last backup. */
  @Needs('foreman')
  @Get()
  view(): Promise<BackgroundView> {
    return this.works.view();
  }

  @Get(':id')
  one(@Param('id') id: string): Promise<WorkView> {
    return this.works.one(id);
  }

  @Needs('foreman')
  @Post(':id/cancel')
  @HttpCode(200)
  cancel(@Param('id') id: string, @Acting() act: Act): Promise<WorkView> {
    return this.works.cancel(act, id);
  }

  /** Makes a backup now. */
  @Needs('admin')
  @Post('backup')
  @HttpCode(202)
  backUp(@Acting() act: Act): Promise<{ id: string }> {
    return this.works.backUp(act);
  }
}
