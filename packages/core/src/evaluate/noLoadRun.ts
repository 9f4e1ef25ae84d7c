import { z } from 'zod';
import { sameSupply } from './change.ts';
import { defineCalculation } from '../calculation.ts';
import { limit } from '../limits/limits.ts';
import { formatAgainst, formatNumber } from '../quantity/format.ts';
import { judgedTogether, notAbove, type Judged } from '../verdict.ts';
import { unbalancePercent } from './windingResistance.ts';
import type { Calculation } from '../calculation.ts';
import { need, quantity } from '../process/fieldKinds.ts';
import type { MachineKind } from '../machine/machineKind.ts';
import type { ShopLimits } from '../limits/limits.ts';
import { sayNoLoadNames } from './noLoadNames.ts';
import { ratedAt, type Speed } from './ratedAt.ts';
import { judgeRunning, RUNNING_FIELDS, RUNNING_SHAPE, runningInput, runningLacks } from './running.ts';
import { num, type TestKind } from './testKind.ts';

/**
 * Negative sequence in per cent from three line-voltage magnitudes (IEC).
 * b = Σ U⁴ / (Σ U²)²; VUF = 100 √((1 − √(3 − 6b)) / (1 + √(3 − 6b))). Undefined when the readings form no triangle.
 */
export function negativeSequencePercent(u12: number, u23: number, u31: number): number | undefined {
  const squares = u12 ** 2 + u23 ** 2 + u31 ** 2;
  const inner = 3 - (6 * (u12 ** 4 + u23 ** 4 + u31 ** 4)) / squares ** 2;
  if (inner < 0) return undefined;
  const root = Math.sqrt(Math.min(1, inner));
  return 100 * Math.sqrt((1 - root) / (1 + root));
}

const DERATE: readonly (readonly [number, number])[] = [
  [0, 1],
  [1, 1],
  [2, 0.95],
  [3, 0.88],
  [4, 0.82],
  [5, 0.75],
];

/** NEMA derating factor for a voltage unbalance in per cent (read from the curve, from memory, ±0.02); undefined above 5 %. */
export function deratingFactor(unbalance: number): number | undefined {
  if (unbalance > 5) return undefined;
  for (let i = 1; i < DERATE.length; i++) {
    const [x0, y0] = DERATE[i - 1] as readonly [number, number];
    const [x1, y1] = DERATE[i] as readonly [number, number];
    if (unbalance <= x1) return y0 + ((unbalance - x0) / (x1 - x0)) * (y1 - y0);
  }
  return undefined;
}

/** Usual no-load current as a share of rated, cage motors at 50/60 Hz (common practice). */
export function usualNoLoadShare(poles: number, outputW: number): [number, number] {
  const table: Record<number, [number, number]> = { 2: [0.2, 0.35], 4: [0.25, 0.45], 6: [0.3, 0.5], 8: [0.35, 0.6] };
  const [low, high] = table[poles] ?? [0.4, 0.7];
  return [low, outputW < 1000 ? 0.85 : high];
}

const three = z.tuple([z.number(), z.number(), z.number()]);

/** Calculation `evaluate.noLoadRun`. */
export const noLoadRun = defineCalculation({
  id: 'evaluate.noLoadRun',
  version: 4,
  title: 'No-load run: voltage and current unbalance, share of rated current, vibration, bearings',
  sources: [
    'NEMA MG 1 and IEC 60034-1 voltage unbalance (from memory)',
    'negative sequence derived',
    'limits: common practice',
  ],
  input: z.strictObject({
    voltsV: three.optional(),
    ampsA: three.optional(),
    powerW: z.number().min(0).optional(),
    ratedV: z.number().positive().optional(),
    ratedA: z.number().positive().optional(),
    ratedW: z.number().positive().optional(),
    poles: z.int().min(2).optional(),
    lockedRotorRatio: z.number().positive().default(6),
    expectedA: z.number().positive().optional().describe('no-load current from this winding and its gap'),
    asFoundA: z.number().positive().optional().describe('no-load current at intake'),
    ...RUNNING_SHAPE,
  }),
  output: z.object({
    verdict: z.enum(['pass', 'attention', 'fail', 'cannot judge']),
    reason: z.string(),
    voltageUnbalancePercent: z.number().optional(),
    negativeSequencePercent: z.number().optional(),
    currentUnbalancePercent: z.number().optional(),
    explainableBySupplyPercent: z.number().optional(),
    derating: z.number().optional(),
    currentShare: z.number().optional(),
    expectedA: z.number().optional(),
    toExpected: z.number().optional(),
  }),
  example: { voltsV: [400, 388, 406], ampsA: [9.1, 8.6, 9.4], ratedV: 400, ratedA: 22, ratedW: 11000, poles: 4 },
  compute: (x, note) => {
    const cannot = (reason: string, more: object = {}) => ({ verdict: 'cannot judge' as const, reason, ...more });
    if (!x.voltsV || !x.ampsA) return cannot('Three line voltages and three currents are needed.');
    if (x.voltsV.some((v) => !(v > 0)) || x.ampsA.some((a) => !(a > 0)))
      return cannot('Voltages and currents must be above zero; a dead phase is not a no-load run.');
    const uUnb = unbalancePercent(x.voltsV);
    const vuf = negativeSequencePercent(...x.voltsV);
    if (vuf === undefined)
      return cannot('The three voltages form no triangle: one reading must be wrong.', {
        voltageUnbalancePercent: uUnb,
      });
    const iUnb = unbalancePercent(x.ampsA);
    const meanU = x.voltsV.reduce((a, b) => a + b, 0) / 3;
    const meanI = x.ampsA.reduce((a, b) => a + b, 0) / 3;
    note?.({
      name: 'Voltage unbalance',
      symbol: '',
      formula: '100 max|U − mean| / mean',
      numbers: x.voltsV.join(', '),
      value: uUnb,
      unit: '%',
      source: 'NEMA MG 1 (from memory)',
    });
    note?.({
      name: 'Negative sequence',
      symbol: 'VUF',
      formula: '100 √((1 − √(3 − 6b))/(1 + √(3 − 6b)))',
      numbers: x.voltsV.join(', '),
      value: vuf,
      unit: '%',
      source: 'derived',
    });
    note?.({
      name: 'Current unbalance',
      symbol: '',
      formula: '100 max|I − mean| / mean',
      numbers: x.ampsA.join(', '),
      value: iUnb,
      unit: '%',
      source: 'definition',
    });
    const values = { voltageUnbalancePercent: uUnb, negativeSequencePercent: vuf, currentUnbalancePercent: iUnb };
    const stop = limit('noLoad.voltageStopPercent', x.limits);
    if (!notAbove(uUnb, stop))
      return cannot(
        `Voltage unbalance ${formatNumber(uUnb, 3)} % is above ${stop} % (NEMA MG 1): stop, mend the supply first.`,
        values,
      );
    const parts: Judged[] = [];
    const passAt = limit('noLoad.currentPassPercent', x.limits);
    const failAt = limit('noLoad.currentFailPercent', x.limits);
    const explainable = x.ratedA === undefined ? undefined : (1.5 * uUnb * x.lockedRotorRatio * x.ratedA) / meanI;
    if (notAbove(iUnb, passAt)) {
      const [a, b] = formatAgainst(iUnb, passAt);
      parts.push({
        verdict: 'pass',
        reason: `Current unbalance ${a} %, at most ${b} % (common practice), at ${formatNumber(uUnb, 2)} % voltage unbalance.`,
      });
    } else if (explainable !== undefined && notAbove(iUnb, explainable)) {
      parts.push({
        verdict: 'cannot judge',
        reason: `Current unbalance ${formatNumber(iUnb, 3)} %, but the supply's ${formatNumber(uUnb, 3)} % alone could make ${formatNumber(explainable, 3)} %: run with the leads rotated.`,
      });
    } else {
      const verdict = notAbove(iUnb, failAt) ? 'attention' : 'fail';
      const [a, b] = formatAgainst(iUnb, failAt);
      parts.push({
        verdict,
        reason: `Current unbalance ${a} %, ${verdict === 'fail' ? 'above' : 'up to'} ${b} % (common practice).`,
      });
    }
    let derating: number | undefined;
    if (!notAbove(uUnb, limit('noLoad.voltageAttentionPercent', x.limits))) {
      derating = deratingFactor(uUnb);
      parts.push({
        verdict: 'attention',
        reason: `Voltage unbalance ${formatNumber(uUnb, 3)} %: derate to ${formatNumber(derating ?? 0, 3)} (NEMA curve, from memory).`,
      });
    }
    const size = currentSize({ ...x, meanU, meanI });
    parts.push(...size.parts);
    parts.push(...judgeRunning(x));
    return {
      ...judgedTogether(parts),
      ...values,
      ...(explainable === undefined ? {} : { explainableBySupplyPercent: explainable }),
      ...(derating === undefined ? {} : { derating }),
      ...size.values,
    };
  },
});

/** How large the current is: against this winding's own, as found, and the usual share of rated. */
function currentSize(x: {
  meanU: number;
  meanI: number;
  ratedV?: number | undefined;
  ratedA?: number | undefined;
  ratedW?: number | undefined;
  poles?: number | undefined;
  expectedA?: number | undefined;
  asFoundA?: number | undefined;
  limits: ShopLimits;
}): { parts: Judged[]; values: { currentShare?: number; expectedA?: number; toExpected?: number } } {
  const usual = x.poles === undefined ? undefined : usualNoLoadShare(x.poles, x.ratedW ?? 1e9);
  if (x.ratedA === undefined && x.expectedA === undefined) return { parts: [], values: {} };
  const off = limit('noLoad.voltageOffPercent', x.limits);
  if (x.ratedV !== undefined && !notAbove(100 * Math.abs(x.meanU / x.ratedV - 1), off))
    return {
      parts: [
        {
          verdict: 'cannot judge',
          reason: `Run at ${formatNumber(x.meanU, 4)} V; within ${off} % of ${x.ratedV} V is needed to judge the size of the current.`,
        },
      ],
      values: {},
    };
  const share = x.ratedA === undefined ? undefined : x.meanI / x.ratedA;
  const values = share === undefined ? {} : { currentShare: share };
  const sayShare = `Mean current ${formatNumber(x.meanI, 3)} A${share === undefined ? '' : `, ${formatNumber(share, 2)} of rated`}`;
  if (x.expectedA !== undefined) {
    const ratio = x.meanI / x.expectedA;
    const band = limit('noLoad.expectedBandPercent', x.limits);
    const inside = notAbove(100 * Math.abs(ratio - 1), band);
    return {
      parts: [
        {
          verdict: inside ? 'pass' : 'attention',
          reason: `${sayShare}; ${formatNumber(x.expectedA, 3)} A expected from this winding and its gap, ± ${band} % (common practice).${inside ? '' : sayNoLoadNames(ratio, 'this winding and its gap')}`,
        },
      ],
      values: { ...values, expectedA: x.expectedA, toExpected: ratio },
    };
  }
  if (usual === undefined || share === undefined || x.ratedA === undefined) return { parts: [], values };
  const [low, high] = usual;
  const inside = notAbove(low, share) && notAbove(share, high);
  const expected = x.asFoundA ?? (x.ratedA * (low + high)) / 2;
  const ratio = x.meanI / expected;
  return {
    parts: [
      {
        verdict: inside ? 'pass' : 'attention',
        reason: `${sayShare}; ${low} to ${high} is usual for ${x.poles} poles (common practice).${inside ? '' : sayNoLoadNames(ratio, x.asFoundA === undefined ? 'the middle of the usual band' : 'as found')}`,
      },
    ],
    values: { ...values, toExpected: ratio },
  };
}

/** A no-load run of a three-phase machine; of two speeds each is a test of its own. */
function noLoadTest(x: { id: string; title: string; machine: (kind: MachineKind) => boolean; speed: Speed }): TestKind {
  return {
    id: x.id,
    title: x.title,
    calculation: noLoadRun as unknown as Calculation,
    alike: sameSupply('u12', 'u23', 'u31'),
    derived: [
      { name: 'currentShare', title: 'No-load current, share of rated', unit: '' },
      { name: 'currentUnbalancePercent', title: 'Current unbalance', unit: '%' },
      { name: 'voltageUnbalancePercent', title: 'Voltage unbalance', unit: '%' },
    ],
    for: ({ machine }) => x.machine(machine),
    needsWholeMotor: true,
    caution: 'Rotating: guard on, key secured. First start at reduced voltage.',
    stages: { IN: 'optional', AA: 'required', FI: 'required' },
    fields: [
      quantity('u12', 'U 1–2', 'voltage', 'V', need),
      quantity('u23', 'U 2–3', 'voltage', 'V', need),
      quantity('u31', 'U 3–1', 'voltage', 'V', need),
      quantity('i1', 'I 1', 'current', 'A', need),
      quantity('i2', 'I 2', 'current', 'A', need),
      quantity('i3', 'I 3', 'current', 'A', need),
      quantity('power', 'Power', 'power', 'kW'),
      ...RUNNING_FIELDS,
    ],
    lacks: runningLacks,
    input: (v, c) => {
      const three = (a: string, b: string, d: string) => {
        const list = [num(v, a), num(v, b), num(v, d)];
        return list.includes(undefined) ? undefined : list;
      };
      return {
        voltsV: three('u12', 'u23', 'u31'),
        ampsA: three('i1', 'i2', 'i3'),
        powerW: num(v, 'power'),
        ...runningInput(v, c),
        ...ratedAt(c, x.speed),
      };
    },
  };
}

/** No-load run in the test matrix. */
export const noLoadRunTest = noLoadTest({
  id: 'noLoadRun',
  title: 'No-load run',
  machine: (kind) => kind !== 'single-phase' && kind !== 'two-speed',
  speed: 'only',
});
/** Two speeds: each with its own poles, connection and rated current. */
export const noLoadLowTest = noLoadTest({
  id: 'noLoadLow',
  title: 'No-load run, low speed',
  machine: (kind) => kind === 'two-speed',
  speed: 'low',
});
export const noLoadHighTest = noLoadTest({
  id: 'noLoadHigh',
  title: 'No-load run, high speed',
  machine: (kind) => kind === 'two-speed',
  speed: 'high',
});
