import { fromBase, type Dimension } from './units.ts';

/**
 * A number for reading: `digits` significant figures, no exponent between 1e-4 and 1e7, no trailing noise.
 * Display only; nothing inside is ever rounded.
 */
export function formatNumber(value: number, digits = 4): string {
  if (!Number.isFinite(value)) return '–';
  if (value === 0) return '0';
  const size = Math.abs(value);
  if (size >= 1e7 || size < 1e-4) return value.toExponential(Math.max(0, digits - 1));
  const decimals = Math.max(0, digits - 1 - Math.floor(Math.log10(size)));
  const text = value.toFixed(Math.min(decimals, 12));
  return text.includes('.') ? text.replace(/0+$/, '').replace(/\.$/, '') : text;
}

/** A base-unit value in the wanted unit with its name: `formatQuantity(0.0159, 'length', 'mm')` is "15.9 mm". */
export function formatQuantity(base: number, dimension: Dimension, unitName: string, digits = 4): string {
  const text = formatNumber(fromBase(base, dimension, unitName), digits);
  return unitName === '' ? text : `${text}${unitName === '°' ? '' : ' '}${unitName}`;
}

/**
 * A value and a limit, shown with enough figures that the shown numbers never contradict the comparison.
 * @returns both texts, with at least `digits` significant figures
 */
export function formatAgainst(value: number, limit: number, digits = 3): [string, string] {
  const apart =
    Math.abs(value - limit) > 1e-12 * Math.max(Math.abs(value), Math.abs(limit)) ? Math.sign(value - limit) : 0;
  for (let d = digits; d <= 12; d++) {
    const a = formatNumber(value, d);
    const b = formatNumber(limit, d);
    if (Math.sign(Number(a) - Number(b)) === apart) return [a, b];
  }
  return [String(value), String(limit)];
}
