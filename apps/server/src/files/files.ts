import { Inject, Injectable } from '@nestjs/common';
import { type Act, Writes } from '../database/writes.ts';
import { ReadJob } from '../job/readJob.ts';
import { badField, notFound } from '../problem/problem.ts';
import { FileRepository } from './fileRepository.ts';

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

/** Photographs and documents kept with a job. */
@Injectable()
export class Files {
  readonly writes: Writes;
  readonly read: ReadJob;
  readonly files: FileRepository;
  constructor(
    @Inject(Writes) writes: Writes,
    @Inject(ReadJob) read: ReadJob,
    @Inject(FileRepository) files: FileRepository,
  ) {
    this.writes = writes;
    this.read = read;
    this.files = files;
  }

  async add(
    act: Act,
    number: string,
    { name, step }: { name: string; step: string | undefined },
    content: unknown,
  ): Promise<{ id: string }> {
    if (!Buffer.isBuffer(content) || content.length === 0)
      throw badField('file', 'Send a JPEG, PNG or WebP photograph, or a PDF.');
    const mediaType = kindOf(content);
    if (!mediaType) throw badField('file', 'This is not a JPEG, PNG or WebP photograph, nor a PDF.');
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      const row = await this.read.row(number, tx);
      if (step !== undefined && !(await this.read.steps(row, tx)).some((s) => s.code === step))
        throw badField('step', `There is no operation ${step.slice(0, 12)} in the route of ${number}.`);
      const id = await this.files.add(tx, {
        jobId: row.id,
        name,
        mediaType,
        bytes: content.length,
        content,
        code: step ?? null,
        personName: act.actor.name,
        at: act.at,
      });
      await audit({
        action: 'file.add',
        jobId: row.id,
        summary: `${name} kept with ${number}`,
        after: { name, mediaType, bytes: content.length },
      });
      await tell(`job:${number}`);
      return { id };
    });
  }

  async get(id: string): Promise<{ name: string; mediaType: string; content: Buffer }> {
    const row = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i.test(id) ? await this.files.get(id) : undefined;
    if (!row) throw notFound('such file');
    return row;
  }
}
