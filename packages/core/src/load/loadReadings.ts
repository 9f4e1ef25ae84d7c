import { limit, type ShopLimits } from '../limits/limits.ts';
import { formatNumber } from '../quantity/format.ts';
import { notAbove, notBelow } from '../verdict.ts';
import type { LoadPoint } from './steady.ts';

const shown = (n: number): string => formatNumber(n, 6);
const mean = (v: readonly number[]): number => v.reduce((s, n) => s + n, 0) / v.length;

/** Points with a load on, the highest first: as both methods want them. */
export const loadedPoints = (points: readonly LoadPoint[]): LoadPoint[] =>
  points.filter((p) => p.torqueNm > 0).sort((a, b) => b.torqueNm - a.torqueNm);

/** The sheet of a load test filled in from the points of a run; what a run does not tell stays as it is typed. */
export function loadReadings(points: readonly LoadPoint[]): Record<string, string> {
  const taken = loadedPoints(points);
  if (taken.length === 0) return {};
  const list = (of: (p: LoadPoint) => number) => taken.map((p) => shown(of(p))).join('; ');
  const hz = taken.map((p) => p.hz).filter((n): n is number => n !== undefined);
  const winding = taken.map((p) => p.windingC).filter((n): n is number => n !== undefined);
  return {
    torques: list((p) => p.torqueNm),
    amps: list((p) => p.amps),
    watts: list((p) => p.watts),
    speeds: list((p) => p.rpm),
    volts: shown(mean(taken.map((p) => p.volts))),
    ...(winding.length === taken.length ? { windingsC: winding.map(shown).join('; ') } : {}),
    ...(hz.length === 0 ? {} : { frequency: shown(mean(hz)) }),
  };
}

/** What one should know of the points of a run before they are taken: order, supply, how far the load went. */
export function saidOfPoints(
  points: readonly LoadPoint[],
  plate: { ratedNm?: number | undefined; hz?: number | undefined; ratedV?: number | undefined },
  limits: ShopLimits = {},
): string[] {
  const out: string[] = [];
  const loaded = points.filter((p) => p.torqueNm > 0);
  if (loaded.length === 0) return out;
  const top = Math.max(...loaded.map((p) => p.torqueNm));
  const risen = loaded.filter((p, i) => i > 0 && p.torqueNm > (loaded[i - 1]?.torqueNm ?? Infinity)).length;
  if (risen > loaded.length / 2)
    out.push('The points were taken from the lowest load up; both methods want them from the highest down, quickly.');
  if (plate.ratedNm !== undefined && !notBelow((100 * top) / plate.ratedNm, limit('live.reducedPercent', limits)))
    out.push(
      `Reduced load: the highest point is ${formatNumber((100 * top) / plate.ratedNm, 3)} % of the rated torque; nothing is told beyond it.`,
    );
  const hz = loaded.map((p) => p.hz).filter((n): n is number => n !== undefined);
  if (hz.length === 0) out.push('No frequency was read: the slip is reckoned with that of the plate.');
  else if (
    plate.hz !== undefined &&
    !notAbove(100 * Math.abs(mean(hz) / plate.hz - 1), limit('live.frequencyPercent', limits))
  )
    out.push(
      `The supply has ${formatNumber(mean(hz), 4)} Hz, the plate ${formatNumber(plate.hz)} Hz: slips are of the supply; output and losses are not those of the plate.`,
    );
  const much = loaded.find((p) => (p.torqueNm * p.rpm * Math.PI) / 30 >= p.watts);
  if (much)
    out.push(
      `At ${formatNumber(much.torqueNm, 3)} N m more comes out than goes in: look at the zero and the unit of the torque, at the power meter.`,
    );
  return out;
}
