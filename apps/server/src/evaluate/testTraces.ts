import { MOST_TEST_TRACES, type testBody } from '@norther/contracts';
import {
  chunksOf,
  FIRST_PART,
  earlierSurges,
  earlierWavesOf,
  rotorState,
  ROUTES,
  SENT_AS,
  tracesOfWaves,
  wavesOfTraces,
  type JudgingContext,
  type PartKind,
  type SurgeWaves,
} from '@norther/core';
import { Inject, Injectable } from '@nestjs/common';
import type { z } from 'zod';
import type { Transaction } from '../database/database.ts';
import { ReadJob } from '../job/readJob.ts';
import { badField, Problem } from '../problem/problem.ts';
import { WorkThread } from '../thread/workThread.ts';
import { Traces } from '../trace/traces.ts';
import { addTrace } from '../trace/traceStatements.ts';
import { EvaluationRepository } from './evaluationRepository.ts';

type Body = z.output<typeof testBody>;

/** What a reading is made of beside what was typed. */
export interface Attached {
  /** of a surge comparison: the waves that it is judged by */
  waves: SurgeWaves[] | undefined;
  /** day until which the instrument that sent it is calibrated, the earliest of several */
  calibratedUntil: string | undefined;
  /** keeps the samples with the reading */
  keep: (tx: Transaction, testId: string, of: { jobId: string; part: PartKind; at: Date }) => Promise<void>;
}

/** Waves and curves of tests: from a file, or as an instrument sent them. */
@Injectable()
export class TestTraces {
  readonly thread: WorkThread;
  readonly traces: Traces;
  readonly runs: EvaluationRepository;
  readonly read: ReadJob;
  constructor(
    @Inject(WorkThread) thread: WorkThread,
    @Inject(Traces) traces: Traces,
    @Inject(EvaluationRepository) runs: EvaluationRepository,
    @Inject(ReadJob) read: ReadJob,
  ) {
    this.read = read;
    this.thread = thread;
    this.traces = traces;
    this.runs = runs;
  }

  /** Reads what a reading brings; refused in a sentence where it is none of this job or cannot be read. */
  async of(number: string, body: Pick<Body, 'kind' | 'waves' | 'traces'>, takesWaves: boolean): Promise<Attached> {
    if (body.waves && body.traces) throw badField('waves', 'Give either a file of waves or what an instrument sent.');
    if (body.waves && !takesWaves) throw badField('waves', 'Waves belong to a surge comparison.');
    if (body.waves) return this.fromFile(body.waves);
    if (!body.traces) return { waves: undefined, calibratedUntil: undefined, keep: nothing };
    const ids = [...new Set(body.traces)];
    const { what, waves } = await this.sent(number, ids, takesWaves);
    const wanted = SENT_AS[body.kind];
    const other = what.find((w) => w !== wanted);
    if (other !== undefined)
      throw badField(
        'traces',
        wanted === undefined ? 'No instrument sends this test.' : `This test is sent as "${wanted}", not "${other}".`,
      );
    return {
      waves,
      calibratedUntil: await this.read.database.reading((reader) => this.runs.calibratedUntil(reader, ids)),
      keep: async (tx, testId) => {
        if (await this.runs.areTaken(tx, ids))
          throw new Problem(409, 'Taken already', 'This run was taken already; measure again.', { field: 'traces' });
        await this.runs.addTestTraces(tx, testId, ids);
      },
    };
  }

  /** Waves of the newest surge comparison before, of the same winding: of the new one only where it is new. */
  async earlierWaves(
    number: string,
    body: Pick<Body, 'stage' | 'part' | 'supersedes'> & { typed: { rotor?: string | undefined } },
  ): Promise<JudgingContext['earlierWaves']> {
    const part = body.part ?? FIRST_PART;
    const { tests, rewound, route } = await this.read.database.reading(async (reader) => {
      const row = await this.read.row(number, reader);
      return {
        tests: await this.runs.earlierTests(reader, row, part, null),
        rewound: ROUTES[row.route].rewinds.includes(part),
        route: row.route,
      };
    });
    for (const test of earlierSurges(tests, { ...body, rotor: rotorState(body.typed) }, rewound)) {
      const waves = earlierWavesOf(test, body.stage, (await this.wavesOf(number, test.id)) ?? [], route);
      if (waves) return waves;
    }
    return undefined;
  }

  /** The waves that a recorded comparison was judged by; undefined where it has none. */
  async wavesOf(number: string, testId: string): Promise<SurgeWaves[] | undefined> {
    const ids = await this.read.database.reading((reader) => this.runs.tracesOf(reader, testId));
    return ids.length === 0 ? undefined : (await this.sent(number, ids, true)).waves;
  }

  private async fromFile(file: NonNullable<Body['waves']>): Promise<Attached> {
    const waves = await this.thread.do('surgeCsv', file);
    const made = tracesOfWaves(waves);
    if (made.length > MOST_TEST_TRACES)
      throw badField('waves', `The waves have ${made.length} different steps of time; at most ${MOST_TEST_TRACES}.`);
    return {
      waves,
      calibratedUntil: undefined,
      keep: async (tx, testId, { jobId, part, at }) => {
        const ids: string[] = [];
        for (const { channels, x, values } of made)
          ids.push(
            await addTrace(
              tx,
              {
                jobId,
                part,
                what: 'surge',
                channels,
                xUnit: 's',
                source: 'file',
                sourceName: file.fileName || 'waves',
                at,
                endedAt: at,
              },
              chunksOf({ x, values }),
            ),
          );
        await this.runs.addTestTraces(tx, testId, ids);
      },
    };
  }

  /** Traces as they were sent, or are kept: of what each is, and the waves in them. */
  private async sent(number: string, ids: readonly string[], takesWaves: boolean) {
    const found = [];
    for (const id of ids) {
      const { head, samples } = await this.traces.samples(id);
      if (head.job !== null && head.job !== number) throw badField('traces', `One of these was sent for ${head.job}.`);
      if (!head.ended) throw badField('traces', 'What an instrument sends is taken when it has ended.');
      found.push({ what: head.what, channels: head.channels, x: samples.x, values: [...samples.values] });
    }
    return { what: found.map((f) => f.what), waves: takesWaves ? wavesOfTraces(found) : undefined };
  }
}

const nothing = (): Promise<void> => Promise.resolve();
