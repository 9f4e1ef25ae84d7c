import type { TraceListed, TraceView } from '@norther/contracts';
import { shownOfOverview, shownOfSamples, BLOCK_SAMPLES, type Samples } from '@norther/core';
import { Inject, Injectable } from '@nestjs/common';
import { badField, notFound } from '../problem/problem.ts';
import { fromBytes, unpack } from './packing.ts';
import { TraceRepository, type TraceHead } from './traceRepository.ts';

/** Stretches of a drawing at most, and when nobody says. */
export const MOST_POINTS = 4000;
const USUAL_POINTS = 800;
const ID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i;

/** A trace is asked for by window and resolution, never sent whole. */
@Injectable()
export class Traces {
  readonly repository: TraceRepository;
  constructor(@Inject(TraceRepository) repository: TraceRepository) {
    this.repository = repository;
  }

  /** Every sample of a trace, for what judges it. */
  async samples(id: string): Promise<{ head: TraceHead; samples: Samples }> {
    return this.repository.database.reading(async (reader) => {
      const head = ID.test(id) ? await this.repository.head(reader, id) : undefined;
      if (!head) throw notFound('such trace');
      return { head, samples: unpack(await this.repository.chunks(reader, id), head.channels.length) };
    });
  }

  /** The newest traces of a kind that instruments have sent. */
  async sent(what: string, number?: string): Promise<TraceListed[]> {
    return (await this.repository.sent(what, number)).map(({ at, ...t }) => ({ ...t, at: at.toISOString() }));
  }

  async window(
    id: string,
    asked: { from?: number | undefined; to?: number | undefined; points?: number | undefined },
  ): Promise<TraceView> {
    const { from = -Infinity, to = Infinity, points = USUAL_POINTS } = asked;
    if (from >= to) throw badField('from', 'The window must begin before it ends.');
    if (!Number.isInteger(points) || points < 2 || points > MOST_POINTS)
      throw badField('points', `Ask for 2 to ${MOST_POINTS} points.`);
    return this.repository.database.reading(async (reader) => {
      const head = ID.test(id) ? await this.repository.head(reader, id) : undefined;
      if (!head) throw notFound('such trace');
      const { startAt, ...rest } = head;
      const shown =
        (await this.repository.samplesIn(reader, id, from, to)) <= BLOCK_SAMPLES * points
          ? shownOfSamples(
              unpack(await this.repository.chunks(reader, id, from, to), head.channels.length),
              from,
              to,
              points,
            )
          : shownOfOverview(
              (await this.repository.overviews(reader, id, from, to)).map(fromBytes),
              head.channels.length,
              from,
              to,
              points,
            );
      return { ...rest, startAt: startAt?.toISOString() ?? null, ...shown };
    });
  }
}
