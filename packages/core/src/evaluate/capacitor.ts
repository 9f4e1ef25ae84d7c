import { z } from 'zod';
import { defineCalculation, type Calculation } from '../calculation.ts';
import { limit, quoteLimit, type ShopLimits } from '../limits/limits.ts';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import { need, quantity, text } from '../process/fieldKinds.ts';
import { formatNumber } from '../quantity/format.ts';
import { judgedTogether, judgeUpTo, notAbove, outOfCalibration, type Judged } from '../verdict.ts';
import { num, type TestKind } from './testKind.ts';

/** Capacitance from the current it takes at a voltage, F: I/(2πfU). */
export const capacitanceF = (currentA: number, frequencyHz: number, voltageV: number): number =>
  currentA / (2 * Math.PI * frequencyHz * voltageV);

/** Volts across a capacitor from the current through it: I/(2πfC). */
export const capacitorVolts = (currentA: number, frequencyHz: number, farad: number): number =>
  currentA / (2 * Math.PI * frequencyHz * farad);

const micro = (farad: number) => `${formatNumber(farad * 1e6, 4)} µF`;

/** A run capacitor against its mark: within the marked tolerance it passes, to the wider bound attention. Source: common practice. */
export function judgeRunCapacitor(
  offPercent: number,
  tolerancePercent: number | undefined,
  limits: ShopLimits,
): Judged['verdict'] {
  const passAt = tolerancePercent ?? limit('capacitor.runPassPercent', limits);
  return judgeUpTo(Math.abs(offPercent), passAt, Math.max(passAt, limit('capacitor.runFailPercent', limits)));
}

/** A start capacitor against its mark: more is allowed above than below. Source: common practice. */
export function judgeStartCapacitor(offPercent: number, limits: ShopLimits): Judged['verdict'] {
  return offPercent < 0
    ? judgeUpTo(
        -offPercent,
        limit('capacitor.startLowPassPercent', limits),
        limit('capacitor.startLowFailPercent', limits),
      )
    : judgeUpTo(
        offPercent,
        limit('capacitor.startHighPassPercent', limits),
        limit('capacitor.startHighFailPercent', limits),
      );
}

const positive = z.number().positive().optional();

/** Calculation `evaluate.capacitor`. */
export const capacitor = defineCalculation({
  id: 'evaluate.capacitor',
  version: 1,
  title: 'Capacitors of a single-phase motor: from their current, against their mark and rating',
  sources: [
    'C = I/(2πfU), definition',
    'IEC 60252-1 (from memory): 1.1 times rated voltage',
    'limits: common practice',
  ],
  input: z.strictObject({
    frequencyHz: positive,
    runA: positive,
    runV: positive,
    runMarkedF: positive,
    runTolerancePercent: z.number().min(1).max(20).optional(),
    startA: positive,
    startV: positive,
    startMarkedF: positive,
    runningA: positive.describe('current through the run capacitor while the motor runs at no load'),
    ratedV: positive.describe('rating of the run capacitor'),
    calibrationExpired: z.boolean().default(false),
    limits: shopLimitsSchema.default({}),
  }),
  output: z.object({
    verdict: z.enum(['pass', 'attention', 'fail', 'cannot judge']),
    reason: z.string(),
    runF: z.number().optional(),
    runOffPercent: z.number().optional(),
    startF: z.number().optional(),
    startOffPercent: z.number().optional(),
    acrossV: z.number().optional(),
  }),
  example: { frequencyHz: 60, runA: 2.05, runV: 236, runMarkedF: 25e-6 },
  compute: (x, note) => {
    const parts: Judged[] = [];
    const values: Partial<Record<'runF' | 'runOffPercent' | 'startF' | 'startOffPercent' | 'acrossV', number>> = {};
    if (x.frequencyHz === undefined)
      return {
        verdict: 'cannot judge' as const,
        reason: 'The frequency is needed: capacitance is worked out from it.',
      };
    const f = x.frequencyHz;
    const measure = (name: string, amps: number, volts: number): number => {
      const farad = capacitanceF(amps, f, volts);
      note?.({
        name: `${name} capacitor`,
        symbol: 'C',
        formula: 'I / (2π f U)',
        numbers: `${amps} / (2π · ${f} · ${volts})`,
        value: farad * 1e6,
        unit: 'µF',
        source: 'definition',
      });
      return farad;
    };
    const against = (
      name: string,
      farad: number,
      marked: number | undefined,
      judge: (off: number) => Judged['verdict'],
    ) => {
      if (marked === undefined) {
        parts.push({ verdict: 'cannot judge', reason: `${name} capacitor ${micro(farad)}: what is marked on it?` });
        return undefined;
      }
      const off = 100 * (farad / marked - 1);
      parts.push({
        verdict: judge(off),
        reason: `${name} capacitor ${micro(farad)}, marked ${micro(marked)}: ${formatNumber(off, 3)} % (common practice).`,
      });
      return off;
    };
    if (x.runA !== undefined && x.runV !== undefined) {
      values.runF = measure('Run', x.runA, x.runV);
      const off = against('Run', values.runF, x.runMarkedF, (o) =>
        judgeRunCapacitor(o, x.runTolerancePercent, x.limits),
      );
      if (off !== undefined) values.runOffPercent = off;
    } else if (x.runA !== undefined || x.runV !== undefined)
      parts.push({ verdict: 'cannot judge', reason: 'The run capacitor needs its current and its voltage.' });
    if (x.startA !== undefined && x.startV !== undefined) {
      values.startF = measure('Start', x.startA, x.startV);
      const off = against('Start', values.startF, x.startMarkedF, (o) => judgeStartCapacitor(o, x.limits));
      if (off !== undefined) values.startOffPercent = off;
    } else if (x.startA !== undefined || x.startV !== undefined)
      parts.push({ verdict: 'cannot judge', reason: 'The start capacitor needs its current and its voltage.' });
    const farad = values.runF ?? x.runMarkedF;
    if (x.runningA !== undefined && farad !== undefined) {
      const volts = capacitorVolts(x.runningA, f, farad);
      values.acrossV = volts;
      if (x.ratedV !== undefined) {
        const over = x.ratedV * limit('capacitor.overVoltFactor', x.limits);
        parts.push({
          verdict: judgeUpTo(volts, x.ratedV, over),
          reason: `${formatNumber(volts, 4)} V across the run capacitor while running, rated ${formatNumber(x.ratedV, 4)} V${notAbove(volts, x.ratedV) ? '' : `; never above ${quoteLimit('capacitor.overVoltFactor', x.limits)} times that`}.`,
        });
      }
    }
    if (parts.length === 0)
      return {
        verdict: 'cannot judge' as const,
        reason: 'Enter current and voltage of the run or the start capacitor.',
      };
    parts.push(...outOfCalibration(x.calibrationExpired));
    return { ...judgedTogether(parts), ...values };
  },
});

const RUN = ['runA', 'runV', 'runMarked', 'runTolerance', 'runningA', 'capacitorV'];
const START = ['startA', 'startV', 'startMarked'];

/** Capacitors in the test matrix. */
export const capacitorTest: TestKind = {
  id: 'capacitor',
  title: 'Capacitors',
  calculation: capacitor as unknown as Calculation,
  derived: [
    { name: 'runOffPercent', title: 'Run capacitor off its mark', unit: '%' },
    { name: 'startOffPercent', title: 'Start capacitor off its mark', unit: '%' },
  ],
  caution:
    'Discharge the capacitor first and after; series fuse; a start capacitor at most 3 s. Local codes and licensed practice decide.',
  stages: { IN: 'optional', AA: 'required', FI: 'optional' },
  for: ({ machine, record }) => machine === 'single-phase' && record?.auxKind !== 'split phase',
  hides: ({ record }) =>
    record?.auxKind === 'capacitor run' ? START : record?.auxKind === 'capacitor start' ? RUN : [],
  lacks: (v) =>
    v['runA'] === undefined && v['startA'] === undefined
      ? { field: 'runA', message: 'Current and voltage of a capacitor are needed.' }
      : undefined,
  needsWholeMotor: true,
  fields: [
    quantity('runA', 'Run capacitor, current', 'current', 'A'),
    quantity('runV', 'at', 'voltage', 'V'),
    quantity('runMarked', 'Run capacitor, marked', 'capacitance', 'µF', { hint: 'blank: as recorded' }),
    quantity('runTolerance', 'Marked tolerance ±', 'percent', '%', { hint: '5 or 10' }),
    quantity('startA', 'Start capacitor, current', 'current', 'A'),
    quantity('startV', 'Start capacitor, at', 'voltage', 'V'),
    quantity('startMarked', 'Start capacitor, marked', 'capacitance', 'µF'),
    quantity('runningA', 'Current through it while running', 'current', 'A', {
      hint: 'at no load, where its volts are highest',
    }),
    quantity('capacitorV', 'Run capacitor rated', 'voltage', 'V', { hint: 'blank: as recorded' }),
    quantity('frequency', 'Frequency', 'frequency', 'Hz', { hint: 'blank: of the plate' }),
    text('instrument', 'Instrument', need),
  ],
  input: (v, c) => ({
    frequencyHz: num(v, 'frequency') ?? c.nameplate.frequencyHz,
    runA: num(v, 'runA'),
    runV: num(v, 'runV'),
    runMarkedF: num(v, 'runMarked') ?? (c.record?.auxKind === 'capacitor start' ? undefined : c.record?.capacitorF),
    runTolerancePercent: num(v, 'runTolerance'),
    startA: num(v, 'startA'),
    startV: num(v, 'startV'),
    startMarkedF:
      num(v, 'startMarked') ??
      c.record?.startCapacitorF ??
      (c.record?.auxKind === 'capacitor start' ? c.record.capacitorF : undefined),
    runningA: num(v, 'runningA'),
    ratedV: num(v, 'capacitorV') ?? c.record?.auxCapacitorV,
  }),
};
