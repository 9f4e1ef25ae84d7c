import { z } from 'zod';
import { sameSupply } from './change.ts';
import { defineCalculation, type Calculation } from '../calculation.ts';
import { limit } from '../limits/limits.ts';
import type { Nameplate } from '../machine/nameplate.ts';
import { choice, need, quantity } from '../process/fieldKinds.ts';
import { formatNumber } from '../quantity/format.ts';
import { judgedTogether, judgeUpTo, notAbove, notBelow, type Judged } from '../verdict.ts';
import { ratingOf } from '../winding/recordLayout.ts';
import { judgeRunning, RUNNING_FIELDS, RUNNING_SHAPE, runningInput, runningLacks } from './running.ts';
import { num, type TestKind } from './testKind.ts';

const DIRECTIONS = ['clockwise', 'anticlockwise'] as const;
const positive = z.number().positive().optional();

/** Rated input of a single-phase motor, W: by efficiency, else by volts, amperes and power factor. */
export function ratedInputW(
  nameplate: Nameplate,
  x: { voltageV?: number | undefined; currentA?: number | undefined },
): number | undefined {
  const { outputW, efficiencyPercent, powerFactor } = nameplate;
  if (outputW !== undefined && efficiencyPercent !== undefined) return (100 * outputW) / efficiencyPercent;
  return x.voltageV === undefined || x.currentA === undefined || powerFactor === undefined
    ? undefined
    : x.voltageV * x.currentA * powerFactor;
}

/** Calculation `evaluate.noLoadSingle`. */
export const noLoadSingle = defineCalculation({
  id: 'evaluate.noLoadSingle',
  version: 2,
  title: 'Single-phase motor at no load: current, watts, direction, vibration, bearings',
  sources: ['limits: common practice'],
  input: z.strictObject({
    voltsV: positive,
    ampsA: positive,
    powerW: z.number().min(0).optional(),
    ratedV: positive,
    ratedA: positive,
    ratedInputW: positive,
    serviceFactor: positive,
    loadA: positive.describe('current at rated load'),
    runCapacitor: z.boolean().default(false).describe('a permanent run capacitor'),
    turns: z.enum(DIRECTIONS).optional().describe('seen from the drive end'),
    turnsWanted: z.enum(DIRECTIONS).optional(),
    ...RUNNING_SHAPE,
  }),
  output: z.object({
    verdict: z.enum(['pass', 'attention', 'fail', 'cannot judge']),
    reason: z.string(),
    currentShare: z.number().optional(),
    wattsShare: z.number().optional(),
  }),
  example: {
    voltsV: 230,
    ampsA: 4.9,
    powerW: 235,
    ratedV: 230,
    ratedA: 6.2,
    ratedInputW: 950,
    turns: 'clockwise',
    turnsWanted: 'clockwise',
  },
  compute: (x, note) => {
    if (x.voltsV === undefined || x.ampsA === undefined)
      return { verdict: 'cannot judge' as const, reason: 'The voltage and the current of the run are needed.' };
    const parts: Judged[] = [];
    const values: { currentShare?: number; wattsShare?: number } = {};
    const off = limit('noLoad.voltageOffPercent', x.limits);
    if (x.ratedV !== undefined && !notAbove(100 * Math.abs(x.voltsV / x.ratedV - 1), off))
      parts.push({
        verdict: 'cannot judge',
        reason: `Run at ${formatNumber(x.voltsV, 4)} V; within ${off} % of ${x.ratedV} V is needed to judge current and watts.`,
      });
    else {
      if (x.ratedA === undefined)
        parts.push({ verdict: 'cannot judge', reason: 'The plate names no current to compare with.' });
      else {
        const share = x.ampsA / x.ratedA;
        values.currentShare = share;
        note?.({
          name: 'No-load current, share of rated',
          symbol: '',
          formula: 'I₀ / I',
          numbers: `${x.ampsA} / ${x.ratedA}`,
          value: share,
          unit: '',
          source: 'definition',
        });
        const low = limit('single.noLoadLowShare', x.limits);
        const passAt = limit('single.noLoadPassShare', x.limits);
        const failAt = limit(x.runCapacitor ? 'single.noLoadFailShareRun' : 'single.noLoadFailShare', x.limits);
        const verdict = notBelow(share, low) ? judgeUpTo(share, passAt, failAt) : 'attention';
        parts.push({
          verdict,
          reason: `Current ${formatNumber(x.ampsA, 3)} A, ${formatNumber(share, 3)} of rated; ${low} to ${passAt} is usual, above ${failAt} it fails (common practice).`,
        });
      }
      if (x.powerW !== undefined && x.ratedInputW !== undefined) {
        const share = x.powerW / x.ratedInputW;
        values.wattsShare = share;
        const passAt = limit('single.wattsPassShare', x.limits);
        const failAt = limit('single.wattsFailShare', x.limits);
        const verdict = judgeUpTo(share, passAt, failAt);
        parts.push({
          verdict,
          reason: `${formatNumber(x.powerW, 4)} W, ${formatNumber(share, 3)} of the rated input, ${verdict === 'pass' ? 'at most' : 'above'} ${verdict === 'fail' ? failAt : passAt} (common practice).`,
        });
      }
    }
    if (x.loadA !== undefined && x.ratedA !== undefined) {
      const rated = x.ratedA * Math.max(1, x.serviceFactor ?? 1);
      const verdict = judgeUpTo(
        x.loadA,
        rated,
        x.ratedA * limit('single.loadFailShare', x.limits) * Math.max(1, x.serviceFactor ?? 1),
      );
      parts.push({
        verdict,
        reason: `${formatNumber(x.loadA, 3)} A at rated load, rated ${formatNumber(rated, 3)} A${(x.serviceFactor ?? 1) > 1 ? ' with the service factor' : ''}.`,
      });
    }
    if (x.turnsWanted === undefined || x.turns === undefined)
      parts.push({
        verdict: 'cannot judge',
        reason: 'Say how it turns and how it must turn, seen from the drive end.',
      });
    else
      parts.push(
        x.turns === x.turnsWanted
          ? { verdict: 'pass', reason: `Turns ${x.turns}, as wanted.` }
          : {
              verdict: 'fail',
              reason: `Turns ${x.turns}, wanted ${x.turnsWanted}: exchange the auxiliary's ends (T5, T8), not the supply.`,
            },
      );
    parts.push(...judgeRunning(x));
    return { ...judgedTogether(parts), ...values };
  },
});

/** No-load run of a single-phase motor in the test matrix. */
export const noLoadSingleTest: TestKind = {
  id: 'noLoadSingle',
  title: 'No-load run',
  calculation: noLoadSingle as unknown as Calculation,
  alike: sameSupply('volts'),
  derived: [
    { name: 'currentShare', title: 'No-load current, share of rated', unit: '' },
    { name: 'wattsShare', title: 'No-load watts, share of rated input', unit: '' },
  ],
  for: ({ machine }) => machine === 'single-phase',
  needsWholeMotor: true,
  caution: 'Rotating: guard on, key secured. First start at reduced voltage where the start switch allows it.',
  stages: { IN: 'optional', AA: 'required', FI: 'required' },
  fields: [
    quantity('volts', 'Voltage', 'voltage', 'V', need),
    quantity('amps', 'Current', 'current', 'A', need),
    quantity('watts', 'Power', 'power', 'W'),
    choice('turns', 'Turns, seen from the drive end', [...DIRECTIONS], need),
    choice('turnsWanted', 'Must turn', [...DIRECTIONS], need),
    quantity('loadA', 'Current at rated load', 'current', 'A'),
    ...RUNNING_FIELDS,
  ],
  lacks: runningLacks,
  input: (v, c) => {
    const rating = ratingOf(c.nameplate, c.record ?? { kind: 'single-phase' });
    return {
      voltsV: num(v, 'volts'),
      ampsA: num(v, 'amps'),
      powerW: num(v, 'watts'),
      ratedV: rating.voltageV,
      ratedA: rating.currentA,
      ratedInputW: ratedInputW(c.nameplate, rating),
      serviceFactor: c.nameplate.serviceFactor,
      loadA: num(v, 'loadA'),
      runCapacitor: c.record?.auxKind === 'capacitor run' || c.record?.auxKind === 'capacitor start and run',
      turns: v['turns'],
      turnsWanted: v['turnsWanted'],
      ...runningInput(v, c),
    };
  },
};
