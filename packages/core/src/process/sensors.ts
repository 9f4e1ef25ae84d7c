import { z } from 'zod';
import { defineCalculation } from '../calculation.ts';
import { limit, quoteLimit, type LimitId, type ShopLimits } from '../limits/limits.ts';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import type { FieldSpec, FieldValue } from '../quantity/fields.ts';
import { formatAgainst, formatNumber } from '../quantity/format.ts';
import { combineVerdicts, notAbove, notBelow, type Judged } from '../verdict.ts';
import { celsius, choice, need, orOpen, quantity, text } from './fieldKinds.ts';
import type { TestStage } from './operation.ts';

/** Resistance of a platinum sensor of 100 Ω at 0 °C, Ω; from memory: IEC 60751. */
export const platinumOhm = (c: number): number => 100 * (1 + 3.9083e-3 * c - 5.775e-7 * c * c);
/** Temperature of such a sensor, °C, from 0 °C on. */
export const platinumC = (ohm: number): number =>
  (-3.9083e-3 + Math.sqrt(3.9083e-3 ** 2 + 4 * 5.775e-7 * (1 - ohm / 100))) / (2 * -5.775e-7);

export const SENSOR_KINDS = ['Pt100', 'PTC', 'switch', 'thermocouple', 'heater'] as const;

export const sensorSchema = z.strictObject({
  kind: z.enum(SENSOR_KINDS),
  mark: z.string().max(40).default(''),
  place: z.string().max(80).default('').describe('slot or end, phase'),
  ohm: z.number().min(0).max(1e9).optional().describe('measured, Ω; absent = not measured'),
  open: z.boolean().default(false).describe('over the range of the instrument: no circuit'),
  partC: z.number().min(-60).max(260).optional(),
  ratedV: z.number().positive().max(1000).optional().describe('of a heater'),
  ratedW: z.number().positive().max(1e5).optional(),
  insulationOhm: z.number().min(0).optional().describe('at 500 V to winding and earth'),
  insulationAbove: z.boolean().default(false).describe('over the range: it is at least so much'),
  insulationBelow: z.boolean().default(false).describe('below the range: it is at most so much'),
});
export type Sensor = z.output<typeof sensorSchema>;

/** One sensor or heater: whole, or what is wrong with it. */
export function judgeSensor(s: Sensor, limits: ShopLimits = {}): Judged {
  const called = s.mark || s.kind;
  const parts: Judged[] = [];
  const say = (fine: boolean, sentence: string): void => {
    parts.push(fine ? { verdict: 'pass', reason: '' } : { verdict: 'fail', reason: `${called}: ${sentence}` });
  };
  const most = (id: LimitId) => limit(id, limits);
  if (s.open) say(false, 'no circuit: it, or a lead of it, is open.');
  else if (s.ohm === undefined) parts.push({ verdict: 'fail', reason: `${called} was not measured.` });
  else
    switch (s.kind) {
      case 'Pt100':
        if (s.partC === undefined)
          parts.push({ verdict: 'cannot judge', reason: `${called}: state the temperature of the part.` });
        else {
          const off = Math.abs(platinumC(s.ohm) - s.partC);
          say(
            notAbove(off, most('sensor.platinumK')),
            `${formatNumber(s.ohm, 5)} Ω are ${formatNumber(platinumC(s.ohm), 4)} °C; the part is at ${formatNumber(s.partC, 4)} °C.`,
          );
        }
        break;
      case 'PTC':
        say(
          notAbove(s.ohm, most('sensor.ptcOhm')),
          `${formatAgainst(s.ohm, most('sensor.ptcOhm'))[0]} Ω cold; at most ${quoteLimit('sensor.ptcOhm', limits)}. Measure with no more than 2.5 V.`,
        );
        break;
      case 'switch':
        say(
          notAbove(s.ohm, most('sensor.switchOhm')),
          `${formatAgainst(s.ohm, most('sensor.switchOhm'))[0]} Ω at rest; at most ${quoteLimit('sensor.switchOhm', limits)}.`,
        );
        break;
      case 'heater':
        if (s.ratedV === undefined || s.ratedW === undefined)
          parts.push({ verdict: 'cannot judge', reason: `${called}: state its volts and watts.` });
        else {
          const wanted = s.ratedV ** 2 / s.ratedW;
          say(
            notAbove(100 * Math.abs(s.ohm / wanted - 1), most('sensor.heaterPercent')),
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
  else {
    const [megohm, least] = [s.insulationOhm / 1e6, most('sensor.insulationMOhm')];
    const bound = s.insulationAbove ? 'above ' : s.insulationBelow ? 'below ' : '';
    const told = `insulation ${bound}${formatAgainst(megohm, least)[0]} MΩ; at least ${quoteLimit('sensor.insulationMOhm', limits)} at 500 V.`;
    const enough = notBelow(megohm, least);
    // a bound on the wrong side of the limit says nothing
    if ((s.insulationAbove && !enough) || (s.insulationBelow && !notAbove(megohm, least)))
      parts.push({ verdict: 'cannot judge', reason: `${called}: ${told} Take another range of the instrument.` });
    else say(s.insulationBelow ? false : enough, told);
  }
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
  input: z.strictObject({ items: z.array(sensorSchema).min(1).max(60), limits: shopLimitsSchema.default({}) }),
  output: z.object({
    verdict: z.enum(['pass', 'attention', 'fail', 'cannot judge']),
    reason: z.string(),
    items: z.array(z.object({ verdict: z.enum(['pass', 'attention', 'fail', 'cannot judge']), reason: z.string() })),
  }),
  example: { items: [{ kind: 'Pt100', mark: '1TP1', ohm: 108.6, partC: 22, insulationOhm: 4e8 }] },
  compute: ({ items, limits }) => {
    const judged = items.map((s) => judgeSensor(s, limits));
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

/** When a sensor or heater is measured: as it is fitted, and at the tests that decide the winding and the assembled motor. */
export const SENSOR_STAGES = ['fitted', 'AC', 'VC', 'AA'] as const satisfies readonly (TestStage | 'fitted')[];
export type SensorStage = (typeof SENSOR_STAGES)[number];
export const SENSOR_STAGE_TITLES: Readonly<Record<SensorStage, string>> = {
  fitted: 'as fitted',
  AC: 'before resin',
  VC: 'after the cure',
  AA: 'at the terminals',
};

/** What is typed of a sensor or heater when it is fitted. */
export const SENSOR_FIELDS: readonly FieldSpec[] = [
  choice('kind', 'What it is', SENSOR_KINDS, need),
  text('mark', 'Marked', need),
  text('place', 'Where', { hint: 'slot or end, phase' }),
  quantity('ratedV', 'Heater, rated', 'voltage', 'V'),
  quantity('ratedW', 'and', 'power', 'W'),
];
/** What is read of it at a stage. */
export const SENSOR_READING_FIELDS: readonly FieldSpec[] = [
  orOpen('ohm', 'Resistance', { required: true, hint: '>2000 is no circuit; a PTC with 2.5 V at most' }),
  celsius('part', 'Part at'),
  {
    name: 'insulation',
    label: 'Insulation at 500 V',
    read: { kind: 'quantity', dimension: 'insulation', unit: 'MΩ', min: 0, overRange: true, underRange: true },
    required: true,
    hint: 'to winding and earth',
  },
  text('instrument', 'Measured with'),
];

type Values = Readonly<Record<string, FieldValue>>;
/** A sensor with one reading of it, as it is judged. */
export function sensorOf(what: Values, read: Values): Sensor {
  const number = (of: Values, name: string, as: string) => (typeof of[name] === 'number' ? { [as]: of[name] } : {});
  return sensorSchema.parse({
    kind: what['kind'],
    mark: what['mark'] ?? '',
    place: what['place'] ?? '',
    ...number(what, 'ratedV', 'ratedV'),
    ...number(what, 'ratedW', 'ratedW'),
    ...number(read, 'ohm', 'ohm'),
    ...number(read, 'part', 'partC'),
    // insulation is read in MΩ
    ...(typeof read['insulation'] === 'number' ? { insulationOhm: 1e6 * read['insulation'] } : {}),
    open: read['ohmOverRange'] === true,
    insulationAbove: read['insulationOverRange'] === true,
    insulationBelow: read['insulationUnderRange'] === true,
  });
}

/** A fitted sensor or heater with what was last read of it at each stage. */
export interface FittedSensor {
  mark: string;
  readings: readonly { stage: SensorStage; verdict: Judged['verdict']; reason: string }[];
}

/** What the sensors of a motor say at a stage: each must have been measured there and be whole; undefined where none is fitted. */
export function sensorsAt(stage: string, fitted: readonly FittedSensor[]): Judged | undefined {
  if (fitted.length === 0 || stage === 'fitted' || !(SENSOR_STAGES as readonly string[]).includes(stage))
    return undefined;
  const parts = fitted.map((s): Judged => {
    const last = s.readings.findLast((r) => r.stage === stage);
    return last
      ? { verdict: last.verdict, reason: last.verdict === 'pass' ? '' : last.reason }
      : {
          verdict: 'cannot judge',
          reason: `${s.mark} was not measured ${SENSOR_STAGE_TITLES[stage as SensorStage]}.`,
        };
  });
  const verdict = combineVerdicts(parts.map((p) => p.verdict));
  return {
    verdict,
    reason: parts
      .filter((p) => p.verdict === verdict)
      .map((p) => p.reason)
      .filter(Boolean)
      .join(' '),
  };
}
