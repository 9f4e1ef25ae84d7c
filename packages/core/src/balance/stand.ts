import { add, complex, divide, multiply, polar, scale, sizeOf, subtract, type Complex } from '../winding/complex.ts';

/** A rigid rotor on two springs: places along the axis in mm, mass in kg, inertia across the axis in kg m². */
export interface StandRotor {
  massKg: number;
  inertiaKgM2: number;
  bearingAMm: number;
  bearingBMm: number;
  centreMm: number;
  /** N/m and N s/m of the two bearings */
  stiffness: readonly [number, number];
  damping: readonly [number, number];
}
/** An unbalance where it sits: g·mm, angle in the direction of rotation, place along the axis. */
export interface Heavy {
  gMm: number;
  angleDeg: number;
  xMm: number;
}
/** What may be wrong with a stand or a rotor, for practice and for tests. */
export interface StandFaults {
  /** a vector of displacement that stays at every speed: bent shaft, run-out; mm */
  bentMm?: readonly [Complex, Complex];
  /** phase counted against the direction of the masses */
  mirrored?: boolean;
  /** the reading grows with itself: looseness */
  loose?: number;
  /** a mass that sits elsewhere after each start: g·mm and its place */
  jumping?: { gMm: number; xMm: number };
  /** speed that is not held: share */
  drift?: number;
}
/** Scatter of a real stand: gain 1 %, phase 1°, 0.02 mm/s on each axis. */
export const STAND_NOISE = { gain: 0.01, phaseDeg: 1, mmS: 0.02 } as const;
export type StandNoise = { gain: number; phaseDeg: number; mmS: number };

/**
 * Once-per-turn vibration velocity of both bearings, mm/s rms, phase as lead, from unbalances on a rigid rotor: D X = F, D = K − ω² M + jωC
 * (gyroscopic part left out). Derived.
 */
export function standReadings(rotor: StandRotor, rpm: number, heavy: readonly Heavy[]): [Complex, Complex] {
  const w = (2 * Math.PI * rpm) / 60;
  const span = (rotor.bearingBMm - rotor.bearingAMm) / 1000;
  const a = (rotor.centreMm - rotor.bearingAMm) / 1000;
  const b = (rotor.bearingBMm - rotor.centreMm) / 1000;
  const { massKg: m, inertiaKgM2: j } = rotor;
  const mass = [
    [(m * b * b + j) / span ** 2, (m * a * b - j) / span ** 2],
    [(m * a * b - j) / span ** 2, (m * a * a + j) / span ** 2],
  ];
  const at = (i: number, k: number): Complex =>
    i === k
      ? complex((rotor.stiffness[i] ?? 0) - w * w * (mass[i]?.[k] ?? 0), w * (rotor.damping[i] ?? 0))
      : complex(-w * w * (mass[i]?.[k] ?? 0));
  const spanMm = rotor.bearingBMm - rotor.bearingAMm;
  const force = (share: (x: number) => number): Complex =>
    heavy.reduce<Complex>((s, u) => add(s, polar(u.gMm * 1e-6 * w * w * share(u.xMm), u.angleDeg)), complex(0));
  const fa = force((x) => (rotor.bearingBMm - x) / spanMm);
  const fb = force((x) => (x - rotor.bearingAMm) / spanMm);
  const det = subtract(multiply(at(0, 0), at(1, 1)), multiply(at(0, 1), at(1, 0)));
  const xa = divide(subtract(multiply(fa, at(1, 1)), multiply(fb, at(0, 1))), det);
  const xb = divide(subtract(multiply(fb, at(0, 0)), multiply(fa, at(1, 0))), det);
  const velocity = (x: Complex): Complex => scale(multiply({ re: 0, im: 1 }, x), (w * 1000) / Math.SQRT2);
  return [velocity(xa), velocity(xb)];
}

/** Numbers 0 to 1 that are the same again for the same seed, so that a lesson can be given twice. */
export function seeded(seed: number): () => number {
  let s = seed >>> 0;
  return () => {
    s = (s + 0x6d2b79f5) >>> 0;
    let t = Math.imul(s ^ (s >>> 15), 1 | s);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}
/** A number of the normal distribution. */
function normal(random: () => number): number {
  return Math.sqrt(-2 * Math.log(Math.max(1e-12, random()))) * Math.cos(2 * Math.PI * random());
}

/** One run on the simulated stand: what its meters show, with scatter and faults. */
export function standRun(
  rotor: StandRotor,
  rpm: number,
  heavy: readonly Heavy[],
  random: () => number,
  noise: StandNoise = STAND_NOISE,
  faults: StandFaults = {},
): [Complex, Complex] {
  const speed = faults.drift === undefined ? rpm : rpm * (1 + faults.drift * (2 * random() - 1));
  const all = faults.jumping
    ? [...heavy, { gMm: faults.jumping.gMm, xMm: faults.jumping.xMm, angleDeg: 360 * random() }]
    : heavy;
  const w = (2 * Math.PI * speed) / 60;
  const [va, vb] = standReadings(rotor, speed, all);
  return ([va, vb] as const).map((v, i): Complex => {
    const bent = faults.bentMm?.[i];
    let z = bent ? add(v, scale(multiply({ re: 0, im: 1 }, bent), w / Math.SQRT2)) : v;
    if (faults.loose !== undefined) z = scale(z, 1 + faults.loose * sizeOf(z));
    z = multiply(z, polar(1 + noise.gain * normal(random), noise.phaseDeg * normal(random)));
    z = add(z, { re: noise.mmS * normal(random), im: noise.mmS * normal(random) });
    return faults.mirrored ? { re: z.re, im: -z.im } : z;
  }) as [Complex, Complex];
}
