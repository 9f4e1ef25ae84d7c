import type { JobFile } from '@norther/contracts';
import { chunksOf, FIRST_PART, type PartKind } from '@norther/core';
import type { BalanceRepository } from '../balance/balanceRepository.ts';
import type { Transaction } from '../database/database.ts';
import type { EvaluationRepository } from '../evaluate/evaluationRepository.ts';
import type { ExchangeRepository } from './exchangeRepository.ts';
import { column } from '../trace/packing.ts';
import { addTrace } from '../trace/traceStatements.ts';

/** Waves and curves that a reading of a job's file is made of. */
export async function bringTestTraces(
  runs: EvaluationRepository,
  tx: Transaction,
  { jobId, testId, part }: { jobId: string; testId: string; part: PartKind },
  traces: JobFile['tests'][number]['traces'],
): Promise<string[]> {
  const ids: string[] = [];
  for (const trace of traces) ids.push(await bringTrace(tx, { jobId, part }, trace));
  await runs.addTestTraces(tx, testId, ids);
  return ids;
}

const bringTrace = (
  tx: Transaction,
  of: { jobId: string; part: PartKind },
  { x, values, at, startAt, ...t }: JobFile['tests'][number]['traces'][number],
): Promise<string> =>
  addTrace(
    tx,
    {
      ...t,
      ...of,
      xUnit: 's',
      startAt: startAt === null ? null : new Date(startAt),
      at: new Date(at),
      endedAt: new Date(at),
    },
    chunksOf({ x: Float64Array.from(x), values: values.map(column) }),
  );

/** Load runs of a job's file; one that a test is made of has that test's trace. */
export async function bringLoadRuns(
  whole: ExchangeRepository,
  tx: Transaction,
  runs: JobFile['loadRuns'],
  to: { jobId: string; tracesOf: ReadonlyMap<string, readonly string[]> },
): Promise<void> {
  for (const { person, at, endedAt, trace, test, ...r } of runs)
    await whole.addLoadRun(tx, {
      ...r,
      jobId: to.jobId,
      personName: person,
      at: new Date(at),
      endedAt: new Date(endedAt),
      traceId: trace
        ? await bringTrace(tx, { jobId: to.jobId, part: FIRST_PART }, trace)
        : test && (to.tracesOf.get(test.id)?.[test.trace] ?? null),
    });
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
