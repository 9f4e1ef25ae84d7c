import { LoadFollower, loadFrames, type Followed, type ShopLimits } from '@norther/core';
import { Inject, Injectable } from '@nestjs/common';
import type { Reader } from '../database/tables.ts';
import { unpack } from '../trace/packing.ts';
import { LoadRepository } from './loadRepository.ts';

interface Known {
  follower: LoadFollower;
  /** number of the newest chunk that was read; one that was left out before it is looked for again */
  last: number;
  chunks: number;
  found: Followed;
  setting: string;
}
/** Runs that are remembered at once. */
const MOST_KNOWN = 40;

/** The points of load runs, read from their samples once each, however many look. */
@Injectable()
export class LoadPoints {
  readonly rows: LoadRepository;
  private readonly known = new Map<string, Known>();
  constructor(@Inject(LoadRepository) rows: LoadRepository) {
    this.rows = rows;
  }

  async of(
    reader: Reader,
    run: { traceId: string; channels: readonly { name: string; unit: string }[]; ratedNm: number | undefined },
    limits: ShopLimits,
  ): Promise<Followed> {
    const setting = JSON.stringify([run.ratedNm, limits]);
    let known = this.known.get(run.traceId);
    // chunks came out of their order: all is read anew
    if (!known || known.setting !== setting || known.chunks !== known.last + 1)
      known = {
        follower: new LoadFollower(run.ratedNm, limits),
        last: -1,
        chunks: 0,
        found: { points: [], unsteady: undefined },
        setting,
      };
    const chunks = await this.rows.chunksAfter(reader, run.traceId, known.last);
    if (chunks.length > 0) {
      const { x, values } = unpack(chunks, run.channels.length);
      known.found = known.follower.push(loadFrames(run.channels, x, values));
      known.last = chunks.at(-1)?.first ?? known.last;
      known.chunks += chunks.length;
    }
    this.known.delete(run.traceId);
    this.known.set(run.traceId, known);
    for (const id of this.known.keys()) {
      if (this.known.size <= MOST_KNOWN) break;
      this.known.delete(id);
    }
    return known.found;
  }
}
