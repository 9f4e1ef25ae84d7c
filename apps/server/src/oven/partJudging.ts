import { cureInput } from '@norther/contracts';
import {
  chunksOf,
  combineVerdicts,
  formatNumber,
  limit,
  mostC,
  notAbove,
  notBelow,
  targetOf,
  type CalculationResult,
  type Chunk,
  type processBurnOff,
  type processCure,
  type Resin,
  type Typed,
  type Verdict,
} from '@norther/core';
import { Inject, Injectable } from '@nestjs/common';
import type { z } from 'zod';
import type { JudgedCure } from '../evaluate/cures.ts';
import { WorkThread } from '../thread/workThread.ts';
import { column } from '../trace/packing.ts';
import { figuresOf } from './figures.ts';
import { LoadFollowing, partNow, type WholeLoad } from './loadFollowing.ts';
import { OvenRepository, type LoadAll, type PartRow } from './ovenRepository.ts';

type Burned = CalculationResult<z.output<typeof processBurnOff.output>>;
type Cured = CalculationResult<z.output<typeof processCure.output>>;

export interface JudgedPart {
  verdict: Verdict;
  reason: string;
  figures: Record<string, Typed>;
  result?: CalculationResult;
  cure?: Pick<JudgedCure, 'resin' | 'settings' | 'log'>;
  /** its own sensors and the air, as they are kept with the verdict */
  trace?: {
    channels: { name: string; unit: string; role: string }[];
    chunks: Chunk[];
    zeroMs: number;
    simulated: boolean;
  };
}

/** Judges a part by its own temperature when it leaves the oven: the whole log, the same calculations as everywhere. */
@Injectable()
export class PartJudging {
  readonly rows: OvenRepository;
  readonly following: LoadFollowing;
  readonly thread: WorkThread;
  constructor(
    @Inject(OvenRepository) rows: OvenRepository,
    @Inject(LoadFollowing) following: LoadFollowing,
    @Inject(WorkThread) thread: WorkThread,
  ) {
    this.rows = rows;
    this.following = following;
    this.thread = thread;
  }

  async judge(all: LoadAll, part: PartRow, at: Date): Promise<JudgedPart> {
    const { whole, now } = await this.rows.database.reading(async (reader) => ({
      whole: await this.following.whole(reader, all),
      now: partNow(await this.following.follow(reader, all), all, part.id),
    }));
    const own = whole.wiring.channelsOf.get(part.id) ?? [];
    const air = whole.wiring.roles.flatMap((r, i) => (r === 'oven air' ? [i] : []));
    const shown = [...own, ...air];
    const trace = traceOf(whole, own, shown);
    const nothing = own.length === 0 || whole.timesMin.length < 2;
    if (nothing)
      return {
        verdict: 'cannot judge',
        reason: `No sensor sat on ${part.job} and nothing was typed: the air says nothing of the part.`,
        figures: {},
        ...(trace ? { trace } : {}),
      };
    const log = {
      timesMin: whole.timesMin,
      channels: shown.map((i) => ({
        name: whole.names[i] ?? '',
        role: own.includes(i) ? ('part' as const) : ('oven air' as const),
        valuesC: whole.values[i] ?? [],
      })),
    };
    const more = { ...(trace ? { trace } : {}) };
    switch (all.load.use) {
      case 'bake':
        return { ...(await this.cure(all, part, log, whole)), ...more };
      case 'burn-off':
        return { ...(await this.burn(all, part, log, whole, at)), ...more };
      case 'dry':
        return { ...this.dried(all, part, now), ...more };
    }
  }

  private async cure(all: LoadAll, part: PartRow, log: Log, whole: WholeLoad): Promise<JudgedPart> {
    const { load } = all;
    const resin = load.resin as Resin;
    const settings = { limits: load.limits, cureSchool: load.school };
    const input = cureInput(
      log,
      log.channels.map((c) => c.role),
      resin,
      settings,
      whole.maxGapMin,
      whole.typedAtMin,
    );
    const result = (await this.thread.do('calculation', { id: 'process.cure', input })) as Cured;
    const { verdict, reason } = result.values;
    return {
      verdict,
      reason,
      figures: figuresOf(all, part, { hottestC: result.values.hottestC ?? NaN, atC: NaN, minutes: NaN }),
      cure: { resin, settings, log: { rows: whole.timesMin.length, badRows: [], verdict, reason, result } },
      result,
    };
  }

  private async burn(all: LoadAll, part: PartRow, log: Log, whole: WholeLoad, at: Date): Promise<JudgedPart> {
    const opened = all.events.find((e) => e.kind === 'door opened')?.at ?? at;
    const last = whole.timesMin.at(-1) ?? 0;
    // a logger's clock may run otherwise than ours: opened now is opened at its last reading
    const doorMin = opened === at ? last : (opened.getTime() - whole.zeroMs) / 60_000;
    const result = (await this.thread.do('calculation', {
      id: 'process.burnOff',
      input: {
        ...log,
        corePlate: part.corePlate ?? 'unknown',
        doorMin: Math.max(0, doorMin),
        maxGapMin: whole.maxGapMin,
        typedAtMin: whole.typedAtMin,
        typedGapMin: limit('cure.typedGapMin', all.load.limits),
        limits: all.load.limits,
      },
    })) as Burned;
    const v = result.values;
    return {
      verdict: v.verdict,
      reason: v.reason,
      figures: figuresOf(all, part, {
        hottestC: v.hottestC ?? NaN,
        atC: v.atOpeningC ?? NaN,
        minutes: v.burningMin ?? 0,
        coolingKH: v.coolingKH,
        atOpeningC: v.atOpeningC,
      }),
      result,
    };
  }

  private dried(all: LoadAll, part: PartRow, now: ReturnType<typeof partNow>): JudgedPart {
    const target = targetOf('dry', undefined, all.load.setPointC, all.load.limits);
    const most = mostC('dry', target, undefined, all.load.limits);
    const minutes = Math.min(...now.parts.map((p) => p.totalMin));
    const hottestC = Math.max(...now.parts.map((p) => p.hottest));
    const said: [Verdict, string][] = [];
    if (!notAbove(hottestC, most))
      said.push(['attention', `It reached ${formatNumber(hottestC, 4)} °C; to dry, at most ${formatNumber(most)} °C.`]);
    if (!notBelow(minutes, 60 * target.ratedH))
      said.push([
        'attention',
        `It was at ${target.ratedC} °C or more for ${formatNumber(minutes, 3)} min of ${formatNumber(60 * target.ratedH)} min.`,
      ]);
    return {
      verdict: said.length === 0 ? 'pass' : combineVerdicts(said.map(([v]) => v)),
      reason:
        said.map(([, s]) => s).join(' ') ||
        `Warmed through at ${target.ratedC} °C or more for ${formatNumber(minutes, 3)} min; insulation resistance decides whether it is dry.`,
      figures: figuresOf(all, part, {
        hottestC,
        atC: Math.min(...now.parts.map((p) => p.c ?? Infinity)),
        minutes,
      }),
    };
  }
}

interface Log {
  timesMin: number[];
  channels: { name: string; role: 'part' | 'oven air'; valuesC: (number | null)[] }[];
}

function traceOf(whole: WholeLoad, own: readonly number[], shown: readonly number[]): JudgedPart['trace'] {
  if (whole.timesMin.length < 2 || shown.length === 0) return undefined;
  return {
    channels: shown.map((i) => ({
      name: whole.names[i] ?? '',
      unit: '°C',
      role: own.includes(i) ? 'part' : 'oven air',
    })),
    chunks: chunksOf({
      x: Float64Array.from(whole.timesMin),
      values: shown.map((i) => column(whole.values[i] ?? [])),
    }),
    zeroMs: whole.zeroMs,
    simulated: whole.simulated,
  };
}
