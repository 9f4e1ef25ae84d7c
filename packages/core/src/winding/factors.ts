import { z } from 'zod';
import { defineCalculation } from '../calculation.ts';
import { layoutInputSchema, type Layout, type Phase } from './layoutTypes.ts';
import { layoutOf } from './layout.ts';

export interface Factor {
  /** electrical order, working wave = 1 */
  order: number;
  /** size of the winding factor, 0…1 */
  size: number;
  /** signed by the side of the working wave's axis it magnetises; 0 where size is 0 */
  signed: number;
}

/** Roots of unity of S slots, kept per slot count: they are asked for at every key press. */
const roots = new Map<number, { cos: Float64Array; sin: Float64Array }>();

function rootsOf(slots: number): { cos: Float64Array; sin: Float64Array } {
  const known = roots.get(slots);
  if (known) return known;
  const cos = new Float64Array(slots);
  const sin = new Float64Array(slots);
  for (let s = 0; s < slots; s++) {
    cos[s] = Math.cos((2 * Math.PI * s) / slots);
    sin[s] = Math.sin((2 * Math.PI * s) / slots);
  }
  const made = { cos, sin };
  roots.set(slots, made);
  return made;
}

/**
 * Winding factors of one phase for electrical orders 1…highest (all integers), from the coil table of any layout:
 * k_w(n) = |Σ ±T (e^{jnθ_go} − e^{jnθ_return})| / (2 Σ T), n = order · P/2.
 * The sum depends on n modulo S only and is conjugate-symmetric, so at most S/2 sums are made.
 */
export function windingFactors(layout: Layout, highestOrder: number, phase: Phase = 'A'): Factor[] {
  const S = layout.slots;
  const p = layout.poles / 2;
  const { cos, sin } = rootsOf(S);
  const net = new Float64Array(S);
  let turns = 0;
  for (const coil of layout.coils) {
    if (coil.phase !== phase) continue;
    turns += coil.turns;
    const signed = coil.sign * coil.turns;
    net[coil.goSlot - 1] = (net[coil.goSlot - 1] ?? 0) + signed;
    net[coil.returnSlot - 1] = (net[coil.returnSlot - 1] ?? 0) - signed;
  }
  const used: number[] = [];
  for (let s = 0; s < S; s++) if (net[s] !== 0) used.push(s);
  const re = new Float64Array(S).fill(Number.NaN);
  const im = new Float64Array(S);
  const sumAt = (n: number): void => {
    if (!Number.isNaN(re[n] as number)) return;
    const mirror = (S - n) % S;
    if (mirror !== n && !Number.isNaN(re[mirror] as number)) {
      re[n] = re[mirror] as number;
      im[n] = -(im[mirror] as number);
      return;
    }
    let x = 0;
    let y = 0;
    for (const s of used) {
      const at = (n * s) % S;
      x += (net[s] as number) * (cos[at] as number);
      y += (net[s] as number) * (sin[at] as number);
    }
    re[n] = x / (2 * turns);
    im[n] = y / (2 * turns);
  };
  sumAt(p % S);
  const axis = (Math.atan2(im[p % S] as number, re[p % S] as number) + Math.PI / 2) / p;
  const out: Factor[] = [];
  for (let order = 1; order <= highestOrder; order++) {
    const n = order * p;
    const at = n % S;
    sumAt(at);
    const x = re[at] as number;
    const y = im[at] as number;
    const size = Math.hypot(x, y);
    if (size < 1e-12) {
      out.push({ order, size: 0, signed: 0 });
      continue;
    }
    const along = -(y * Math.cos(n * axis) - x * Math.sin(n * axis));
    out.push({ order, size, signed: along < 0 ? -size : size });
  }
  return out;
}

/** Factor of the working wave. */
export function workingFactor(layout: Layout, phase: Phase = 'A'): number {
  return windingFactors(layout, 1, phase)[0]?.size ?? 0;
}

/** Pitch factor of one coil span for an electrical order: sin(ν · 90° · y/τ), signed. */
export function pitchFactor(spanSlots: number, polePitchSlots: number, order = 1): number {
  return Math.sin((order * (Math.PI / 2) * spanSlots) / polePitchSlots);
}

/**
 * Distribution factor of a belt of `coils` coils over `beltDeg` electrical degrees, signed.
 * k_d(ν) = sin(νσ/2) / (n sin(νγ/2)), γ = σ/n; ±1 where the denominator vanishes.
 */
export function distributionFactor(coils: number, beltDeg: number, order = 1): number {
  const half = (order * beltDeg * Math.PI) / 360;
  const denominator = coils * Math.sin(half / coils);
  if (Math.abs(denominator) < 1e-12) return Math.cos(half) / Math.cos(half / coils) > 0 ? 1 : -1;
  return Math.sin(half) / denominator;
}

/** Skew factor for an electrical order: sin(νε/2)/(νε/2), ε the skew in electrical degrees of the working wave. */
export function skewFactor(skewDeg: number, order = 1): number {
  const half = (order * skewDeg * Math.PI) / 360;
  return half === 0 ? 1 : Math.sin(half) / half;
}

/**
 * Whether single-layer coils fill whole 60° belts: then the span is only how the ends are laid, and the winding is of full pitch
 * (pitch factor 1, the rest is distribution). Source: Richter, Ankerwicklungen.
 * @example hasFilledBelts(layoutOf({ slots: 24, poles: 4, layers: 1, form: 'lap', spanSlots: 7, … })) // true
 */
export function hasFilledBelts(layout: Layout): boolean {
  if (layout.layers !== 1 || layout.kind !== 'three-phase') return false;
  const q = layout.slots / (3 * layout.poles);
  if (layout.from === 'coil list') return Number.isInteger(q) && beltsAreRuns(layout, q);
  if (layout.form === 'concentric') return true;
  return Number.isInteger(q) && Math.abs(workingFactor(layout) - Math.abs(distributionFactor(q, 60))) < 1e-9;
}

/** Whether the slots of one phase and sign are runs of exactly q neighbours. */
function beltsAreRuns(layout: Layout, q: number): boolean {
  const of = new Map(layout.sides.map((s) => [s.slot, `${s.phase}${s.sign}`]));
  const S = layout.slots;
  for (let s = 1; s <= S; s++) {
    const before = of.get(((s - 2 + S) % S) + 1);
    if (before === of.get(s)) continue;
    let run = 1;
    while (run <= S && of.get(((s - 1 + run) % S) + 1) === of.get(s)) run += 1;
    if (run !== q) return false;
  }
  return true;
}

/** Calculation `winding.factors`. */
export const windingFactorsCalculation = defineCalculation({
  id: 'winding.factors',
  version: 1,
  title: 'Winding factors of the working wave and its harmonics',
  sources: [
    'Pyrhönen, Jokinen & Hrabovcová, Design of Rotating Electrical Machines',
    'Say, Performance and Design of A.C. Machines',
  ],
  input: layoutInputSchema.extend({
    highestOrder: z.int().min(1).max(200).default(31),
    skewSlots: z.number().min(0).max(4).default(0).describe('skew in slot pitches'),
  }),
  output: z.object({
    working: z.number(),
    pitch: z.number().describe('of the mean span; 1 for completely filled single-layer belts'),
    distribution: z.number(),
    skew: z.number(),
    factors: z.array(
      z.object({
        order: z.number(),
        size: z.number(),
        signed: z.number(),
        pitch: z.number().describe('of the mean span for this order, signed'),
        distribution: z.number().optional().describe('total over pitch; left out where the pitch factor vanishes'),
        skew: z.number(),
        withSkew: z.number(),
      }),
    ),
  }),
  example: { slots: 36, poles: 4, layers: 2, form: 'lap', spanSlots: 8, highestOrder: 31 },
  compute: ({ highestOrder, skewSlots, ...layoutInput }, note) => {
    const layout = layoutOf(layoutInput);
    const all = windingFactors(layout, highestOrder);
    const skewDeg = skewSlots * layout.slotAngleDeg;
    const fullBelts = hasFilledBelts(layout);
    // concentric coils of different spans have no pitch factor of their own: the total is what counts
    const single = layout.kind === 'single-phase';
    const factors = all.map((f) => {
      const skew = skewFactor(skewDeg, f.order);
      const exact = fullBelts || single ? 1 : pitchFactor(layout.spanSlots, layout.polePitchSlots, f.order);
      const pitch = Math.abs(exact) < 1e-12 ? 0 : exact;
      return {
        ...f,
        pitch,
        ...(Math.abs(pitch) > 1e-9 ? { distribution: f.signed / pitch } : {}),
        skew,
        withSkew: f.signed * skew,
      };
    });
    const working = all[0]?.size ?? 0;
    const pitch = fullBelts || single ? 1 : Math.abs(pitchFactor(layout.spanSlots, layout.polePitchSlots));
    note?.({
      name: 'Winding factor of the working wave',
      symbol: 'k_w',
      formula: '|Σ ±T (e^{jpθ_go} − e^{jpθ_return})| / (2 Σ T) over the coils of one phase',
      numbers: `${layout.coils.filter((c) => c.phase === 'A').length} coils of phase A, θ = slot · ${layout.slotAngleDeg.toFixed(3)}° electrical`,
      value: working,
      unit: '',
      source: 'Pyrhönen et al.; general sum over the coil table',
    });
    note?.({
      name: 'Pitch factor',
      symbol: 'k_p',
      formula: fullBelts ? '1 for completely filled single-layer belts' : 'sin(90° · y/τ)',
      numbers: fullBelts ? '1' : `sin(90° · ${layout.spanSlots} / ${layout.polePitchSlots})`,
      value: pitch,
      unit: '',
      source: 'Say, Performance and Design of A.C. Machines',
    });
    return {
      working,
      pitch,
      distribution: pitch > 1e-9 ? working / pitch : 0,
      skew: skewFactor(skewDeg, 1),
      factors,
    };
  },
});
