import { Controller, Get, Header, Headers, Inject, Param, Post, Req, Res } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { eq } from 'drizzle-orm';
import type { FastifyReply } from 'fastify';
import { Acting, Needs, type Request } from '../auth/guard.ts';
import { attachment } from '../database/schema.ts';
import { type Act, Writes } from '../database/writes.ts';
import { TakesFile } from '../http/routeFacts.ts';
import { ReadJob } from '../job/readJob.ts';
import { badField, notFound } from '../problem/problem.ts';

/** Bytes at most of one photograph or document. */
export const MOST_FILE_BYTES = 15 * 1024 * 1024;

/** What may be kept with a job, told by the first bytes and not by the name. */
const KINDS: readonly { type: string; starts: readonly number[]; at?: number }[] = [
  { type: 'image/jpeg', starts: [0xff, 0xd8, 0xff] },
  { type: 'image/png', starts: [0x89, 0x50, 0x4e, 0x47] },
  { type: 'image/webp', starts: [0x57, 0x45, 0x42, 0x50], at: 8 },
  { type: 'application/pdf', starts: [0x25, 0x50, 0x44, 0x46] },
];

export function kindOf(content: Buffer): string | undefined {
  return KINDS.find((k) => k.starts.every((byte, i) => content[(k.at ?? 0) + i] === byte))?.type;
}

@ApiTags('files')
@Controller('api')
export class FilesController {
  readonly writes: Writes;
  readonly read: ReadJob;
  constructor(@Inject(Writes) writes: Writes, @Inject(ReadJob) read: ReadJob) {
    this.writes = writes;
    this.read = read;
  }

  @Needs('winder')
  @TakesFile(MOST_FILE_BYTES)
  @Post('jobs/:number/attachments')
  async add(
    @Param('number') number: string,
    @Headers('x-file-name') nameHeader: string | undefined,
    @Req() request: Request,
    @Acting() act: Act,
  ): Promise<{ id: string }> {
    const content = request.body;
    if (!Buffer.isBuffer(content) || content.length === 0)
      throw badField('file', 'Send a JPEG, PNG or WebP photograph, or a PDF.');
    const mediaType = kindOf(content);
    if (!mediaType) throw badField('file', 'This is not a JPEG, PNG or WebP photograph, nor a PDF.');
    let name = 'photograph';
    try {
      name = decodeURIComponent(nameHeader ?? name).slice(0, 200) || name;
    } catch {
      throw badField('file', 'The file name is not readable.');
    }
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      const row = await this.read.row(number, tx);
      const [stored] = await tx
        .insert(attachment)
        .values({
          jobId: row.id,
          name,
          mediaType,
          bytes: content.length,
          content,
          personName: act.actor.name,
          at: act.at,
        })
        .returning({ id: attachment.id });
      if (!stored) throw new Error('attachment not stored');
      await audit({
        action: 'file.add',
        jobId: row.id,
        summary: `${name} kept with ${number}`,
        after: { name, mediaType, bytes: content.length },
      });
      await tell(`job:${number}`);
      return stored;
    });
  }

  @Get('attachments/:id')
  @Header('Cache-Control', 'private, max-age=86400')
  @Header('Content-Security-Policy', "default-src 'none'; sandbox")
  async get(@Param('id') id: string, @Res() reply: FastifyReply): Promise<void> {
    const [row] = /^[0-9a-f-]{36}$/.test(id)
      ? await this.writes.database.tables.select().from(attachment).where(eq(attachment.id, id))
      : [];
    if (!row) throw notFound('such file');
    await reply
      .type(row.mediaType)
      .header('Content-Disposition', `inline; filename*=UTF-8''${encodeURIComponent(row.name)}`)
      .send(row.content);
  }
}
