import { toleranceOf, type BalanceSetUp } from './setUp.ts';
import { add, multiply, polar, type Complex } from '../winding/complex.ts';
import { atBearings, atPlanes } from './planes.ts';
import {
  seeded,
  standRun,
  STAND_NOISE,
  type Heavy,
  type StandFaults,
  type StandNoise,
  type StandRotor,
} from './stand.ts';

/** What a simulated stand can be told to show; the last makes the rotor sound again. */
export const STAND_FAULTS = [
  'bar comes loose',
  'shaft bends',
  'angle sense turns',
  'near resonance',
  'sound again',
] as const;
export type StandFault = (typeof STAND_FAULTS)[number];

/** A number for a name, the same again for the same name. */
export function seedOf(name: string): number {
  let h = 2166136261;
  for (const c of name) h = Math.imul(h ^ (c.codePointAt(0) ?? 0), 16777619);
  return h >>> 0;
}

/** What a simulated stand is told of the rotor on it: where things stand, and every mass that is in it. */
export interface SpinOrder {
  job: string;
  /** names the rotor: the same name is the same hidden unbalance */
  rotor: string;
  massKg: number;
  rpm: number;
  bearingAMm: number;
  bearingBMm: number;
  centreMm: number;
  planesMm: number[];
  /** share of a bearing, g·mm: the hidden unbalance is some of these */
  shareGMm: number;
  masses: { xMm: number; gMm: number; angleDeg: number }[];
  /** it shows unbalance per plane instead of vibration */
  separates: boolean;
}

export const spinOrder = (
  setUp: BalanceSetUp,
  more: { job: string; rotor: string; masses: SpinOrder['masses'] },
): SpinOrder => ({
  ...more,
  massKg: setUp.massKg,
  rpm: setUp.balancingRpm,
  bearingAMm: setUp.bearingAMm,
  bearingBMm: setUp.bearingBMm,
  centreMm: setUp.centreMm,
  planesMm: setUp.planes.map((p) => p.xMm),
  shareGMm: Math.max(...toleranceOf(setUp).sharesGMm),
  separates: setUp.readings === 'unbalance per plane',
});

/** The rotor that a simulated stand turns: invented from its name, well below its critical speed. */
export function simulatedRotor(of: SpinOrder): { rotor: StandRotor; hidden: Heavy[] } {
  const random = seeded(seedOf(of.rotor));
  const w = (2 * Math.PI * of.rpm) / 60;
  const span = Math.abs(of.bearingBMm - of.bearingAMm) / 1000;
  // springs so stiff that it turns at about half of its resonance: phases stay steady
  const k = (more: number) => (of.massKg / 2) * (2.1 * w) ** 2 * more;
  const stiffness = [k(0.95 + 0.1 * random()), k(0.95 + 0.1 * random())] as const;
  const c = (kk: number) => 0.06 * Math.sqrt((kk * of.massKg) / 2);
  const hidden = of.planesMm.map((xMm) => ({
    xMm,
    gMm: of.shareGMm * (3 + 5 * random()),
    angleDeg: Math.round(360 * random()),
  }));
  return {
    rotor: {
      massKg: of.massKg,
      inertiaKgM2: of.massKg * (span * 0.3) ** 2,
      bearingAMm: of.bearingAMm,
      bearingBMm: of.bearingBMm,
      centreMm: of.centreMm,
      stiffness,
      damping: [c(stiffness[0]), c(stiffness[1])],
    },
    hidden,
  };
}

/** What a fault does to the stand or the rotor. */
export function simulatedFault(
  fault: StandFault | undefined,
  of: Pick<SpinOrder, 'shareGMm' | 'planesMm' | 'centreMm'>,
): StandFaults {
  switch (fault) {
    case 'bar comes loose':
      return { jumping: { gMm: 5 * of.shareGMm, xMm: of.planesMm[0] ?? of.centreMm } };
    case 'shaft bends':
      return { bentMm: [polar(0.03, 40), polar(0.022, 75)] };
    case 'angle sense turns':
      return { mirrored: true };
    case 'near resonance':
      return { drift: 0.03 };
    case 'sound again':
    case undefined:
      return {};
  }
}

const ZERO: Complex = { re: 0, im: 0 };

/**
 * One run of the rotor on a simulated stand with everything that is in it: bearing A and B as velocity (mm/s rms), or plane 1 and 2 as
 * unbalance (g·mm) on a stand that separates them. Scatter as of a usual stand.
 */
export function simulatedRun(
  of: SpinOrder,
  fault: StandFault | undefined,
  random: () => number,
  noise: StandNoise = STAND_NOISE,
): Complex[] {
  const { rotor, hidden } = simulatedRotor(of);
  const heavy = [...hidden, ...of.masses];
  const faults = simulatedFault(fault, of);
  if (!of.separates) return standRun(rotor, of.rpm, heavy, random, noise, faults);
  const at = (x: number) => ({
    bearingAMm: of.bearingAMm,
    bearingBMm: of.bearingBMm,
    centreMm: of.centreMm,
    planesMm: [x],
  });
  const all = faults.jumping
    ? [...heavy, { gMm: faults.jumping.gMm, xMm: faults.jumping.xMm, angleDeg: 360 * random() }]
    : heavy;
  const felt = all.reduce<[Complex, Complex]>(
    ([a, b], h) => {
      const [x, y] = atBearings(at(h.xMm), [polar(h.gMm, h.angleDeg)]);
      return [add(a, x), add(b, y)];
    },
    [ZERO, ZERO],
  );
  const planes =
    of.planesMm.length === 1 ? [add(felt[0], felt[1])] : atPlanes({ ...at(0), planesMm: of.planesMm }, felt);
  return planes.map((z) => {
    const stray = multiply(z, polar(1 + noise.gain * (random() - 0.5), noise.phaseDeg * (random() - 0.5)));
    const read = add(stray, { re: 0.005 * of.shareGMm * (random() - 0.5), im: 0.005 * of.shareGMm * (random() - 0.5) });
    return faults.mirrored ? { re: read.re, im: -read.im } : read;
  });
}
