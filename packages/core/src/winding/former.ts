import { z } from 'zod';
import { defineCalculation, refuse } from '../calculation.ts';
import { nameplateSchema, type Nameplate } from '../machine/nameplate.ts';
import { insulatedDiameterM } from '../wire/insulatedDiameter.ts';
import { DEFAULT_END_TURN } from './endTurn.ts';
import { EXAMPLE_RECORD } from './exampleRecord.ts';
import { windingFigures } from './figures.ts';
import { layoutOfRecord } from './recordLayout.ts';
import { windingRecordSchema, type WindingRecord } from './record.ts';

/** Head of the former for one coil of a group. */
export interface FormerHead {
  coil: number;
  spanSlots: number;
  turns: number;
  shape: 'diamond' | 'rounded';
  meanTurnM: number;
  /** between the straight sides, mean of the build, m */
  chordM: number;
  /** straight side, core and straight parts, m */
  straightM: number;
  /** slant of the end to the circumference, degrees; diamond only */
  slantDeg: number;
  /** each of the four slants, knuckle to nose, m; diamond only */
  slantM: number;
  /** how far the coil stands beyond the straight side, m */
  endM: number;
  /** thickness of the wound bundle, m */
  buildM: number;
  /** inside, where the first wire lies */
  insidePerimeterM: number;
  insideWidthM: number;
}

export interface FormerSheet {
  heads: FormerHead[];
  /** mean turn wanted, and that of the heads weighted by turns */
  meanTurnM: number;
  headsMeanTurnM: number;
}

/** Corners of a former head are rounded at least so much, m (common practice). */
export const LEAST_CORNER_M = 0.008;

/**
 * Former heads of one group from the mean turn. Diamond: straight L + 2x fixed, the slant φ solves
 * MLT = 2(L + 2x) + 2(τ_c/cos φ + n_l). Concentric, rounded: MLT_i = 2(L + 2x) + π τ_ci with the straight part x
 * shifted until the group's mean is the mean turn. Inside perimeter P₀ = MLT − π b (parallel curve).
 * Source: coil geometry, docs/derivations.md 11.
 * @throws CalculationInputError when the mean turn is shorter than the coil can be
 */
export function formerSheet(
  record: WindingRecord,
  nameplate: Nameplate,
  own: { straightM?: number | undefined; buildM?: number | undefined } = {},
): FormerSheet {
  const laid = layoutOfRecord(record);
  const figures = windingFigures.compute(windingFigures.input.parse({ record, nameplate }));
  const { boreM, coreLengthM, slotDepthM, slots, strands } = record;
  const missing = (
    [
      [record.coilList ? 'coilList' : 'spansSlots', laid.layout],
      ['boreM', boreM],
      ['coreLengthM', coreLengthM],
      ['slotDepthM', slotDepthM],
      ['turns', record.turns?.length ? record.turns : undefined],
      ['strands', strands?.length ? strands : undefined],
      ['copperKg', figures.meanTurnM],
    ] as const
  ).filter(([, v]) => v === undefined);
  if (missing.length > 0 || !laid.layout || slots === undefined)
    return refuse(`record.${missing[0]?.[0] ?? 'slots'}`, `The former needs: ${missing.map(([k]) => k).join(', ')}.`);
  const layout = laid.layout;
  const mean = figures.meanTurnM as number;
  const group = layout.groups.reduce((a, b) => (b.coils.length > a.coils.length ? b : a));
  const coils = group.coils.map((c) => layout.coils[c - 1] as (typeof layout.coils)[number]);
  const grade = record.wireGrade === '1' ? 1 : 2;
  const squares = (strands ?? []).reduce((a, s) => a + s.count * insulatedDiameterM(s.bareM, grade) ** 2, 0);
  const x = own.straightM ?? DEFAULT_END_TURN.straightM;
  const straight = (coreLengthM as number) + 2 * x;
  const chord = (span: number) => (Math.PI * ((boreM as number) + (slotDepthM as number)) * span) / slots;
  const build = (turns: number) => own.buildM ?? Math.sqrt(turns * squares);
  const lap = layout.form === 'lap';
  // a list may hold groups of unlike coils: each kind has a head of its own
  const pool = layout.from === 'coil list' ? layout.coils : coils;
  const alike = new Map(pool.map((c) => [`${c.spanSlots}/${c.turns}`, c]));
  const used = lap ? [...alike.values()] : coils;
  const rounded = (span: number, more: number) => 2 * (straight + more) + Math.PI * chord(span);
  const turnsAll = coils.reduce((n, c) => n + c.turns, 0);
  const weighted = coils.reduce((n, c) => n + c.turns * rounded(c.spanSlots, 0), 0) / turnsAll;
  const shift = (mean - weighted) / 2;
  const heads = used.map((c, i): FormerHead => {
    const b = build(c.turns);
    const tau = chord(c.spanSlots);
    const base = { coil: i + 1, spanSlots: c.spanSlots, turns: c.turns, chordM: tau, buildM: b, insideWidthM: tau - b };
    if (!lap) {
      const side = straight + shift;
      if (side < (coreLengthM as number))
        return refuse(
          'record.copperKg',
          `A mean turn of ${(mean * 1000).toFixed(0)} mm is shorter than rounded ends on this core can be (${(weighted * 1000).toFixed(0)} mm).`,
        );
      const turn = rounded(c.spanSlots, shift);
      return {
        ...base,
        shape: 'rounded',
        meanTurnM: turn,
        straightM: side,
        slantDeg: 0,
        slantM: 0,
        endM: tau / 2,
        insidePerimeterM: turn - Math.PI * b,
      };
    }
    const end = (mean - 2 * straight) / 2 - DEFAULT_END_TURN.noseM;
    if (end <= tau)
      return refuse(
        'record.copperKg',
        `A mean turn of ${(mean * 1000).toFixed(0)} mm leaves ${(end * 1000).toFixed(0)} mm for an end that must bridge ${(tau * 1000).toFixed(0)} mm: look at the copper weighed, the span or the straight part.`,
      );
    const phi = Math.acos(tau / end);
    return {
      ...base,
      shape: 'diamond',
      meanTurnM: mean,
      straightM: straight,
      slantDeg: (phi * 180) / Math.PI,
      slantM: end / 2,
      endM: (tau / 2) * Math.tan(phi) + DEFAULT_END_TURN.noseM / 2,
      insidePerimeterM: mean - Math.PI * b,
    };
  });
  const headsMean = lap ? mean : coils.reduce((n, c) => n + c.turns * rounded(c.spanSlots, shift), 0) / turnsAll;
  return { heads, meanTurnM: mean, headsMeanTurnM: headsMean };
}

/** Calculation `winding.former`. */
export const windingFormer = defineCalculation({
  id: 'winding.former',
  version: 1,
  title: 'Coil former: head dimensions of every coil of a group from the mean turn',
  sources: ['coil geometry, parallel curve (derived)', 'straight part, nose and corner: common practice'],
  input: z.strictObject({
    record: windingRecordSchema,
    nameplate: nameplateSchema.prefault({}),
    straightM: z.number().min(0).max(0.2).optional().describe('straight part leaving the core, each end'),
    buildM: z.number().positive().max(0.1).optional().describe('thickness of the bundle; left out = square'),
  }),
  output: z.object({ heads: z.array(z.unknown()), meanTurnM: z.number(), headsMeanTurnM: z.number() }),
  example: { record: EXAMPLE_RECORD },
  compute: ({ record, nameplate, straightM, buildM }, note) => {
    const sheet = formerSheet(record, nameplate, { straightM, buildM });
    const [first] = sheet.heads;
    if (first)
      note?.({
        name: 'Inside perimeter of the first head',
        symbol: 'P₀',
        formula: 'MLT − π·b',
        numbers: `${(first.meanTurnM * 1000).toFixed(1)} − π·${(first.buildM * 1000).toFixed(2)}`,
        value: first.insidePerimeterM * 1000,
        unit: 'mm',
        source: 'parallel-curve rule',
      });
    return sheet;
  },
});
