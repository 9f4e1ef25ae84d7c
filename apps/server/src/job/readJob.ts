import {
  holdForLists,
  operation,
  onlyOperations,
  routeFor,
  viewRoute,
  type FieldValue,
  type Impregnation,
  type Nameplate,
  type RouteGraph,
  type RouteId,
  type StepState,
  type StepStates,
  type WhatCame,
  type WindingPart,
} from '@norther/core';
import type { AttemptView, JobDetail, JobSummary, Signed, StepViewRow, WindingView } from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import { asc, desc, eq, inArray, sql } from 'drizzle-orm';
import { now } from '../clock/clock.ts';
import { Database, type Reader } from '../database/database.ts';
import { job, routeStep, stepAttempt, windingRecord } from '../database/schema.ts';
import { notFound, Problem } from '../problem/problem.ts';
import { prepareStatements } from './detailStatements.ts';

export type JobRow = typeof job.$inferSelect;
export type StepRow = typeof routeStep.$inferSelect;

/** Closed visits the floor lists; the search finds the others. */
export const MOST_CLOSED = 400;

/** A job that left the house is kept as it is. */
export function refuseClosed(row: JobRow): void {
  if (row.closedAt) throw new Problem(409, 'Closed', `Job ${row.number} left the house; it is kept as it is.`);
}

type RouteOfRow = Pick<JobRow, 'route' | 'came' | 'impregnation'>;

/** The published route of what came in, impregnated so. */
export function templateOf(row: RouteOfRow): RouteGraph {
  return routeFor(row.route as RouteId, row.came as WhatCame, row.impregnation as Impregnation);
}

/** The route of one job: its template with the operations the job was given when it was taken in. */
export function graphOf(row: RouteOfRow, steps: readonly { code: string }[]): RouteGraph {
  return onlyOperations(
    templateOf(row),
    steps.map((s) => s.code),
  );
}

export function statesOf(steps: readonly Pick<StepRow, 'code' | 'state'>[]): StepStates {
  return Object.fromEntries(steps.map((s) => [s.code, s.state as StepState]));
}

export function windingView(row: typeof windingRecord.$inferSelect): WindingView {
  return {
    revision: row.revision,
    part: row.part as WindingView['part'],
    role: row.role as WindingView['role'],
    typed: row.typed as Record<string, string>,
    record: row.record as Record<string, FieldValue>,
    readWith: row.readWith as Record<string, string>,
    reason: row.reason,
    person: row.personName,
    at: row.at.toISOString(),
    released: row.released as Signed | null,
    redesign: row.redesign as WindingView['redesign'],
  };
}

type PartWindings = { found: WindingView | null; plan: WindingView | null };

/** Of all revisions, newest first: the as-found record and the plan in force of one winding. */
function newest(all: readonly WindingView[], part: WindingPart): PartWindings {
  return {
    found: all.find((r) => r.part === part && r.role === 'as_found') ?? null,
    plan: all.find((r) => r.part === part && r.role === 'planned') ?? null,
  };
}

/** Reads jobs: the floor's short view, and everything of one visit. All SQL of reading a job is here. */
@Injectable()
export class ReadJob {
  readonly database: Database;
  private readonly statements = new WeakMap<Reader, ReturnType<typeof prepareStatements>>();
  constructor(@Inject(Database) database: Database) {
    this.database = database;
  }

  /** Every job in the house, or those that left it last, with where each operation stands. One statement. */
  async floor(options: { closed: boolean }): Promise<JobSummary[]> {
    const name = `floor-${options.closed ? 'closed' : 'open'}`;
    return this.summaries(
      name,
      `${options.closed ? 'j.closed_at is not null' : 'j.closed_at is null'} order by j.closed_at desc nulls last, j.taken_in_at${options.closed ? ` limit ${MOST_CLOSED}` : ''}`,
    );
  }

  /** One job as the floor shows it: what a change of it sends. */
  async onFloor(number: string): Promise<JobSummary> {
    const [found] = await this.summaries('floor-one', 'j.number = $1', [number]);
    if (!found) throw notFound(`job ${number}`);
    return found;
  }

  private async summaries(name: string, where: string, values: unknown[] = []): Promise<JobSummary[]> {
    const { rows } = await this.database.pool.query<Record<string, unknown>>({
      name,
      text: `select j.*, c.name as customer_name,
          (select json_agg(json_build_array(s.code, s.state, s.changed_at, exists(
             select 1 from step_attempt a where a.job_id = s.job_id and a.code = s.code and a.override is not null)))
           from route_step s where s.job_id = j.id) as steps,
          exists(select 1 from material_sheet ms
             where ms.job_id = j.id and ms.part = 'stator' and ms.lists is not null) as lists_made
        from job j join customer c on c.id = j.customer_id
        where ${where}`,
      values,
    });
    return rows.map((r) => {
      const nameplate = r['nameplate'] as Nameplate;
      const steps = ((r['steps'] as [string, string, string | null, boolean][] | null) ?? []).map(
        ([code, state, changedAt, overridden]) => ({ code, state: state as StepState, changedAt, overridden }),
      );
      const row = { route: r['route'] as string, came: r['came'] as string, impregnation: r['impregnation'] as string };
      return summary(
        {
          ...row,
          number: r['number'] as string,
          what: r['what'] as string,
          priority: r['priority'] as string,
          promised: r['promised'] === null ? null : dayOf(r['promised']),
          takenInAt: r['taken_in_at'] as Date,
          closedAt: r['closed_at'] as Date | null,
        },
        r['customer_name'] as string,
        nameplate,
        steps,
        r['lists_made'] === true,
      );
    });
  }

  /** How many visits have left the house. */
  async closedCount(): Promise<number> {
    const { rows } = await this.database.pool.query<{ n: number }>(
      'select count(*)::int as n from job where closed_at is not null',
    );
    return rows[0]?.n ?? 0;
  }

  async row(number: string, reader: Reader, lock: 'lock' | 'read' = 'read'): Promise<JobRow> {
    const query = reader.select().from(job).where(eq(job.number, number));
    const [row] = lock === 'lock' ? await query.for('no key update') : await query;
    if (!row) throw notFound(`job ${number}`);
    return row;
  }

  async steps(row: JobRow, reader: Reader): Promise<StepRow[]> {
    return reader.select().from(routeStep).where(eq(routeStep.jobId, row.id));
  }

  /** Every revision of every winding of a job, newest first. */
  async windingRevisions(row: JobRow, reader: Reader): Promise<WindingView[]> {
    const rows = await reader
      .select()
      .from(windingRecord)
      .where(eq(windingRecord.jobId, row.id))
      .orderBy(desc(windingRecord.revision));
    return rows.map(windingView);
  }

  /** The newest as-found record and the newest released plan of one winding. */
  async windings(row: JobRow, reader: Reader, part: WindingPart = 'stator'): Promise<PartWindings> {
    return newest(await this.windingRevisions(row, reader), part);
  }

  /** Everything of one visit, over one connection. */
  async detail(number: string): Promise<JobDetail> {
    return this.database.reading((reader) => this.detailWith(reader, number));
  }

  /** The same, over a connection one holds already. */
  async detailWith(reader: Reader, number: string): Promise<JobDetail> {
    let statements = this.statements.get(reader);
    if (!statements) this.statements.set(reader, (statements = prepareStatements(reader)));
    const [found] = await statements.job.execute({ number });
    if (!found) throw notFound(`job ${number}`);
    const { job: row, customer: owner } = found;
    const of = { jobId: row.id };
    // one after the other: they share one connection
    const steps = await statements.steps.execute(of);
    const attempts = await statements.attempts.execute(of);
    const tests = await statements.tests.execute(of);
    const cures = await statements.cures.execute(of);
    const balances = await statements.balances.execute(of);
    const files = await statements.files.execute(of);
    const reports = await statements.reports.execute(of);
    const windingRows = await statements.windings.execute(of);
    const material = await statements.material.execute(of);
    const revisions = windingRows.map(windingView);
    const windings = newest(revisions, 'stator');
    const graph = graphOf(row, steps);
    const listsMade = material.some((m) => m.lists !== null);
    const views = new Map(holdForLists(viewRoute(graph, statesOf(steps)), listsMade).map((v) => [v.code, v]));
    const detailSteps: StepViewRow[] = Object.keys(graph).map((code) => {
      const step = steps.find((s) => s.code === code);
      const view = views.get(code);
      return {
        code,
        state: (step?.state ?? 'open') as StepState,
        status: view?.status ?? 'waiting',
        heldBy: view?.heldBy ?? [],
        why: view?.why ?? '',
        after: [...(graph[code] ?? [])],
        changedAt: step?.changedAt?.toISOString() ?? null,
        waived: (step?.waived ?? null) as Signed | null,
        notes: (step?.notes ?? []) as Signed[],
        attempts: attempts.filter((a) => a.code === code).map(attemptView),
      };
    });
    const short = summary(
      { ...row, takenInAt: row.takenInAt },
      owner.name,
      row.nameplate as Nameplate,
      steps.map((s) => ({
        code: s.code,
        state: s.state as StepState,
        changedAt: s.changedAt?.toISOString() ?? null,
        overridden: attempts.some((a) => a.code === s.code && a.override !== null),
      })),
      listsMade,
    );
    return {
      ...short,
      version: row.version,
      serial: (row.nameplate as Nameplate).serial ?? null,
      impregnation: row.impregnation,
      quantity: row.quantity,
      nameplateTyped: row.nameplateTyped as Record<string, string>,
      nameplate: row.nameplate as Record<string, FieldValue>,
      intake: row.intake as JobDetail['intake'],
      winding: windings.found,
      plan: windings.plan,
      otherWindings: (['second', 'rotor'] as const).flatMap((part) => {
        const own = newest(revisions, part);
        return own.found ? [{ part, winding: own.found, plan: own.plan }] : [];
      }),
      windingRevisions: revisions,
      detailSteps,
      tests: tests.map((t) => ({
        id: t.id,
        stage: t.stage,
        kind: t.kind,
        typed: t.typed as Record<string, string>,
        values: t.values as Record<string, FieldValue>,
        verdict: t.verdict as JobDetail['tests'][number]['verdict'],
        reason: t.reason,
        result: t.result,
        person: t.personName,
        takenAt: t.takenAt.toISOString(),
        supersedes: t.supersedes,
        supersededBy: tests.find((o) => o.supersedes === t.id)?.id ?? null,
        correctionReason: t.correctionReason,
        signed: t.signed as Signed | null,
      })),
      cures: cures.map((c) => ({
        id: c.id,
        fileName: c.fileName,
        resin: (c.resin as { name: string }).name,
        ratedC: (c.resin as { ratedC: number }).ratedC,
        verdict: c.verdict as JobDetail['cures'][number]['verdict'],
        reason: c.reason,
        result: c.result,
        trace: {
          id: c.traceId,
          what: c.what,
          channels: withRoles(c.channels, c.result),
          xUnit: c.xUnit,
          samples: c.samples,
        },
        badRows: c.badRows as JobDetail['cures'][number]['badRows'],
        person: c.person,
        at: c.at.toISOString(),
      })),
      balances: balances.map((b) => ({
        id: b.id,
        typed: b.typed as Record<string, string>,
        values: b.values as Record<string, FieldValue>,
        verdict: b.verdict as JobDetail['balances'][number]['verdict'],
        reason: b.reason,
        result: b.result,
        person: b.personName,
        at: b.at.toISOString(),
      })),
      attachments: files.map((f) => ({ ...f, at: f.at.toISOString() })),
      reports: reports.map((r) => ({ ...r, at: r.at.toISOString() })),
      importedFrom: row.importedFrom,
    };
  }

  async attemptsOf(
    row: JobRow,
    codes: readonly string[],
    reader: Reader,
  ): Promise<(typeof stepAttempt.$inferSelect)[]> {
    return codes.length === 0
      ? []
      : reader
          .select()
          .from(stepAttempt)
          .where(sql`${stepAttempt.jobId} = ${row.id} and ${inArray(stepAttempt.code, [...codes])}`)
          .orderBy(asc(stepAttempt.number));
  }
}

/** What each channel was taken for stands with the verdict: one load of the oven may count for several motors. */
export function withRoles<T extends { name: string; role: string }>(channels: readonly T[], result: unknown): T[] {
  const said = (result as { values?: { channels?: { name?: string; role?: string }[] } }).values?.channels ?? [];
  // a result names what it used; the rest was not used
  return channels.map((c) => ({
    ...c,
    role: said.find((s) => s.name === c.name)?.role ?? (said.length > 0 ? 'not used' : c.role),
  }));
}

export function attemptView(a: typeof stepAttempt.$inferSelect): AttemptView {
  return {
    id: a.id,
    number: a.number,
    startedBy: a.startedBy,
    startedAt: a.startedAt.toISOString(),
    override: a.override,
    finishedBy: a.finishedBy,
    finishedAt: a.finishedAt?.toISOString() ?? null,
    typed: a.typed as Record<string, string>,
    values: a.values as Record<string, FieldValue>,
    verdict: a.verdict as AttemptView['verdict'],
    reason: a.reason,
    signed: a.signed as Signed | null,
  };
}

function dayOf(value: unknown): string {
  if (typeof value === 'string') return value.slice(0, 10);
  const d = value as Date;
  return `${d.getFullYear()}-${String(d.getMonth() + 1).padStart(2, '0')}-${String(d.getDate()).padStart(2, '0')}`;
}

function summary(
  row: {
    number: string;
    what: string;
    came: string;
    route: string;
    impregnation: string;
    priority: string;
    promised: string | null;
    takenInAt: Date;
    closedAt: Date | null;
  },
  customerName: string,
  nameplate: Nameplate,
  steps: readonly { code: string; state: StepState; changedAt: string | null; overridden: boolean }[],
  listsMade: boolean,
): JobSummary {
  const graph = graphOf(row, steps);
  const byCode = new Map(steps.map((s) => [s.code, s]));
  const late = row.promised !== null && row.closedAt === null && row.promised < now().toISOString().slice(0, 10);
  return {
    number: row.number,
    what: row.what,
    customer: customerName,
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
  return why.replaceAll(/\b[A-Z][A-Z0-9]{2,3}\b/g, (code) => {
    try {
      return operation(code).title;
    } catch {
      return code;
    }
  });
}
