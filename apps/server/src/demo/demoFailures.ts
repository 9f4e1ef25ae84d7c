import { failedWinding } from '@norther/contracts';
import { sayMarks } from '@norther/core';
import type { NestFastifyApplication } from '@nestjs/platform-fastify';
import type { Act } from '../database/writes.ts';
import { ReadJob } from '../job/readJob.ts';
import { Failures } from '../winding/failures.ts';
import type { DemoFailure } from './demoJobs.ts';

/** The failure analysis of a demo motor: its map from the layout of the winding as found. */
export async function addDemoFailure(app: NestFastifyApplication, act: Act, number: string, failure: DemoFailure): Promise<void> {
  const { layout } = failedWinding(await app.get(ReadJob).detail(number), 'stator');
  const marks = (layout?.coils ?? []).map((c) => ({ coil: c.number, damage: failure.burnt?.[c.phase] ?? 0 }));
  await app.get(Failures).save(act, number, {
    part: 'stator',
    revision: 0,
    typed: { marks: [sayMarks(marks), failure.more ?? ''].filter((m) => m !== '').join('; '), ...failure.seen, ...failure.concluded },
  });
}
