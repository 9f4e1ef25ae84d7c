import { z } from 'zod';
import { defineCalculation } from '../calculation.ts';
import { gcd } from './integers.ts';
import { layoutInputSchema, type Layout } from './layoutTypes.ts';
import { layoutOf } from './layout.ts';
import { workingFactor } from './factors.ts';

export interface Wave {
  /** mechanical order; the working wave has P/2 */
  order: number;
  /** electrical order, order / (P/2) */
  electrical: number;
  /** size in per cent of the working wave */
  percent: number;
  /** with or against the working wave, or standing (single phase: both parts of equal size) */
  direction: 'with' | 'against' | 'standing';
}

/** Phase currents as phasors, degrees, of unit peak. */
function currentAngles(layout: Layout): number[] {
  return layout.kind === 'single-phase' ? layout.phases.map((_, i) => 90 * i) : layout.phases.map((_, i) => 120 * i);
}

/**
 * Ampere-turns of every slot as a phasor (real and imaginary part), unit peak current in each coil: current enters at the
 * go side of a positive coil, so that side counts +. Currents in time order A, B, C; a single-phase auxiliary leads by 90°
 * and its turns count as they are.
 */
export function slotAmpereTurns(layout: Layout): { re: Float64Array; im: Float64Array } {
  const re = new Float64Array(layout.slots);
  const im = new Float64Array(layout.slots);
  const angles = currentAngles(layout);
  for (const coil of layout.coils) {
    const at = layout.phases.indexOf(coil.phase);
    const angle = (-(angles[at] ?? 0) * Math.PI) / 180;
    const x = coil.sign * coil.turns * Math.cos(angle);
    const y = coil.sign * coil.turns * Math.sin(angle);
    re[coil.goSlot - 1] = (re[coil.goSlot - 1] ?? 0) + x;
    im[coil.goSlot - 1] = (im[coil.goSlot - 1] ?? 0) + y;
    re[coil.returnSlot - 1] = (re[coil.returnSlot - 1] ?? 0) - x;
    im[coil.returnSlot - 1] = (im[coil.returnSlot - 1] ?? 0) - y;
  }
  return { re, im };
}

/**
 * MMF of the teeth as phasors: tooth s lies after slot s, F_s = Σ ampere-turns up to slot s, less the mean.
 * Source: Goerges polygon (Richter; Pyrhönen et al.).
 */
export function toothMmf(layout: Layout): { re: Float64Array; im: Float64Array } {
  const at = slotAmpereTurns(layout);
  const out = { re: new Float64Array(layout.slots), im: new Float64Array(layout.slots) };
  for (const part of ['re', 'im'] as const) {
    let run = 0;
    let mean = 0;
    for (let s = 0; s < layout.slots; s++) {
      run += at[part][s] as number;
      out[part][s] = run;
      mean += run / layout.slots;
    }
    for (let s = 0; s < layout.slots; s++) out[part][s] = (out[part][s] as number) - mean;
  }
  return out;
}

/** The step wave of the air gap at one instant, ampere-turns of each tooth for unit peak currents; phase in degrees. */
export function stepWave(layout: Layout, phaseDeg: number): Float64Array {
  const m = toothMmf(layout);
  const c = Math.cos((phaseDeg * Math.PI) / 180);
  const s = Math.sin((phaseDeg * Math.PI) / 180);
  return m.re.map((x, i) => x * c - (m.im[i] as number) * s);
}

/** Forward and backward rotating parts of mechanical order n: F = |Σ J_s e^{∓jnθ_s}| / (2πn). */
function rotating(
  j: { re: Float64Array; im: Float64Array },
  slots: number,
  n: number,
): { forward: number; backward: number } {
  let fx = 0;
  let fy = 0;
  let bx = 0;
  let by = 0;
  for (let s = 0; s < slots; s++) {
    const a = (2 * Math.PI * ((n * s) % slots)) / slots;
    const c = Math.cos(a);
    const d = Math.sin(a);
    const x = j.re[s] as number;
    const y = j.im[s] as number;
    fx += x * c - y * d;
    fy += x * d + y * c;
    bx += x * c + y * d;
    by += -x * d + y * c;
  }
  const k = 1 / (2 * Math.PI * n);
  return { forward: k * Math.hypot(fx, fy), backward: k * Math.hypot(bx, by) };
}

/**
 * Rotating waves of the air gap MMF up to a mechanical order, largest directions told apart.
 * Source: Pyrhönen, Jokinen & Hrabovcová, Design of Rotating Electrical Machines; derived.
 */
export function mmfWaves(layout: Layout, highest: number): Wave[] {
  const j = slotAmpereTurns(layout);
  const p = layout.poles / 2;
  const working = rotating(j, layout.slots, p);
  const isForward = working.forward >= working.backward;
  const base = isForward ? working.forward : working.backward;
  const out: Wave[] = [];
  if (!(base > 0)) return out;
  for (let n = 1; n <= highest; n++) {
    const both = rotating(j, layout.slots, n);
    const along = isForward ? both.forward : both.backward;
    const contrary = isForward ? both.backward : both.forward;
    const equal = Math.abs(along - contrary) <= 1e-9 * base;
    if (equal && along > 1e-9 * base) {
      out.push({ order: n, electrical: n / p, percent: (100 * along) / base, direction: 'standing' });
      continue;
    }
    if (along > 1e-9 * base)
      out.push({ order: n, electrical: n / p, percent: (100 * along) / base, direction: 'with' });
    if (contrary > 1e-9 * base)
      out.push({ order: n, electrical: n / p, percent: (100 * contrary) / base, direction: 'against' });
  }
  return out;
}

/**
 * Differential (harmonic) leakage by the Goerges polygon: σ_d = R_g²/R_p² − 1, exact for point-like slot currents.
 * THD is its square root. Source: Richter, Pyrhönen et al.
 */
export function differentialLeakage(layout: Layout): { sigma: number; distortion: number } {
  const m = toothMmf(layout);
  let square = 0;
  for (let s = 0; s < layout.slots; s++) square += (m.re[s] as number) ** 2 + (m.im[s] as number) ** 2;
  square /= layout.slots;
  const p = layout.poles / 2;
  const { forward, backward } = rotating(slotAmpereTurns(layout), layout.slots, p);
  const working = forward ** 2 + backward ** 2;
  const sigma = square / working - 1;
  return { sigma, distortion: Math.sqrt(Math.max(0, sigma)) };
}

/** Permanent-magnet indicators: cogging periods per revolution lcm(S, P) and radial balance gcd(S, P). */
export function magnetIndicators(slots: number, poles: number): { coggingPeriods: number; radialOrder: number } {
  const g = gcd(slots, poles);
  return { coggingPeriods: (slots * poles) / g, radialOrder: g };
}

export interface SlotRule {
  rule: string;
  message: string;
}

/** Cage rotor slot numbers to be wary of (from memory of handbooks; information only). Empty when nothing is against it. */
export function rotorSlotRules(statorSlots: number, bars: number, poles: number, skewSlots = 0): SlotRule[] {
  const d = Math.abs(statorSlots - bars);
  const P = poles;
  const out: SlotRule[] = [];
  const say = (rule: string, message: string) => out.push({ rule, message });
  if (bars === statorSlots) say('locking', `as many bars as slots (${bars}): locks at standstill`);
  else if (bars % (3 * P) === 0)
    say('locking', `${bars} bars are a multiple of three times the poles: may lock at standstill`);
  if ([P, 2 * P, 5 * P].includes(d)) say('cusps', `difference ${d} is ${d / P} × poles: torque cusps while running up`);
  if (d === 3 * P) say('cogging', `difference ${d} is 3 × poles: cogging`);
  if ([1, 2, P - 1, P + 1, P - 2, P + 2].includes(d) && d > 0)
    say('noise', `difference ${d}: radial forces of low order, vibration and noise`);
  if (bars > 1.25 * statorSlots && skewSlots === 0)
    say('crawling', `${bars} unskewed bars are over 1.25 × slots: may crawl`);
  if (P === 2 && bars % 2 === 1) say('odd', `an odd number of bars (${bars}) with two poles: one-sided pull`);
  return out;
}

/** Calculation `winding.field`. */
export const windingField = defineCalculation({
  id: 'winding.field',
  version: 1,
  title: 'Air gap field of a winding: waves with direction, distortion, differential leakage, slot combination',
  sources: [
    'Pyrhönen, Jokinen & Hrabovcová, Design of Rotating Electrical Machines',
    'Goerges polygon (Richter, Ankerwicklungen)',
    'slot combinations from memory of handbooks',
  ],
  input: layoutInputSchema.extend({
    highestOrder: z.int().min(1).max(400).default(60).describe('highest mechanical order'),
    rotorBars: z.int().min(0).max(400).optional(),
    skewSlots: z.number().min(0).max(4).default(0),
  }),
  output: z.object({
    waves: z.array(
      z.object({
        order: z.number(),
        electrical: z.number(),
        percent: z.number(),
        direction: z.enum(['with', 'against', 'standing']),
      }),
    ),
    differentialLeakage: z.number(),
    distortion: z.number(),
    coggingPeriods: z.number(),
    radialOrder: z.number(),
    rotorSlotRules: z.array(z.object({ rule: z.string(), message: z.string() })),
  }),
  example: { slots: 12, poles: 10, layers: 2, form: 'lap', spanSlots: 1, highestOrder: 19 },
  compute: ({ highestOrder, rotorBars, skewSlots, ...input }, note) => {
    const layout = layoutOf(input);
    const { sigma, distortion } = differentialLeakage(layout);
    const magnets = magnetIndicators(layout.slots, layout.poles);
    note?.({
      name: 'Differential leakage',
      symbol: 'σ_d',
      formula: 'R_g² / R_p² − 1 (Goerges polygon)',
      numbers: `${layout.slots} tooth MMF phasors, k_w ${workingFactor(layout).toFixed(4)}`,
      value: 100 * sigma,
      unit: '%',
      source: 'Richter; Pyrhönen et al.',
    });
    note?.({
      name: 'Field distortion',
      symbol: 'THD',
      formula: '√σ_d',
      numbers: `√${sigma.toFixed(5)}`,
      value: 100 * distortion,
      unit: '%',
      source: 'derived',
    });
    return {
      waves: mmfWaves(layout, highestOrder),
      differentialLeakage: sigma,
      distortion,
      ...magnets,
      rotorSlotRules:
        rotorBars === undefined || rotorBars === 0
          ? []
          : rotorSlotRules(layout.slots, rotorBars, layout.poles, skewSlots),
    };
  },
});
