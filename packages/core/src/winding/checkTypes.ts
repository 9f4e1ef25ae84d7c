import type { ShopLimits } from '../limits/limits.ts';
import type { Nameplate } from '../machine/nameplate.ts';
import { formatNumber } from '../quantity/format.ts';
import type { WindingFigures } from './figures.ts';
import type { Layout } from './layoutTypes.ts';
import type { WindingRecord } from './record.ts';

/** E blocks "verified", W is a warning, I is for information. */
export type Severity = 'E' | 'W' | 'I';

export interface Finding {
  check: string;
  severity: Severity;
  /** states both numbers and what would make them agree */
  message: string;
  fields: string[];
  /** one change that would mend several errors: offered, never applied silently; as it would be typed */
  proposal?: { say: string; changes: Record<string, string> } | undefined;
}

export interface Context {
  record: WindingRecord;
  nameplate: Nameplate;
  layout: Layout | undefined;
  layoutProblem: string | undefined;
  figures: WindingFigures;
  limits: ShopLimits;
}

export type Check = (c: Context) => Finding[] | Finding | undefined;

export const E = (check: string, fields: string[], message: string): Finding => ({
  check,
  severity: 'E',
  message,
  fields,
});
export const W = (check: string, fields: string[], message: string): Finding => ({
  check,
  severity: 'W',
  message,
  fields,
});
export const I = (check: string, fields: string[], message: string): Finding => ({
  check,
  severity: 'I',
  message,
  fields,
});
/** Three-phase records; single phase has checks of its own. */
export const isThreePhase = (c: Context): boolean => c.record.kind !== 'single-phase';
export const f = (x: number, digits = 3) => formatNumber(x, digits);
export const sum = (list: readonly number[]) => list.reduce((a, b) => a + b, 0);

/** Named checks of one kind; each states both numbers and what would make them agree. */
export type Checks = Readonly<Record<string, { title: string; run: Check }>>;
