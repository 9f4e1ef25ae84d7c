import type { CoolingView } from '@norther/contracts';
import { coolingOfStream, coolingTyped, loadFrames, resistanceRow, switchedOffAt, type LoadFrame } from '@norther/core';
import { Inject, Injectable } from '@nestjs/common';
import type { Reader } from '../database/tables.ts';
import { ReadJob } from '../job/readJob.ts';
import { unpack } from '../trace/packing.ts';
import { LoadRepository } from './loadRepository.ts';

/** Chunks at the end of a load run in which its switch is looked for. */
const MOST_CHUNKS = 400;

type Sent = Awaited<ReturnType<LoadRepository['sent']>>[number];

/** Resistances that instruments sent while a winding cooled, counted from when its power went off. */
@Injectable()
export class Coolings {
  readonly read: ReadJob;
  readonly rows: LoadRepository;
  constructor(@Inject(ReadJob) read: ReadJob, @Inject(LoadRepository) rows: LoadRepository) {
    this.read = read;
    this.rows = rows;
  }

  async list(number: string): Promise<CoolingView[]> {
    return this.read.database.reading(async (reader) => {
      const job = await this.read.row(number, reader);
      const sent = await this.rows.sent(reader, job.id, 'cooling');
      const loaded = sent.length > 0 ? await this.rows.sent(reader, job.id, 'load') : [];
      const out: CoolingView[] = [];
      for (const one of sent) out.push(await this.view(reader, one, loaded));
      return out;
    });
  }

  private async view(
    reader: Reader,
    { trace, instrument, taken }: Sent,
    loaded: readonly Sent[],
  ): Promise<CoolingView> {
    const start = trace.startAt?.getTime() ?? 0;
    const before = loaded.find((l) => (l.trace.startAt?.getTime() ?? Infinity) <= start);
    const off = before ? await this.off(reader, before) : undefined;
    const row = resistanceRow(trace.channels);
    const { x, values } = unpack(await this.rows.chunksAfter(reader, trace.id, -1), trace.channels.length);
    const since = off === undefined ? 0 : (start - off.at) / 1000;
    const readings =
      typeof row === 'string'
        ? []
        : coolingOfStream(
            x.map((s) => s + since),
            values[row.row] ?? [],
            row.unit,
          );
    return {
      trace: trace.id,
      source: trace.sourceName,
      simulated: instrument.simulated,
      calibratedUntil: instrument.calibratedUntil,
      at: trace.startAt?.toISOString() ?? trace.at.toISOString(),
      ended: trace.endedAt !== null,
      taken,
      offAt: off === undefined ? null : new Date(off.at).toISOString(),
      typed: coolingTyped(readings, off?.coolantC),
      problem: typeof row === 'string' ? row : null,
    };
  }

  /** When a load run had current last, ms, and the coolant then. */
  private async off(
    reader: Reader,
    { trace }: Sent,
  ): Promise<{ at: number; coolantC: number | undefined } | undefined> {
    const { x, values } = unpack(await this.rows.lastChunks(reader, trace.id, MOST_CHUNKS), trace.channels.length);
    const frames: LoadFrame[] = loadFrames(trace.channels, x, values);
    const t = switchedOffAt(frames);
    if (t === undefined || trace.startAt === null) return undefined;
    return { at: trace.startAt.getTime() + t * 1000, coolantC: frames.find((f) => f.t === t)?.coolantC };
  }
}
