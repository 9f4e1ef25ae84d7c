import {
  holdForLists,
  onlyOperations,
  operation,
  laidOut,
  routeFor,
  viewRoute,
  type RouteGraph,
  type StepStates,
  type PartKind,
} from '@norther/core';
import type {
  AttemptView,
  BalanceView,
  FailureView,
  JobSummary,
  SpellView,
  TestView,
  WindingView,
} from '@norther/contracts';
import { z } from 'zod';
import { Problem } from '../problem/problem.ts';
import type {
  AttemptRow,
  BalanceRow,
  FailureRow,
  FloorRow,
  JobRow,
  SpellRow,
  StepRow,
  TestRow,
  WindingRow,
} from './jobRepository.ts';

/** A job that left the house is kept as it is. */
export function refuseClosed(row: JobRow): void {
  if (row.closedAt) throw new Problem(409, 'Closed', `Job ${row.number} left the house; it is kept as it is.`);
}

type RouteOfRow = Pick<JobRow, 'route' | 'came' | 'impregnation'> & { ownRoute?: JobRow['ownRoute'] };

/** The route of a job: its own where a foreman edited it, else the published one of what came in, impregnated so. */
export function templateOf(row: RouteOfRow): RouteGraph {
  const published = routeFor(row.route, row.came, row.impregnation);
  return row.ownRoute ? laidOut(row.ownRoute, published) : published;
}

/** The route of one job: its template with the operations the job was given when it was taken in. */
export function graphOf(row: RouteOfRow, steps: readonly { code: string }[]): RouteGraph {
  return onlyOperations(
    templateOf(row),
    steps.map((s) => s.code),
  );
}

export function statesOf(steps: readonly Pick<StepRow, 'code' | 'state'>[]): StepStates {
  return Object.fromEntries(steps.map((s) => [s.code, s.state]));
}

export function windingView(row: WindingRow): WindingView {
  return {
    revision: row.revision,
    part: row.part,
    role: row.role,
    typed: row.typed,
    record: row.record,
    readWith: row.readWith,
    reason: row.reason,
    person: row.personName,
    at: row.at.toISOString(),
    released: row.released,
    redesign: row.redesign,
  };
}

export const failureView = ({
  part,
  revision,
  typed,
  values,
  verdict,
  reason,
  result,
  ...row
}: FailureRow): FailureView => ({
  part,
  revision,
  typed,
  values,
  verdict,
  reason,
  found: result.values,
  person: row.personName,
  at: row.at.toISOString(),
});

export type PartWindings = { found: WindingView | null; plan: WindingView | null };

/** Of all revisions, newest first: the as-found record and the plan in force of one winding. */
export function newest(all: readonly WindingView[], part: PartKind): PartWindings {
  return {
    found: all.find((r) => r.part === part && r.role === 'as_found') ?? null,
    plan: all.find((r) => r.part === part && r.role === 'planned') ?? null,
  };
}

/** What each channel was taken for stands with the verdict: one load of the oven may count for several motors. */
export function withRoles<T extends { name: string; role: string }>(channels: readonly T[], result: unknown): T[] {
  const said = channelsSaid(result);
  // a result names what it used; the rest was not used
  return channels.map((c) => ({
    ...c,
    role: said.find((s) => s.name === c.name)?.role ?? (said.length > 0 ? 'not used' : c.role),
  }));
}

const channelSaid = z.object({ name: z.string(), role: z.string() });
const resultSaid = z.object({ values: z.object({ channels: z.array(z.unknown()) }) });

/** The channels a verdict names. One that came with a file may say anything: what cannot be read is left out. */
function channelsSaid(result: unknown): z.infer<typeof channelSaid>[] {
  const read = resultSaid.safeParse(result);
  if (!read.success) return [];
  return read.data.values.channels.flatMap((c) => channelSaid.safeParse(c).data ?? []);
}

export const spellView = (s: SpellRow): SpellView => ({
  person: s.personName,
  personId: s.personId,
  from: s.startedAt.toISOString(),
  to: s.endedAt?.toISOString() ?? null,
  ended: s.ended,
  handedTo: s.handedTo,
});

export function attemptView(a: AttemptRow, spells: readonly SpellRow[]): AttemptView {
  return {
    id: a.id,
    number: a.number,
    startedBy: a.startedBy,
    startedAt: a.startedAt.toISOString(),
    override: a.override,
    finishedBy: a.finishedBy,
    finishedAt: a.finishedAt?.toISOString() ?? null,
    typed: a.typed,
    values: a.values,
    verdict: a.verdict,
    reason: a.reason,
    signed: a.signed,
    spells: spells.filter((s) => s.attemptId === a.id).map(spellView),
  };
}

/**
 * A visit as the floor shows it.
 * @param today day where the shop is, year-month-day
 */
export function floorView(row: FloorRow, today: string): JobSummary {
  const { nameplate, steps: stepRows, listsMade } = row;
  const steps = stepRows.map(([code, state, changedAt, overridden]) => ({ code, state, changedAt, overridden }));
  const graph = graphOf(row, steps);
  const byCode = new Map(steps.map((s) => [s.code, s]));
  const late = row.promised !== null && row.closedAt === null && row.promised < today;
  return {
    number: row.number,
    what: row.what,
    customer: row.customerName,
    came: row.came,
    route: row.route,
    priority: row.priority,
    promised: row.promised,
    takenInAt: row.takenInAt.toISOString(),
    closedAt: row.closedAt?.toISOString() ?? null,
    late,
    outputW: nameplate.outputW ?? null,
    poles: nameplate.poles ?? null,
    steps: holdForLists(viewRoute(graph, statesOf(steps)), listsMade).map((v) => {
      const own = byCode.get(v.code);
      return {
        code: v.code,
        state: own?.state ?? 'open',
        status: v.status,
        why: readableWhy(v.why),
        overridden: own?.overridden ?? false,
        changedAt: own?.changedAt ?? null,
      };
    }),
  };
}

/** Operation codes in a reason become the titles the floor uses. */
export function readableWhy(why: string): string {
  if (why === '') return why;
  return why.replaceAll(/\b[A-Z][A-Z0-9]{2,3}\b(?:\.[2-9]\b)?/g, (code) => {
    try {
      return operation(code).title;
    } catch {
      return code;
    }
  });
}

/** A result as a page carries it: its working is asked for when somebody wants to see it. */
export function withoutWorking(result: unknown): unknown {
  const { working } = (result ?? {}) as { working?: unknown };
  return Array.isArray(working) ? { ...(result as object), working: [], workingSteps: working.length } : result;
}

/** Readings, each with the one that corrected it. */
export function testViews(tests: readonly TestRow[]): TestView[] {
  return tests.map((t) => ({
    id: t.id,
    part: t.part,
    stage: t.stage,
    kind: t.kind,
    typed: t.typed,
    values: t.values,
    verdict: t.verdict,
    reason: t.reason,
    result: withoutWorking(t.result),
    person: t.personName,
    takenAt: t.takenAt.toISOString(),
    supersedes: t.supersedes,
    supersededBy: tests.find((o) => o.supersedes === t.id)?.id ?? null,
    correctionReason: t.correctionReason,
    signed: t.signed,
    override: t.override,
    lesser: t.lesser,
    traces: t.traces,
  }));
}

export function balanceView(b: BalanceRow): BalanceView {
  return {
    id: b.id,
    part: b.part,
    typed: b.typed,
    values: b.values,
    verdict: b.verdict,
    reason: b.reason,
    result: withoutWorking(b.result),
    person: b.personName,
    at: b.at.toISOString(),
  };
}
