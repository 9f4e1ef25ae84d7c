import { z } from 'zod';
import { defineCalculation, type Calculation } from '../calculation.ts';
import { num, type TestKind } from '../evaluate/testKind.ts';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import { celsius, choice, need, quantity, text } from '../process/fieldKinds.ts';
import { formatAgainst, formatNumber } from '../quantity/format.ts';
import { judgedTogether, notBelow, outOfCalibration, type Judged } from '../verdict.ts';
import { atOutput, efficiencyBy, METHODS, type Efficiency, type LoadRow } from './efficiency.ts';
import { noLoadPoints } from './noLoadCurve.ts';
import { allowed } from './plateTolerance.ts';
import { listOf, numbers, sameLengths } from './typedLists.ts';

const watt = z.number().min(0).max(1e9);
const amp = z.number().positive().max(1e6);
const warm = z.number().min(-60).max(400);

const row = z.object({
  torqueNm: z.number(),
  slip: z.number(),
  statorW: z.number(),
  coreW: z.number(),
  frictionW: z.number(),
  rotorW: z.number(),
  outW: z.number(),
  apparentW: z.number(),
  rawStrayW: z.number(),
  dropped: z.boolean(),
  strayW: z.number(),
  statorCorrectedW: z.number(),
  rotorCorrectedW: z.number(),
  lossW: z.number(),
  outCorrectedW: z.number(),
  efficiency: z.number(),
  powerFactor: z.number(),
  innerV: z.number().optional(),
});

/** Calculation `evaluate.loadTest`. */
export const loadTest = defineCalculation({
  id: 'evaluate.loadTest',
  version: 1,
  title: 'Load test: efficiency by parted losses, by both published methods',
  sources: [
    'IEEE 112 method B (from memory)',
    'IEC 60034-2-1 method 2-1-1B (from memory)',
    'tolerances: IEC 60034-1 (from memory)',
  ],
  input: z.strictObject({
    poles: z.int().min(2).max(96).multipleOf(2).optional(),
    ratedV: z.number().positive().max(1e6).optional(),
    outputW: z.number().positive().max(1e9).optional(),
    coldOhm: z.number().positive().max(1e6),
    coldC: warm,
    riseK: z.number().min(0).max(400),
    coolantC: warm,
    noLoad: noLoadPoints,
    noLoadC: warm,
    load: z
      .array(
        z.strictObject({
          volts: z.number().positive().max(1e6),
          amps: amp,
          watts: z.number().positive().max(1e9),
          torqueNm: z.number().min(0).max(1e7),
          rpm: z.number().positive().max(1e6),
          frequencyHz: z.number().positive().max(1000),
          windingC: warm,
        }),
      )
      .min(1)
      .max(40),
    dynamometer: z
      .strictObject({
        coupled: z.strictObject({
          watts: watt,
          amps: amp,
          rpm: z.number().positive().max(1e6),
          torqueNm: z.number().min(-1e6).max(1e6),
          windingC: warm,
        }),
        free: z.strictObject({ watts: watt, amps: amp, windingC: warm }),
      })
      .optional(),
    /** method whose result is judged */
    method: z.enum(METHODS as [string, ...string[]]).default('2-1-1B'),
    declaredEfficiency: z.number().positive().max(1).optional(),
    declaredPowerFactor: z.number().positive().max(1).optional(),
    calibrationExpired: z.boolean().default(false),
    limits: shopLimitsSchema.default({}),
  }),
  output: z.object({
    verdict: z.enum(['pass', 'attention', 'fail', 'cannot judge']),
    reason: z.string(),
    efficiencyPercent: z.number().optional(),
    powerFactor: z.number().optional(),
    torqueCorrectionNm: z.number().optional(),
    methods: z.array(
      z.object({
        method: z.string(),
        rows: z.array(row),
        slope: z.number(),
        intercept: z.number(),
        correlation: z.number(),
        frictionW: z.number(),
        unsatisfactory: z.string().optional(),
        /** at the rated output */
        efficiency: z.number().optional(),
        powerFactor: z.number().optional(),
      }),
    ),
  }),
  example: {
    poles: 4,
    ratedV: 400,
    outputW: 5500,
    coldOhm: 1.21,
    coldC: 24,
    riseK: 58,
    coolantC: 25,
    noLoadC: 46,
    noLoad: [
      { volts: 400, amps: 5.4, watts: 260 },
      { volts: 240, amps: 2.6, watts: 124 },
      { volts: 200, amps: 2.1, watts: 104 },
      { volts: 160, amps: 1.7, watts: 88 },
      { volts: 360, amps: 4.5, watts: 214 },
    ],
    load: [
      { volts: 400, amps: 13.4, watts: 7880, torqueNm: 44.8, rpm: 1446, frequencyHz: 50, windingC: 84 },
      { volts: 400, amps: 11.1, watts: 6330, torqueNm: 36.1, rpm: 1457, frequencyHz: 50, windingC: 82 },
      { volts: 400, amps: 8.9, watts: 4760, torqueNm: 27.1, rpm: 1468, frequencyHz: 50, windingC: 79 },
      { volts: 400, amps: 7.1, watts: 3230, torqueNm: 18, rpm: 1479, frequencyHz: 50, windingC: 76 },
    ],
  },
  compute: (x, note) => {
    const cannot = (reason: string) => ({ verdict: 'cannot judge' as const, reason, methods: [] });
    if (x.poles === undefined) return cannot('The number of poles decides the slip.');
    if (x.ratedV === undefined) return cannot('The rated voltage decides core loss and friction.');
    if (x.load.length < 3)
      return cannot(
        `${x.load.length} point${x.load.length === 1 ? '' : 's'} under load; at least three are wanted to lay the line of stray losses, six by both methods.`,
      );
    const question = { ...x, poles: x.poles, ratedV: x.ratedV, dynamometer: x.dynamometer };
    const found = METHODS.map((method) => efficiencyBy(method, question, x.limits));
    const judged = found.find((f) => f?.method === x.method);
    const rated = (f: Efficiency, of: (r: LoadRow) => number) =>
      x.outputW === undefined ? undefined : atOutput(f.rows, x.outputW, of);
    const methods = found
      .filter((f) => f !== undefined)
      .map((f) => {
        const [efficiency, powerFactor] = [rated(f, (r) => r.efficiency), rated(f, (r) => r.powerFactor)];
        return {
          method: f.method,
          rows: f.rows,
          slope: f.stray.slope,
          intercept: f.stray.intercept,
          correlation: f.stray.r,
          frictionW: f.losses.frictionW,
          ...(f.unsatisfactory === undefined ? {} : { unsatisfactory: f.unsatisfactory }),
          ...(efficiency === undefined ? {} : { efficiency }),
          ...(powerFactor === undefined ? {} : { powerFactor }),
        };
      });
    if (!judged)
      return {
        ...cannot(
          'The no-load curve does not give friction and core loss: at least three low voltages, and one at the rated voltage or on both sides of it.',
        ),
        methods,
      };
    note?.({
      name: 'Correction of the indicated torque',
      symbol: 'T_corr',
      formula: '9.5493 (A − B)/n − T',
      numbers: x.dynamometer ? 'coupled at minimum against free' : 'torque sensor on the shaft, zero checked',
      value: judged.torqueCorrectionNm,
      unit: 'N m',
      source: 'IEEE 112 (from memory)',
    });
    note?.({
      name: 'Stray losses over torque squared',
      symbol: 'A',
      formula: 'P_Lr = A T² + B',
      numbers: `${judged.rows.filter((r) => !r.dropped).length} points, correlation ${formatNumber(judged.stray.r, 5)}`,
      value: judged.stray.slope,
      unit: 'W/(N m)²',
      source: x.method === 'B' ? 'IEEE 112 method B (from memory)' : 'IEC 60034-2-1 method 2-1-1B (from memory)',
    });
    const own = methods.find((m) => m.method === x.method);
    const dropped = judged.rows.findIndex((r) => r.dropped);
    const left =
      dropped < 0
        ? ''
        : ` Point ${dropped + 1} (${formatNumber(judged.rows[dropped]?.torqueNm ?? 0, 3)} N m) is left out of the line: it lies furthest from it.`;
    if (judged.unsatisfactory !== undefined)
      return {
        ...cannot(`Method ${x.method}: ${judged.unsatisfactory}. Find the instrument error, repeat.${left}`),
        torqueCorrectionNm: judged.torqueCorrectionNm,
        methods,
      };
    if (x.outputW === undefined)
      return { ...cannot('The rated output is not known: the points stand as they are.'), methods };
    if (own?.efficiency === undefined || own.powerFactor === undefined)
      return {
        ...cannot(
          `The points do not reach the rated ${formatNumber(x.outputW / 1000)} kW on both sides: nothing is told beyond them.${left}`,
        ),
        torqueCorrectionNm: judged.torqueCorrectionNm,
        methods,
      };
    const percent = 100 * own.efficiency;
    const parts: Judged[] = [
      {
        verdict: 'pass',
        reason: `Efficiency ${formatNumber(percent, 4)} %, power factor ${formatNumber(own.powerFactor, 3)} at ${formatNumber(x.outputW / 1000)} kW (method ${x.method}, correlation ${formatNumber(judged.stray.r, 4)}).${left}`,
      },
      ...declared('efficiency', own.efficiency, x.declaredEfficiency, x.outputW, 100, ' %'),
      ...declared('power factor', own.powerFactor, x.declaredPowerFactor, x.outputW, 1, ''),
    ];
    return {
      ...judgedTogether([...parts, ...outOfCalibration(x.calibrationExpired)]),
      efficiencyPercent: percent,
      powerFactor: own.powerFactor,
      torqueCorrectionNm: judged.torqueCorrectionNm,
      methods,
    };
  },
});

/** A measured share against what the plate declares, with the tolerance of the standard. */
export function declared(
  what: 'efficiency' | 'power factor',
  value: number,
  plate: number | undefined,
  outputW: number,
  scale: number,
  unit: string,
): Judged[] {
  const range = plate === undefined ? undefined : allowed(what, plate, outputW / 1000);
  if (plate === undefined || range?.from === undefined) return [];
  const [shown, bound] = formatAgainst(scale * value, scale * range.from, 4);
  const said = `Declared ${what} ${formatNumber(scale * plate, 4)}${unit}, accepted down to ${bound}${unit} (${range.says}; IEC 60034-1, from memory)`;
  if (!notBelow(value, range.from)) return [{ verdict: 'fail', reason: `${said}: ${shown}${unit} is below.` }];
  return [{ verdict: 'pass', reason: `${said}${notBelow(value, plate) ? '' : ': below declared, inside tolerance'}.` }];
}

const LISTS = ['torques', 'amps', 'watts', 'speeds', 'windingsC'] as const;

/** Load test in the test matrix, typed point by point. */
export const loadTestKind: TestKind = {
  id: 'loadTest',
  title: 'Load test, efficiency',
  stages: { FI: 'optional' },
  calculation: loadTest as unknown as Calculation,
  for: ({ machine }) => machine === 'three-phase' || machine === 'slip-ring',
  needsWholeMotor: true,
  fields: [
    listOf('torques', 'Torque, indicated', 'torque', 'N m', 'from the highest load down: 61.7, 56.8'),
    listOf('amps', 'Current at each', 'current', 'A', 'mean of the lines'),
    listOf('watts', 'Power at each', 'power', 'W', '10 680 W, 9800 W'),
    listOf('speeds', 'Speed at each', 'speed', 'r/min', 'to a tenth: the slip is small'),
    listOf('windingsC', 'Winding temperature at each', 'temperature', '°C', '82, 81'),
    quantity('volts', 'Voltage', 'voltage', 'V', need),
    quantity('frequency', 'Frequency', 'frequency', 'Hz', { hint: 'blank: as on the plate' }),
    quantity('coldOhm', 'Cold resistance lead to lead', 'resistance', 'Ω', need),
    celsius('coldC', 'Winding then', need),
    quantity('riseK', 'Rise of the rated run, K', 'number', '', { ...need, hint: 'by resistance' }),
    celsius('coolantC', 'Coolant at its end', need),
    listOf('noLoadVolts', 'No-load voltages', 'voltage', 'V', 'as in the no-load curve'),
    listOf('noLoadAmps', 'No-load currents', 'current', 'A', 'mean of the lines'),
    listOf('noLoadWatts', 'No-load powers', 'power', 'W', '385 W, 313 W'),
    celsius('noLoadC', 'Winding at no load', need),
    quantity('coupledWatts', 'Coupled, dynamometer at its minimum: power', 'power', 'W'),
    quantity('coupledAmps', 'Coupled: current', 'current', 'A'),
    quantity('coupledRpm', 'Coupled: speed', 'speed', 'r/min'),
    quantity('coupledNm', 'Coupled: torque indicated', 'torque', 'N m'),
    quantity('freeWatts', 'Motor free: power', 'power', 'W'),
    quantity('freeAmps', 'Motor free: current', 'current', 'A'),
    choice('method', 'Judged by method', [...METHODS], { hint: 'blank: 2-1-1B' }),
    text('instrument', 'Instrument', need),
  ],
  lacks: (v) => {
    const coupled = ['coupledWatts', 'coupledAmps', 'coupledRpm', 'coupledNm', 'freeWatts', 'freeAmps'];
    const missing = coupled.find((n) => v[n] === undefined);
    return (
      sameLengths(v, LISTS, 'Each torque has its figures') ??
      sameLengths(v, ['noLoadVolts', 'noLoadAmps', 'noLoadWatts'], 'Each voltage has its current and its power') ??
      (missing !== undefined && coupled.some((n) => v[n] !== undefined)
        ? {
            field: missing,
            message:
              'The correction of the torque needs the coupled and the free run whole; leave all blank where the sensor sits on the shaft.',
          }
        : undefined)
    );
  },
  due: ({ nameplate }) => {
    const output = nameplate.outputW;
    return {
      says: [
        `Cold resistance first; then at rated load${output === undefined ? '' : ` (${formatNumber(output / 1000)} kW)`} until the winding rises by no more than 1 K in 30 min.`,
        'Then six points from 150 to 25 % of the rated load, the highest first, quickly: current, power, torque, speed, winding at each. Then the no-load curve.',
      ],
    };
  },
  input: (v, c) => {
    const { nameplate, record } = c;
    const [torques, amps, watts, speeds, windings] = LISTS.map((n) => numbers(v, n)) as [
      number[],
      number[],
      number[],
      number[],
      number[],
    ];
    const [nv, na, nw] = ['noLoadVolts', 'noLoadAmps', 'noLoadWatts'].map((n) => numbers(v, n)) as [
      number[],
      number[],
      number[],
    ];
    const frequencyHz = num(v, 'frequency') ?? nameplate.frequencyHz;
    if (frequencyHz === undefined) return undefined;
    const volts = num(v, 'volts');
    const windingC = num(v, 'noLoadC');
    return {
      poles: record?.poles ?? nameplate.poles,
      ratedV: nameplate.voltagesV ? Math.max(...nameplate.voltagesV) : undefined,
      outputW: nameplate.outputW,
      coldOhm: num(v, 'coldOhm'),
      coldC: num(v, 'coldC'),
      riseK: num(v, 'riseK'),
      coolantC: num(v, 'coolantC'),
      noLoad: nv.map((u, i) => ({ volts: u, amps: na[i], watts: nw[i] })),
      noLoadC: windingC,
      load: torques.map((torqueNm, i) => ({
        volts,
        amps: amps[i],
        watts: watts[i],
        torqueNm,
        rpm: speeds[i],
        frequencyHz,
        windingC: windings[i],
      })),
      dynamometer:
        v['coupledWatts'] === undefined
          ? undefined
          : {
              coupled: {
                watts: num(v, 'coupledWatts'),
                amps: num(v, 'coupledAmps'),
                rpm: num(v, 'coupledRpm'),
                torqueNm: num(v, 'coupledNm'),
                windingC,
              },
              free: { watts: num(v, 'freeWatts'), amps: num(v, 'freeAmps'), windingC },
            },
      method: v['method'],
      declaredEfficiency: nameplate.efficiencyPercent === undefined ? undefined : nameplate.efficiencyPercent / 100,
      declaredPowerFactor: nameplate.powerFactor,
    };
  },
  derived: [
    { name: 'efficiencyPercent', title: 'Efficiency at rated output', unit: '%' },
    { name: 'powerFactor', title: 'Power factor at rated output', unit: '' },
  ],
  caution:
    'Rotating and loaded: guard on, coupling and keys secured, stop within reach. Leave the motor at once where it smokes, rubs or shakes. Local codes and licensed practice decide.',
};
