import { z } from 'zod';
import { defineCalculation, type Calculation } from '../calculation.ts';
import { limit } from '../limits/limits.ts';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import { choice, need, quantity, text } from '../process/fieldKinds.ts';
import { formatNumber } from '../quantity/format.ts';
import { judgedTogether, notAbove, notBelow, outOfCalibration, type Judged } from '../verdict.ts';
import { num, type TestKind } from './testKind.ts';

/** Calculation `evaluate.startSwitch`. */
export const startSwitch = defineCalculation({
  id: 'evaluate.startSwitch',
  version: 1,
  title: 'Start switch and protector of a single-phase motor',
  sources: ['common practice'],
  input: z.strictObject({
    closedAtRest: z.boolean().optional(),
    opensRpm: z.number().positive().optional(),
    synchronousRpm: z.number().positive().optional(),
    leftA: z.number().min(0).optional().describe('current of the switched branch after run-up'),
    mainA: z.number().positive().optional(),
    protector: z.enum(['none', 'closed when cold', 'open when cold']).optional(),
    calibrationExpired: z.boolean().default(false),
    limits: shopLimitsSchema.default({}),
  }),
  output: z.object({
    verdict: z.enum(['pass', 'attention', 'fail', 'cannot judge']),
    reason: z.string(),
    opensPercent: z.number().optional(),
    leftPercent: z.number().optional(),
  }),
  example: { closedAtRest: true, opensRpm: 1120, synchronousRpm: 1500, leftA: 0, mainA: 4.2 },
  compute: (x, note) => {
    const parts: Judged[] = [];
    const values: { opensPercent?: number; leftPercent?: number } = {};
    if (x.closedAtRest === undefined)
      parts.push({ verdict: 'cannot judge', reason: 'Is the auxiliary closed at rest? Read it at standstill.' });
    else
      parts.push(
        x.closedAtRest
          ? { verdict: 'pass', reason: 'The auxiliary is closed at rest.' }
          : {
              verdict: 'fail',
              reason: 'The auxiliary is open at rest: switch, capacitor or winding open; the motor will not start.',
            },
      );
    if (x.opensRpm !== undefined && x.synchronousRpm !== undefined) {
      const percent = (100 * x.opensRpm) / x.synchronousRpm;
      values.opensPercent = percent;
      note?.({
        name: 'Switch opens at',
        symbol: '',
        formula: '100 n / n_s',
        numbers: `100 · ${x.opensRpm} / ${x.synchronousRpm}`,
        value: percent,
        unit: '% of synchronous speed',
        source: 'definition',
      });
      const low = limit('switch.opensLowPercent', x.limits);
      const high = limit('switch.opensHighPercent', x.limits);
      const inside = notBelow(percent, low) && notAbove(percent, high);
      parts.push({
        verdict: inside ? 'pass' : 'attention',
        reason: `Switch opens at ${formatNumber(percent, 3)} % of synchronous speed; ${low} to ${high} % is usual (common practice).`,
      });
    }
    if (x.leftA !== undefined && x.mainA !== undefined) {
      const percent = (100 * x.leftA) / x.mainA;
      values.leftPercent = percent;
      const most = limit('switch.leftPercent', x.limits);
      const off = notAbove(percent, most);
      parts.push({
        verdict: off ? 'pass' : 'fail',
        reason: `After run-up the switched branch takes ${formatNumber(percent, 3)} % of the main's current, ${off ? 'at most' : 'above'} ${most} % (common practice)${off ? '' : ': the switch has not opened'}.`,
      });
    } else
      parts.push({
        verdict: 'cannot judge',
        reason: 'Main current and current of the switched branch after run-up are needed.',
      });
    if (x.protector === 'open when cold')
      parts.push({
        verdict: 'fail',
        reason: 'The protector is open when cold: replace it with its like, never bridge it.',
      });
    else if (x.protector === 'closed when cold')
      parts.push({ verdict: 'pass', reason: 'The protector is closed when cold.' });
    parts.push(...outOfCalibration(x.calibrationExpired));
    return { ...judgedTogether(parts), ...values };
  },
});

/** Start switch and protector in the test matrix. */
export const startSwitchTest: TestKind = {
  id: 'startSwitch',
  title: 'Start switch and protector',
  calculation: startSwitch as unknown as Calculation,
  derived: [{ name: 'opensPercent', title: 'Switch opens at, of synchronous speed', unit: '%' }],
  caution:
    'Rotating: guard on, key secured. Keep a run-up short while the switch is in doubt. Local codes and licensed practice decide.',
  stages: { IN: 'optional', AA: 'required', FI: 'optional' },
  for: ({ machine, record }) => machine === 'single-phase' && record?.auxKind !== 'capacitor run',
  needsWholeMotor: true,
  fields: [
    choice('closedAtRest', 'Auxiliary closed at rest', ['yes', 'no'], need),
    quantity('opens', 'Switch opens at', 'speed', 'r/min'),
    quantity('leftA', 'Switched branch after run-up', 'current', 'A', {
      ...need,
      hint: 'with a run capacitor: the start capacitor’s branch',
    }),
    quantity('mainA', 'Main after run-up', 'current', 'A', need),
    choice('protector', 'Protector', ['none', 'closed when cold', 'open when cold']),
    text('instrument', 'Instrument', need),
  ],
  input: (v, c) => {
    const poles = c.record?.poles ?? c.nameplate.poles;
    const f = c.nameplate.frequencyHz;
    return {
      closedAtRest: v['closedAtRest'] === undefined ? undefined : v['closedAtRest'] === 'yes',
      opensRpm: num(v, 'opens'),
      synchronousRpm: poles === undefined || f === undefined ? undefined : (120 * f) / poles,
      leftA: num(v, 'leftA'),
      mainA: num(v, 'mainA'),
      protector: v['protector'],
    };
  },
};
