import { z } from 'zod';
import { defineCalculation, refuse } from '../calculation.ts';
import { connect, connectionChoiceSchema, type Connection } from '../winding/connection.ts';
import { layoutOf } from '../winding/layout.ts';
import { layoutInputSchema, type Layout } from '../winding/layoutTypes.ts';
import { explainReadings, type Explanation, type OddReadings } from './explain.ts';

/** Less than this more is no joint but the meter, %. Source: common practice. */
const LEAST_PERCENT = 1;
/** A mistake of connection that fits within so much of a poor joint comes before it: it says more. Source: common practice. */
const GIVES_WAY = 0.5;
const LOOK =
  'Frequency and current hardly change. Measure with four wires across each joint of it, link and terminal; warm joints and broken strands show by the hand or camera at test current. A wire too few in hand reads so too.';

/** Lead to lead of a delta of three phases. */
const deltaLines = ([a, b, c]: readonly [number, number, number]): [number, number, number] => {
  const sum = a + b + c;
  return [(a * (b + c)) / sum, (b * (c + a)) / sum, (c * (a + b)) / sum];
};
const meanOf = (list: readonly number[]): number => list.reduce((n, x) => n + x, 0) / list.length;
const misfit = (read: readonly number[], made: readonly number[]): number => {
  const [r, m] = [meanOf(read), meanOf(made)];
  return 100 * Math.sqrt(meanOf(read.map((x, i) => (x / r - (made[i] ?? 0) / m) ** 2)));
};

/** The readings of a delta whose phase i has the share `more` of resistance added. */
const deltaWith = (i: number, more: number): [number, number, number] =>
  deltaLines([0, 1, 2].map((k) => (k === i ? 1 + more : 1)) as [number, number, number]);

/** The added share that fits best: misfit falls to it and rises beyond, so that thirds close in on it. */
function bestMore(fits: (more: number) => number): number {
  let [low, high] = [0, 20];
  for (let n = 0; n < 80; n++) {
    const third = (high - low) / 3;
    if (fits(low + third) <= fits(high - third)) high -= third;
    else low += third;
  }
  return (low + high) / 2;
}

/**
 * One phase or one lead with resistance added: what three readings lead to lead would be then, best fitted. (A lead of a delta lies
 * in two pairs and in no third; a phase of a wye is its lead.) Source: derived.
 */
export function poorJoints(connection: 'wye' | 'delta', resistance: readonly number[] | undefined): Explanation[] {
  if (resistance?.length !== 3 || !resistance.every((x) => Number.isFinite(x) && x > 0)) return [];
  const shapes = (['A', 'B', 'C'] as const).flatMap((phase, i): { say: string; made: (more: number) => number[] }[] => {
    // lead i+1 lies in its own pair and in the one before
    const lead = {
      made: (more: number) => [0, 1, 2].map((k) => (k === i || k === (i + 2) % 3 ? 2 + more : 2)),
    };
    return connection === 'wye'
      ? [{ say: `phase ${phase} or its lead T${i + 1}`, ...lead }]
      : [
          { say: `phase ${phase}`, made: (more: number) => deltaWith(i, more) },
          { say: `lead T${i + 1}`, made: (more: number) => lead.made(3 * more) },
        ];
  });
  return shapes
    .map(({ say, made }) => {
      const more = bestMore((x) => misfit(resistance, made(x)));
      return { say, more, misfitPercent: misfit(resistance, made(more)) };
    })
    .filter(({ more }) => 100 * more >= LEAST_PERCENT)
    .map(({ say, more, misfitPercent }) => ({
      says: [
        `${say}: ${Number((100 * more).toPrecision(2))} % of a phase more resistance, a poor joint or a broken strand`,
      ],
      kind: 'poor joint' as const,
      groups: [],
      misfitPercent,
      look: LOOK,
    }))
    .sort((a, b) => a.misfitPercent - b.misfitPercent);
}

/**
 * Single mistakes of connection and poor joints that would explain odd readings, best first. What no poor joint changes (current and
 * surge frequency) is fitted as by a winding without a mistake.
 */
export function explainFigures(layout: Layout, connection: Connection, readings: OddReadings): Explanation[] {
  const mistakes = explainReadings(layout, connection, readings);
  const { resistance: _resistance, ...others } = readings;
  const asDrawn =
    others.current || others.frequency
      ? explainReadings(layout, connection, others).find((e) => e.kind === 'none')
      : undefined;
  // an open wave or lead is not made by a poor joint
  if (!asDrawn && (others.current || others.frequency)) return mistakes;
  const kinds = [readings.resistance, others.current, others.frequency].filter((k) => k !== undefined).length;
  const joints = poorJoints(connection.connection, readings.resistance).map((j) => ({
    ...j,
    misfitPercent: Math.sqrt((j.misfitPercent ** 2 + (kinds - 1) * (asDrawn?.misfitPercent ?? 0) ** 2) / kinds),
  }));
  const rank = (e: Explanation): number => e.misfitPercent + (e.kind === 'poor joint' ? GIVES_WAY : 0);
  return [...mistakes, ...joints].sort((a, b) => rank(a) - rank(b));
}

const openTriple = z
  .array(z.union([z.number().positive(), z.literal('open')]))
  .length(3)
  .optional();
const noneOrMore = z.array(z.number().min(0)).length(3).optional();

/** Calculation `winding.explainReadings`. */
export const windingExplainReadings = defineCalculation({
  id: 'winding.explainReadings',
  version: 3,
  title: 'Odd test figures: the single mistakes of connection and poor joints that would explain them, ranked',
  sources: ['network solution of every single mistake (derived)', 'ideal gap, 15 % own leakage, no cage'],
  input: layoutInputSchema.extend(connectionChoiceSchema.shape).extend({
    resistance: openTriple.describe('T1-T2, T2-T3, T3-T1, any unit; open where no current flows'),
    current: noneOrMore.describe('T1, T2, T3 at balanced voltage without load; 0 where none flows'),
    frequency: openTriple.describe('surge wave by pair, any unit; open where no wave comes'),
  }),
  output: z.object({
    explanations: z.array(
      z.object({
        says: z.array(z.string()),
        kind: z.string(),
        groups: z.array(z.number()),
        misfitPercent: z.number(),
        look: z.string(),
      }),
    ),
  }),
  example: {
    slots: 36,
    poles: 4,
    layers: 2,
    form: 'lap',
    spanSlots: 8,
    connection: 'wye',
    circuits: 2,
    resistance: [1.5, 1, 1.5],
  },
  compute: ({ connection, circuits, jumper, leads, partWinding, duty, resistance, current, frequency, ...input }) => {
    if (!resistance && !current && !frequency)
      refuse(
        'resistance',
        'Give three readings of at least one kind: resistance or surge by pair, or current by lead.',
      );
    const layout = layoutOf(input);
    if (layout.kind !== 'three-phase' || leads !== 3)
      refuse(
        'leads',
        'Odd readings are explained for three-phase windings with three leads; link the others for running first.',
      );
    void partWinding;
    void duty;
    const drawn = connect(layout, { connection, circuits, jumper, leads });
    const readings = {
      resistance: resistance?.map((x) => (x === 'open' ? Infinity : x)),
      current,
      frequency: frequency?.map((x) => (x === 'open' ? 0 : x)),
    };
    return { explanations: explainFigures(layout, drawn, readings).slice(0, 8) };
  },
});
