import { z } from 'zod';
import { defineCalculation } from '../calculation.ts';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import { formatNumber } from '../quantity/format.ts';
import { balanceEntrySchema } from './entries.ts';
import { BALANCE_STAGES, balanceNow } from './session.ts';
import { balanceSetUpSchema } from './setUp.ts';

const vector = z.object({ size: z.number(), angleDeg: z.number() });
const verdict = z.enum(['pass', 'attention', 'fail', 'cannot judge']);

/** Calculation `balance.session`: a rotor on the stand from its set-up and everything that was entered, in one or two planes. */
export const balanceSession = defineCalculation({
  id: 'balance.session',
  version: 1,
  title: 'Balance in one or two planes: influence, heavy spots, next correction, residual at the bearings',
  sources: [
    'influence-coefficient method (derived)',
    'ISO 21940-11 tolerance (sharing from memory)',
    'response, repeat, condition and stop rules: common practice',
  ],
  input: z.strictObject({
    setUp: balanceSetUpSchema,
    entries: z.array(balanceEntrySchema).max(200),
    limits: shopLimitsSchema.default({}),
  }),
  output: z.object({
    stage: z.enum(BALANCE_STAGES),
    permissibleGMm: z.number(),
    shareAGMm: z.number(),
    shareBGMm: z.number(),
    condition: z.number().optional(),
    unbalance: z.array(vector).optional(),
    bearings: z.array(z.object({ gMm: z.number(), angleDeg: z.number(), allowedGMm: z.number(), verdict })).optional(),
    next: z.array(z.string()).optional(),
    verdict,
    reason: z.string(),
  }),
  example: {
    setUp: {
      kind: 'cage rotor',
      massKg: 26,
      grade: 2.5,
      serviceRpm: 2950,
      balancingRpm: 900,
      bearingAMm: 0,
      bearingBMm: 420,
      centreMm: 205,
      planes: [
        { xMm: 90, radiusMm: 62 },
        { xMm: 320, radiusMm: 62 },
      ],
    },
    entries: [
      {
        kind: 'run',
        readings: [
          { size: 6.4, angleDeg: 52 },
          { size: 4.9, angleDeg: 231 },
        ],
      },
      {
        kind: 'trial',
        plane: 1,
        gMm: 600,
        angleDeg: 0,
        readings: [
          { size: 8.8, angleDeg: 81 },
          { size: 4.1, angleDeg: 204 },
        ],
      },
      {
        kind: 'trial',
        plane: 2,
        gMm: 600,
        angleDeg: 90,
        readings: [
          { size: 5.6, angleDeg: 74 },
          { size: 8.2, angleDeg: 262 },
        ],
      },
    ],
  },
  compute: ({ setUp, entries, limits }, note) => {
    const is = balanceNow(setUp, entries, limits);
    note?.({
      name: 'Permissible residual unbalance',
      symbol: 'U_per',
      formula: '9549.3 G m / n',
      numbers: `9549.3 · ${formatNumber(setUp.grade)} · ${formatNumber(setUp.massKg, 5)} / ${formatNumber(setUp.serviceRpm, 5)}`,
      value: is.tolerance.permissibleGMm,
      unit: 'g·mm',
      source: 'ISO 21940-11',
    });
    for (const [i, row] of (is.influence ?? []).entries())
      for (const [k, c] of row.entries())
        note?.({
          name: `Influence of plane ${k + 1} on bearing ${i === 0 ? 'A' : 'B'}`,
          symbol: `a_${i === 0 ? 'A' : 'B'}${k + 1}`,
          formula: '(V_k − V_0) / U_t',
          numbers: 'as read',
          value: `${c.size.toPrecision(5)} ∠ ${c.angleDeg.toFixed(2)}°`,
          unit: 'per g·mm',
          source: 'derived',
        });
    for (const [i, u] of (is.unbalance ?? []).entries())
      note?.({
        name: `Heavy spot of plane ${i + 1}`,
        symbol: `U_${i + 1}`,
        formula: 'a U = V',
        numbers: 'the last run',
        value: `${formatNumber(u.size, 5)} ∠ ${formatNumber(u.angleDeg, 5)}°`,
        unit: 'g·mm',
        source: 'derived',
      });
    return {
      stage: is.stage,
      permissibleGMm: is.tolerance.permissibleGMm,
      shareAGMm: is.tolerance.sharesGMm[0],
      shareBGMm: is.tolerance.sharesGMm[1],
      ...(is.condition === undefined || !Number.isFinite(is.condition) ? {} : { condition: is.condition }),
      ...(is.unbalance ? { unbalance: is.unbalance } : {}),
      ...(is.bearings ? { bearings: is.bearings } : {}),
      ...(is.next ? { next: is.next.map((n) => n.says) } : {}),
      verdict: is.verdict,
      reason: is.reason,
    };
  },
});
