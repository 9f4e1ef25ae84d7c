import { Controller, Get, Header, Headers, Inject, Param, Post, Req, Res } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { FastifyReply } from 'fastify';
import { Acting, Needs, type Request } from '../auth/guard.ts';
import type { Act } from '../database/writes.ts';
import { TakesFile } from '../http/routeFacts.ts';
import { badField } from '../problem/problem.ts';
import { Files, MOST_FILE_BYTES } from './files.ts';

@ApiTags('files')
@Controller('api')
export class FilesController {
  readonly files: Files;
  constructor(@Inject(Files) files: Files) {
    this.files = files;
  }

  @Needs('winder')
  @TakesFile(MOST_FILE_BYTES)
  @Post('jobs/:number/attachments')
  async add(
    @Param('number') number: string,
    @Headers('x-file-name') nameHeader: string | undefined,
    @Headers('x-step') step: string | undefined,
    @Req() request: Request,
    @Acting() act: Act,
  ): Promise<{ id: string }> {
    let name = 'photograph';
    try {
      name = decodeURIComponent(nameHeader ?? name).slice(0, 200) || name;
    } catch {
      throw badField('file', 'The file name is not readable.');
    }
    return this.files.add(act, number, { name, step }, request.body);
  }

  @Get('attachments/:id')
  @Header('Cache-Control', 'private, max-age=86400')
  @Header('Content-Security-Policy', "default-src 'none'; sandbox")
  async get(@Param('id') id: string, @Res() reply: FastifyReply): Promise<void> {
    const row = await this.files.get(id);
    await reply
      .type(row.mediaType)
      .header('Content-Disposition', `inline; filename*=UTF-8''${encodeURIComponent(row.name)}`)
      .send(row.content);
  }
}
