import { z } from 'zod';
import { defineCalculation, refuse } from '../calculation.ts';
import { add, angleDegOf, scale, sizeOf, type Complex } from './complex.ts';
import { layoutInputSchema, type Coil, type Group, type Layout, type Phase } from './layoutTypes.ts';
import { coilPhasor } from './phaseBalance.ts';
import { layoutOf } from './layout.ts';

export const DUTIES = ['constant torque', 'variable torque', 'constant power'] as const;
export type Duty = (typeof DUTIES)[number];

export interface TwoSpeed {
  lowPoles: number;
  highPoles: number;
  lowFactor: number;
  highFactor: number;
  /** groups of each phase in its two halves; current entering the mid-point runs backwards through the first */
  halves: Record<Phase, [number[], number[]]>;
  /** phases whose halves are entered from the other side so that the high-speed axes stand 120 degrees apart */
  exchanged: Phase[];
  /** the phases follow each other the other way round at the high speed: two lines must change places */
  spaceOrderReversed: boolean;
  highBalanced: boolean;
  /** airgap flux density at the high speed over that at the low speed, same line voltage */
  fluxRatio: Record<Duty, number>;
}

function phasorOf(coils: readonly Coil[], slots: number, poles: number): Complex {
  return coils.reduce<Complex>((sum, c) => add(sum, coilPhasor(c, slots, poles)), { re: 0, im: 0 });
}

/**
 * One winding for two speeds 2:1, consequent pole at the low speed. Rotation, axes and factors are computed from the
 * layout, never from lead marks. Source: Say, Performance and Design of A.C. Machines; derived.
 * @throws CalculationInputError when the low-speed pole number cannot be halved
 */
export function twoSpeedOf(layout: Layout): TwoSpeed {
  const { slots: S, poles: P } = layout;
  if (P % 4 !== 0)
    refuse(
      'poles',
      `${P} poles halve to ${P / 2}, which is not a pole number; a two-speed winding has 4, 8, 12 … poles at its low speed.`,
    );
  const high = P / 2;
  const coilsOf = (groups: readonly Group[]) => groups.flatMap((g) => g.coils.map((n) => layout.coils[n - 1] as Coil));
  const halves = {} as Record<Phase, [number[], number[]]>;
  const axes: Record<Phase, Complex> = { A: { re: 0, im: 0 }, B: { re: 0, im: 0 }, C: { re: 0, im: 0 } };
  for (const phase of layout.phases) {
    const own = layout.groups.filter((g) => g.phase === phase);
    const first = own.filter((_, i) => i % 2 === 0);
    const second = own.filter((_, i) => i % 2 === 1);
    halves[phase] = [first.map((g) => g.number), second.map((g) => g.number)];
    axes[phase] = add(phasorOf(coilsOf(second), S, high), scale(phasorOf(coilsOf(first), S, high), -1));
  }
  // the axis of A stays; B and C are entered from the side that brings the three 120 degrees apart
  const after = (phase: Phase, flip: boolean): number =>
    (angleDegOf(flip ? scale(axes[phase], -1) : axes[phase]) - angleDegOf(axes.A) + 720) % 360;
  const near = (x: number, y: number) => Math.abs(((x - y + 540) % 360) - 180) < 1e-6;
  let exchanged: Phase[] = [];
  let reversed = false;
  let balanced = false;
  for (const flipB of [false, true])
    for (const flipC of [false, true]) {
      const b = after('B', flipB);
      const c = after('C', flipC);
      const forward = near(b, 120) && near(c, 240);
      const backward = near(b, 240) && near(c, 120);
      if (!forward && !backward) continue;
      balanced = true;
      reversed = backward;
      exchanged = [...(flipB ? (['B'] as const) : []), ...(flipC ? (['C'] as const) : [])];
    }
  for (const phase of exchanged) halves[phase] = [halves[phase][1], halves[phase][0]];
  const ownCoils = layout.coils.filter((c) => c.phase === 'A');
  const turns = 2 * ownCoils.reduce((n, c) => n + c.turns, 0);
  const lowFactor = sizeOf(phasorOf(ownCoils, S, P)) / turns;
  const highFactor = sizeOf(axes.A) / turns;
  const ratio = lowFactor / highFactor;
  return {
    lowPoles: P,
    highPoles: high,
    lowFactor,
    highFactor,
    halves,
    exchanged,
    spaceOrderReversed: reversed,
    highBalanced: balanced,
    fluxRatio: {
      'constant torque': ratio / Math.sqrt(3),
      'variable torque': ratio,
      'constant power': (Math.sqrt(3) / 4) * ratio,
    },
  };
}

/** The layout as it works at the high speed: half the poles, every first half reversed. */
export function highSpeedLayout(layout: Layout): Layout {
  const two = twoSpeedOf(layout);
  const reversed = new Set(layout.phases.flatMap((p) => two.halves[p][0]));
  const turn = <T extends { sign: 1 | -1 }>(x: T): T => ({ ...x, sign: -x.sign as 1 | -1 });
  return {
    ...layout,
    poles: two.highPoles,
    polePitchSlots: layout.slots / two.highPoles,
    slotAngleDeg: (180 * two.highPoles) / layout.slots,
    coils: layout.coils.map((c) => (reversed.has(c.group) ? turn(c) : c)),
    groups: layout.groups.map((g) => (reversed.has(g.number) ? turn(g) : g)),
    sides: layout.sides.map((s) => (reversed.has(layout.coils[s.coil - 1]?.group ?? -1) ? turn(s) : s)),
  };
}

/** Calculation `winding.twoSpeed`. */
export const windingTwoSpeed = defineCalculation({
  id: 'winding.twoSpeed',
  version: 1,
  title: 'Two speeds from one winding (2:1): factors, halves, rotation and flux at both speeds',
  sources: ['Say, Performance and Design of A.C. Machines', 'rotation and axes derived from the layout'],
  input: layoutInputSchema,
  output: z.object({
    lowPoles: z.number(),
    highPoles: z.number(),
    lowFactor: z.number(),
    highFactor: z.number(),
    halves: z.record(z.enum(['A', 'B', 'C']), z.tuple([z.array(z.number()), z.array(z.number())])),
    exchanged: z.array(z.enum(['A', 'B', 'C'])),
    spaceOrderReversed: z.boolean(),
    highBalanced: z.boolean(),
    fluxRatio: z.record(z.enum(DUTIES), z.number()),
  }),
  example: { kind: 'two-speed', slots: 36, poles: 8, layers: 2, form: 'lap', spanSlots: 5 },
  compute: (input, note) => {
    const made = twoSpeedOf(layoutOf({ ...input, kind: 'two-speed' }));
    note?.({
      name: 'Flux density, high over low speed, constant torque',
      symbol: 'B_h/B_l',
      formula: '(1/√3) · k_w,low / k_w,high',
      numbers: `0.5774 · ${made.lowFactor.toFixed(4)} / ${made.highFactor.toFixed(4)}`,
      value: made.fluxRatio['constant torque'],
      unit: '',
      source: 'derived from E = √2 π f N k_w Φ',
    });
    return made;
  },
});
