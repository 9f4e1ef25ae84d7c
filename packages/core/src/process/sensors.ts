import { z } from 'zod';
import { defineCalculation } from '../calculation.ts';
import { formatAgainst, formatNumber } from '../quantity/format.ts';
import { combineVerdicts, notAbove, notBelow, type Judged } from '../verdict.ts';

/** Resistance of a platinum sensor of 100 Ω at 0 °C, Ω; from memory: IEC 60751. */
export const platinumOhm = (c: number): number => 100 * (1 + 3.9083e-3 * c - 5.775e-7 * c * c);
/** Temperature of such a sensor, °C, from 0 °C on. */
export const platinumC = (ohm: number): number =>
  (-3.9083e-3 + Math.sqrt(3.9083e-3 ** 2 + 4 * 5.775e-7 * (1 - ohm / 100))) / (2 * -5.775e-7);

export const SENSOR_KINDS = ['Pt100', 'PTC', 'switch', 'thermocouple', 'heater'] as const;

/** Bounds of an item that is whole: from memory, and common practice. */
export const SENSOR_BOUNDS = {
  platinumK: 3,
  ptcOhm: 250,
  switchOhm: 1,
  heaterPercent: 10,
  insulationOhm: 10e6,
} as const;

export const sensorSchema = z.strictObject({
  kind: z.enum(SENSOR_KINDS),
  mark: z.string().max(40).default(''),
  place: z.string().max(80).default('').describe('slot or end, phase'),
  ohm: z.number().min(0).max(1e9).optional().describe('measured, Ω; absent = not measured'),
  partC: z.number().min(-60).max(260).optional(),
  ratedV: z.number().positive().max(1000).optional().describe('of a heater'),
  ratedW: z.number().positive().max(1e5).optional(),
  insulationOhm: z.number().min(0).optional().describe('at 500 V to winding and earth'),
});
export type Sensor = z.output<typeof sensorSchema>;

/** One sensor or heater: whole, or what is wrong with it. */
export function judgeSensor(s: Sensor): Judged {
  const called = s.mark || s.kind;
  const parts: Judged[] = [];
  const say = (fine: boolean, sentence: string): void => {
    parts.push(fine ? { verdict: 'pass', reason: '' } : { verdict: 'fail', reason: `${called}: ${sentence}` });
  };
  if (s.ohm === undefined) parts.push({ verdict: 'fail', reason: `${called} was not measured.` });
  else
    switch (s.kind) {
      case 'Pt100':
        if (s.partC === undefined)
          parts.push({ verdict: 'cannot judge', reason: `${called}: state the temperature of the part.` });
        else {
          const off = Math.abs(platinumC(s.ohm) - s.partC);
          say(
            notAbove(off, SENSOR_BOUNDS.platinumK),
            `${formatNumber(s.ohm, 5)} Ω are ${formatNumber(platinumC(s.ohm), 4)} °C; the part is at ${formatNumber(s.partC, 4)} °C.`,
          );
        }
        break;
      case 'PTC':
        say(
          notAbove(s.ohm, SENSOR_BOUNDS.ptcOhm),
          `${formatAgainst(s.ohm, SENSOR_BOUNDS.ptcOhm)[0]} Ω cold; at most ${SENSOR_BOUNDS.ptcOhm} Ω. Measure with no more than 2.5 V.`,
        );
        break;
      case 'switch':
        say(
          notAbove(s.ohm, SENSOR_BOUNDS.switchOhm),
          `${formatAgainst(s.ohm, SENSOR_BOUNDS.switchOhm)[0]} Ω at rest; at most ${SENSOR_BOUNDS.switchOhm} Ω.`,
        );
        break;
      case 'heater':
        if (s.ratedV === undefined || s.ratedW === undefined)
          parts.push({ verdict: 'cannot judge', reason: `${called}: state its volts and watts.` });
        else {
          const wanted = s.ratedV ** 2 / s.ratedW;
          say(
            notAbove(100 * Math.abs(s.ohm / wanted - 1), SENSOR_BOUNDS.heaterPercent),
            `${formatNumber(s.ohm, 4)} Ω where ${formatNumber(wanted, 4)} Ω belong to ${formatNumber(s.ratedV)} V and ${formatNumber(s.ratedW)} W.`,
          );
        }
        break;
      case 'thermocouple':
        say(s.ohm > 0, 'no circuit can have no resistance at all.');
        break;
    }
  if (s.insulationOhm === undefined)
    parts.push({ verdict: 'fail', reason: `${called}: its insulation was not measured.` });
  else
    say(
      notBelow(s.insulationOhm, SENSOR_BOUNDS.insulationOhm),
      `insulation ${formatNumber(s.insulationOhm / 1e6, 3)} MΩ; at least ${SENSOR_BOUNDS.insulationOhm / 1e6} MΩ at 500 V.`,
    );
  return {
    verdict: combineVerdicts(parts.map((p) => p.verdict)),
    reason: parts
      .map((p) => p.reason)
      .filter(Boolean)
      .join(' '),
  };
}

/** Calculation `process.sensors`: sensors and heaters of a winding, each judged. */
export const processSensors = defineCalculation({
  id: 'process.sensors',
  version: 1,
  title: 'Sensors and heaters in a winding, measured and judged',
  sources: ['platinum resistance: IEC 60751, from memory', 'cold resistance and insulation: common practice'],
  input: z.strictObject({ items: z.array(sensorSchema).min(1).max(60) }),
  output: z.object({
    verdict: z.enum(['pass', 'attention', 'fail', 'cannot judge']),
    reason: z.string(),
    items: z.array(z.object({ verdict: z.enum(['pass', 'attention', 'fail', 'cannot judge']), reason: z.string() })),
  }),
  example: { items: [{ kind: 'Pt100', mark: '1TP1', ohm: 108.6, partC: 22, insulationOhm: 4e8 }] },
  compute: ({ items }) => {
    const judged = items.map(judgeSensor);
    return {
      verdict: combineVerdicts(judged.map((j) => j.verdict)),
      reason:
        judged
          .map((j) => j.reason)
          .filter(Boolean)
          .join(' ') || `All ${items.length} whole.`,
      items: judged,
    };
  },
});
