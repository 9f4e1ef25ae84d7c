import { z } from 'zod';
import { defineCalculation } from '../calculation.ts';
import { nameplateSchema } from '../machine/nameplate.ts';
import { limit } from '../limits/limits.ts';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import { formatAgainst, formatNumber } from '../quantity/format.ts';
import { notAbove } from '../verdict.ts';
import { CONDUCTORS, enamelShare } from '../winding/copper.ts';
import { windingFigures } from '../winding/figures.ts';
import { windingRecordSchema, type WindingRecord } from '../winding/record.ts';
import { sizeTable } from '../wire/sizeTable.ts';
import { wiresInHand, type Strand } from '../wire/strands.ts';

/** One count that may have been wrong, and what the record would be then. */
interface Edit {
  count: 'turns' | 'strands' | 'span' | 'wire size';
  say: string;
  record: WindingRecord;
}

const turned = (record: WindingRecord, by: number): Edit[] => {
  if (!('turns' in record) || !record.turns) return [];
  const turns = record.turns.map((t) => t + by);
  return turns.every((t) => t >= 1)
    ? [
        {
          count: 'turns',
          say: `turns ${turns.join('-')} instead of ${record.turns.join('-')}`,
          record: { ...record, turns },
        },
      ]
    : [];
};
const inHand = (record: WindingRecord, strands: readonly Strand[], by: number): Edit[] => {
  // of several sizes, any may have been miscounted
  return strands.flatMap((s, i) =>
    s.count + by < 1
      ? []
      : [
          {
            count: 'strands' as const,
            say: `${wiresInHand(strands) + by} wires in hand instead of ${wiresInHand(strands)}${strands.length > 1 ? ` (${s.count + by} of ${s.label || formatNumber(1000 * s.bareM)})` : ''}`,
            record: {
              ...record,
              strands: strands.map((x, k) => (k === i ? { ...x, count: x.count + by } : x)),
            } as WindingRecord,
          },
        ],
  );
};
const spanned = (record: WindingRecord, by: number): Edit[] => {
  if (!('spansSlots' in record) || !record.spansSlots) return [];
  const spansSlots = record.spansSlots.map((y) => y + by);
  const name = (list: readonly number[]) => list.map((y) => `1-${y + 1}`).join(', ');
  return spansSlots.every((y) => y >= 1)
    ? [
        {
          count: 'span',
          say: `span ${name(spansSlots)} instead of ${name(record.spansSlots)}`,
          record: { ...record, spansSlots },
        },
      ]
    : [];
};
/** The next sizes of the table the wire is named by. */
const sized = (record: WindingRecord, strands: readonly Strand[]): Edit[] => {
  const [s, ...more] = strands;
  if (!s || more.length > 0) return [];
  const rows = sizeTable(/awg/i.test(s.label ?? '') ? 'awg' : /swg/i.test(s.label ?? '') ? 'swg' : 'metric');
  const at = rows.reduce(
    (best, r, i) => (Math.abs(r.bareM - s.bareM) < Math.abs((rows[best]?.bareM ?? 0) - s.bareM) ? i : best),
    0,
  );
  return [at - 1, at + 1].flatMap((i) => {
    const row = rows[i];
    return row
      ? [
          {
            count: 'wire size' as const,
            say: `wire ${row.label} instead of ${s.label || formatNumber(1000 * s.bareM)}`,
            record: { ...record, strands: [{ ...s, bareM: row.bareM, label: row.label }] } as WindingRecord,
          },
        ]
      : [];
  });
};

/** Near enough to the mass to be named, %: half of what a strand of ten makes. */
const NAMED_WITHIN = 2.5;

/** Calculation `process.strippedCopper`: all the copper of a stripped winding against its record, and which count is most likely wrong. */
export const processStrippedCopper = defineCalculation({
  id: 'process.strippedCopper',
  version: 1,
  title: 'Stripped copper against the record: does its mass agree, and which count is most likely wrong',
  sources: ['mass = density · area · mean turn · turns', 'bands: common practice'],
  input: z.strictObject({
    record: windingRecordSchema,
    nameplate: nameplateSchema,
    strippedKg: z.number().positive().max(1e5),
    cutOffKg: z.number().min(0).max(1e5).default(0).describe('of the end cut off, weighed apart'),
    state: z.enum(['burned clean', 'with enamel']).default('burned clean'),
    limits: shopLimitsSchema.default({}),
  }),
  output: z.object({
    weighedKg: z.number().describe('bare, both ends'),
    computedKg: z.number().optional(),
    offPercent: z.number().optional(),
    verdict: z.enum(['pass', 'attention', 'fail', 'cannot judge']),
    reason: z.string(),
    suspects: z
      .array(
        z.object({ count: z.enum(['turns', 'strands', 'span', 'wire size']), say: z.string(), offPercent: z.number() }),
      )
      .describe('single counts that would bring the mass to what was weighed, nearest first'),
  }),
  example: {
    record: {
      kind: 'three-phase',
      slots: 36,
      poles: 4,
      layers: 'double',
      spansSlots: [8],
      turns: [11],
      strands: [{ bareM: 0.8e-3, count: 2 }],
      circuits: 1,
      connection: 'wye',
      boreM: 0.125,
      coreLengthM: 0.14,
      slotDepthM: 0.02,
    },
    nameplate: {},
    strippedKg: 4.1,
    cutOffKg: 0.9,
  },
  compute: ({ record, nameplate, strippedKg, cutOffKg, state, limits }, note) => {
    const strands: readonly Strand[] = 'strands' in record ? (record.strands ?? []) : [];
    const material = CONDUCTORS[record.material ?? 'copper'];
    const grade = 'wireGrade' in record && record.wireGrade === '1' ? 1 : 2;
    const share = state === 'with enamel' ? enamelShare(strands, grade, material.densityKgM3) : 0;
    const weighedKg = (strippedKg + cutOffKg) / (1 + share);
    // the mass itself must not make the mean turn it is held against
    const massOf = (of: WindingRecord): number | undefined => {
      const { copperKg: _weighed, ...rest } = of;
      const figures = windingFigures.compute(windingFigures.input.parse({ record: rest as WindingRecord, nameplate }));
      const main = figures.bareMassKg;
      return main === undefined ? undefined : main + (figures.auxBareMassKg ?? 0);
    };
    const computedKg = massOf(record);
    if (computedKg === undefined)
      return {
        weighedKg,
        verdict: 'cannot judge' as const,
        reason:
          'The record does not say enough to reckon the copper: it wants turns, wire, span, bore and core length.',
        suspects: [],
      };
    const offPercent = 100 * (weighedKg / computedKg - 1);
    note?.({
      name: 'Difference',
      symbol: 'Δ',
      formula: '100 · (weighed/computed − 1)',
      numbers: `100 · (${formatNumber(weighedKg, 6)} / ${formatNumber(computedKg, 6)} − 1)`,
      value: offPercent,
      unit: '%',
      source: 'density · area · mean turn · turns',
    });
    const size = Math.abs(offPercent);
    const [ask, warn, error] = (
      ['winding.copperAskPercent', 'winding.copperWarnPercent', 'winding.copperErrorPercent'] as const
    ).map((id) => limit(id, limits)) as [number, number, number];
    if (notAbove(size, ask))
      return {
        weighedKg,
        computedKg,
        offPercent,
        verdict: 'pass' as const,
        reason: `${formatNumber(weighedKg)} kg bare; the record comes to ${formatNumber(computedKg)} kg.`,
        suspects: [],
      };
    const edits = [
      ...[-3, -2, -1, 1, 2, 3].flatMap((by) => turned(record, by)),
      ...[-2, -1, 1, 2].flatMap((by) => inHand(record, strands, by)),
      ...[-2, -1, 1, 2].flatMap((by) => spanned(record, by)),
      ...sized(record, strands),
    ];
    const suspects = edits
      .flatMap((e) => {
        const kg = massOf(e.record);
        return kg === undefined ? [] : [{ count: e.count, say: e.say, offPercent: 100 * (weighedKg / kg - 1) }];
      })
      .filter((e) => Math.abs(e.offPercent) <= NAMED_WITHIN)
      .sort((a, b) => Math.abs(a.offPercent) - Math.abs(b.offPercent))
      .slice(0, 5);
    const [shown] = formatAgainst(size, !notAbove(size, error) ? error : !notAbove(size, warn) ? warn : ask);
    const likely = suspects[0]
      ? ` Most likely ${suspects[0].say}.`
      : ' No single count explains it: was all the copper on the scale, and nothing else?';
    const words = `${formatNumber(weighedKg)} kg bare, the record comes to ${formatNumber(computedKg)} kg: ${shown} % ${offPercent > 0 ? 'more' : 'less'}.${likely}`;
    return {
      weighedKg,
      computedKg,
      offPercent,
      // a little off asks for a second count, and holds nobody up
      verdict: !notAbove(size, error)
        ? ('fail' as const)
        : !notAbove(size, warn)
          ? ('attention' as const)
          : ('pass' as const),
      reason: notAbove(size, warn) ? `${words} Count again before the copper is scrapped.` : words,
      suspects,
    };
  },
});
