import {
  combineVerdicts,
  judgeGauge,
  judgeSensor,
  readForm,
  SENSOR_FIELDS,
  SENSOR_READING_FIELDS,
  SENSOR_STAGE_TITLES,
  sensorOf,
  sensorsAt,
  type Judged,
} from '@norther/core';
import { dayInZone, defaultsOf, type fitSensorBody, type readSensorBody, type SensorView } from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import type { z } from 'zod';
import type { Reader, Transaction } from '../database/database.ts';
import { type Act, Writes } from '../database/writes.ts';
import { refuseClosed } from '../job/jobViews.ts';
import { JobRepository, type JobRow } from '../job/jobRepository.ts';
import { partThatCame } from '../job/partThatCame.ts';
import { ReadJob } from '../job/readJob.ts';
import { badField, badForm, notFound, Problem } from '../problem/problem.ts';
import { Shop } from '../shop/shop.ts';
import { SensorRepository, type SensorRow } from './sensorRepository.ts';

/** Temperature sensors and heaters of a winding: fitted, measured at the stages where a mistake is still cheap, taken out with a reason. */
@Injectable()
export class Sensors {
  readonly writes: Writes;
  readonly read: ReadJob;
  readonly jobs: JobRepository;
  readonly shop: Shop;
  readonly rows: SensorRepository;
  constructor(
    @Inject(Writes) writes: Writes,
    @Inject(ReadJob) read: ReadJob,
    @Inject(JobRepository) jobs: JobRepository,
    @Inject(Shop) shop: Shop,
    @Inject(SensorRepository) rows: SensorRepository,
  ) {
    this.writes = writes;
    this.read = read;
    this.jobs = jobs;
    this.shop = shop;
    this.rows = rows;
  }

  async list(number: string): Promise<SensorView[]> {
    return this.read.database.reading(async (reader) => {
      const row = await this.read.row(number, reader);
      return (await this.rows.ofJob(reader, row)).map(({ sensor: s, readings }) => ({
        id: s.id,
        part: s.part,
        typed: s.typed,
        person: s.personName,
        at: s.at.toISOString(),
        removed: s.removed,
        readings: readings.map((r) => ({
          id: r.id,
          stage: r.stage,
          typed: r.typed,
          verdict: r.verdict,
          reason: r.reason,
          person: r.personName,
          at: r.at.toISOString(),
        })),
      }));
    });
  }

  /** What the fitted ones say at a stage; undefined where there are none. */
  async at(reader: Reader, row: JobRow, stage: string): Promise<Judged | undefined> {
    const all = await this.rows.ofJob(reader, row);
    return sensorsAt(
      stage,
      all
        .filter(({ sensor }) => sensor.removed === null)
        .map(({ sensor, readings }) => ({ mark: markOf(sensor), readings })),
    );
  }

  async fit(act: Act, number: string, body: z.output<typeof fitSensorBody>): Promise<{ id: string }> {
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      const row = await this.read.row(number, tx, 'lock');
      refuseClosed(row);
      const { settings } = await this.shop.view(tx);
      const reading = readForm(SENSOR_FIELDS, body.typed, defaultsOf(settings), 'complete');
      if (reading.problems.length > 0) throw badForm(reading.problems);
      const mark = String(reading.values['mark']);
      const all = await this.rows.ofJob(tx, row);
      if (all.some(({ sensor }) => sensor.removed === null && markOf(sensor).toLowerCase() === mark.toLowerCase()))
        throw badField('mark', `${mark} is fitted already; mark this one otherwise.`);
      const id = await this.rows.add(tx, {
        jobId: row.id,
        part: await partThatCame(this.jobs, tx, row, body.part, 'stator'),
        typed: body.typed,
        values: reading.values,
        personName: act.actor.name,
        at: act.at,
      });
      await audit({
        action: 'sensor.fit',
        jobId: row.id,
        summary: `${String(reading.values['kind'])} ${mark} fitted to ${number}`,
        after: body,
      });
      await tell(`job:${number}`);
      return { id };
    });
  }

  async measure(act: Act, number: string, id: string, body: z.output<typeof readSensorBody>): Promise<Judged> {
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      const row = await this.read.row(number, tx, 'lock');
      refuseClosed(row);
      const sensor = await this.fitted(tx, row, id);
      const { settings } = await this.shop.view(tx);
      const reading = readForm(SENSOR_READING_FIELDS, body.typed, defaultsOf(settings), 'complete');
      if (reading.problems.length > 0) throw badForm(reading.problems);
      const parts: Judged[] = [judgeSensor(sensorOf(sensor.values, reading.values), settings.limits)];
      const gauge = judgeGauge(reading.values['instrument'], settings.gauges, dayInZone(act.at, settings.timeZone));
      if (gauge) parts.push(gauge);
      const judged: Judged = {
        verdict: combineVerdicts(parts.map((p) => p.verdict)),
        reason: parts
          .map((p) => p.reason)
          .filter(Boolean)
          .join(' '),
      };
      await this.rows.addReading(tx, {
        sensorId: id,
        stage: body.stage,
        typed: body.typed,
        values: reading.values,
        limits: settings.limits,
        ...judged,
        personName: act.actor.name,
        at: act.at,
      });
      await audit({
        action: 'sensor.read',
        jobId: row.id,
        summary: `${markOf(sensor)} of ${number}, ${SENSOR_STAGE_TITLES[body.stage]}: ${judged.verdict}. ${judged.reason}`,
        after: body,
      });
      await tell(`job:${number}`);
      return judged;
    });
  }

  /** Taken out again, or given up: it is not asked for any more. */
  async remove(act: Act, number: string, id: string, reason: string): Promise<null> {
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      const row = await this.read.row(number, tx, 'lock');
      refuseClosed(row);
      const sensor = await this.fitted(tx, row, id);
      await this.rows.remove(tx, id, {
        by: act.actor.name,
        role: act.actor.role,
        at: act.at.toISOString(),
        meaning: 'taken out',
        reason,
      });
      await audit({
        action: 'sensor.remove',
        jobId: row.id,
        summary: `${markOf(sensor)} of ${number} taken out: ${reason}`,
      });
      await tell(`job:${number}`);
      return null;
    });
  }

  private async fitted(tx: Transaction, row: JobRow, id: string): Promise<SensorRow> {
    const sensor = await this.rows.one(tx, row, id);
    if (!sensor) throw notFound('such sensor');
    if (sensor.removed)
      throw new Problem(
        409,
        'Taken out',
        `${markOf(sensor)} was taken out by ${sensor.removed.by}: ${sensor.removed.reason}`,
      );
    return sensor;
  }
}

const markOf = (s: SensorRow): string => s.typed['mark']?.trim() ?? '';
