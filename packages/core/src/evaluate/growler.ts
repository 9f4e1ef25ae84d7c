import { z } from 'zod';
import { defineCalculation, type Calculation } from '../calculation.ts';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import { choice, count, need, notes, text } from '../process/fieldKinds.ts';
import type { FieldSpec } from '../quantity/fields.ts';
import { judgedTogether, outOfCalibration, type Judged } from '../verdict.ts';
import { EARTH, num, type TestKind } from './testKind.ts';

const WHAT = ['cage', 'lap winding', 'wave winding'] as const;
const slots = z.array(z.int().min(1).max(1000)).max(1000);

/** Calculation `evaluate.growler`. */
export const growler = defineCalculation({
  id: 'evaluate.growler',
  version: 1,
  title: 'Growler: slots at which the blade is pulled, bars that do not pull',
  sources: ['common practice', 'slots of a shorted coil: derived'],
  input: z.strictObject({
    what: z.enum(WHAT),
    slots: z.int().min(2).max(1000),
    poles: z.int().min(2).max(48).multipleOf(2).optional(),
    /** a winding with equalisers shows pulls that are none */
    equalised: z.boolean().default(false),
    /** slots at which the blade is pulled (a cage: at which it is not) */
    found: slots.default([]),
    calibrationExpired: z.boolean().default(false),
    limits: shopLimitsSchema.default({}),
  }),
  output: z.object({
    verdict: z.enum(['pass', 'attention', 'fail', 'cannot judge']),
    reason: z.string(),
    found: z.array(z.int()),
  }),
  example: { what: 'cage', slots: 28, found: [7] },
  compute: (x) => {
    const found = [...new Set(x.found)].sort((a, b) => a - b);
    const beyond = found.filter((s) => s > x.slots);
    const list = found.join(', ');
    const cage = x.what === 'cage';
    const parts: Judged[] = [];
    if (beyond.length > 0)
      parts.push({
        verdict: 'cannot judge',
        reason: `There is no slot ${beyond.join(', ')}: the core has ${x.slots}.`,
      });
    else if (found.length === 0)
      parts.push({
        verdict: 'pass',
        reason: cage
          ? `All ${x.slots} bars pull alike. Closed slots and cast porosity hide a fault: this is no proof of health.`
          : `The blade is pulled at none of ${x.slots} slots.`,
      });
    else if (cage)
      parts.push({
        verdict: 'fail',
        reason: `${found.length === 1 ? 'Bar' : 'Bars'} ${list} of ${x.slots} ${found.length === 1 ? 'does' : 'do'} not pull: open, or its joint with the ring is.`,
      });
    else if (x.equalised)
      parts.push({
        verdict: 'cannot judge',
        reason: `Pulled at slots ${list}: an equalised winding shows pulls that are none. Read it bar to bar.`,
      });
    else {
      const expected = x.what === 'lap winding' ? 2 : x.poles;
      const fits =
        expected === undefined
          ? ''
          : found.length === expected
            ? ` As many as one shorted coil shows (${expected}).`
            : ` One shorted coil shows ${expected}: more than one, or look again.`;
      parts.push({ verdict: 'fail', reason: `Pulled at slots ${list}: shorted coil there.${fits}` });
    }
    return { ...judgedTogether([...parts, ...outOfCalibration(x.calibrationExpired)]), found };
  },
});

const found: FieldSpec = {
  name: 'found',
  label: 'Slots found',
  read: { kind: 'counts' },
  hint: 'cage: bars that do not pull; winding: slots that pull; blank: none',
};

/** Growler in the test matrix: slot by slot round the core. */
export const growlerTest: TestKind = {
  id: 'growler',
  title: 'Growler, bar by bar',
  stages: { IN: 'optional', BS: 'optional', AC: 'optional', VC: 'optional', AA: 'optional' },
  calculation: growler as unknown as Calculation,
  fields: [
    choice('what', 'Rotor', [...WHAT], need),
    count('slots', 'Slots or bars', need),
    found,
    choice('equalised', 'Equalisers', ['no', 'yes']),
    text('instrument', 'Instrument', need),
    notes('finding', 'What was seen'),
  ],
  lacks: (v) =>
    (num(v, 'slots') ?? 0) < 2 ? { field: 'slots', message: 'Slots or bars: say how many, 2 or more.' } : undefined,
  input: (v, { nameplate, record }) => ({
    what: v['what'],
    slots: num(v, 'slots'),
    found: v['found'],
    equalised: v['equalised'] === undefined ? undefined : v['equalised'] === 'yes',
    poles: record?.poles ?? nameplate.poles,
  }),
  caution: `The growler heats what it bridges: short. ${EARTH}`,
};
