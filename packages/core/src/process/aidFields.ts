import type { FieldValue, Typed } from '../quantity/fields.ts';
import { formatNumber } from '../quantity/format.ts';

export type AidValues = Readonly<Record<string, FieldValue>>;

/** A number among what was typed, in base units. */
export const numberOf = (values: AidValues, name: string): number | undefined => {
  const value = values[name];
  return typeof value === 'number' ? value : undefined;
};
/** The named numbers that are there, under the names a calculation knows them by. */
export function given(values: AidValues, names: Readonly<Record<string, string>>): Record<string, number> {
  return Object.fromEntries(
    Object.entries(names).flatMap(([name, of]) => {
      const value = numberOf(values, name);
      return value === undefined ? [] : [[of, value]];
    }),
  );
}
export const millimetres = (metres: number | undefined): string =>
  metres === undefined ? '' : `${formatNumber(1000 * metres, 6)} mm`;

/** What is typed into an aid, as it goes into the record of its step. */
export function asTyped(values: AidValues, names: Readonly<Record<string, string>>, say: (x: number) => string): Typed {
  return Object.fromEntries(
    Object.entries(names).flatMap(([from, to]) => {
      const x = numberOf(values, from);
      return x === undefined ? [] : [[to, say(x)]];
    }),
  );
}
