import { defaultsOf } from '@norther/contracts';
import {
  checkRecord,
  inItsCore,
  judgeCandidate,
  judgeRewire,
  rewiredRecord,
  neededToVerify,
  partFacts,
  partOnRail,
  PARTS,
  sayPart,
  planChanges,
  plannedPlate,
  plannedRecord,
  plateOfPart,
  readWindingRecord,
  typedOfRecord,
  WINDING_FIELDS,
  WINDING_PARTS,
  type WindingPart,
  operation,
  PART_KINDS,
  type Nameplate,
  type Rewire,
  type WindingRecord,
} from '@norther/core';
import { isDeepStrictEqual } from 'node:util';
import type { releasePlanBody, ShopSettings, WindingView, windingBody } from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import type { z } from 'zod';
import { type Act, Writes } from '../database/writes.ts';
import { JobRepository, type JobRow } from '../job/jobRepository.ts';
import { refuseClosed, windingView } from '../job/jobViews.ts';
import { ReadJob } from '../job/readJob.ts';
import { badField, conflict, Problem } from '../problem/problem.ts';
import { Shop } from '../shop/shop.ts';
import type { Transaction } from '../database/database.ts';
import { Materials } from '../stock/materials.ts';
import { WindingRepository } from './windingRepository.ts';

/** The winding record of a job: each save is a new revision; the plan is a released copy. */
@Injectable()
export class Windings {
  readonly writes: Writes;
  readonly read: ReadJob;
  readonly shop: Shop;
  readonly materials: Materials;
  readonly records: WindingRepository;
  readonly jobs: JobRepository;
  constructor(
    @Inject(Writes) writes: Writes,
    @Inject(ReadJob) read: ReadJob,
    @Inject(Shop) shop: Shop,
    @Inject(Materials) materials: Materials,
    @Inject(WindingRepository) records: WindingRepository,
    @Inject(JobRepository) jobs: JobRepository,
  ) {
    this.writes = writes;
    this.read = read;
    this.shop = shop;
    this.materials = materials;
    this.records = records;
    this.jobs = jobs;
  }

  async save(act: Act, number: string, body: z.output<typeof windingBody>): Promise<WindingView> {
    const settings = await this.shop.settings();
    const defaults = defaultsOf(settings);
    const reading = readWindingRecord(body.typed, defaults);
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      const row = await this.read.row(number, tx, 'lock');
      refuseClosed(row);
      await this.keepPart(tx, row, body.part);
      const { found } = await this.read.windings(row, tx, body.part);
      const current = found?.revision ?? 0;
      if (current !== body.revision)
        throw conflict(
          `The winding record of ${number} was saved by ${found?.person ?? 'someone'} meanwhile.`,
          found,
          body,
        );
      const steps = await this.read.steps(row, tx);
      const agreed = steps.some((s) => operation(s.code).agreesData && s.state === 'passed');
      if (agreed && !body.reason)
        throw badField('reason', 'The data were agreed by two people; a correction needs its reason.');
      const stored = await this.records.add(tx, {
        jobId: row.id,
        part: body.part,
        role: 'as_found',
        revision: current + 1,
        typed: body.typed,
        record: reading.record,
        readWith: defaults,
        reason: body.reason ?? null,
        personName: act.actor.name,
        at: act.at,
      });
      await audit({
        action: 'winding.save',
        jobId: row.id,
        summary: `Winding record of ${number}${sayPart(body.part) === '' ? '' : ` (${sayPart(body.part)})`}, revision ${current + 1}${body.reason ? `: ${body.reason}` : ''}`,
        before: found?.typed ?? null,
        after: body.typed,
      });
      await tell(`job:${number}`);
      return windingView(stored);
    });
  }

  /** The record of the part in whose core a winding lies, where that is another part. */
  private async carrier(tx: Transaction, row: JobRow, part: WindingPart): Promise<WindingRecord | undefined> {
    const core = PART_KINDS.find((kind) => kind === partFacts(part).core);
    return core && ((await this.read.windings(row, tx, core)).found?.record ?? undefined);
  }

  /** A winding is recorded of a part that was not known to have come in: a second one in the core, a rotor that is wound. */
  private async keepPart(tx: Transaction, row: JobRow, part: WindingPart): Promise<void> {
    const have = await this.jobs.parts(row, tx);
    if (have.includes(part)) return;
    const other = partFacts(part).core === undefined ? partOnRail(have, PARTS[part].rail) : undefined;
    if (!other || !(await this.jobs.renamePart(tx, row, other, part))) await this.jobs.addParts(tx, row, [part]);
  }

  /** The record and nameplate of a changed rewind, judged again here: what breaks a limit is not released. */
  private async changed(
    tx: Transaction,
    row: JobRow,
    body: z.output<typeof releasePlanBody>,
    found: WindingView,
    settings: ShopSettings,
  ) {
    const { redesign } = body;
    if (!redesign && !body.rewire)
      return { typed: found.typed, record: found.record, readWith: found.readWith, redesign: null };
    if (redesign && body.rewire)
      throw badField('rewire', 'A changed rewind and other wire are released one at a time.');
    if (body.reason.length < 5 || body.reason === 'Rewind as found.')
      throw badField('reason', 'A changed rewind needs its written reason; without one, rewind as found.');
    const carrier = await this.carrier(tx, row, body.part);
    const own = found.record;
    const record = inItsCore(own, body.part, carrier);
    const nameplate = plateOfPart(row.nameplate, body.part);
    if (!redesign) return this.rewired(record, nameplate, body.rewire ?? {}, found, settings);
    const judged = judgeCandidate(record, nameplate, redesign.wish, redesign.candidate, {
      limits: settings.limits,
      weights: settings.redesignWeights,
    });
    if (!judged.candidate) throw badField('redesign', judged.why);
    const planned = plannedRecord(own, judged.candidate);
    const plate = plannedPlate(nameplate, record, redesign.wish, judged.candidate.connection);
    return {
      typed: typedOfRecord(planned),
      record: planned,
      readWith: defaultsOf(settings),
      redesign: {
        changes: planChanges(record, planned, { was: nameplate, is: plate }),
        fromRevision: found.revision,
        nameplate: plate,
        warnings: judged.candidate.warnings,
      },
    };
  }

  /** The same winding with other wire, metal or turns, judged here again. */
  private rewired(
    record: WindingRecord,
    nameplate: Nameplate,
    rewire: Rewire,
    found: WindingView,
    settings: ShopSettings,
  ) {
    const judged = judgeRewire(record, nameplate, rewire, settings.limits);
    if (judged.refused !== undefined) throw badField('rewire', `This winding is refused: ${judged.refused}.`);
    const planned = rewiredRecord(found.record, rewire, judged.record.sampleCoilM);
    const changes = planChanges(found.record, planned);
    if (changes.length === 0)
      throw badField('rewire', 'Nothing differs from the winding as found; release it as found.');
    return {
      typed: typedOfRecord(planned),
      record: planned,
      readWith: defaultsOf(settings),
      redesign: { changes, fromRevision: found.revision, nameplate, warnings: judged.warnings },
    };
  }

  /** Releases a revision as the plan the winder works from. As found by default; the reason says so. */
  async release(act: Act, number: string, body: z.output<typeof releasePlanBody>): Promise<WindingView> {
    const settings = await this.shop.settings();
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      const row = await this.read.row(number, tx, 'lock');
      refuseClosed(row);
      const { found, plan } = await this.read.windings(row, tx, body.part);
      if (!found) throw new Problem(422, 'Not taken', `Job ${number} has no winding record yet; take the data first.`);
      if (found.revision !== body.revision)
        throw conflict('The winding record was saved again meanwhile; look at it before it is released.', found, body);
      const why = await this.notVerified(tx, row, settings.limits, [body.part]);
      if (why) throw badField('revision', why);
      if (body.planRevision !== undefined && body.planRevision !== (plan?.revision ?? 0))
        throw conflict('Another plan was released meanwhile; look at it first.', plan, body);
      const planned = await this.changed(tx, row, body, found, settings);
      if (plan && samePlan(plan, planned, found.revision))
        throw conflict(`This plan was released already, by ${plan.released?.by ?? plan.person}.`, plan, body);
      const revision = (plan?.revision ?? 0) + 1;
      const released = {
        by: act.actor.name,
        role: act.actor.role,
        at: act.at.toISOString(),
        meaning: 'released',
        reason: body.reason,
      };
      const stored = await this.records.add(tx, {
        jobId: row.id,
        part: body.part,
        role: 'planned',
        revision,
        ...planned,
        reason: body.reason,
        personName: act.actor.name,
        at: act.at,
        released,
      });
      await this.materials.drop(tx, act, row, body.part);
      await audit({
        action: 'winding.release',
        jobId: row.id,
        summary: `Plan ${revision} of ${number} released: ${body.reason}`,
        after: { asFoundRevision: found.revision, redesign: planned.redesign },
      });
      await tell(`job:${number}`);
      return windingView(stored);
    });
  }

  /** Why the as-found records cannot be called verified, or undefined when they can. Every recorded winding counts. */
  async notVerified(
    tx: Transaction,
    row: JobRow,
    limits: Readonly<Record<string, number>>,
    parts: readonly WindingPart[] = WINDING_PARTS,
  ): Promise<string | undefined> {
    if (!(await this.read.windings(row, tx)).found) return 'There is no winding record yet: enter the data as found.';
    for (const part of parts) {
      const { found } = await this.read.windings(row, tx, part);
      if (!found) continue;
      const record = inItsCore(found.record, part, await this.carrier(tx, row, part));
      const name = sayPart(part) === '' ? 'The winding record' : `${sayPart(part)}: the winding record`;
      const missing = neededToVerify(record).filter((f) => record[f] === undefined);
      if (missing.length > 0) return `${name} still misses: ${missing.map((m) => labelOf(m)).join(', ')}.`;
      const errors = checkRecord(record, plateOfPart(row.nameplate, part), limits).filter((f) => f.severity === 'E');
      if (errors.length > 0) return `${name} cannot be right: ${errors[0]?.message}`;
    }
    return undefined;
  }
}

/** Whether a plan says just what another one says. */
function samePlan(
  plan: WindingView,
  planned: { record: unknown; redesign: { nameplate: unknown } | null },
  fromRevision: number,
): boolean {
  const said = (record: unknown, nameplate: unknown) => isDeepStrictEqual(plain(record), plain(nameplate));
  return (
    said(plan.record, planned.record) &&
    said(plan.redesign?.nameplate ?? null, planned.redesign?.nameplate ?? null) &&
    (plan.redesign === null || plan.redesign.fromRevision === fromRevision)
  );
}
/** As it comes back from the database. */
const plain = (x: unknown): unknown => JSON.parse(JSON.stringify(x ?? null)) as unknown;

/** What the sheet calls a field. */
const labelOf = (name: string): string => WINDING_FIELDS.find((f) => f.name === name)?.label ?? name;
