import { balanceEntrySchema, type BalanceEntry } from '../../packages/core/src/balance/entries.ts';
import { responseOf } from '../../packages/core/src/balance/influence.ts';
import { vectorOf, type Vector } from '../../packages/core/src/balance/planes.ts';
import { balanceNow } from '../../packages/core/src/balance/session.ts';
import { balanceSetUpSchema, guideOf, type BalanceSetUp } from '../../packages/core/src/balance/setUp.ts';
import {
  seeded,
  standRun,
  type Heavy,
  type StandNoise,
  type StandRotor,
} from '../../packages/core/src/balance/stand.ts';
import { polar } from '../../packages/core/src/winding/complex.ts';

export const QUIET: StandNoise = { gain: 0, phaseDeg: 0, mmS: 0 };
export const setUp = (more: object = {}): BalanceSetUp =>
  balanceSetUpSchema.parse({
    kind: 'cage rotor',
    massKg: 20,
    grade: 2.5,
    serviceRpm: 3000,
    balancingRpm: 900,
    bearingAMm: 0,
    bearingBMm: 400,
    centreMm: 200,
    planes: [
      { xMm: 80, radiusMm: 60 },
      { xMm: 320, radiusMm: 60 },
    ],
    ...more,
  });
export const rotor: StandRotor = {
  massKg: 20,
  inertiaKgM2: 0.3,
  bearingAMm: 0,
  bearingBMm: 400,
  centreMm: 200,
  stiffness: [200000, 180000],
  damping: [60, 60],
};
export const HIDDEN: Heavy[] = [
  { gMm: 900, angleDeg: 130, xMm: 80 },
  { gMm: 500, angleDeg: 300, xMm: 320 },
];
export const entry = (e: object): BalanceEntry => balanceEntrySchema.parse(e);

/** A rotor on the simulated stand, balanced as a person would do what is said. */
export function bench(
  of: BalanceSetUp,
  hidden: readonly Heavy[],
  seed = 1,
  noise: StandNoise = QUIET,
  on: StandRotor = rotor,
) {
  const random = seeded(seed);
  const heavy = [...hidden];
  const entries: BalanceEntry[] = [];
  const read = (extra: readonly Heavy[] = []): Vector[] =>
    standRun(on, of.balancingRpm, [...heavy, ...extra], random, noise).map(vectorOf);
  const now = () => balanceNow(of, entries);
  return {
    entries,
    heavy,
    now,
    read,
    run: () => entries.push(entry({ kind: 'run', readings: read() })),
    trial: (plane: number, gMm: number, angleDeg: number, staysIn = false) => {
      const extra = { gMm, angleDeg, xMm: of.planes[plane - 1]?.xMm ?? 0 };
      entries.push(entry({ kind: 'trial', plane, gMm, angleDeg, readings: read([extra]), staysIn }));
      if (staysIn) heavy.push(extra);
    },
    /** fixes what is said */
    correct: () => {
      const is = now();
      const masses = (is.next ?? []).flatMap((n) => {
        const p = of.planes[n.plane - 1];
        return n.masses.map((m) => ({
          plane: n.plane,
          angleDeg: m.angleDeg,
          massG: p?.way === 'add' ? m.massG : -m.massG,
          radiusMm: p?.radiusMm ?? 1,
        }));
      });
      entries.push(entry({ kind: 'correction', masses }));
      for (const m of masses)
        heavy.push({ gMm: m.massG * m.radiusMm, angleDeg: m.angleDeg, xMm: of.planes[m.plane - 1]?.xMm ?? 0 });
      return is;
    },
  };
}
export const guide = guideOf(setUp());
/** Whether the last trial altered neither amplitude nor phase of any bearing enough. */
export function weakly(entries: readonly BalanceEntry[]): boolean {
  const [first] = entries;
  const last = entries.at(-1);
  if (first?.kind !== 'run' || last?.kind !== 'trial') return false;
  return last.readings.every((r, i) => {
    const { percent, deg } = responseOf(
      polar(first.readings[i]?.size ?? 0, first.readings[i]?.angleDeg ?? 0),
      polar(r.size, r.angleDeg),
    );
    return percent < 25 && deg < 30;
  });
}
