import type { Joint } from '../network/joints.ts';
import { bypassed, reversed } from '../network/mistakes.ts';
import { seedOf } from '../balance/simulatedRotor.ts';
import { seeded } from '../balance/stand.ts';
import { insulationTemperatureFactor } from '../evaluate/insulationCorrection.ts';
import { circuitOf, portsOf, recordOf, type Bench, type Port, type TurnShort } from '../surge/motorWaves.ts';
import type { SurgeCircuit } from '../surge/simulatedWave.ts';
import { waveNames, type SurgeMode } from '../surge/suspect.ts';
import { networkOf, signatureOf } from '../network/network.ts';
import type { Layout } from '../winding/layoutTypes.ts';

/** What a simulated winding analyser can be told to show; the last makes the winding sound again. */
export const ANALYSER_FAULTS = [
  'turn short',
  'group reversed',
  'group bypassed',
  'ground fault',
  'damp winding',
  'lead open',
  'sound again',
] as const;
export type AnalyserFault = (typeof ANALYSER_FAULTS)[number];

/** What it measures. */
export const ANALYSER_TESTS = ['windingResistance', 'insulationResistance', 'surge', 'highPotential'] as const;
export type AnalyserTest = (typeof ANALYSER_TESTS)[number];

/** What a simulated analyser is told of the winding on it. */
export interface AnalyserOrder {
  job: string;
  test: AnalyserTest;
  stage: string;
  layout: Layout;
  joints: Joint[];
  /** a line pair of the sound winding at 20 °C, Ω */
  lineOhm: number;
  /** crest of the surge, direct voltage of the insulation test, rms of the high-potential test, V */
  volts: number;
  /** resin is in: capacitance is higher */
  cured: boolean;
}

/** A stream as it goes through the instrument door. */
export interface AnalyserStream {
  /** what of the run it is: its stream is named after the run and this */
  name: string;
  what: 'surge' | 'resistance' | 'insulation' | 'high potential';
  channels: { name: string; unit: string; role: string }[];
  /** seconds */
  times: number[];
  values: number[][];
}

const COLD_C = 21;
/** Steps of a surge, of the crest that is wanted. */
const STEPS = [0.4, 0.6, 0.8, 1] as const;
/** A simulated turn insulation gives way above this share of the crest. */
const GIVES_WAY = 0.75;
const SAMPLES = 600;
const CYCLES = 4;
const NOISE = 0.002;
const MODE = 'lead to lead' satisfies SurgeMode;

/** The hidden figures of a motor on the bench: the same job, the same motor. */
function hidden(of: Pick<AnalyserOrder, 'job' | 'layout'>) {
  const random = seeded(seedOf(`${of.job} analyser`));
  const between = (a: number, b: number) => a + (b - a) * random();
  return {
    henry: between(2e-3, 9e-3),
    quality: between(2.4, 4),
    scatter: [0, 1, 2].map(() => between(0.996, 1.004)),
    spread: [0, 1, 2].map(() => between(0.997, 1.003)),
    coil: 1 + Math.floor(random() * of.layout.coils.length),
    dryMegohm: between(900, 2600),
    index: between(2.1, 3.2),
    farad: between(4e-9, 14e-9),
  };
}

/** The coil that a fault of a motor lies in. */
export const hiddenCoil = (of: Pick<AnalyserOrder, 'job' | 'layout'>): number => hidden(of).coil;

function jointsWith(of: AnalyserOrder, fault: AnalyserFault | undefined, coil: number): Joint[] {
  const group = of.layout.groups.find((g) => g.coils.includes(coil))?.number ?? 1;
  return fault === 'group reversed'
    ? reversed(of.joints, group)
    : fault === 'group bypassed'
      ? bypassed(of.joints, group)
      : of.joints;
}

/** One test of the winding on a simulated analyser, as streams for the instrument door. */
export function analyserRun(
  of: AnalyserOrder,
  fault: AnalyserFault | undefined,
  random: () => number,
): AnalyserStream[] {
  switch (of.test) {
    case 'surge':
      return surgeRun(of, fault, random);
    case 'windingResistance':
      return [resistanceRun(of, fault, random)];
    case 'insulationResistance':
      return [insulationRun(of, fault, random)];
    case 'highPotential':
      return [highPotentialRun(of, fault, random)];
  }
}

function surgeRun(of: AnalyserOrder, fault: AnalyserFault | undefined, random: () => number): AnalyserStream[] {
  const h = hidden(of);
  const sound = portsOf(of.layout, of.joints, MODE);
  const made = portsOf(of.layout, jointsWith(of, fault, h.coil), MODE);
  const short: TurnShort = { coil: h.coil, turns: 1, loopOhm: 0.004 };
  const shorted = fault === 'turn short' ? portsOf(of.layout, of.joints, MODE, short) : made;
  const largest = Math.max(...sound.map((p) => p.inductance));
  const bench: Bench = {
    farad: 0.1e-6 * (of.cured ? 1.04 : 1),
    henryPerUnit: h.henry / largest,
    quality: h.quality,
  };
  const window = { dtS: (CYCLES * 2 * Math.PI * Math.sqrt(h.henry * bench.farad)) / SAMPLES, samples: SAMPLES };
  const times = Array.from({ length: SAMPLES }, (_, k) => k * window.dtS);
  return waveNames(MODE).map((name, i) => {
    const pulses = STEPS.map((share) => {
      const volts = Math.round((share * of.volts) / 10) * 10;
      const gaveWay = fault === 'turn short' && share > GIVES_WAY;
      const port = (gaveWay ? shorted : made)[i] as Port;
      const base = circuitOf(port, sound[i] as Port, bench, gaveWay ? short.loopOhm * (1 + random()) : 0);
      const own: SurgeCircuit = { ...base, henry: base.henry * (h.scatter[i] ?? 1) };
      return { volts, v: waveOf(own, volts, window, fault, i, random) };
    });
    return {
      name,
      what: 'surge' as const,
      channels: pulses.map((p) => ({ name, unit: 'V', role: `${p.volts} V` })),
      times,
      values: pulses.map((p) => p.v),
    };
  });
}

/** One pulse; a ground fault takes size and damps hard, an open lead leaves a slow decay. */
function waveOf(
  own: SurgeCircuit,
  volts: number,
  window: { dtS: number; samples: number },
  fault: AnalyserFault | undefined,
  wave: number,
  random: () => number,
): number[] {
  const touches = wave !== 1;
  const wild =
    fault === 'ground fault' && touches
      ? { ...own, ohm: own.ohm * 6 }
      : fault === 'lead open' && touches
        ? { ...own, ohm: 400 * Math.sqrt(own.henry / own.farad) }
        : own;
  const size = fault === 'ground fault' && touches ? 0.45 : 1;
  return Array.from(recordOf(wild, volts, window, NOISE, random).v, (x) => Number((x * size).toFixed(2)));
}

function resistanceRun(of: AnalyserOrder, fault: AnalyserFault | undefined, random: () => number): AnalyserStream {
  const h = hidden(of);
  const plain = signatureOf(networkOf(of.layout, of.joints)).resistance;
  const made = signatureOf(networkOf(of.layout, jointsWith(of, fault, h.coil))).resistance;
  const warm = (235 + COLD_C) / (235 + 20);
  const names = ['T1-T2', 'T2-T3', 'T3-T1'];
  const values = names.map((_, i) => {
    const r = of.lineOhm * warm * (h.spread[i] ?? 1) * ((made[i] ?? 1) / (plain[i] ?? 1));
    const open = fault === 'lead open' && i !== 1;
    return Array.from({ length: 5 }, () => (open ? 1e7 : r * (1 + 0.0004 * (random() - 0.5))));
  });
  return {
    name: 'resistance',
    what: 'resistance',
    channels: [...names.map((name) => ({ name, unit: 'Ω', role: '' })), { name: 'winding', unit: '°C', role: '' }],
    times: [0, 1, 2, 3, 4],
    values: [...values, [0, 1, 2, 3, 4].map(() => COLD_C)],
  };
}

function insulationRun(of: AnalyserOrder, fault: AnalyserFault | undefined, random: () => number): AnalyserStream {
  const h = hidden(of);
  const oneMinute =
    (fault === 'ground fault' ? 0.06 : fault === 'damp winding' ? 2.6 : h.dryMegohm) /
    insulationTemperatureFactor(COLD_C, 'thermosetting');
  // R rises as a power of time, so that ten minutes are `index` times one minute; damp hardly rises
  const power = Math.log10(fault === 'damp winding' || fault === 'ground fault' ? 1.05 : h.index);
  const times = [5, 10, 15, 20, 30, 45, 60, 90, 120, 180, 240, 300, 360, 420, 480, 540, 600];
  return {
    name: 'insulation',
    what: 'insulation',
    channels: [
      { name: 'R', unit: 'MΩ', role: `${of.volts} V` },
      { name: 'winding', unit: '°C', role: '' },
    ],
    times,
    values: [
      times.map((t) => Number((oneMinute * (t / 60) ** power * (1 + 0.004 * (random() - 0.5))).toPrecision(4))),
      times.map(() => COLD_C),
    ],
  };
}

function highPotentialRun(of: AnalyserOrder, fault: AnalyserFault | undefined, random: () => number): AnalyserStream {
  const h = hidden(of);
  const amps = 2 * Math.PI * 50 * h.farad * of.volts;
  const breaks = fault === 'ground fault';
  // half to full in twelve seconds, held for a minute; a ground fault gives way on the ramp
  const times = Array.from({ length: breaks ? 9 : 74 }, (_, k) => k);
  const volts = times.map((t) => of.volts * Math.min(1, 0.5 + (0.5 * t) / 12));
  const last = times.length - 1;
  return {
    name: 'high potential',
    what: 'high potential',
    channels: [
      { name: 'U', unit: 'V', role: 'AC' },
      { name: 'I', unit: 'mA', role: '' },
    ],
    times,
    values: [
      volts.map((u, t) => (breaks && t === last ? 40 : Number(u.toFixed(1)))),
      volts.map((u, t) =>
        Number(
          (
            1000 *
            amps *
            (u / of.volts) *
            (breaks && t >= last - 1 ? 20 : 1) *
            (1 + 0.01 * (random() - 0.5))
          ).toPrecision(4),
        ),
      ),
    ],
  };
}
