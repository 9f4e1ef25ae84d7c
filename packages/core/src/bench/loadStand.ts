import { seedOf } from '../balance/simulatedRotor.ts';
import { seeded } from '../balance/stand.ts';
import { atSlip, breakdown, seen, type Circuit, type Supply } from '../load/circuit.ts';

/** Faults that a simulated dynamometer shows; the last makes motor, supply and stand sound again. */
export const LOAD_FAULTS = [
  'supply unbalanced',
  'misaligned',
  'torque zero drifts',
  'overheats',
  'load runs away',
  'falls silent',
  'sound again',
] as const;
export type LoadFault = (typeof LOAD_FAULTS)[number];

/** What a simulated dynamometer is told of the motor on it. */
export interface LoadOrder {
  job: string;
  /** name of its stream */
  stream: string;
  circuit: Circuit;
  supply: Supply;
  ratedNm: number;
  ratedA: number;
  /** what the dynamometer takes at most */
  mostNm: number;
  /** line resistance at 20 °C, for what it reads while the winding cools */
  line20Ohm: number;
}

/** Channels that it sends, in the order of its values. */
export const LOAD_CHANNELS = [
  { name: 'U12', unit: 'V', role: 'line voltage' },
  { name: 'U23', unit: 'V', role: 'line voltage' },
  { name: 'U31', unit: 'V', role: 'line voltage' },
  { name: 'I1', unit: 'A', role: 'line current' },
  { name: 'I2', unit: 'A', role: 'line current' },
  { name: 'I3', unit: 'A', role: 'line current' },
  { name: 'P', unit: 'W', role: 'input power' },
  { name: 'f', unit: 'Hz', role: 'frequency' },
  { name: 'T', unit: 'N·m', role: 'torque' },
  { name: 'n', unit: 'r/min', role: 'speed' },
  { name: 'winding', unit: '°C', role: 'winding' },
  { name: 'coolant', unit: '°C', role: 'coolant' },
  { name: 'bearing', unit: '°C', role: 'bearing' },
  { name: 'vibration', unit: 'mm/s', role: 'vibration' },
] as const;

/** What its resistance meter sends once the motor stands. */
export const COOLING_CHANNELS = [{ name: 'R', unit: 'Ω', role: 'line resistance' }] as const;

/** The thermal model: one body, K and s; heat at rated load gives the rise of a sound motor, and of one that overheats. */
const RISE_K = { sound: 74, overheats: 128 } as const;
const TAU_S = 1400;
const COOLANT_C = 24;
const BEARING = { tauS: 1500, riseK: 32, misalignedK: 75 } as const;
/** The load is put on by this share of the rated torque a second. */
const RAMP = 0.12;
const RUNS_AWAY = 0.8;
const STRAY = 0.012;
/** Negative sequence of an unbalanced supply, and its angle. */
const UNBALANCE = { share: 0.022, angle: 0.7 } as const;
const ZERO_DRIFT_NM_S = 0.0006;
const NOISE = { volts: 4e-4, amps: 6e-4, watts: 6e-4, torque: 8e-4, speed: 4e-5, ohms: 2e-5 } as const;

type Pair = readonly [number, number];
const turn = ([re, im]: Pair, by: number): Pair => [
  re * Math.cos(by) - im * Math.sin(by),
  re * Math.sin(by) + im * Math.cos(by),
];
const plus = (a: Pair, b: Pair): Pair => [a[0] + b[0], a[1] + b[1]];
const size = ([re, im]: Pair): number => Math.hypot(re, im);
const through = (volts: Pair, z: Pair): Pair => {
  const q = z[0] * z[0] + z[1] * z[1];
  return [(volts[0] * z[0] + volts[1] * z[1]) / q, (volts[1] * z[0] - volts[0] * z[1]) / q];
};
const THIRD = (2 * Math.PI) / 3;

/** A motor on a dynamometer, invented: circuit of its plate, warming by its losses. The same job, the same motor. */
export class LoadStand {
  private readonly of: LoadOrder;
  private readonly random: () => number;
  private readonly scatter: readonly number[];
  private fault: LoadFault | undefined;
  private wantedNm = 0;
  private nm = 0;
  private on = true;
  private slip = 0;
  private windingC: number = COOLANT_C;
  private bearingC: number = COOLANT_C;
  private zeroNm = 0;

  constructor(of: LoadOrder, seed = 1) {
    this.of = of;
    const own = seeded(seedOf(`${of.job} load`));
    this.scatter = [0, 1, 2].map(() => 1 + 0.004 * (own() - 0.5));
    this.random = seeded(seed);
  }

  /** Load that is wanted, N m; never more than the dynamometer takes. */
  set(nm: number): void {
    this.wantedNm = Math.max(0, Math.min(nm, this.of.mostNm));
  }
  /** No more load than now. */
  hold(): void {
    this.wantedNm = Math.min(this.wantedNm, this.nm);
  }
  /** The load comes off at once, the motor goes on. */
  unload(): void {
    this.wantedNm = 0;
    this.nm = 0;
  }
  /** Motor off, load off. */
  stop(): void {
    this.unload();
    this.on = false;
  }
  show(fault: LoadFault | undefined): void {
    this.fault = fault === 'sound again' ? undefined : fault;
    if (fault === 'sound again') this.zeroNm = 0;
  }
  get runs(): boolean {
    return this.on;
  }
  /** Load that is on, N m. */
  get torqueNm(): number {
    return this.nm;
  }
  /** Line resistance as it is now, Ω. */
  get lineOhm(): number {
    return (this.of.line20Ohm * (234.5 + this.windingC)) / (234.5 + 20);
  }

  /** Line resistance as its meter reads it, Ω; nothing is read while the power is on. */
  readOhm(): number {
    return Number((this.lineOhm * (1 + NOISE.ohms * (2 * this.random() - 1))).toPrecision(6));
  }

  /** Time goes by, s; warming and cooling `thermal` times as fast. */
  advance(dtS: number, thermal = 1): void {
    const { of } = this;
    // a brake that fails to its full load keeps on until the load is taken off
    const away = this.fault === 'load runs away';
    if (away && this.wantedNm > 0) this.wantedNm = of.mostNm;
    const step = (away ? RUNS_AWAY : RAMP) * of.ratedNm * dtS;
    this.nm =
      this.nm < this.wantedNm ? Math.min(this.wantedNm, this.nm + step) : Math.max(this.wantedNm, this.nm - 2 * step);
    const c = this.warm();
    this.slip = this.on ? this.slipFor(c) : 1;
    if (this.fault === 'torque zero drifts') this.zeroNm += ZERO_DRIFT_NM_S * of.ratedNm * dtS;
    const now = this.on ? atSlip(c, of.supply, this.slip) : undefined;
    const rated = atSlip(of.circuit, of.supply, ratedSlipOf(of));
    // copper losses heat the winding most; those of a rated run give the rise that is meant
    const heat = now ? (now.amps / rated.amps) ** 2 : 0;
    const rise = (this.fault === 'overheats' ? RISE_K.overheats : RISE_K.sound) * heat;
    this.windingC += ((COOLANT_C + rise - this.windingC) * dtS * thermal) / TAU_S;
    const bearing = this.on ? BEARING.riseK + (this.fault === 'misaligned' ? BEARING.misalignedK : 0) : 0;
    this.bearingC += ((COOLANT_C + bearing - this.bearingC) * dtS * thermal) / BEARING.tauS;
  }

  /** One sample of every channel. */
  read(): number[] {
    const { of } = this;
    const noisy = (value: number, share: number) => value * (1 + share * (2 * this.random() - 1));
    const phaseV = of.supply.lineV / Math.sqrt(3);
    const share = this.fault === 'supply unbalanced' ? UNBALANCE.share : 0.001;
    const negative = turn([phaseV * share, 0], UNBALANCE.angle);
    const c = this.warm();
    const phases = [0, 1, 2].map((k) => plus(turn([phaseV, 0], -k * THIRD), turn(negative, k * THIRD)));
    const lines = [0, 1, 2].map((k) => {
      const [a, b] = [phases[k] as Pair, phases[(k + 1) % 3] as Pair];
      return size([a[0] - b[0], a[1] - b[1]]);
    });
    const at = atSlip(c, of.supply, this.slip);
    const positive = through([phaseV, 0], seen(c, Math.max(this.slip, 1e-9)).z);
    const against = through(negative, seen(c, 2 - this.slip).z);
    const amps = [0, 1, 2].map((k) =>
      this.on ? size(plus(turn(positive, -k * THIRD), turn(against, k * THIRD))) * (this.scatter[k] ?? 1) : 0,
    );
    const sync = (120 * of.supply.frequencyHz) / of.supply.poles;
    const stray = this.strayNm(this.nm) * sync * (Math.PI / 30);
    const vibration = this.on ? (this.fault === 'misaligned' ? 5.6 : 1.1) : 0;
    return [
      ...lines.map((v) => noisy(v, NOISE.volts)),
      ...amps.map((a) => noisy(a, NOISE.amps)),
      this.on ? noisy(at.inW + stray, NOISE.watts) : 0,
      noisy(of.supply.frequencyHz, 1e-5),
      (this.on ? noisy(this.nm, NOISE.torque) : 0) + this.zeroNm,
      this.on ? noisy(sync * (1 - this.slip), NOISE.speed) : 0,
      this.windingC + 0.04 * (this.random() - 0.5),
      COOLANT_C + 0.1 * (this.random() - 0.5),
      this.bearingC + 0.05 * (this.random() - 0.5),
      noisy(vibration, 0.02),
    ].map((v) => Number(v.toPrecision(6)));
  }

  private strayNm(nm: number): number {
    return STRAY * this.of.ratedNm * (nm / this.of.ratedNm) ** 2;
  }

  /** The circuit with its resistances as warm as it is. */
  private warm(): Circuit {
    const k = (234.5 + this.windingC) / (234.5 + 75);
    const { circuit } = this.of;
    return { ...circuit, r1: circuit.r1 * k, r2: circuit.r2 * k };
  }

  /** The slip at which the load hangs; beyond the breakdown torque it pulls out and slows down. */
  private slipFor(c: Circuit): number {
    const { supply } = this.of;
    const out = breakdown(c, supply);
    const wanted = this.nm + this.strayNm(this.nm);
    const shaft = (s: number) => atSlip(c, supply, s).shaftNm ?? 0;
    if (shaft(out.slip) <= wanted) return Math.min(0.999, Math.max(this.slip, out.slip) + 0.01);
    let [low, high] = [0, out.slip];
    for (let i = 0; i < 40; i++) {
      const middle = (low + high) / 2;
      if (shaft(middle) < wanted) low = middle;
      else high = middle;
    }
    return (low + high) / 2;
  }
}

/** The slip of the rated torque, from the circuit itself. */
function ratedSlipOf(of: LoadOrder): number {
  let [low, high] = [0, breakdown(of.circuit, of.supply).slip];
  for (let i = 0; i < 40; i++) {
    const middle = (low + high) / 2;
    if ((atSlip(of.circuit, of.supply, middle).shaftNm ?? 0) < of.ratedNm) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}
