import { saySpans as saySpansOf } from '@norther/core';
import { formatNumber, parseNumber, type Candidate } from '@norther/core';

export interface Filters {
  clean: boolean;
  inStock: boolean;
  oneSize: boolean;
  fill: string;
}

/** One name for one candidate. */
export const candidateName = (c: Candidate): string =>
  [c.poles, c.connection, c.circuits, c.form, c.layers, c.spansSlots.join('.'), c.turns, sayWires(c)].join('/');

export const sayWires = (c: Pick<Candidate, 'strands'>): string =>
  c.strands.map((s) => `${s.count} × ${s.label}`).join(' + ');
export const saySpans = (c: Pick<Candidate, 'spansSlots'>): string => saySpansOf(c.spansSlots) ?? '';
/** Per cent with its sign; what rounds to nothing has none. */
export const signed = (x: number, digits = 1): string => {
  const text = Math.abs(x).toFixed(digits);
  return `${Number(text) === 0 ? '' : x > 0 ? '+' : '−'}${text} %`;
};
export const number = (x: number | undefined, digits = 3): string => (x === undefined ? '–' : formatNumber(x, digits));

export function pass(c: Candidate, f: Filters): boolean {
  const most = f.fill.trim() === '' ? undefined : parseNumber(f.fill);
  return (
    (!f.clean || c.warnings.length === 0) &&
    (!f.inStock || c.enoughInStock) &&
    (!f.oneSize || c.strands.length === 1) &&
    (most === undefined || c.fill === undefined || c.fill <= most)
  );
}
