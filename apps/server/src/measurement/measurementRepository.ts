import type { TrendColumns } from '@norther/contracts';
import type { Measurement, TestStage } from '@norther/core';
import { Inject, Injectable } from '@nestjs/common';
import { Database } from '../database/database.ts';
import type { Reader } from '../database/tables.ts';
import { addMeasurements, type MeasurementOf } from './measurementStatements.ts';

export interface TrendRow {
  number: string;
  at: Date;
  value: number;
  bound: 'above' | 'below' | null;
  stage: string | null;
  verdict: string | null;
}

/** Visits of one family at most, and measurements of one visit at most: a trend reads 5,000 rows and no more. */
const MOST_VISITS = 500;
const MOST_EACH = 10;
const COLUMNS = 'j.number, m.at, m.value, m.bound, m.stage, m.verdict';
/** a reading that a correction replaced is not part of a trend */
const STANDING = `not exists (select 1 from test_run t where t.supersedes = m.source_id)`;

/** All SQL of measured quantities. */
@Injectable()
export class MeasurementRepository {
  readonly database: Database;
  constructor(@Inject(Database) database: Database) {
    this.database = database;
  }

  async add(tx: Reader, of: MeasurementOf, list: readonly Measurement[]): Promise<void> {
    await addMeasurements(tx, of, list);
  }

  /** The motor and family of a visit. */
  async visit(number: string): Promise<{ motorId: string; family: string | null } | undefined> {
    const { rows } = await this.database.pool.query<{ motorId: string; family: string | null }>({
      name: 'measurement-visit',
      text: 'select motor_id as "motorId", family from job where number = $1',
      values: [number],
    });
    return rows[0];
  }

  /** One quantity over all visits of one motor, oldest first. */
  async ofMotor(motorId: string, what: string): Promise<TrendRow[]> {
    const { rows } = await this.database.pool.query<TrendRow>({
      name: 'measurement-motor',
      text: `select ${COLUMNS} from job j join measurement m on m.job_id = j.id
        where j.motor_id = $1 and m.what = $2 and ${STANDING} order by m.at limit ${MOST_VISITS * MOST_EACH}`,
      values: [motorId, what],
    });
    return rows;
  }

  /** One quantity over the newest visits of a family, without one motor, oldest first. */
  async ofFamily(family: string, butMotorId: string, what: string): Promise<TrendColumns> {
    const { rows } = await this.database.pool.query<
      [string, number, number, TestStage | null, 'above' | 'below' | null]
    >({
      name: 'measurement-family',
      rowMode: 'array',
      text: `select j.number, (extract(epoch from m.at) * 1000)::float8, m.value, m.stage, m.bound from
        (select id, number from job where family = $1 and motor_id <> $2 order by taken_in_at desc limit ${MOST_VISITS}) j
        cross join lateral (select * from measurement m where m.job_id = j.id and m.what = $3 and ${STANDING}
          order by m.at desc limit ${MOST_EACH}) m
        order by m.at`,
      values: [family, butMotorId, what],
    });
    const places = new Map<string, number>();
    for (const [number] of rows) if (!places.has(number)) places.set(number, places.size);
    return {
      numbers: [...places.keys()],
      visit: rows.map((r) => places.get(r[0]) ?? 0),
      atMs: rows.map((r) => Math.round(r[1])),
      value: rows.map((r) => Number(r[2].toPrecision(7))),
      stage: rows.map((r) => r[3]),
      above: rows.flatMap((r, i) => (r[4] === 'above' ? [i] : [])),
      below: rows.flatMap((r, i) => (r[4] === 'below' ? [i] : [])),
    };
  }
}
