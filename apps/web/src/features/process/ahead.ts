import {
  afterFinish,
  combineVerdicts,
  FIRST_PART,
  judgeRecord,
  operation,
  readForm,
  viewRoute,
  type Judged,
  type RecordContext,
  type ReadingDefaults,
  type RouteGraph,
  type StepState,
  type Typed,
  type Verdict,
} from '@norther/core';
import { windingOfPart, type JobDetail, type StepViewRow } from '@norther/contracts';
import type { Waiting } from '../../app/outbox/outbox.ts';

/** What a step's record is judged with on this device: the same as on the server. */
export function judgedHere(
  job: JobDetail,
  code: string,
  typed: Typed,
  shop: {
    limits: Readonly<Record<string, number>>;
    defaults: ReadingDefaults;
    person: string;
    gauges?: RecordContext['gauges'];
  },
): Judged {
  const op = operation(code);
  const { values } = readForm(op.fields, typed, shop.defaults);
  const judged = judgeRecord(op, values, {
    limits: shop.limits,
    earlier: earlierOf(job),
    person: { name: shop.person },
    ...(shop.gauges ? { gauges: shop.gauges } : {}),
    ...windingOf(job),
  });
  // what is decided by tests, a cure, a balance or a release is decided by the server; a burn-off by its record, and by its log there
  return (op.decidedBy && op.decidedBy.kind !== 'burn-off') || op.closesJob
    ? {
        verdict: combineVerdicts([judged.verdict, 'cannot judge']),
        reason: judged.verdict === 'pass' ? 'Decided when it is sent.' : judged.reason,
      }
    : judged;
}

/** The winding as found, as the server judges copper by it. */
function windingOf(job: JobDetail) {
  const { found, nameplateFound } = windingOfPart(job, FIRST_PART);
  return found ? { winding: { record: found.record, nameplate: nameplateFound } } : {};
}

/** Recorded values of the finished operations of a job, the newest attempt last. */
export const earlierOf = (job: JobDetail): Record<string, StepViewRow['attempts'][number]['values']> =>
  Object.fromEntries(
    job.detailSteps.flatMap((s) => s.attempts.filter((a) => a.finishedAt !== null).map((a) => [s.code, a.values])),
  );

/**
 * The job as it stands with what waits on this device done: the next step can be begun before the server has heard of the last.
 * Nothing that waits behind a refusal is counted.
 */
export function withWaiting(
  job: JobDetail,
  waiting: readonly Waiting[],
  shop: {
    limits: Readonly<Record<string, number>>;
    defaults: ReadingDefaults;
    names: Readonly<Record<string, string>>;
    gauges?: RecordContext['gauges'];
  },
): JobDetail {
  const own = waiting.filter((w) => w.number === job.number);
  if (own.length === 0) return job;
  const graph: RouteGraph = Object.fromEntries(job.detailSteps.map((s) => [s.code, s.after]));
  let states: Record<string, StepState> = Object.fromEntries(job.detailSteps.map((s) => [s.code, s.state]));
  let steps = job.detailSteps;
  const change = (code: string, to: (s: StepViewRow) => StepViewRow): void => {
    steps = steps.map((s) => (s.code === code ? to(s) : s));
  };
  for (const w of own) {
    if (w.refused !== '') break;
    const by = shop.names[w.person] ?? '';
    const at = new Date(w.at).toISOString();
    // what the server has already is not done twice
    if (w.what === 'start') {
      if (states[w.code] === 'running') continue;
      states = { ...states, [w.code]: 'running' };
      change(w.code, (s) => ({ ...s, attempts: [...s.attempts, begun(s.attempts.length + 1, by, w.person, at)] }));
    } else if (w.what === 'finish') {
      if (states[w.code] !== 'running') continue;
      const { typed } = w.body as { typed: Typed };
      const judged = judgedHere({ ...job, detailSteps: steps }, w.code, typed, { ...shop, person: by });
      states = { ...states, ...afterFinish(graph, states, w.code, judged.verdict) };
      change(w.code, (s) => ({
        ...s,
        attempts: s.attempts.map((a, i) =>
          i === s.attempts.length - 1 ? ended(a, judged, typed, by, at, shop.defaults, w.code) : a,
        ),
      }));
    } else if (w.what !== 'photograph')
      change(w.code, (s) => ({
        ...s,
        attempts: s.attempts.map((a, i) => (i === s.attempts.length - 1 ? worked(a, w, by, at) : a)),
      }));
  }
  const views = new Map(viewRoute(graph, states).map((v) => [v.code, v]));
  return {
    ...job,
    detailSteps: steps.map((s) => {
      const view = views.get(s.code);
      const state = states[s.code] ?? s.state;
      // a step held for its lists stays held: the server alone knows of them
      const listed = s.status === 'blocked' && view?.status === 'ready';
      return {
        ...s,
        state,
        status: listed ? s.status : (view?.status ?? s.status),
        heldBy: listed ? s.heldBy : (view?.heldBy ?? s.heldBy),
        why: listed ? s.why : (view?.why ?? s.why),
      };
    }),
  };
}

type Attempt = StepViewRow['attempts'][number];
const begun = (number: number, by: string, personId: string, at: string): Attempt => ({
  id: `waiting-${number}`,
  number,
  startedBy: by,
  startedAt: at,
  override: null,
  finishedBy: null,
  finishedAt: null,
  typed: {},
  values: {},
  verdict: null,
  reason: '',
  signed: null,
  spells: [{ person: by, personId, from: at, to: null, ended: null, handedTo: null }],
});
const ended = (
  a: Attempt,
  judged: { verdict: Verdict; reason: string },
  typed: Typed,
  by: string,
  at: string,
  defaults: ReadingDefaults,
  code: string,
): Attempt => ({
  ...a,
  finishedBy: by,
  finishedAt: at,
  typed: { ...typed },
  values: readForm(operation(code).fields, typed, defaults).values,
  ...judged,
  spells: a.spells.map((s) => (s.to === null ? { ...s, to: at, ended: 'finish' as const } : s)),
});
const worked = (a: Attempt, w: Waiting, by: string, at: string): Attempt => ({
  ...a,
  spells:
    w.what === 'join'
      ? a.spells.some((s) => s.personId === w.person && s.to === null)
        ? a.spells
        : [...a.spells, { person: by, personId: w.person, from: at, to: null, ended: null, handedTo: null }]
      : a.spells.map((s) =>
          s.personId === w.person && s.to === null
            ? { ...s, to: at, ended: w.what === 'pause' ? ('pause' as const) : ('hand over' as const) }
            : s,
        ),
});

/** Minutes that each person worked at an attempt, in the order in which they came. */
export function minutesByPerson(
  spells: Attempt['spells'],
  now: number,
): { person: string; minutes: number; there: boolean }[] {
  const out = new Map<string, { person: string; minutes: number; there: boolean }>();
  for (const s of spells) {
    const known = out.get(s.personId) ?? { person: s.person, minutes: 0, there: false };
    const until = s.to === null ? now : Date.parse(s.to);
    out.set(s.personId, {
      person: s.person,
      minutes: known.minutes + Math.max(0, until - Date.parse(s.from)) / 60_000,
      there: known.there || s.to === null,
    });
  }
  return [...out.values()];
}
