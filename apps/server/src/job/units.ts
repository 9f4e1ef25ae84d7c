import { UNITS_A_PAGE, type newUnitsBody, type UnitDetail, type unitsQuery, type UnitsView } from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import type { z } from 'zod';
import type { Reader } from '../database/database.ts';
import { type Act, Writes } from '../database/writes.ts';
import { badField, notFound, Problem } from '../problem/problem.ts';
import { type JobRow, JobRepository } from './jobRepository.ts';
import { balanceView, refuseClosed, testViews } from './jobViews.ts';
import { UnitRepository, type UnitRow } from './unitRepository.ts';

/** The pieces of a job of many alike, numbered from 1; what is measured piece by piece hangs on them. */
@Injectable()
export class Units {
  readonly writes: Writes;
  readonly jobs: JobRepository;
  readonly units: UnitRepository;
  constructor(
    @Inject(Writes) writes: Writes,
    @Inject(JobRepository) jobs: JobRepository,
    @Inject(UnitRepository) units: UnitRepository,
  ) {
    this.writes = writes;
    this.jobs = jobs;
    this.units = units;
  }

  async list(number: string, query: z.output<typeof unitsQuery>): Promise<UnitsView> {
    const row = await this.jobs.row(number, this.jobs.database.tables);
    const total = await this.units.howMany(row);
    const units = await this.units.page(row, query.after, query.q, UNITS_A_PAGE);
    return { total, quantity: row.quantity, units };
  }

  async one(number: string, ordinal: number): Promise<UnitDetail> {
    const row = await this.jobs.row(number, this.jobs.database.tables);
    const unit = await this.of(row, ordinal, this.jobs.database.tables);
    const [view] = await this.units.page(row, ordinal - 1, '', 1);
    if (!view) throw notFound(`piece ${ordinal} of ${number}`);
    return {
      ...view,
      steps: await this.units.steps(unit.id),
      tests: testViews(await this.units.tests(unit.id)),
      balances: (await this.units.balances(unit.id)).map(balanceView),
    };
  }

  /** The piece of that number; 404 with how many there are. */
  async of(row: JobRow, ordinal: number, reader: Reader): Promise<UnitRow> {
    const unit = await this.units.get(row, ordinal, reader);
    if (!unit)
      throw badField(
        'unit',
        `Job ${row.number} has no piece ${ordinal}; ${await this.units.howMany(row, reader)} pieces are numbered.`,
      );
    return unit;
  }

  /** Numbers more pieces on. More than the job is of are refused: its quantity is changed first. */
  async add(act: Act, number: string, body: z.output<typeof newUnitsBody>): Promise<UnitsView> {
    await this.writes.run(act, async ({ tx, audit, tell }) => {
      const row = await this.jobs.row(number, tx, 'lock');
      refuseClosed(row);
      const field = 'count' in body ? 'count' : 'serials';
      const more = 'count' in body ? body.count : body.serials;
      const n = typeof more === 'number' ? more : more.length;
      const have = await this.units.howMany(row, tx);
      if (have + n > row.quantity)
        throw badField(
          field,
          `Job ${number} is of ${row.quantity} pieces and ${have} are numbered; ${n} more are too many. Change its quantity first.`,
        );
      if (typeof more !== 'number') {
        const lower = more.map((s) => s.toLowerCase());
        const twice = lower.find((s, i) => lower.indexOf(s) !== i) ?? (await this.units.known(tx, row, more))[0];
        if (twice !== undefined) throw badField(field, `Serial number ${twice} stands twice; each piece has its own.`);
      }
      await this.units.add(tx, row, more, act.at);
      await audit({
        action: 'unit.add',
        jobId: row.id,
        summary: `${n} pieces of ${number} numbered`,
        after: { from: have + 1, to: have + n },
      });
      await tell(`job:${number}`);
      return null;
    });
    return this.list(number, { after: 0, q: '' });
  }

  /** Gives a piece its serial number, once. */
  async name(act: Act, number: string, ordinal: number, serial: string): Promise<null> {
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      const row = await this.jobs.row(number, tx, 'lock');
      refuseClosed(row);
      const unit = await this.of(row, ordinal, tx);
      if (unit.serial !== null)
        throw new Problem(409, 'Named already', `Piece ${ordinal} has serial number ${unit.serial}; it stays so.`);
      const [known] = await this.units.known(tx, row, [serial]);
      if (known !== undefined) throw badField('serial', `Another piece of ${number} has serial number ${known}.`);
      await this.units.setSerial(tx, unit.id, serial);
      await audit({
        action: 'unit.name',
        jobId: row.id,
        summary: `Piece ${ordinal} of ${number} has serial number ${serial}`,
        after: { ordinal, serial },
      });
      await tell(`job:${number}`);
      return null;
    });
  }
}
