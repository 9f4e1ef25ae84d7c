import type { JobFile } from '@norther/contracts';
import { chunksOf, type PartKind } from '@norther/core';
import type { BalanceRepository } from '../balance/balanceRepository.ts';
import type { Transaction } from '../database/database.ts';
import type { EvaluationRepository } from '../evaluate/evaluationRepository.ts';
import { column } from '../trace/packing.ts';
import { addTrace } from '../trace/traceStatements.ts';

/** Waves and curves that a reading of a job's file is made of. */
export async function bringTestTraces(
  runs: EvaluationRepository,
  tx: Transaction,
  { jobId, testId, part }: { jobId: string; testId: string; part: PartKind },
  traces: JobFile['tests'][number]['traces'],
): Promise<void> {
  const ids: string[] = [];
  for (const { x, values, at, startAt, ...t } of traces)
    ids.push(
      await addTrace(
        tx,
        {
          ...t,
          jobId,
          part,
          xUnit: 's',
          startAt: startAt === null ? null : new Date(startAt),
          at: new Date(at),
          endedAt: new Date(at),
        },
        chunksOf({ x: Float64Array.from(x), values: values.map(column) }),
      ),
    );
  await runs.addTestTraces(tx, testId, ids);
}

/** Balances on the stand of a job's file, each with the verdict that it ended in. */
export async function bringSessions(
  stand: BalanceRepository,
  tx: Transaction,
  sessions: JobFile['balanceSessions'],
  to: {
    jobId: string;
    balanceIds: readonly string[];
    partOn: (rail: 'stator' | 'rotor', named: PartKind | undefined) => PartKind;
    unitOf: (ordinal: number | null) => string | null;
  },
): Promise<void> {
  for (const { person, at, entries, balance, ended, unit, ...s } of sessions) {
    const sessionId = await stand.begin(tx, {
      ...s,
      jobId: to.jobId,
      part: to.partOn('rotor', s.part),
      unitId: to.unitOf(unit),
      personName: person,
      at: new Date(at),
      ended,
      balanceId: balance === null ? null : (to.balanceIds[balance] ?? null),
    });
    if (sessionId === undefined) continue;
    for (const { person: by, at: when, ...e } of entries)
      await stand.add(tx, { ...e, sessionId, personName: by, at: new Date(when) });
  }
}
