import { FIRST_PART, holdForLists, PART_KINDS, viewRoute, type PartKind } from '@norther/core';
import type { JobDetail, JobSummary, StepViewRow, WindingView } from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import { Database, type Reader } from '../database/database.ts';
import { Together, TogetherBy } from '../http/together.ts';
import { notFound } from '../problem/problem.ts';
import { Shop } from '../shop/shop.ts';
import { UnitRepository } from './unitRepository.ts';
import { JobRepository, type AttemptRow, type JobRow, type StepRow } from './jobRepository.ts';
import {
  attemptView,
  balanceView,
  failureView,
  floorView,
  graphOf,
  newest,
  statesOf,
  testViews,
  windingView,
  withoutWorking,
  withRoles,
  type PartWindings,
} from './jobViews.ts';

/** Reads jobs: the floor's short view, and everything of one visit. */
@Injectable()
export class ReadJob {
  readonly database: Database;
  readonly jobs: JobRepository;
  readonly shop: Shop;
  readonly units: UnitRepository;
  private readonly inTheHouse: Together<JobSummary[]>;
  private readonly details: TogetherBy<JobDetail>;
  constructor(
    @Inject(Database) database: Database,
    @Inject(JobRepository) jobs: JobRepository,
    @Inject(Shop) shop: Shop,
    @Inject(UnitRepository) units: UnitRepository,
  ) {
    this.units = units;
    this.shop = shop;
    this.inTheHouse = new Together(() => this.readFloor({ closed: false }));
    this.details = new TogetherBy((number) => this.database.reading((reader) => this.detailWith(reader, number)));
    this.database = database;
    this.jobs = jobs;
  }

  /** Every job in the house, or those that left it last, with where each operation stands. One statement. */
  floor(options: { closed: boolean }): Promise<JobSummary[]> {
    return options.closed ? this.readFloor(options) : this.inTheHouse.ask();
  }

  private async readFloor(options: { closed: boolean }): Promise<JobSummary[]> {
    const today = await this.shop.today();
    const rows = options.closed ? await this.jobs.gone() : await this.jobs.inTheHouse();
    return rows.map((row) => floorView(row, today));
  }

  /** One job as the floor shows it: what a change of it sends. */
  async onFloor(number: string): Promise<JobSummary> {
    const row = await this.jobs.onFloor(number);
    if (!row) throw notFound(`job ${number}`);
    return floorView(row, await this.shop.today());
  }

  /** How many visits have left the house. */
  async closedCount(): Promise<number> {
    return this.jobs.closedCount();
  }

  async row(number: string, reader: Reader, lock: 'lock' | 'read' = 'read'): Promise<JobRow> {
    return this.jobs.row(number, reader, lock);
  }

  async steps(row: JobRow, reader: Reader): Promise<StepRow[]> {
    return this.jobs.steps(row, reader);
  }

  async attemptsOf(row: JobRow, codes: readonly string[], reader: Reader): Promise<AttemptRow[]> {
    return this.jobs.attempts(row, codes, reader);
  }

  /** Every revision of every winding of a job, newest first. */
  async windingRevisions(row: JobRow, reader: Reader): Promise<WindingView[]> {
    return (await this.jobs.windings(row, reader)).map(windingView);
  }

  /** The newest as-found record and the newest released plan of one winding. */
  async windings(row: JobRow, reader: Reader, part: PartKind = FIRST_PART): Promise<PartWindings> {
    return newest(await this.windingRevisions(row, reader), part);
  }

  /** Everything of one visit, over one connection. */
  detail(number: string): Promise<JobDetail> {
    return this.details.ask(number);
  }

  /** The same, over a connection one holds already. */
  async detailWith(reader: Reader, number: string): Promise<JobDetail> {
    const {
      row,
      customer,
      steps,
      attempts,
      spells,
      tests,
      cures,
      balances,
      files,
      reports,
      parts,
      windings: windingRows,
      material,
      failures,
    } = await this.jobs.everything(number, reader);
    const revisions = windingRows.map(windingView);
    const graph = graphOf(row, steps);
    const listsMade = material.some((m) => m.lists !== null);
    const views = new Map(holdForLists(viewRoute(graph, statesOf(steps)), listsMade).map((v) => [v.code, v]));
    const marked = row.quantity > 1 ? await this.units.marked(row, reader) : new Map<string, number>();
    const numbered = marked.size > 0 ? await this.units.howMany(row, reader) : 0;
    const detailSteps: StepViewRow[] = Object.keys(graph).map((code) => {
      const step = steps.find((s) => s.code === code);
      const view = views.get(code);
      return {
        code,
        state: step?.state ?? 'open',
        status: view?.status ?? 'waiting',
        heldBy: view?.heldBy ?? [],
        why: view?.why ?? '',
        after: [...(graph[code] ?? [])],
        changedAt: step?.changedAt?.toISOString() ?? null,
        waived: step?.waived ?? null,
        notes: step?.notes ?? [],
        attempts: attempts.filter((a) => a.code === code).map((a) => attemptView(a, spells)),
        pieces: marked.has(code) ? { done: marked.get(code) ?? 0, of: numbered } : null,
      };
    });
    const short = floorView(
      {
        ...row,
        customerName: customer.name,
        steps: steps.map((s) => [
          s.code,
          s.state,
          s.changedAt?.toISOString() ?? null,
          attempts.some((a) => a.code === s.code && a.override !== null),
        ]),
        listsMade,
      },
      await this.shop.today(reader),
    );
    return {
      ...short,
      version: row.version,
      serial: row.nameplate.serial ?? null,
      impregnation: row.impregnation,
      quantity: row.quantity,
      nameplateTyped: row.nameplateTyped,
      nameplate: row.nameplate,
      intake: row.intake,
      parts: PART_KINDS.filter((kind) => parts.some((p) => p.kind === kind)).map((kind) => ({
        kind,
        ...newest(revisions, kind),
      })),
      windingRevisions: revisions,
      detailSteps,
      tests: testViews(tests),
      // newest first: the first of each part is in force
      failures: failures.filter((f, i) => failures.findIndex((g) => g.part === f.part) === i).map(failureView),
      cures: cures.map((c) => ({
        id: c.id,
        part: c.part,
        code: c.code,
        fileName: c.fileName,
        resin: c.resin.name,
        rated: c.resin,
        ratedC: c.resin.ratedC,
        verdict: c.verdict,
        reason: c.reason,
        result: withoutWorking(c.result),
        trace: {
          id: c.traceId,
          what: c.what,
          channels: withRoles(c.channels, c.result),
          xUnit: c.xUnit,
          samples: c.samples,
        },
        badRows: c.badRows,
        person: c.person,
        at: c.at.toISOString(),
      })),
      balances: balances.map(balanceView),
      attachments: files.map((f) => ({ ...f, at: f.at.toISOString() })),
      reports: reports.map((r) => ({ ...r, at: r.at.toISOString() })),
      importedFrom: row.importedFrom,
    };
  }
}
