import { jobFileSchema, type JobDetail, type JobFile, type WindingView } from '@norther/contracts';
import type { Samples } from '@norther/core';
import { now } from '../clock/clock.ts';
import type { JobRow } from '../job/jobRepository.ts';
import { withRoles } from '../job/jobViews.ts';
import type { ExchangeRepository } from './exchangeRepository.ts';

type Trace = Awaited<ReturnType<ExchangeRepository['read']>>['testTraces'][number]['trace'];
/** A trace whole; another Norther does not know the instrument, but that it was none. */
const traceSaid = (t: Trace, simulated: boolean | null, logs: ReadonlyMap<string, Samples>) => ({
  ...t,
  sourceName: simulated ? `${t.sourceName} (simulated)` : t.sourceName,
  startAt: t.startAt?.toISOString() ?? null,
  at: t.at.toISOString(),
  x: Array.from(logs.get(t.id)?.x ?? []),
  values: (logs.get(t.id)?.values ?? []).map((v) => Array.from(v, (n) => (Number.isNaN(n) ? null : n))),
});

/** A job as its file says it. */
export function jobFileOf(x: {
  row: JobRow;
  shop: string;
  customer: string;
  detail: JobDetail;
  windings: readonly WindingView[];
  rows: Awaited<ReturnType<ExchangeRepository['read']>>;
  /** samples of oven logs, readings and load runs, by trace */
  logs: ReadonlyMap<string, Samples>;
}): JobFile {
  const { row, detail, windings, logs } = x;
  const { units, marks, sheets, bills, tests, sensors, sessions, cures, balances, files, reports, events, taken } =
    x.rows;
  const ordinals = new Map<string | null, number>(units.map((u) => [u.id, u.ordinal]));
  const doneFor = new Map<string, { code: string; at: string }[]>();
  for (const { unitId, code, at } of marks)
    doneFor.set(unitId, [...(doneFor.get(unitId) ?? []), { code, at: (at ?? row.takenInAt).toISOString() }]);
  const lots = [...new Map(taken.map((t) => [t.lot.id, t.lot])).values()];
  return jobFileSchema.parse({
    format: 'norther-job',
    formatVersion: 1,
    exportedAt: now().toISOString(),
    shop: x.shop,
    job: {
      number: row.number,
      what: row.what,
      customer: x.customer,
      route: row.route,
      impregnation: row.impregnation,
      ownRoute: row.ownRoute,
      priority: row.priority,
      promised: row.promised,
      takenInAt: row.takenInAt.toISOString(),
      closedAt: row.closedAt?.toISOString() ?? null,
      nameplateTyped: row.nameplateTyped,
      nameplate: row.nameplate,
      readWith: row.readWith,
      intake: row.intake,
    },
    units: units.map(({ id, ordinal, serial }) => ({ ordinal, serial, steps: doneFor.get(id) ?? [] })),
    parts: detail.parts.map((p) => p.kind),
    windings: [...windings].reverse(),
    joints: sheets,
    failures: x.rows.failures.map((f) => ({ ...f, person: f.personName, at: f.at.toISOString() })),
    material: bills,
    steps: detail.detailSteps.map(({ code, state, changedAt, waived, notes, attempts }) => ({
      code,
      state,
      changedAt,
      waived,
      notes,
      attempts: attempts.map(({ id: _id, ...a }) => a),
    })),
    tests: tests.map((t) => ({
      ...t,
      unit: ordinals.get(t.unitId) ?? null,
      person: t.personName,
      takenAt: t.takenAt.toISOString(),
      traces: x.rows.testTraces
        .filter((u) => u.testId === t.id)
        .map(({ trace: r, simulated }) => traceSaid(r, simulated, logs)),
    })),
    sensors: sensors.map(({ sensor: s, readings }) => ({
      ...s,
      person: s.personName,
      at: s.at.toISOString(),
      readings: readings.map((r) => ({ ...r, person: r.personName, at: r.at.toISOString() })),
    })),
    cures: cures.map(({ cure: c, trace: t }) => ({
      ...c,
      source: t.source,
      startAt: t.startAt?.toISOString() ?? null,
      timesMin: Array.from(logs.get(t.id)?.x ?? [], (x) => (t.xUnit === 's' ? x / 60 : x)),
      channels: withRoles(t.channels, c.result).map(({ name, role }, i) => ({
        name,
        role,
        valuesC: Array.from(logs.get(t.id)?.values[i] ?? [], (v) => (Number.isNaN(v) ? null : v)),
      })),
      person: c.personName,
      at: c.at.toISOString(),
    })),
    balances: balances.map((b) => ({
      ...b,
      unit: ordinals.get(b.unitId) ?? null,
      person: b.personName,
      at: b.at.toISOString(),
    })),
    balanceSessions: sessions.map(({ session: s, entries }) => ({
      ...s,
      unit: ordinals.get(s.unitId) ?? null,
      person: s.personName,
      at: s.at.toISOString(),
      balance: s.balanceId === null ? null : balances.findIndex((b) => b.id === s.balanceId),
      entries: entries.map((e) => ({ ...e, person: e.personName, at: e.at.toISOString() })),
    })),
    loadRuns: x.rows.loadRuns.map(({ run: r, trace: t, simulated }) => {
      const used = t ? x.rows.testTraces.find((u) => u.trace.id === t.id) : undefined;
      return {
        ...r,
        sourceName: simulated ? `${r.sourceName} (simulated)` : r.sourceName,
        person: r.personName,
        at: r.at.toISOString(),
        // one that is still under way leaves as far as it is
        endedAt: (r.endedAt ?? now()).toISOString(),
        why: r.why ?? 'taken away while it ran',
        trace: t && !used && (logs.get(t.id)?.x.length ?? 0) > 0 ? traceSaid(t, simulated, logs) : null,
        test: used
          ? {
              id: used.testId,
              trace: x.rows.testTraces.filter((u) => u.testId === used.testId).findIndex((u) => u.trace.id === t?.id),
            }
          : null,
      };
    }),
    attachments: files.map((f) => ({
      name: f.name,
      mediaType: f.mediaType,
      base64: f.content.toString('base64'),
      step: f.code,
      person: f.personName,
      at: f.at.toISOString(),
    })),
    reports: reports.map((r) => ({
      revision: r.revision,
      base64: r.content?.toString('base64') ?? null,
      sha256: r.sha256,
      source: r.source,
      person: r.personName,
      at: r.at.toISOString(),
    })),
    stock: lots.map((l) => ({
      lot: l.lot,
      what: l.what,
      unit: l.unit,
      entries: taken
        .filter((t) => t.lot.id === l.id)
        .map(({ entry: e }) => ({ ...e, person: e.personName, at: e.at.toISOString() })),
    })),
    // that it was brought in belongs to this shop, not to the job
    history: events
      .filter((e) => e.action !== 'job.import')
      .map((e) => ({ ...e, person: e.personName, at: e.at.toISOString() })),
  });
}
