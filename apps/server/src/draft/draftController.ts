import { Body, Controller, Delete, Get, HttpCode, Inject, Param, Post, Put, Query, Req } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { Acting, Needs, type Request } from '../auth/guard.ts';
import type { Act } from '../database/writes.ts';
import { badField } from '../problem/problem.ts';
import { Drafts } from './drafts.ts';

const MOST_CHARACTERS = 200_000;

@ApiTags('drafts')
@Controller('api/drafts')
export class DraftController {
  readonly drafts: Drafts;
  constructor(@Inject(Drafts) drafts: Drafts) {
    this.drafts = drafts;
  }

  /** The keys of this person's drafts: a screen of many fields asks only for those that there are. */
  @Get()
  keys(@Req() request: Request): Promise<string[]> {
    return this.drafts.keys(request.person?.id ?? '');
  }

  @Get(':key')
  read(@Param('key') key: string, @Req() request: Request): Promise<object> {
    return this.drafts.read(request.person?.id ?? '', key);
  }

  @Needs('winder')
  @Put(':key')
  @HttpCode(204)
  async save(@Param('key') key: string, @Body() body: unknown, @Acting() act: Act): Promise<void> {
    if (key.length > 120) throw badField('key', 'This draft has too long a name.');
    if (typeof body !== 'object' || body === null) throw badField('body', 'A draft is a set of fields.');
    if (JSON.stringify(body).length > MOST_CHARACTERS) throw badField('body', 'This draft is too large.');
    await this.drafts.save(act, key, body);
  }

  @Needs('winder')
  @Post(':key/taken')
  @HttpCode(204)
  async take(@Param('key') key: string, @Acting() act: Act): Promise<void> {
    await this.drafts.take(act, key);
  }

  @Needs('winder')
  @Delete(':key')
  @HttpCode(204)
  async end(
    @Param('key') key: string,
    @Query('recorded') recorded: string | undefined,
    @Acting() act: Act,
  ): Promise<void> {
    await this.drafts.end(act, key, recorded === 'yes' ? 'recorded' : 'discard');
  }
}
