import { z } from 'zod';
import { defineCalculation, refuse } from '../calculation.ts';
import { formatNumber } from '../quantity/format.ts';
import { SPECIFIC_HEAT } from './lag.ts';

/** K of R = R₀ (K + T)/(K + T₀), °C; from memory: the standards of copper and aluminium conductors. */
export const RESISTANCE_ZERO_C = { copper: 234.5, aluminium: 225 } as const;

/** Calculation `process.bondedWire`: temperature of a winding bonded by current, and what it should read at the end. */
export const processBondedWire = defineCalculation({
  id: 'process.bondedWire',
  version: 1,
  title: 'Bonding by current: mean temperature by resistance, resistance to stop at, length of the pulse',
  sources: ['R = R₀ (K + T)/(K + T₀)', 'adiabatic heating (derived)', 'window: data sheet of the wire'],
  input: z.strictObject({
    material: z.enum(['copper', 'aluminium']).default('copper'),
    coldOhm: z.number().positive().max(1e5),
    coldC: z.number().min(-20).max(60).describe('of the whole winding: it must have soaked there'),
    leadOhm: z.number().min(0).max(1e4).default(0).describe('of the leads in the reading: they stay cold'),
    nowOhm: z.number().positive().max(1e5).optional(),
    fromC: z.number().min(60).max(300).default(180).describe('bond window of the wire'),
    toC: z.number().min(60).max(300).default(200),
    wireKg: z.number().positive().max(1000).optional(),
    amps: z.number().positive().max(1e5).optional(),
    volts: z.number().positive().max(1e4).optional(),
  }),
  output: z.object({
    nowC: z.number().optional().describe('mean of the winding'),
    targetOhm: z.number().describe('at the middle of the window'),
    fromOhm: z.number(),
    toOhm: z.number(),
    byCurrentS: z.number().optional(),
    byVoltageS: z.number().optional(),
    verdict: z.enum(['pass', 'attention', 'fail', 'cannot judge']),
    reason: z.string(),
  }),
  example: { coldOhm: 0.412, coldC: 21, nowOhm: 0.671, wireKg: 0.74, amps: 55 },
  compute: (input, note) => {
    const K = RESISTANCE_ZERO_C[input.material];
    const { coldOhm, coldC, leadOhm, nowOhm, fromC, toC } = input;
    const winding = coldOhm - leadOhm;
    if (winding <= 0) refuse('leadOhm', 'The leads cannot have as much resistance as winding and leads together.');
    if (toC <= fromC) refuse('toC', 'The bond window ends below its beginning.');
    const ohmAt = (c: number) => leadOhm + (winding * (K + c)) / (K + coldC);
    const targetC = (fromC + toC) / 2;
    const nowC = nowOhm === undefined ? undefined : ((nowOhm - leadOhm) / winding) * (K + coldC) - K;
    if (nowC !== undefined)
      note?.({
        name: 'Mean temperature of the winding',
        symbol: 'T',
        formula: '(R − R_l)/(R₀ − R_l) · (K + T₀) − K',
        numbers: `(${formatNumber(nowOhm ?? 0, 6)} − ${formatNumber(leadOhm, 6)}) / (${formatNumber(coldOhm, 6)} − ${formatNumber(leadOhm, 6)}) · (${K} + ${formatNumber(coldC, 5)}) − ${K}`,
        value: nowC,
        unit: '°C',
        source: 'resistance of the conductor',
      });
    note?.({
      name: 'Resistance at the middle of the window',
      symbol: 'R',
      formula: 'R_l + (R₀ − R_l) · (K + T)/(K + T₀)',
      numbers: `${formatNumber(leadOhm, 6)} + (${formatNumber(coldOhm, 6)} − ${formatNumber(leadOhm, 6)}) · (${K} + ${formatNumber(targetC, 5)}) / (${K} + ${formatNumber(coldC, 5)})`,
      value: ohmAt(targetC),
      unit: 'Ω',
      source: 'resistance of the conductor',
    });
    const heat = input.wireKg === undefined ? undefined : input.wireKg * SPECIFIC_HEAT[input.material];
    const [a, b] = [K + coldC, K + targetC];
    const byCurrentS =
      heat !== undefined && input.amps !== undefined
        ? ((heat * a) / (input.amps ** 2 * winding)) * Math.log(b / a)
        : undefined;
    const byVoltageS =
      heat !== undefined && input.volts !== undefined
        ? (winding * heat * (b * b - a * a)) / (2 * input.volts ** 2 * a)
        : undefined;
    const judged =
      nowC === undefined
        ? { verdict: 'cannot judge' as const, reason: 'No resistance at the end was read.' }
        : nowC < fromC
          ? {
              verdict: 'fail' as const,
              reason: `The winding came to ${formatNumber(nowC)} °C; it bonds from ${formatNumber(fromC)} °C.`,
            }
          : nowC > toC
            ? {
                verdict: 'attention' as const,
                reason: `The winding came to ${formatNumber(nowC)} °C, above ${formatNumber(toC)} °C: look at the enamel and test it again.`,
              }
            : {
                verdict: 'pass' as const,
                reason: `${formatNumber(nowC)} °C by resistance, the mean of the winding; its ends differ.`,
              };
    return {
      ...(nowC === undefined ? {} : { nowC }),
      targetOhm: ohmAt(targetC),
      fromOhm: ohmAt(fromC),
      toOhm: ohmAt(toC),
      ...(byCurrentS === undefined ? {} : { byCurrentS }),
      ...(byVoltageS === undefined ? {} : { byVoltageS }),
      ...judged,
    };
  },
});
