import { z } from 'zod';
import { defineCalculation, type Calculation } from '../calculation.ts';
import { num, type TestKind } from '../evaluate/testKind.ts';
import { limit, quoteLimit, type LimitId, type ShopLimits } from '../limits/limits.ts';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import { celsius, choice, millimetre, need, notes, quantity, text } from '../process/fieldKinds.ts';
import { formatAgainst, formatNumber } from '../quantity/format.ts';
import { judgedTogether, judgeUpTo, notAbove, notBelow, outOfCalibration, type Judged } from '../verdict.ts';
import { HOUSING_FITS, JOURNAL_FITS, judgeFit, seat, sizeHasFit, sizesSaid, USUAL_FITS } from './bearingFits.ts';

/** Run-out of the shaft extension at its middle, mm, from each diameter up, normal class. Source: IEC 60072-1 (from memory). */
const SHAFT_RUN_OUT: readonly (readonly [number, number])[] = [
  [120, 0.08],
  [80, 0.07],
  [50, 0.06],
  [30, 0.05],
  [18, 0.04],
  [10, 0.035],
  [0, 0.03],
];
/** Run-out that a shaft extension of a diameter may have, mm; a diameter on the border belongs to the smaller row. */
export const shaftRunOutMm = (diameterMm: number): number =>
  SHAFT_RUN_OUT.find(([over]) => diameterMm > over)?.[1] ?? 0.03;

const mm = z.number().min(0).max(10_000).optional();
const four = z.array(z.number().positive().max(100)).length(4);
const answer = z.enum(['yes', 'no', 'not fitted']).optional();

/** Calculation `evaluate.assembly`. */
export const assemblyFigures = defineCalculation({
  id: 'evaluate.assembly',
  version: 2,
  title: 'Assembly: bearing fits and heating, end float, air gap, shaft, soft foot, fittings, noise',
  sources: ['shaft run-out: IEC 60072-1 (from memory)', 'fits: ISO 286-2 (from memory)', 'the others: common practice'],
  input: z.strictObject({
    fits: z.array(seat).max(8).default([]).describe('seats of the bearings as they were measured'),
    heatedC: z.number().min(-60).max(400).optional(),
    endFloatMm: mm,
    gapDriveMm: four.optional().describe('four points at the drive end'),
    gapOtherMm: four.optional().describe('four points at the other end'),
    rotorRunOutMm: mm,
    shaftMm: z.number().positive().max(2000).optional(),
    shaftLowMm: z.number().positive().max(2000).optional(),
    shaftHighMm: z.number().positive().max(2000).optional(),
    shaftRunOutMm: mm,
    softFootMm: mm,
    torqueNm: z.number().min(0).max(1e6).optional(),
    torqueWantedNm: z.number().positive().max(1e6).optional(),
    rotation: answer.describe('turns as ordered'),
    brakePercent: z.number().min(0).max(200).optional().describe('lifts at, of its rated voltage'),
    blower: answer.describe('blower turns its right way'),
    encoder: answer.describe('encoder counts as ordered'),
    noiseDb: z.number().min(0).max(160).optional(),
    noiseMostDb: z.number().min(0).max(160).optional(),
    calibrationExpired: z.boolean().default(false),
    limits: shopLimitsSchema.default({}),
  }),
  output: z.object({
    verdict: z.enum(['pass', 'attention', 'fail', 'cannot judge']),
    reason: z.string(),
    gapMeanMm: z.number().optional(),
    gapOffPercent: z.number().optional(),
  }),
  example: {
    fits: [
      { end: 'drive', of: 'journal', fit: 'k5', nominalMm: 45, measuredMm: 45.008 },
      { end: 'drive', of: 'housing', fit: 'H6', nominalMm: 100, measuredMm: 100.012 },
    ],
    heatedC: 105,
    endFloatMm: 0.25,
    gapDriveMm: [0.44, 0.46, 0.45, 0.43],
    gapOtherMm: [0.45, 0.45, 0.44, 0.46],
    shaftMm: 42.012,
    shaftLowMm: 42.002,
    shaftHighMm: 42.018,
    shaftRunOutMm: 0.02,
    softFootMm: 0.03,
    rotation: 'yes',
  },
  compute: (x, note) => {
    const gaps = [...gapOf('drive end', x.gapDriveMm, x.limits), ...gapOf('other end', x.gapOtherMm, x.limits)];
    const all = [...(x.gapDriveMm ?? []), ...(x.gapOtherMm ?? [])];
    const mean = all.length === 0 ? undefined : all.reduce((s, g) => s + g, 0) / all.length;
    if (mean !== undefined)
      note?.({
        name: 'Mean air gap',
        symbol: 'g',
        formula: 'mean of the points',
        numbers: all.map((g) => formatNumber(g, 3)).join(', '),
        value: mean,
        unit: 'mm',
        source: 'definition',
      });
    const parts: Judged[] = [
      ...x.fits.map((f) => judgeFit(f, x.limits)),
      ...most('Bearing heated to', x.heatedC, '°C', 'assembly.bearingHeatC', x.limits),
      ...between('End float', x.endFloatMm, ['assembly.endFloatLowMm', 'assembly.endFloatHighMm'], x.limits),
      ...gaps.map((g) => g.judged),
      ...(x.rotorRunOutMm === undefined
        ? []
        : mean === undefined
          ? [
              {
                verdict: 'cannot judge' as const,
                reason: 'The run-out of the rotor is judged against the air gap: measure it.',
              },
            ]
          : most(
              'Run-out of the rotor, of the mean gap,',
              (100 * x.rotorRunOutMm) / mean,
              '%',
              'assembly.rotorRunOutPercent',
              x.limits,
            )),
      ...shaft(x),
      ...(x.softFootMm === undefined
        ? []
        : [
            {
              verdict: judgeUpTo(
                x.softFootMm,
                limit('assembly.softFootMm', x.limits),
                limit('assembly.softFootMostMm', x.limits),
              ),
              reason: `Soft foot ${formatNumber(x.softFootMm, 3)} mm, good up to ${quoteLimit('assembly.softFootMm', x.limits)}.`,
            },
          ]),
      ...(x.torqueNm !== undefined && x.torqueWantedNm !== undefined
        ? [
            {
              verdict: notAbove(
                100 * Math.abs(x.torqueNm / x.torqueWantedNm - 1),
                limit('assembly.torquePercent', x.limits),
              )
                ? ('pass' as const)
                : ('fail' as const),
              reason: `Bolts at ${formatNumber(x.torqueNm, 3)} N m of ${formatNumber(x.torqueWantedNm, 3)} wanted, within ${quoteLimit('assembly.torquePercent', x.limits)}.`,
            },
          ]
        : []),
      ...most('Brake lifts at', x.brakePercent, '% of its voltage', 'assembly.brakePercent', x.limits),
      ...said('turns as ordered', x.rotation),
      ...said('blower turns its right way', x.blower),
      ...said('encoder counts as ordered', x.encoder),
      ...(x.noiseDb === undefined
        ? []
        : x.noiseMostDb === undefined
          ? [
              {
                verdict: 'cannot judge' as const,
                reason: `Noise ${formatNumber(x.noiseDb, 3)} dB(A): no limit was ordered.`,
              },
            ]
          : [
              {
                verdict: notAbove(x.noiseDb, x.noiseMostDb) ? ('pass' as const) : ('fail' as const),
                reason: `Noise ${formatAgainst(x.noiseDb, x.noiseMostDb).join(' dB(A), at most ')} dB(A) as ordered.`,
              },
            ]),
    ];
    if (parts.length === 0) return { verdict: 'cannot judge' as const, reason: 'Nothing was measured.' };
    return {
      ...judgedTogether([...parts, ...outOfCalibration(x.calibrationExpired)]),
      ...(mean === undefined ? {} : { gapMeanMm: mean }),
      ...(gaps.length === 0 ? {} : { gapOffPercent: Math.max(...gaps.map((g) => g.percent)) }),
    };
  },
});

function gapOf(end: string, points: readonly number[] | undefined, limits: ShopLimits) {
  if (!points) return [];
  const mean = points.reduce((s, g) => s + g, 0) / points.length;
  const percent = Math.max(...points.map((g) => (100 * Math.abs(g - mean)) / mean));
  const bound = limit('route.airGapPercent', limits);
  const [shown] = formatAgainst(percent, bound);
  return [
    {
      percent,
      judged: {
        verdict: notAbove(percent, bound) ? ('pass' as const) : ('fail' as const),
        reason: `Air gap at the ${end} up to ${shown} % off its mean ${formatNumber(mean, 3)} mm, at most ${quoteLimit('route.airGapPercent', limits)}.`,
      },
    },
  ];
}
const most = (what: string, value: number | undefined, unit: string, id: LimitId, limits: ShopLimits): Judged[] =>
  value === undefined
    ? []
    : [
        {
          verdict: notAbove(value, limit(id, limits)) ? 'pass' : 'fail',
          reason: `${what} ${formatAgainst(value, limit(id, limits))[0]} ${unit}, at most ${quoteLimit(id, limits)}.`,
        },
      ];
const between = (
  what: string,
  value: number | undefined,
  [low, high]: readonly [LimitId, LimitId],
  limits: ShopLimits,
): Judged[] =>
  value === undefined
    ? []
    : [
        {
          verdict: notBelow(value, limit(low, limits)) && notAbove(value, limit(high, limits)) ? 'pass' : 'attention',
          reason: `${what} ${formatNumber(value, 3)} mm, usual ${limit(low, limits)} to ${quoteLimit(high, limits)}.`,
        },
      ];
const said = (what: string, value: 'yes' | 'no' | 'not fitted' | undefined): Judged[] =>
  value === undefined || value === 'not fitted'
    ? []
    : [{ verdict: value === 'yes' ? 'pass' : 'fail', reason: value === 'yes' ? `It ${what}.` : `Not: ${what}.` }];

function shaft(x: {
  shaftMm?: number | undefined;
  shaftLowMm?: number | undefined;
  shaftHighMm?: number | undefined;
  shaftRunOutMm?: number | undefined;
}): Judged[] {
  const { shaftMm: d, shaftLowMm: low, shaftHighMm: high, shaftRunOutMm: out } = x;
  const fits: Judged[] =
    d === undefined || low === undefined || high === undefined
      ? []
      : [
          {
            verdict: notBelow(d, low) && notAbove(d, high) ? 'pass' : 'fail',
            reason: `Shaft ${d} mm, ${low} to ${high} mm wanted.`,
          },
        ];
  if (out === undefined) return fits;
  if (d === undefined)
    return [
      ...fits,
      { verdict: 'cannot judge', reason: 'The run-out of the shaft is judged by its diameter: measure it.' },
    ];
  const bound = shaftRunOutMm(d);
  return [
    ...fits,
    {
      verdict: notAbove(out, bound) ? 'pass' : 'fail',
      reason: `Run-out of the shaft ${formatNumber(out, 3)} mm, at most ${bound} mm (IEC 60072-1, from memory).`,
    },
  ];
}

const SEATS = (['drive', 'other'] as const).flatMap((end) =>
  (['journal', 'housing'] as const).map((of) => ({
    end,
    of,
    name: `${of}${end === 'drive' ? 'D' : 'O'}`,
    label: `${end === 'drive' ? 'Drive' : 'Other'} end, ${of}`,
  })),
);
const YES = ['yes', 'no', 'not fitted'] as const;
const gap = (name: string, end: string) =>
  [1, 2, 3, 4].map((n) => millimetre(`${name}${n}`, `Gap, ${end}, ${3 * n} o’clock`));
const gapsRead = (
  v: Parameters<NonNullable<TestKind['input']>>[0],
  name: string,
): (number | undefined)[] | undefined => {
  const read = [1, 2, 3, 4].map((n) => num(v, `${name}${n}`));
  return read.every((g) => g === undefined) ? undefined : read.map((g) => (g === undefined ? undefined : g * 1000));
};
const inMm = (n: number | undefined): number | undefined => (n === undefined ? undefined : n * 1000);

/** Figures of the assembly, in the test matrix. */
export const assemblyTest: TestKind = {
  id: 'assembly',
  title: 'Assembly figures',
  stages: { AA: 'optional', FI: 'optional' },
  calculation: assemblyFigures as unknown as Calculation,
  for: () => true,
  needsWholeMotor: true,
  fields: [
    ...SEATS.flatMap(({ end, of, name, label }) => [
      millimetre(`${name}Nominal`, `${label}: bearing ${of === 'journal' ? 'bore' : 'outside'}`),
      millimetre(name, `${label}, measured`, end === 'drive' ? { hint: 'mean of three planes, two directions' } : {}),
    ]),
    choice('journalFit', 'Fit of the journals', JOURNAL_FITS, {
      hint: `blank: ${USUAL_FITS.journal} (common practice)`,
    }),
    choice('housingFit', 'Fit of the housings', HOUSING_FITS, {
      hint: `blank: ${USUAL_FITS.housing} (common practice)`,
    }),
    celsius('heated', 'Bearing heated to'),
    millimetre('endFloat', 'End float'),
    ...gap('gapD', 'drive end'),
    ...gap('gapO', 'other end'),
    millimetre('rotorRunOut', 'Run-out of the rotor outside'),
    millimetre('shaft', 'Shaft diameter'),
    millimetre('shaftLow', 'Shaft from'),
    millimetre('shaftHigh', 'Shaft to'),
    millimetre('shaftRunOut', 'Run-out of the shaft'),
    millimetre('softFoot', 'Soft foot, the largest'),
    quantity('torque', 'Bolt torque', 'torque', 'N·m'),
    quantity('torqueWanted', 'Bolt torque wanted', 'torque', 'N·m'),
    choice('rotation', 'Turns as ordered', YES),
    quantity('brake', 'Brake lifts at, of its voltage', 'percent', '%'),
    choice('blower', 'Blower turns its right way', YES),
    choice('encoder', 'Encoder counts as ordered', YES),
    quantity('noise', 'Noise, dB(A)', 'number', ''),
    quantity('noiseMost', 'Noise ordered at most, dB(A)', 'number', ''),
    text('instrument', 'Instrument', need),
    notes(),
  ],
  lacks: (v) => {
    for (const { name, label } of SEATS) {
      const [nominal, read] = [num(v, `${name}Nominal`), num(v, name)];
      if (read !== undefined && nominal === undefined)
        return { field: `${name}Nominal`, message: `${label}: the size of the bearing there is wanted too.` };
      if (nominal !== undefined && !sizeHasFit(nominal * 1000))
        return { field: `${name}Nominal`, message: `${label}: ${sizesSaid()}.` };
    }
    for (const [name, end] of [
      ['gapD', 'drive end'],
      ['gapO', 'other end'],
    ] as const) {
      const read = gapsRead(v, name);
      const missing = read?.findIndex((g) => g === undefined) ?? -1;
      if (missing >= 0)
        return {
          field: `${name}${missing + 1}`,
          message: `The air gap at the ${end} is taken at four points; one is missing.`,
        };
    }
    return undefined;
  },
  derived: [{ name: 'gapOffPercent', title: 'Air gap, furthest off its mean', unit: '%' }],
  input: (v) => ({
    fits: SEATS.flatMap(({ end, of, name }) => {
      const [nominalMm, measuredMm] = [inMm(num(v, `${name}Nominal`)), inMm(num(v, name))];
      return nominalMm === undefined || measuredMm === undefined
        ? []
        : [{ end, of, fit: v[`${of}Fit`] ?? USUAL_FITS[of], nominalMm, measuredMm }];
    }),
    heatedC: num(v, 'heated'),
    endFloatMm: inMm(num(v, 'endFloat')),
    gapDriveMm: gapsRead(v, 'gapD'),
    gapOtherMm: gapsRead(v, 'gapO'),
    rotorRunOutMm: inMm(num(v, 'rotorRunOut')),
    shaftMm: inMm(num(v, 'shaft')),
    shaftLowMm: inMm(num(v, 'shaftLow')),
    shaftHighMm: inMm(num(v, 'shaftHigh')),
    shaftRunOutMm: inMm(num(v, 'shaftRunOut')),
    softFootMm: inMm(num(v, 'softFoot')),
    torqueNm: num(v, 'torque'),
    torqueWantedNm: num(v, 'torqueWanted'),
    rotation: v['rotation'],
    brakePercent: num(v, 'brake'),
    blower: v['blower'],
    encoder: v['encoder'],
    noiseDb: num(v, 'noise'),
    noiseMostDb: num(v, 'noiseMost'),
  }),
  caution:
    'Hot bearings burn; a rotor is lifted, not pushed; nobody under the load. Local codes and licensed practice decide.',
};
