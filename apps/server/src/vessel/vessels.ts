import { baseOf, CYCLE_FIELDS, startRefusal, STAGE_WORDS } from '@norther/core';
import {
  may,
  type CycleView,
  type cycleNoteBody,
  type JobCycleView,
  type newCycleBody,
  type signalsBody,
  type VesselView,
} from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import type { z } from 'zod';
import type { Reader } from '../database/tables.ts';
import { type Act, type WriteUnit, Writes } from '../database/writes.ts';
import { graphOf, readableWhy, refuseClosed, statesOf } from '../job/jobViews.ts';
import { ReadJob } from '../job/readJob.ts';
import { badField, notFound, Problem } from '../problem/problem.ts';
import { Steps } from '../process/steps.ts';
import { Stock } from '../stock/stock.ts';
import { TankRepository } from '../tank/tankRepository.ts';
import { Tanks } from '../tank/tanks.ts';
import { CycleCourses, figuresOf, type Course } from './cycleCourse.ts';
import { VesselSetUps } from './vesselSetUps.ts';
import { VesselRepository, type CycleRow, type VesselRow } from './vesselRepository.ts';

/** The operation that a vessel does. */
const CODE = 'IMPV';

/** Vessels and their cycles. Norther advises and records; the vessel's own interlocks and its inspection rule. */
@Injectable()
export class Vessels {
  readonly writes: Writes;
  readonly read: ReadJob;
  readonly stock: Stock;
  readonly steps: Steps;
  readonly tanks: Tanks;
  readonly tankRows: TankRepository;
  readonly rows: VesselRepository;
  readonly courses: CycleCourses;
  readonly setUps: VesselSetUps;
  constructor(
    @Inject(Writes) writes: Writes,
    @Inject(ReadJob) read: ReadJob,
    @Inject(Stock) stock: Stock,
    @Inject(Steps) steps: Steps,
    @Inject(Tanks) tanks: Tanks,
    @Inject(TankRepository) tankRows: TankRepository,
    @Inject(VesselRepository) rows: VesselRepository,
    @Inject(CycleCourses) courses: CycleCourses,
    @Inject(VesselSetUps) setUps: VesselSetUps,
  ) {
    this.setUps = setUps;
    this.writes = writes;
    this.read = read;
    this.stock = stock;
    this.steps = steps;
    this.tanks = tanks;
    this.tankRows = tankRows;
    this.rows = rows;
    this.courses = courses;
  }

  async list(): Promise<VesselView[]> {
    return this.rows.database.reading(async (reader) => {
      const out: VesselView[] = [];
      for (const { vessel, tankName, tankLot, name, simulated } of await this.rows.vessels(reader)) {
        const tank = vessel.tankId === null ? undefined : await this.tankRows.tank(reader, vessel.tankId);
        const cycle = await this.rows.openCycle(reader, vessel.id);
        out.push({
          id: vessel.id,
          name: vessel.name,
          typed: vessel.typed,
          setUp: vessel.setUp,
          tank:
            tank && tankName !== null
              ? {
                  id: tank.id,
                  name: tankName,
                  blocked: await this.tanks.blocks(reader, tank),
                  lot: tankLot === null ? null : (await this.stock.one(tankLot, reader)).lot,
                }
              : null,
          instrument:
            vessel.instrumentId !== null && name !== null
              ? { id: vessel.instrumentId, name, simulated: simulated ?? false }
              : null,
          active: vessel.active,
          version: vessel.version,
          cycle: cycle ? await this.cycleView(reader, vessel, cycle) : null,
        });
      }
      return out;
    });
  }

  private async cycleView(reader: Reader, vessel: VesselRow, cycle: CycleRow): Promise<CycleView> {
    const course = await this.courses.of(reader, vessel, cycle);
    const { is, events } = course;
    return {
      id: cycle.id,
      number: cycle.number,
      jobs: await this.rows.parts(reader, cycle.id),
      partTopMm: course.partTopMm,
      lot: cycle.lot,
      begun: { by: cycle.begunBy, at: cycle.begunAt.toISOString() },
      stage: is.stage,
      stageMin: is.stageMin,
      next: is.next ?? null,
      act: is.act ?? null,
      lamps: is.lamps,
      signals: Object.fromEntries(Object.entries(is.signals).map(([k, v]) => [k, v ?? null])),
      plateau: is.plateau
        ? {
            state: is.plateau.state,
            risePercent: is.plateau.risePercent,
            slopePercentMin: is.plateau.slopePercentMin ?? null,
          }
        : null,
      leak: is.leak ?? null,
      alarms: is.alarms,
      events: events.map((e) => ({
        kind: e.kind,
        stage: e.stage,
        missing: e.missing,
        note: e.note,
        by: e.personName,
        at: e.at.toISOString(),
      })),
      traces: course.traces,
      simulated: course.simulated,
      figures: cycle.figures ?? figuresOf(is, cycle.lot),
    };
  }

  /** The cycles that a motor went through. */
  async ofJob(number: string): Promise<JobCycleView[]> {
    return this.rows.database.reading(async (reader) => {
      const out: JobCycleView[] = [];
      for (const { cycle, vessel, code, vesselId } of await this.rows.cyclesOf(reader, number)) {
        const own = cycle.figures === null ? await this.rows.vessel(reader, vesselId) : undefined;
        out.push({
          vessel,
          number: cycle.number,
          code,
          at: cycle.begunAt.toISOString(),
          ended: cycle.endedAt !== null,
          figures: cycle.figures ?? (own ? figuresOf((await this.courses.of(reader, own, cycle)).is, cycle.lot) : {}),
        });
      }
      return out;
    });
  }

  /** Motors go in: the operation of each begins, held ones are refused. */
  async begin(act: Act, id: string, body: z.output<typeof newCycleBody>): Promise<{ id: string; number: number }> {
    return this.writes.run(act, async (unit) => {
      const { tx } = unit;
      const vessel = await this.rows.vessel(tx, id, 'lock');
      if (!vessel?.active) throw notFound('such vessel in use');
      const values = await this.setUps.valuesOf(tx, CYCLE_FIELDS, body.typed);
      const partHeightMm = 1000 * Number(values['partHeight']);
      const { setUp } = vessel;
      if (setUp.standMm + partHeightMm + setUp.coverMm > setUp.depthMm)
        throw badField(
          'partHeight',
          `With stand and cover it comes to ${Math.round(setUp.standMm + partHeightMm + setUp.coverMm)} mm; ${vessel.name} is ${setUp.depthMm} mm deep.`,
        );
      const tank = vessel.tankId === null ? undefined : await this.tankRows.tank(tx, vessel.tankId);
      const lot = tank?.lotId ? (await this.stock.one(tank.lotId, tx)).lot : null;
      const running = vessel.instrumentId ? await this.rows.running(tx, vessel.instrumentId) : undefined;
      const cycle = await this.rows.addCycle(tx, {
        vesselId: id,
        setUp,
        partHeightMm,
        typed: body.typed,
        lot,
        begunBy: act.actor.name,
        begunAt: act.at,
        ...(running ? { traceId: running.id, traceFrom: running.to ?? 0 } : {}),
      });
      if (!cycle) throw new Problem(409, 'In use', `A cycle runs in ${vessel.name} already.`);
      const parts: { jobId: string; number: string; code: string }[] = [];
      for (const number of new Set(body.jobs)) {
        const row = await this.read.row(number, tx, 'lock');
        refuseClosed(row);
        if (await this.rows.isIn(tx, row.id)) throw badField('jobs', `${number} stands in a vessel already.`);
        const steps = await this.read.steps(row, tx);
        const graph = graphOf(row, steps);
        const states = statesOf(steps);
        const runs = Object.keys(graph).filter((c) => baseOf(c) === CODE);
        const code =
          runs.find((c) => states[c] === 'running') ??
          runs.find((c) => ['open', 'recheck'].includes(states[c] ?? 'open')) ??
          runs.at(-1);
        if (code === undefined)
          throw badField('jobs', `${number} is not impregnated by vacuum and pressure; look at its route.`);
        if (states[code] !== 'running') {
          const refusal = startRefusal(graph, states, code);
          if (refusal) throw badField('jobs', `${number} is held: ${readableWhy(refusal.why)}.`);
          await this.steps.start(act, number, code, {}, unit);
        }
        parts.push({ jobId: row.id, number, code });
      }
      await this.rows.addParts(
        tx,
        parts.map((p) => ({ cycleId: cycle.id, jobId: p.jobId, code: p.code })),
      );
      await this.rows.addEvent(tx, {
        cycleId: cycle.id,
        kind: 'stage',
        stage: 'load',
        personName: act.actor.name,
        at: act.at,
        atMin: 0,
      });
      await unit.audit({
        action: 'vessel.begin',
        summary: `Cycle ${cycle.number} begun in ${vessel.name}: ${parts.map((p) => p.number).join(', ')}`,
        after: body,
      });
      for (const p of parts) await unit.tell(`job:${p.number}`);
      await unit.tell('ovens');
      return { id: cycle.id, number: cycle.number };
    });
  }

  /** The next stage begins. A lamp that is out asks for a foreman and a reason; pressure let off in an emergency asks for nothing. */
  async next(act: Act, cycleId: string, reason: string): Promise<{ stage: string }> {
    return this.inCycle(act, cycleId, async (unit, vessel, cycle, course) => {
      const { is } = course;
      if (!is.next) throw new Problem(409, 'Ended', 'The cycle is at its end.');
      const missing = is.lamps.filter((l) => !l.holds);
      if (missing.length > 0 && reason.length < 3)
        throw new Problem(
          409,
          'Interlock',
          `Not yet: ${missing.map((l) => l.says).join('; ')}. A foreman may go on with a reason; the vessel itself has the last word.`,
          { field: 'reason' },
        );
      if (missing.length > 0 && !may(act.actor.role, 'foreman'))
        throw new Problem(
          403,
          'Not allowed',
          `Only a foreman goes on over an interlock; ${act.actor.name} is signed in as ${act.actor.role}.`,
        );
      await this.rows.addEvent(unit.tx, {
        cycleId,
        kind: 'stage',
        stage: is.next,
        missing: missing.map((l) => l.code),
        note: reason,
        personName: act.actor.name,
        at: act.at,
        atMin: course.nowMin,
      });
      if (is.next === 'out')
        await this.rows.endCycle(unit.tx, cycleId, {
          endedAt: act.at,
          endedBy: act.actor.name,
          figures: figuresOf(is, cycle.lot),
        });
      await unit.audit({
        action: missing.length > 0 ? 'vessel.override' : 'vessel.stage',
        summary: `${vessel.name}, cycle ${cycle.number}: ${STAGE_WORDS[is.next]}${missing.length > 0 ? ` over ${missing.map((l) => l.code).join(', ')}: ${reason}` : ''}`,
        after: { signals: is.signals },
      });
      return { stage: is.next };
    });
  }

  /** A leak test begins, something is noted, or the cycle is broken off: then it ends where it stands, and says why. */
  async note(act: Act, cycleId: string, body: z.output<typeof cycleNoteBody>): Promise<null> {
    return this.inCycle(act, cycleId, async (unit, vessel, cycle, course) => {
      if (body.kind !== 'leak test' && body.note.length < 3) throw badField('note', 'Write what there is to say.');
      if (body.kind === 'leak test' && course.is.stage !== 'vacuum')
        throw new Problem(409, 'Not now', 'A leak is looked for under vacuum, before resin comes.');
      await this.rows.addEvent(unit.tx, {
        cycleId,
        kind: body.kind,
        note: body.note,
        personName: act.actor.name,
        at: act.at,
        atMin: course.nowMin,
      });
      if (body.kind === 'broken off')
        await this.rows.endCycle(unit.tx, cycleId, {
          endedAt: act.at,
          endedBy: act.actor.name,
          figures: figuresOf(course.is, cycle.lot),
        });
      await unit.audit({
        action: 'vessel.note',
        summary: `${vessel.name}, cycle ${cycle.number}: ${body.kind}${body.note ? `, ${body.note}` : ''}`,
      });
      return null;
    });
  }

  /** Signals that a person read on the plant. */
  async signals(act: Act, cycleId: string, { values }: z.output<typeof signalsBody>): Promise<null> {
    return this.inCycle(act, cycleId, async (unit, vessel, cycle, course) => {
      const said = Object.entries(values);
      if (said.length === 0) throw badField('values', 'Type what was read.');
      await this.rows.addSignals(
        unit.tx,
        said.map(([name, value]) => ({
          cycleId,
          name,
          value: Number(value),
          personName: act.actor.name,
          at: act.at,
          atMin: course.nowMin,
        })),
      );
      await unit.audit({
        action: 'vessel.signals',
        summary: `${vessel.name}, cycle ${cycle.number}: read by hand ${said.map(([n, v]) => `${n} ${v}`).join(', ')}`,
      });
      return null;
    });
  }

  private async inCycle<T>(
    act: Act,
    cycleId: string,
    change: (unit: WriteUnit, vessel: VesselRow, cycle: CycleRow, course: Course) => Promise<T>,
  ): Promise<T> {
    return this.writes.run(act, async (unit) => {
      const cycle = await this.rows.cycle(unit.tx, cycleId);
      if (!cycle) throw notFound('such cycle');
      if (cycle.endedAt) throw new Problem(409, 'Ended', `Cycle ${cycle.number} has ended; it is kept as it is.`);
      const vessel = await this.rows.vessel(unit.tx, cycle.vesselId);
      if (!vessel) throw notFound('such vessel');
      const answer = await change(unit, vessel, cycle, await this.courses.of(unit.tx, vessel, cycle));
      await unit.tell('ovens');
      return answer;
    });
  }
}
