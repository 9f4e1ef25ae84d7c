import { z } from 'zod';
import { defineCalculation, refuse } from '../calculation.ts';
import { limit, type ShopLimits } from '../limits/limits.ts';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import { nameplateSchema, type Nameplate } from '../machine/nameplate.ts';
import { notAbove } from '../verdict.ts';
import { insulatedDiameterM } from '../wire/insulatedDiameter.ts';
import { strandSchema } from '../wire/strandSchema.ts';
import { conductorAreaM2, type Strand } from '../wire/strands.ts';
import { possibleCircuits } from '../winding/connection.ts';
import { CONDUCTORS } from '../winding/copper.ts';
import { workingFactor } from '../winding/factors.ts';
import { windingFigures } from '../winding/figures.ts';
import { windingRecordSchema, type WindingRecord } from '../winding/record.ts';
import { inHalves, layoutOfRecord } from '../winding/recordLayout.ts';
import { twoSpeedOf } from '../winding/twoSpeed.ts';
import { allMixes, substitutes, type WireSize } from './substitute.ts';
import { widestWireM } from './search.ts';

/** Copper for the same resistance of an aluminium winding: the ratio of resistivities. Source: IEC 60028, 62 % IACS. */
export const EQUAL_RESISTANCE_SHARE = CONDUCTORS.copper.resistivityOhmM / CONDUCTORS.aluminium.resistivityOhmM;

/** What aluminium becomes when it is wound in copper: as good, or as much as went in. */
export const COPPER_KEEPS = ['resistance', 'space'] as const;
export type CopperKeeps = (typeof COPPER_KEEPS)[number];

/** Another winding of the same layout: wires, metal and turns; what is left out stays as found. */
export const rewireSchema = z.strictObject({
  strands: z.array(strandSchema).min(1).max(3).optional(),
  auxStrands: z.array(strandSchema).min(1).max(3).optional(),
  material: z.enum(['copper', 'aluminium']).optional(),
  turns: z.array(z.int().min(1).max(2000)).min(1).max(144).optional(),
  auxTurns: z.array(z.int().min(1).max(2000)).min(1).max(24).optional(),
});
export type Rewire = z.output<typeof rewireSchema>;

/**
 * Places in a group of n coils that get the extra turn when m of them do: the middle first, then pairs outward; of a pair that cannot
 * be taken whole the lower side. Source: derived (docs/derivations.md, T and T+1).
 * @example extraTurnPlaces(3, 2) // [0, 2]
 */
export function extraTurnPlaces(n: number, m: number): number[] {
  const out: number[] = [];
  const odd = n % 2 === 1;
  if (odd && m % 2 === 1) out.push((n - 1) / 2);
  for (let low = odd ? (n - 3) / 2 : n / 2 - 1; low >= 0 && out.length < m; low--) {
    out.push(low);
    if (out.length < m) out.push(n - 1 - low);
  }
  if (odd && out.length < m) out.push((n - 1) / 2);
  return out.sort((a, b) => a - b);
}

/** Graded coils by a factor: rounded down, the largest remainders rounded up until the whole is round(k Σ T). */
export function scaledTurns(turns: readonly number[], factor: number): number[] {
  const exact = turns.map((t) => t * factor);
  const whole = exact.map(Math.floor);
  let left = Math.round(exact.reduce((a, b) => a + b, 0)) - whole.reduce((a, b) => a + b, 0);
  const order = exact.map((x, i) => ({ i, rest: x - Math.floor(x) })).sort((a, b) => b.rest - a.rest || a.i - b.i);
  for (const { i } of order) {
    if (left <= 0) break;
    whole[i] = (whole[i] ?? 0) + 1;
    left -= 1;
  }
  return whole.map((t) => Math.max(1, t));
}

export interface TurnChoice {
  turns: number[];
  auxTurns: number[] | undefined;
  /** flux against the wanted one by effective turns, per cent */
  fluxErrorPercent: number;
  /** turns ratio auxiliary to main against as found, per cent */
  ratioErrorPercent: number | undefined;
  says: string;
}

/** Effective turns of the working wave: Σ of all coils times their factor. */
function effectiveTurns(record: WindingRecord): number | undefined {
  const { layout } = layoutOfRecord(record);
  if (!layout) return undefined;
  const own = layout.coils.filter((c) => layout.kind !== 'single-phase' || c.phase === 'A');
  return own.reduce((n, c) => n + c.turns, 0) * workingFactor(layout);
}

/** Whether the phases, and the circuits that are wound, stay equal. */
function staysEqual(record: WindingRecord): boolean {
  const { layout } = layoutOfRecord(record);
  if (!layout) return false;
  if (layout.kind === 'single-phase') return true;
  if (layout.kind === 'two-speed') return twoSpeedOf(layout).highBalanced;
  const circuits = (record.circuits ?? 1) * (inHalves(record) ? 2 : 1);
  return layout.balance.balanced && possibleCircuits(layout).some((c) => c.circuits === circuits);
}

/**
 * Turns of the same layout for other turns by a factor (another voltage, frequency or EMF constant): equal coils as T, T+1 and the
 * groups between them, graded coils by the largest remainder. Flux by effective turns, never by T alone. Best first.
 */
export function turnChoices(record: WindingRecord, factor: number): TurnChoice[] {
  const turns = record.turns ?? [];
  const was = effectiveTurns(record);
  if (turns.length === 0 || was === undefined) return [];
  const { layout } = layoutOfRecord(record);
  const choices: { turns: number[]; auxTurns?: number[] | undefined; says: string }[] = [];
  const equal = new Set(turns).size === 1;
  const first = turns[0] ?? 1;
  if (equal && layout && record.kind !== 'single-phase') {
    const exact = first * factor;
    const low = Math.max(1, Math.floor(exact + 1e-9));
    const sizes = [...new Set(layout.groups.map((g) => g.coils.length))];
    const n = sizes.length === 1 ? (sizes[0] ?? 1) : 1;
    choices.push(
      { turns: [low], says: `${low} in every coil` },
      { turns: [low + 1], says: `${low + 1} in every coil` },
    );
    for (let m = 1; m < n; m++) {
      const places = extraTurnPlaces(n, m);
      choices.push({
        turns: Array.from({ length: n }, (_, i) => (places.includes(i) ? low + 1 : low)),
        says: `${low + 1} in coil ${places.map((i) => i + 1).join(' and ')} of every group, ${low} in the others`,
      });
    }
    // groups of unlike size: the same coils of every group of one size get the extra turn
    if (sizes.length > 1)
      for (const size of sizes)
        choices.push({
          turns: layout.coils.map((c) =>
            layout.groups.find((g) => g.number === c.group)?.coils.length === size ? low + 1 : low,
          ),
          says: `${low + 1} in the groups of ${size}, ${low} in the others`,
        });
  } else
    choices.push({
      turns: scaledTurns(turns, factor),
      auxTurns: record.auxTurns && record.auxTurns.length > 0 ? scaledTurns(record.auxTurns, factor) : undefined,
      says: 'graded, largest remainder rounded up',
    });
  const ratioOf = (r: WindingRecord) =>
    windingFigures.compute(windingFigures.input.parse({ record: r, nameplate: {} })).turnsRatio;
  const wasRatio = record.kind === 'single-phase' ? ratioOf(record) : undefined;
  return choices
    .flatMap((c): TurnChoice[] => {
      const next = { ...record, turns: c.turns, ...(c.auxTurns ? { auxTurns: c.auxTurns } : {}) } as WindingRecord;
      const is = effectiveTurns(next);
      if (is === undefined || !staysEqual(next)) return [];
      const ratio = wasRatio === undefined ? undefined : ratioOf(next);
      return [
        {
          ...c,
          auxTurns: c.auxTurns,
          fluxErrorPercent: 100 * ((was * factor) / is - 1),
          ratioErrorPercent: ratio === undefined || wasRatio === undefined ? undefined : 100 * (ratio / wasRatio - 1),
        },
      ];
    })
    .sort((a, b) => Math.abs(a.fluxErrorPercent) - Math.abs(b.fluxErrorPercent) || a.turns.length - b.turns.length);
}

/** Conductor area aimed at, m²: the slot's copper as found, shared by the new turns; aluminium to copper as it is wished. */
export function targetAreaM2(
  record: WindingRecord,
  strands: readonly Strand[],
  x: { turnsFactor: number; to: 'copper' | 'aluminium'; keeps: CopperKeeps },
): number {
  const area = conductorAreaM2(strands) / x.turnsFactor;
  const from = record.material ?? 'copper';
  if (from === x.to) return area;
  const share = from === 'aluminium' ? EQUAL_RESISTANCE_SHARE : 1 / EQUAL_RESISTANCE_SHARE;
  return x.keeps === 'resistance' ? area * share : area;
}

/** The record of the same winding with other wire or turns; what was weighed or measured of the old one is dropped. */
export function rewiredRecord(record: WindingRecord, w: Rewire, meanTurnM: number | undefined): WindingRecord {
  const dropped = new Set([
    'turnsSecondCount',
    'wireTipsPerLead',
    'copperKg',
    'copperState',
    'resistanceOhm',
    'resistanceTemperatureC',
  ]);
  const kept = Object.fromEntries(Object.entries(record).filter(([k]) => !dropped.has(k)));
  return windingRecordSchema.parse({
    ...kept,
    ...Object.fromEntries(Object.entries(w).filter(([, v]) => v !== undefined)),
    ...(meanTurnM === undefined || record.kind === 'single-phase' ? {} : { sampleCoilM: meanTurnM }),
  });
}

export interface RewireJudgement {
  record: WindingRecord;
  /** R at 20 °C and J against as found, per cent */
  resistanceChangePercent: number | undefined;
  densityChangePercent: number | undefined;
  fill: number | undefined;
  auxResistanceChangePercent: number | undefined;
  fluxChangePercent: number;
  copperKg: number | undefined;
  warnings: string[];
  /** the limit that it breaks; it is not released */
  refused: string | undefined;
}

/** Judges the same winding with other wire, metal or turns. Source: docs/derivations.md, other wire; limits of the shop. */
export function judgeRewire(
  record: WindingRecord,
  nameplate: Nameplate,
  w: Rewire,
  limits: ShopLimits = {},
): RewireJudgement {
  const figuresOf = (r: WindingRecord) => windingFigures.compute(windingFigures.input.parse({ record: r, nameplate }));
  const was = figuresOf(record);
  const next = rewiredRecord(record, w, was.meanTurnM);
  const is = figuresOf(next);
  const change = (a: number | undefined, b: number | undefined) =>
    a === undefined || b === undefined ? undefined : 100 * (b / a - 1);
  const [e0, e1] = [effectiveTurns(record), effectiveTurns(next)];
  const fluxChangePercent = e0 === undefined || e1 === undefined ? 0 : 100 * (e0 / e1 - 1);
  const warnings: string[] = [];
  const grade = record.wireGrade === '1' ? 1 : 2;
  const over = [...(next.strands ?? []), ...(next.auxStrands ?? [])].map((s) => insulatedDiameterM(s.bareM, grade));
  const widest = over.length === 0 ? 0 : Math.max(...over);
  const fill = is.insulatedSquareFill;
  const most = limit('winding.fillError', limits);
  const refused = !staysEqual(next)
    ? 'the phases or circuits would not be equal'
    : widest > widestWireM(record)
      ? 'the wire does not pass the slot opening'
      : fill !== undefined && !notAbove(fill, most)
        ? `slot fill ${fill.toFixed(2)} is above ${most}`
        : undefined;
  if (fill !== undefined && !notAbove(fill, limit('winding.fillWarn', limits))) warnings.push('tight slot');
  const density = change(was.currentDensityAMm2, is.currentDensityAMm2);
  const sameMetal = (w.material ?? record.material ?? 'copper') === (record.material ?? 'copper');
  if (sameMetal && density !== undefined && !notAbove(density, limit('redesign.densityUpPercent', limits)))
    warnings.push(`current density ${density.toFixed(0)} % up`);
  if (!sameMetal)
    warnings.push(
      w.material === 'copper'
        ? 'aluminium to copper: starting current a little up, joints and lugs for copper'
        : 'copper to aluminium: resistance and loss up, joints and lugs for aluminium',
    );
  const ratio = change(was.turnsRatio, is.turnsRatio);
  if (ratio !== undefined && !notAbove(Math.abs(ratio), 2))
    warnings.push(`turns ratio auxiliary to main ${ratio.toFixed(1)} %`);
  const mixed = new Set([w.turns?.length ?? 1, record.turns?.length ?? 1]).size > 1 && (w.turns?.length ?? 1) > 1;
  if (mixed) warnings.push('coils of a group differ by a turn: every group alike, mark the former');
  return {
    record: next,
    resistanceChangePercent: change(was.phaseResistance20Ohm, is.phaseResistance20Ohm),
    densityChangePercent: density,
    fill,
    auxResistanceChangePercent: change(was.auxResistance20Ohm, is.auxResistance20Ohm),
    fluxChangePercent,
    copperKg: is.bareMassKg,
    warnings,
    refused,
  };
}

const sizeSchema = z.strictObject({ bareM: z.number().positive().max(0.02), label: z.string().min(1).max(24) });

export interface WireChoice {
  strands: Strand[];
  areaErrorPercent: number;
  judged: RewireJudgement;
}

/** What another size in hand, and another wire, weigh against area (common practice). */
const EASE_OF_A_SIZE = 0.006;
const EASE_OF_A_WIRE = 0.001;

/** Mixes of the sizes at hand for one winding of a record, by nearness of area and ease of the hand; those that break a limit are left out. */
export function wireChoices(
  record: WindingRecord,
  nameplate: Nameplate,
  sizes: readonly WireSize[],
  x: {
    winding: 'main' | 'auxiliary';
    turns?: TurnChoice | undefined;
    to: 'copper' | 'aluminium';
    keeps: CopperKeeps;
    tolerancePercent: number;
    mostWires: number;
    limits?: ShopLimits | undefined;
  },
): WireChoice[] {
  const own = (x.winding === 'main' ? record.strands : record.auxStrands) ?? [];
  if (own.length === 0) return [];
  const sum = (list: readonly number[]) => list.reduce((a, b) => a + b, 0) / Math.max(1, list.length);
  const before = x.winding === 'main' ? record.turns : record.auxTurns;
  const after = x.winding === 'main' ? x.turns?.turns : x.turns?.auxTurns;
  const turnsFactor = before && after ? sum(after) / sum(before) : 1;
  const target = targetAreaM2(record, own, { turnsFactor, to: x.to, keeps: x.keeps });
  const mixes = allMixes(sizes, x.mostWires, record.wireGrade === '1' ? 1 : 2, widestWireM(record));
  const turns = x.turns ? { turns: x.turns.turns, ...(x.turns.auxTurns ? { auxTurns: x.turns.auxTurns } : {}) } : {};
  const metal = x.to === (record.material ?? 'copper') ? {} : { material: x.to };
  // a hand of one size is worth more than the last tenth of a per cent of area
  const ease = (m: { error: number; strands: readonly Strand[]; count: number }) =>
    Math.abs(m.error) + EASE_OF_A_SIZE * (m.strands.length - 1) + EASE_OF_A_WIRE * (m.count - 1);
  return substitutes(mixes, target, x.tolerancePercent / 100)
    .sort((a, b) => ease(a) - ease(b))
    .slice(0, 60)
    .map((m): WireChoice => ({
      strands: m.strands,
      areaErrorPercent: 100 * m.error,
      judged: judgeRewire(
        record,
        nameplate,
        { ...turns, ...metal, ...(x.winding === 'main' ? { strands: m.strands } : { auxStrands: m.strands }) },
        x.limits,
      ),
    }))
    .filter((c) => c.judged.refused === undefined);
}

/** Calculation `winding.otherWire`. */
export const windingOtherWire = defineCalculation({
  id: 'winding.otherWire',
  version: 1,
  title: 'The same winding with other wire: turns by a factor, T and T+1, aluminium to copper, mixes at hand',
  sources: ['IEC 60028; 62 % IACS aluminium', 'derived', 'limits: the shop’s own'],
  input: z.strictObject({
    record: windingRecordSchema,
    nameplate: nameplateSchema.prefault({}),
    sizes: z.array(sizeSchema).min(1).max(60),
    turnsFactor: z
      .number()
      .min(0.2)
      .max(5)
      .default(1)
      .describe('new over old turns: voltage or EMF ratio over frequency ratio'),
    to: z.enum(['copper', 'aluminium']).optional(),
    keeps: z.enum(COPPER_KEEPS).default('resistance'),
    tolerancePercent: z.number().positive().max(20).default(2),
    mostWires: z.int().min(1).max(12).default(4),
    limits: shopLimitsSchema.default({}),
  }),
  output: z.object({ turns: z.array(z.unknown()), main: z.array(z.unknown()), auxiliary: z.array(z.unknown()) }),
  example: {
    record: {
      kind: 'single-phase',
      slots: 36,
      poles: 4,
      spansSlots: [8, 6, 4],
      turns: [40, 35, 26],
      strands: [{ count: 1, bareM: 0.0009, label: '0.9' }],
    },
    sizes: [0.8, 0.85, 0.9, 0.95].map((d) => ({ bareM: d / 1000, label: String(d) })),
    turnsFactor: 1.104,
  },
  compute: (x) => {
    if (!x.record.strands?.length) refuse('record.strands', 'The wires as found are needed.');
    const turns = x.turnsFactor === 1 ? [] : turnChoices(x.record, x.turnsFactor);
    if (x.turnsFactor !== 1 && turns.length === 0)
      refuse('record.turns', 'The winding cannot be laid with these turns, or they are not recorded.');
    const own = {
      turns: turns[0],
      to: x.to ?? x.record.material ?? 'copper',
      keeps: x.keeps,
      tolerancePercent: x.tolerancePercent,
      mostWires: x.mostWires,
      limits: x.limits,
    };
    return {
      turns,
      main: wireChoices(x.record, x.nameplate, x.sizes, { ...own, winding: 'main' }),
      auxiliary: wireChoices(x.record, x.nameplate, x.sizes, { ...own, winding: 'auxiliary' }),
    };
  },
});
