import {
  formatNumber,
  vesselNow,
  type PlantFigure,
  type PlantFlag,
  type PlantSample,
  type Typed,
  type VesselCourse,
  type VesselNow,
} from '@norther/core';
import { Inject, Injectable } from '@nestjs/common';
import { nowMs } from '../clock/clock.ts';
import type { Reader } from '../database/tables.ts';
import { Shop } from '../shop/shop.ts';
import { TankRepository } from '../tank/tankRepository.ts';
import { Tanks } from '../tank/tanks.ts';
import { unpack } from '../trace/packing.ts';
import { VesselRepository, type CycleRow, type EventRow, type VesselRow } from './vesselRepository.ts';

export interface Course {
  is: VesselNow;
  events: EventRow[];
  traces: string[];
  simulated: boolean;
  nowMin: number;
  partTopMm: number;
}

/** The course of a cycle: what the plant sent and what people read, and how it stands by it. */
@Injectable()
export class CycleCourses {
  readonly rows: VesselRepository;
  readonly tanks: Tanks;
  readonly tankRows: TankRepository;
  readonly shop: Shop;
  constructor(
    @Inject(VesselRepository) rows: VesselRepository,
    @Inject(Tanks) tanks: Tanks,
    @Inject(TankRepository) tankRows: TankRepository,
    @Inject(Shop) shop: Shop,
  ) {
    this.rows = rows;
    this.tanks = tanks;
    this.tankRows = tankRows;
    this.shop = shop;
  }

  async of(reader: Reader, vessel: VesselRow, cycle: CycleRow): Promise<Course> {
    const traces = await this.rows.traces(reader, cycle, vessel.instrumentId);
    const chunks = await this.rows.chunks(
      reader,
      traces.map((t) => t.id),
    );
    const [first] = traces;
    const zeroMs = first?.startAt
      ? first.startAt.getTime() + (first.id === cycle.traceId ? (cycle.traceFrom ?? 0) * 1000 : 0)
      : cycle.begunAt.getTime();
    const sent = traces.flatMap((trace): PlantSample[] => {
      const { x, values } = unpack(
        chunks.filter((c) => c.traceId === trace.id),
        trace.channels.length,
      );
      const offMs = (trace.startAt?.getTime() ?? zeroMs) - zeroMs;
      const from = trace.id === cycle.traceId ? (cycle.traceFrom ?? -Infinity) : -Infinity;
      return Array.from(x).flatMap((s, i): PlantSample[] =>
        s < from
          ? []
          : [
              {
                t: (offMs + 1000 * s) / 60_000,
                values: Object.fromEntries(
                  trace.channels.flatMap((c, k) => {
                    const v = values[k]?.[i] ?? NaN;
                    return Number.isNaN(v) ? [] : [[c.name, c.unit === '°F' ? (v - 32) / 1.8 : v]];
                  }),
                ),
              },
            ],
      );
    });
    const typed = (await this.rows.signals(reader, cycle.id)).map((s): PlantSample => ({
      t: s.atMin,
      values: { [s.name as PlantFigure | PlantFlag]: s.value },
    }));
    const events = await this.rows.events(reader, cycle.id);
    const samples = [...sent, ...typed].sort((a, b) => a.t - b.t);
    const lastSent = sent.at(-1)?.t;
    const seen = traces.at(-1)?.seenAt?.getTime();
    // an instrument's clock may run otherwise than ours: what counts is how long nothing has come
    const nowMin =
      cycle.endedAt !== null
        ? (samples.at(-1)?.t ?? 0)
        : lastSent === undefined || seen === undefined
          ? (nowMs() - cycle.begunAt.getTime()) / 60_000
          : lastSent + Math.max(0, nowMs() - seen) / 60_000;
    const partTopMm = cycle.setUp.standMm + cycle.partHeightMm;
    const course: VesselCourse = {
      setUp: cycle.setUp,
      partTopMm,
      stages: events.flatMap((e) => (e.kind === 'stage' && e.stage ? [{ stage: e.stage, t: e.atMin }] : [])),
      leakT: events.findLast((e) => e.kind === 'leak test')?.atMin,
      samples,
      nowMin: Math.max(nowMin, typed.at(-1)?.t ?? 0),
      resinPassed: await this.resinPassed(reader, vessel),
      today: await this.shop.today(reader),
    };
    return {
      is: vesselNow(course),
      events,
      traces: traces.map((t) => t.id),
      simulated: traces.some((t) => t.simulated),
      nowMin: course.nowMin,
      partTopMm,
    };
  }

  /** Shelf tests of the tank that the resin comes from; a vessel without one has nothing that was tested. */
  private async resinPassed(reader: Reader, vessel: VesselRow): Promise<boolean> {
    const tank = vessel.tankId === null ? undefined : await this.tankRows.tank(reader, vessel.tankId);
    return tank !== undefined && (await this.tanks.blocks(reader, tank)).length === 0;
  }
}

/** What the record of the impregnation takes of a cycle. */
export function figuresOf(is: VesselNow, lot: string | null): Typed {
  return {
    ...(lot ? { lot } : {}),
    ...(is.lowestMbar === undefined ? {} : { vacuum: `${formatNumber(is.lowestMbar, 3)} mbar` }),
    ...(is.highestBar === undefined || is.heldMin === undefined
      ? {}
      : { pressure: `${formatNumber(is.highestBar, 3)} bar` }),
    ...(is.heldMin === undefined ? {} : { hold: `${formatNumber(Math.floor(is.heldMin))} min` }),
    ...(is.plateau?.state === 'plateau' ? { end: 'capacitance plateau' } : {}),
  };
}
