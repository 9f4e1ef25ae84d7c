import { limit, type ShopLimits } from '../limits/limits.ts';
import { notAbove } from '../verdict.ts';
import { leadToLeadOhm } from '../winding/copper.ts';

/** What was read: pairs of line leads, or the two ends of each phase on six open leads. */
export const READING_KINDS = ['lead to lead', 'phase by phase'] as const;
export type ReadingKind = (typeof READING_KINDS)[number];

/** What a reading should be by the plan: a phase r, in wye 2r lead to lead, in delta 2r/3. */
export const expectedReading = (phaseOhm: number, reading: ReadingKind, connection: 'wye' | 'delta'): number =>
  reading === 'phase by phase' ? phaseOhm : leadToLeadOhm(phaseOhm, connection);

/** A tell-tale ratio: how it was read is wrong, or how it was made. */
export interface RatioName {
  wrong: 'reading' | 'making';
  says: string;
}

interface Row {
  ratio: number;
  reading?: ReadingKind;
  connection?: 'wye' | 'delta';
  name: RatioName;
}
const read = (says: string): RatioName => ({ wrong: 'reading', says });
const made = (says: string): RatioName => ({ wrong: 'making', says });
const LINE = 'lead to lead';
const PHASE = 'phase by phase';

/** Ratios of the mean reading to the planned one, and what they point to. Source: docs/derivations.md, resistance ratios. */
const ROWS: readonly Row[] = [
  { ratio: 1 / 4, name: made('twice the circuits: a quarter of the planned resistance') },
  { ratio: 4, name: made('half the circuits: four times the planned resistance') },
  {
    ratio: 1 / 3,
    reading: LINE,
    connection: 'wye',
    name: made('connected in delta instead of wye: a third of the planned resistance'),
  },
  {
    ratio: 3,
    reading: LINE,
    connection: 'delta',
    name: made('connected in wye instead of delta: three times the planned resistance'),
  },
  {
    ratio: 1 / 2,
    reading: LINE,
    connection: 'wye',
    name: read('phases read alone (T1–T4), half of what the pairs of a wye give; the wire doubled gives the same'),
  },
  { ratio: 3 / 2, reading: LINE, connection: 'delta', name: read('phases read alone (T1–T4)') },
  { ratio: 2 / 3, reading: PHASE, name: read('phases read with the delta links left on') },
  { ratio: 2, reading: PHASE, name: read('pairs of line leads (T1–T2 of a wye) typed as phases') },
];

/** Whether a figure lies within a share of another, the border included. */
export const isNear = (value: number, of: number, share: number): boolean =>
  notAbove(value, of * (1 + share)) && notAbove(of * (1 - share), value);

/** The name of a ratio measured/planned, or nothing where it says nothing. Source: derived; nearness common practice. */
export function nameRatio(
  ratio: number,
  how: { reading: ReadingKind; connection: 'wye' | 'delta'; limits?: ShopLimits },
): RatioName | undefined {
  const near = limit('resistance.ratioNearPercent', how.limits) / 100;
  return ROWS.find(
    (row) =>
      (row.reading ?? how.reading) === how.reading &&
      (row.connection ?? how.connection) === how.connection &&
      isNear(ratio, row.ratio, near),
  )?.name;
}

/** The pattern of three unequal readings, largest first as shares of the smallest. Source: derived (docs/derivations.md). */
export function namePattern(readings: readonly [number, number, number], limits?: ShopLimits): string | undefined {
  const near = limit('resistance.ratioNearPercent', limits) / 100;
  const smallest = Math.min(...readings);
  const [a = 0, b = 0] = readings.map((r) => r / smallest).sort((x, y) => y - x);
  const like = (x: number, y: number) => isNear(a, x, near) && isNear(b, y, near);
  if (like(1.5, 1.5)) return 'Two readings half as large again as the third: in a wye of two circuits one is open.';
  if (like(2, 1)) return 'One reading twice the two others: a delta with one phase open.';
  return undefined;
}
