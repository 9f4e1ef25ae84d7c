import { z } from 'zod';
import { defineCalculation } from '../calculation.ts';
import { feasibilityOf } from './feasibility.ts';
import { layoutInputSchema, PHASES, WINDING_TYPES } from './layoutTypes.ts';
import { layoutOf } from './layout.ts';

const phaseSchema = z.enum(PHASES);
const signSchema = z.union([z.literal(1), z.literal(-1)]);

/** Calculation `winding.layout`. */
export const windingLayout = defineCalculation({
  id: 'winding.layout',
  version: 2,
  title: 'Layout of a winding: phase, sign and layer of every slot, coils and groups',
  sources: [
    'Richter, Ankerwicklungen (star of slots)',
    'Pyrhönen, Jokinen & Hrabovcová, Design of Rotating Electrical Machines',
  ],
  input: layoutInputSchema,
  output: z.object({
    kind: z.enum(WINDING_TYPES),
    phases: z.array(phaseSchema).readonly(),
    slots: z.number(),
    poles: z.number(),
    layers: z.union([z.literal(1), z.literal(2)]),
    form: z.enum(['lap', 'concentric']),
    poleGroups: z.enum(['every-pole', 'consequent']),
    spanSlots: z.number(),
    slotsPerPolePerPhase: z.object({ numerator: z.number(), denominator: z.number() }),
    polePitchSlots: z.number(),
    slotAngleDeg: z.number(),
    repeats: z.number(),
    coils: z.array(
      z.object({
        number: z.number(),
        group: z.number(),
        position: z.number(),
        phase: phaseSchema,
        sign: signSchema,
        goSlot: z.number(),
        returnSlot: z.number(),
        spanSlots: z.number(),
        turns: z.number(),
      }),
    ),
    groups: z.array(z.object({ number: z.number(), phase: phaseSchema, sign: signSchema, coils: z.array(z.number()) })),
    sides: z.array(
      z.object({
        slot: z.number(),
        layer: z.enum(['single', 'top', 'bottom']),
        coil: z.number(),
        side: z.enum(['go', 'return']),
        phase: phaseSchema,
        sign: signSchema,
      }),
    ),
    circuitLimit: z.number(),
    circuits: z.array(z.number()),
    balance: z.object({
      balanced: z.boolean(),
      phases: z.array(
        z.object({
          phase: phaseSchema,
          coils: z.number(),
          turns: z.number(),
          size: z.number(),
          angleDeg: z.number(),
        }),
      ),
      negativeSequencePercent: z.number(),
    }),
    feasibility: z
      .object({
        feasible: z.boolean(),
        repeats: z.number(),
        mustDivideBy: z.number(),
        nearestSlots: z.array(z.number()),
        nearestPoles: z.array(z.number()),
        nearlyBalanced: z.unknown().optional(),
      })
      .optional(),
  }),
  example: { slots: 36, poles: 4, layers: 2, form: 'lap', spanSlots: 8, turns: [34] },
  compute: (input, note) => {
    const layout = layoutOf(input);
    const q = layout.slotsPerPolePerPhase;
    note?.({
      name: 'Slots per pole per phase',
      symbol: 'q',
      formula: 'S / (3 P)',
      numbers: `${input.slots} / (3 · ${input.poles})`,
      value: q.denominator === 1 ? q.numerator : `${q.numerator}/${q.denominator}`,
      unit: '',
      source: 'definition',
    });
    note?.({
      name: 'Electrical angle from slot to slot',
      symbol: 'α',
      formula: '180° · P / S',
      numbers: `180 · ${input.poles} / ${input.slots}`,
      value: layout.slotAngleDeg,
      unit: '°',
      source: 'definition',
    });
    note?.({
      name: 'Repeats of the star of slots',
      symbol: 't',
      formula: 'gcd(S, P/2)',
      numbers: `gcd(${input.slots}, ${input.poles / 2})`,
      value: layout.repeats,
      unit: '',
      source: 'Pyrhönen et al., star of slots',
    });
    note?.({
      name: 'Negative-sequence part of the phase phasors',
      symbol: 'E₂/E₁',
      formula: '|A + a²…| from the sums of the coil phasors',
      numbers: layout.balance.phases
        .map((x) => `${x.phase}: ${x.size.toFixed(4)} ∠ ${x.angleDeg.toFixed(2)}°`)
        .join(', '),
      value: layout.balance.negativeSequencePercent,
      unit: '%',
      source: 'derived',
    });
    return input.kind === 'single-phase'
      ? layout
      : { ...layout, feasibility: feasibilityOf(input.slots, input.poles, input.spanSlots) };
  },
});
