import { z } from 'zod';
import { defineCalculation, type Calculation } from '../calculation.ts';
import type { TestKind } from '../evaluate/testKind.ts';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import { choice, need, text } from '../process/fieldKinds.ts';

/** What is looked at before a motor leaves (common practice). */
export const FINAL_ITEMS = [
  { id: 'paint', title: 'Paint whole, plate readable' },
  { id: 'shaft', title: 'Shaft greased and protected' },
  { id: 'key', title: 'Key in its seat, tied' },
  { id: 'locked', title: 'Rotor locked for transport' },
  { id: 'box', title: 'Terminal box as it came' },
  { id: 'links', title: 'Links as ordered, lead marks readable' },
  { id: 'loose', title: 'Loose parts returned' },
  { id: 'drains', title: 'Drain plugs and breathers in' },
  { id: 'grease', title: 'Grease named on the label' },
  { id: 'guard', title: 'Fan cover and guards on' },
] as const;
const ANSWERS = ['yes', 'no', 'not fitted'] as const;

/** Calculation `evaluate.finalList`. */
export const finalList = defineCalculation({
  id: 'evaluate.finalList',
  version: 1,
  title: 'Final quality list',
  sources: ['common practice'],
  input: z.strictObject({
    items: z.array(z.strictObject({ id: z.string().max(40), title: z.string().max(80), is: z.enum(ANSWERS) })).max(40),
    by: z.string().max(80).default(''),
    calibrationExpired: z.boolean().default(false),
    limits: shopLimitsSchema.default({}),
  }),
  output: z.object({ verdict: z.enum(['pass', 'fail', 'cannot judge']), reason: z.string() }),
  example: { items: [{ id: 'paint', title: 'Paint whole, plate readable', is: 'yes' }], by: 'foreman' },
  compute: ({ items, by }) => {
    const wrong = items.filter((i) => i.is === 'no');
    if (wrong.length > 0)
      return { verdict: 'fail' as const, reason: `Not yet: ${wrong.map((i) => i.title).join('; ')}.` };
    const fitted = items.filter((i) => i.is === 'yes').length;
    if (fitted === 0) return { verdict: 'cannot judge' as const, reason: 'Nothing was looked at.' };
    return {
      verdict: 'pass' as const,
      reason: `${fitted} of ${items.length} looked at and right, the rest not fitted${by === '' ? '' : `; signed ${by}`}.`,
    };
  },
});

/** Final quality list, in the test matrix. */
export const finalListTest: TestKind = {
  id: 'finalList',
  title: 'Final quality list',
  stages: { FI: 'optional' },
  calculation: finalList as unknown as Calculation,
  for: () => true,
  signs: true,
  fields: [
    ...FINAL_ITEMS.map(({ id, title }) => choice(id, title, ANSWERS, need)),
    text('instrument', 'Signed by', need),
  ],
  input: (v) => ({
    items: FINAL_ITEMS.map(({ id, title }) => ({ id, title, is: v[id] })),
    by: typeof v['instrument'] === 'string' ? v['instrument'] : '',
  }),
  caution:
    'A motor on a hook or a pallet: nobody under it, shaft locked before it is lifted. Local codes and licensed practice decide.',
};
