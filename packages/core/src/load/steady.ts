import { limit, type LimitId, type ShopLimits } from '../limits/limits.ts';
import { notAbove } from '../verdict.ts';
import { meanRead, type LoadFrame } from './loadFrames.ts';

/** Fewer samples than this in the window are not steady. Source: `tests.md` 9.5. */
const FEWEST = 8;
/** How often it is looked whether the load is steady, s of the run. */
const LOOKED_EVERY_S = 0.5;

/** Drift between the halves of a window and scatter, shares of the mean; undefined where the mean is none or too few were read. */
export function drift(values: readonly number[]): { drift: number; spread: number } | undefined {
  const n = values.length;
  if (n < FEWEST) return undefined;
  const mean = (v: readonly number[]) => v.reduce((s, x) => s + x, 0) / v.length;
  const all = mean(values);
  if (all === 0) return undefined;
  const half = Math.floor(n / 2);
  const square = values.reduce((s, x) => s + (x - all) ** 2, 0);
  return {
    drift: Math.abs(mean(values.slice(n - half)) - mean(values.slice(0, half))) / Math.abs(all),
    spread: Math.sqrt(square / (n - 1)) / Math.abs(all),
  };
}

const WATCHED = [
  {
    name: 'voltage',
    drift: 'steady.voltsDrift',
    spread: 'steady.voltsSpread',
    of: (f: LoadFrame) => meanRead(f.lineV),
  },
  { name: 'current', drift: 'steady.ampsDrift', spread: 'steady.ampsSpread', of: (f: LoadFrame) => meanRead(f.lineA) },
  { name: 'power', drift: 'steady.wattsDrift', spread: 'steady.wattsSpread', of: (f: LoadFrame) => f.watts },
  { name: 'torque', drift: 'steady.torqueDrift', spread: 'steady.torqueSpread', of: (f: LoadFrame) => f.torqueNm },
  { name: 'speed', drift: 'steady.speedDrift', spread: 'steady.speedSpread', of: (f: LoadFrame) => f.rpm },
] as const;

/** What is not steady yet in a window, by name; none where it is. Source: `tests.md` 9.5. */
export function notSteady(window: readonly LoadFrame[], limits: ShopLimits = {}): string[] {
  return WATCHED.flatMap(({ name, of, ...most }) => {
    const found = drift(window.map(of).filter((v): v is number => v !== undefined));
    const within = (value: number, id: LimitId) => notAbove(100 * value, limit(id, limits));
    const is = found && within(found.drift, most.drift) && within(found.spread, most.spread);
    return is ? [] : [name];
  });
}

/** A point of a load test: the means of the window in which it was steady. */
export interface LoadPoint {
  /** end of the window, s */
  t: number;
  volts: number;
  amps: number;
  watts: number;
  torqueNm: number;
  rpm: number;
  hz?: number;
  windingC?: number;
  coolantC?: number;
  samples: number;
}

function pointOf(window: readonly LoadFrame[], t: number): LoadPoint | undefined {
  const mean = (of: (f: LoadFrame) => number | undefined) => meanRead(window.map(of));
  const [volts, amps, watts, torqueNm, rpm] = WATCHED.map((w) => mean(w.of));
  if (volts === undefined || amps === undefined || watts === undefined || torqueNm === undefined || rpm === undefined)
    return undefined;
  const [hz, windingC, coolantC] = [mean((f) => f.hz), mean((f) => f.windingC), mean((f) => f.coolantC)];
  return {
    t,
    volts,
    amps,
    watts,
    torqueNm,
    rpm,
    samples: window.length,
    ...(hz === undefined ? {} : { hz }),
    ...(windingC === undefined ? {} : { windingC }),
    ...(coolantC === undefined ? {} : { coolantC }),
  };
}

export interface Followed {
  /** points taken so far, as they came */
  points: LoadPoint[];
  /** what is not steady now; undefined before the first window is full */
  unsteady: string[] | undefined;
}

/**
 * Follows a load run: takes a point by itself whenever every figure is steady at a load that differs from the one before. The same
 * samples give the same points in whatever pieces they come.
 * @param ratedNm torque at rated output; undefined: the largest seen so far
 */
export class LoadFollower {
  private readonly ratedNm: number | undefined;
  private readonly limits: ShopLimits;
  private readonly windowS: number;
  private window: LoadFrame[] = [];
  private looks = -Infinity;
  private largest = 0;
  private last = -Infinity;
  private begun: number | undefined;
  private points: LoadPoint[] = [];
  private unsteady: string[] | undefined;

  constructor(ratedNm: number | undefined, limits: ShopLimits = {}) {
    this.ratedNm = ratedNm;
    this.limits = limits;
    this.windowS = limit('steady.windowS', limits);
  }

  push(frames: readonly LoadFrame[]): Followed {
    for (const f of frames) {
      // what is of before the newest was there already
      if (!(f.t > this.last)) continue;
      this.last = f.t;
      this.begun ??= f.t;
      this.window.push(f);
      while ((this.window[0]?.t ?? f.t) <= f.t - this.windowS) this.window.shift();
      this.largest = Math.max(this.largest, Math.abs(f.torqueNm ?? 0));
      if (f.t < this.looks) continue;
      this.looks = f.t + LOOKED_EVERY_S;
      // the window is full once as long has gone by
      if (f.t - this.begun < this.windowS * 0.99) continue;
      this.look(f.t);
    }
    return { points: [...this.points], unsteady: this.unsteady };
  }

  private look(t: number): void {
    this.unsteady = notSteady(this.window, this.limits);
    if (this.unsteady.length > 0) return;
    const point = pointOf(this.window, t);
    const before = this.points.at(-1);
    const step = (limit('live.levelPercent', this.limits) / 100) * (this.ratedNm ?? this.largest);
    if (!point || (before && Math.abs(point.torqueNm - before.torqueNm) <= step)) return;
    this.points.push(point);
  }
}

/** The points of a whole run. */
export const pointsOfRun = (
  frames: readonly LoadFrame[],
  ratedNm: number | undefined,
  limits: ShopLimits = {},
): LoadPoint[] => new LoadFollower(ratedNm, limits).push(frames).points;
