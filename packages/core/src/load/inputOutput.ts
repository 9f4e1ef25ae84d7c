import { z } from 'zod';
import { defineCalculation, type Calculation } from '../calculation.ts';
import type { TestKind } from '../evaluate/testKind.ts';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import { limit, quoteLimit } from '../limits/limits.ts';
import { need, quantity, text } from '../process/fieldKinds.ts';
import { formatNumber } from '../quantity/format.ts';
import { judgedTogether, notAbove, outOfCalibration, type Judged } from '../verdict.ts';
import { declared } from './loadTest.ts';
import { listOf, numbers, sameLengths } from './typedLists.ts';

/** What the simple way leaves open, of the output. Source: `tests.md` 9.1. */
const OPEN_SHARE = 0.015;

/** Calculation `evaluate.inputOutput`. */
export const inputOutput = defineCalculation({
  id: 'evaluate.inputOutput',
  version: 1,
  title: 'Efficiency as output over input: small motors, screening',
  sources: ['definition; what it leaves open: common practice', 'tolerances: IEC 60034-1 (from memory)'],
  input: z.strictObject({
    points: z
      .array(
        z.strictObject({
          watts: z.number().positive().max(1e9),
          torqueNm: z.number().positive().max(1e7),
          rpm: z.number().positive().max(1e6),
        }),
      )
      .min(1)
      .max(40),
    outputW: z.number().positive().max(1e9).optional(),
    declaredEfficiency: z.number().positive().max(1).optional(),
    calibrationExpired: z.boolean().default(false),
    limits: shopLimitsSchema.default({}),
  }),
  output: z.object({
    verdict: z.enum(['pass', 'attention', 'fail', 'cannot judge']),
    reason: z.string(),
    efficiencyPercent: z.number().optional(),
    shares: z.array(z.object({ outW: z.number(), efficiency: z.number() })),
  }),
  example: {
    outputW: 750,
    points: [
      { watts: 1190, torqueNm: 6.1, rpm: 1392 },
      { watts: 960, torqueNm: 4.9, rpm: 1419 },
      { watts: 520, torqueNm: 2.4, rpm: 1462 },
    ],
    declaredEfficiency: 0.75,
  },
  compute: (x, note) => {
    const shares = x.points
      .map((p) => ({ outW: (p.torqueNm * p.rpm * Math.PI) / 30, watts: p.watts }))
      .map(({ outW, watts }) => ({ outW, efficiency: outW / watts }))
      .sort((a, b) => a.outW - b.outW);
    const cannot = (reason: string) => ({ verdict: 'cannot judge' as const, reason, shares });
    const much = shares.find((s) => s.efficiency >= 1);
    if (much)
      return cannot(
        `At ${formatNumber(much.outW, 3)} W more comes out than goes in: look at the zero and the unit of the torque, at the power meter.`,
      );
    if (x.outputW === undefined) return cannot('The rated output is not known.');
    const { outputW } = x;
    const after = shares.findIndex((s) => s.outW >= outputW);
    const [b, a] = [shares[after], shares[after - 1]];
    if (!b || (!a && b.outW !== outputW))
      return cannot(
        `The points do not reach the rated ${formatNumber(outputW / 1000)} kW on both sides: nothing is told beyond them.`,
      );
    const efficiency =
      a === undefined || b.outW === outputW
        ? b.efficiency
        : a.efficiency + ((b.efficiency - a.efficiency) * (outputW - a.outW)) / (b.outW - a.outW);
    note?.({
      name: 'Efficiency at the rated output',
      symbol: 'η',
      formula: 'T n 2π/60 / P',
      numbers: 'on the line between the points beside it',
      value: 100 * efficiency,
      unit: '%',
      source: 'definition',
    });
    const small = limit('load.inputOutputKW', x.limits);
    const parts: Judged[] = [
      {
        verdict: 'pass',
        reason: `Efficiency ${formatNumber(100 * efficiency, 3)} % at ${formatNumber(outputW / 1000)} kW, output over input; it leaves about ${formatNumber(100 * OPEN_SHARE, 2)} % of the output open.`,
      },
      ...(notAbove(outputW / 1000, small)
        ? []
        : [
            {
              verdict: 'attention' as const,
              reason: `Above ${quoteLimit('load.inputOutputKW', x.limits)} this screens only: part the losses.`,
            },
          ]),
      ...declared('efficiency', efficiency, x.declaredEfficiency, outputW, 100, ' %'),
    ];
    return {
      ...judgedTogether([...parts, ...outOfCalibration(x.calibrationExpired)]),
      efficiencyPercent: 100 * efficiency,
      shares,
    };
  },
});

const LISTS = ['torques', 'watts', 'speeds'] as const;

/** Output over input, in the test matrix. */
export const inputOutputTest: TestKind = {
  id: 'inputOutput',
  title: 'Load test, output over input',
  stages: { FI: 'optional' },
  calculation: inputOutput as unknown as Calculation,
  for: ({ machine }) => machine !== 'permanent magnet',
  needsWholeMotor: true,
  fields: [
    listOf('torques', 'Torque, zero checked', 'torque', 'N m', 'from the highest load down: 6.1, 4.9'),
    listOf('watts', 'Power at each', 'power', 'W', '1190 W, 960 W'),
    listOf('speeds', 'Speed at each', 'speed', 'r/min', 'to a tenth'),
    quantity('volts', 'Voltage', 'voltage', 'V'),
    text('instrument', 'Instrument', need),
  ],
  lacks: (v) => sameLengths(v, LISTS, 'Each torque has its figures'),
  due: ({ nameplate }) => ({
    says: [
      `Points on both sides of the rated ${nameplate.outputW === undefined ? 'output' : `${formatNumber(nameplate.outputW / 1000)} kW`}, the highest first; torque zero looked at before and after.`,
    ],
  }),
  input: (v, { nameplate }) => {
    const [torques, watts, speeds] = LISTS.map((n) => numbers(v, n)) as [number[], number[], number[]];
    return {
      points: torques.map((torqueNm, i) => ({ torqueNm, watts: watts[i], rpm: speeds[i] })),
      outputW: nameplate.outputW,
      declaredEfficiency: nameplate.efficiencyPercent === undefined ? undefined : nameplate.efficiencyPercent / 100,
    };
  },
  derived: [{ name: 'efficiencyPercent', title: 'Efficiency, output over input', unit: '%' }],
  caution: 'Coupled, guarded, nobody beside the coupling; stop within reach. Local codes and licensed practice decide.',
};
