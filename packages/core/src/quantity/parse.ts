import { findUnit, UNITS, type Dimension } from './units.ts';

/** A quantity as it was typed, beside its value in the dimension's base unit. */
export interface Quantity {
  typed: string;
  value: number;
  unit: string;
  base: number;
}

export type Parsed<T> = { ok: true; value: T } | { ok: false; message: string };

const good = <T>(value: T): Parsed<T> => ({ ok: true, value });
const bad = (message: string): Parsed<never> => ({ ok: false, message });

/**
 * Reads a plain number: decimal point or comma, fraction `5/8`, mixed `1 3/8`.
 * With both signs present the last one is the decimal sign.
 * @example parseNumber('1 3/8') // 1.375
 */
export function parseNumber(text: string): number | undefined {
  const t = text.trim().replace('−', '-');
  if (/^-?\d{1,15}(\.\d{1,15})?$/.test(t)) return Number(t);
  const mixed = /^([+-]?)(?:(\d+)[ -])?(\d+)\s*\/\s*(\d+)$/.exec(t);
  if (mixed) {
    const [, sign, whole, top, bottom] = mixed;
    if (Number(bottom) === 0) return undefined;
    const size = Number(whole ?? 0) + Number(top) / Number(bottom);
    return sign === '-' ? -size : size;
  }
  const comma = t.lastIndexOf(',');
  const point = t.lastIndexOf('.');
  let plain = t;
  if (comma >= 0 && point >= 0) {
    plain = comma > point ? t.replaceAll('.', '').replace(',', '.') : t.replaceAll(',', '');
  } else if (comma >= 0) {
    plain = t.indexOf(',') === comma ? t.replace(',', '.') : t.replaceAll(',', '');
  }
  plain = plain.replaceAll(/(?<=\d)[\s'’](?=\d{3}(\D|$))/g, '');
  if (!/^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i.test(plain)) return undefined;
  const value = Number(plain);
  return Number.isFinite(value) ? value : undefined;
}

/**
 * Reads a quantity with or without its unit.
 * @example parseQuantity('5/8 in', 'length', 'mm') // base 0.015875 (m)
 */
export function parseQuantity(text: string, dimension: Dimension, defaultUnit: string): Parsed<Quantity> {
  const typed = text.trim();
  const match = /^([+-−]?[\d.,'’\s/]*\d(?:e[+-]?\d+)?[.,]?)\s*([^\d\s].*)?$/i.exec(typed);
  const unitNames = UNITS[dimension].map((u) => u.name).filter((n) => n !== '');
  const units = unitNames.length > 0 ? `, with or without a unit (${unitNames.join(', ')})` : '';
  const match2 = match ?? undefined;
  if (!match2) return bad(`"${typed}" is not a number. Type a number${units}.`);
  const value = parseNumber(match2[1] ?? '');
  if (value === undefined) return bad(`"${match2[1]?.trim() ?? ''}" is not a number. Type a number${units}.`);
  const written = (match2[2] ?? '').trim();
  const unit = findUnit(dimension, written === '' ? defaultUnit : written);
  if (!unit) {
    return bad(
      unitNames.length > 0
        ? `"${written}" is not a unit for this. Use ${unitNames.join(', ')}.`
        : `This takes a plain number, without "${written}".`,
    );
  }
  return good({ typed, value, unit: unit.name, base: value * unit.factor + (unit.offset ?? 0) });
}

/** Reads a whole number. */
export function parseCount(text: string): Parsed<number> {
  const value = parseNumber(text);
  if (value === undefined || !Number.isInteger(value)) return bad(`"${text.trim()}" is not a whole number.`);
  return good(value);
}

/**
 * Reads a list of whole numbers: `3-3-2`, `3, 3, 2`, `12x3` (twelve times three), `12x3 + 2`, one per line.
 * @example parseCounts('2x(3-2)') is not taken; '3-2-3-2' is.
 */
export function parseCounts(text: string): Parsed<number[]> {
  const out: number[] = [];
  for (const part of text
    .trim()
    .split(/[\s,;+–-]+/)
    .filter(Boolean)) {
    const times = /^(\d+)\s*[x×*](\d+)$/i.exec(part);
    if (times) {
      const n = Number(times[1]);
      if (n > 500) return bad(`"${part}" repeats too often; at most 500 entries.`);
      for (let i = 0; i < n; i++) out.push(Number(times[2]));
    } else if (/^\d+$/.test(part)) {
      out.push(Number(part));
    } else {
      return bad(`"${part}" is not a whole number. Type for example 3-3-2 or 12x3.`);
    }
  }
  if (out.length === 0) return bad('Type at least one whole number, for example 12x3.');
  if (out.length > 500) return bad('At most 500 entries are taken.');
  return good(out);
}

/**
 * Reads coil spans as a winder says them, "1 to N": `1-9`, `1-12, 2-11, 3-10`.
 * @returns coil span in slots, N − 1 for "1-N"; outermost first as typed
 */
export function parseSpans(text: string): Parsed<number[]> {
  const out: number[] = [];
  for (const part of text
    .trim()
    .split(/[,;\n]+|\s+and\s+|\s(?=\d+\s*[-–])/)
    .map((p) => p.trim())
    .filter(Boolean)) {
    const pair = /^(\d+)\s*(?:[-–]|to)\s*(\d+)$/.exec(part);
    if (!pair) {
      return bad(`"${part}" is not a span. Type it as counted on the core, from slot 1 to slot N: 1-9.`);
    }
    const span = Number(pair[2]) - Number(pair[1]);
    if (span <= 0) return bad(`In "${part}" the second slot must be the higher one, for example 1-9.`);
    out.push(span);
  }
  if (out.length === 0) return bad('Type the span as counted on the core, from slot 1 to slot N: 1-9.');
  return good(out);
}

/**
 * Reads coils from slot to slot; a return slot below the go slot goes on round the core.
 * @example parseSlotPairs('1-9, 2-10, 29-36') // [[1, 9], [2, 10], [29, 36]]
 */
export function parseSlotPairs(text: string): Parsed<[number, number][]> {
  const out: [number, number][] = [];
  for (const part of text
    .trim()
    .split(/[,;\n]+|\s+(?=\d+\s*(?:[-–→]|to))/)
    .map((p) => p.trim())
    .filter(Boolean)) {
    const pair = /^(\d{1,3})\s*(?:[-–→]|to)\s*(\d{1,3})$/.exec(part);
    if (!pair) return bad(`"${part}" is not a coil. Type it from slot to slot, as numbered on the core: 11-18.`);
    const [go, back] = [Number(pair[1]), Number(pair[2])];
    if (go === back) return bad(`The coil ${part} goes and returns in one slot.`);
    if (go < 1 || back < 1) return bad(`Slots are numbered from 1; "${part}" has a slot 0.`);
    out.push([go, back]);
  }
  if (out.length === 0) return bad('Type the coils from slot to slot: 1-9, 2-10, 11-18.');
  if (out.length > 1 && out.every(([go]) => go === out[0]?.[0]))
    return bad(
      `Every coil begins in slot ${out[0]?.[0] ?? 1}: that gives spans only. Number the slots on: ${out
        .slice(0, 3)
        .map(([go, back], i) => `${go + i}-${back + i}`)
        .join(', ')}?`,
    );
  return good(out);
}

/** Reads words of a list, each once for a coil: `full, half`; a count before a word repeats it: `2x half`. */
export function parseWords(text: string, options: readonly string[]): Parsed<string[]> {
  const out: string[] = [];
  for (const part of text
    .trim()
    .toLowerCase()
    .replaceAll(/(\d)\s*[x×]\s*/g, '$1x')
    .split(/[,;/\s]+/)
    .filter(Boolean)) {
    const many = /^(\d{1,2})x(.+)$/.exec(part);
    const word = options.find((o) => o.toLowerCase() === (many?.[2] ?? part));
    if (word === undefined) return bad(`"${part}" is neither ${options.join(' nor ')}.`);
    out.push(...Array.from({ length: many ? Number(many[1]) : 1 }, () => word));
  }
  if (out.length === 0) return bad(`Type ${options.join(' or ')} for every coil of a group.`);
  return good(out);
}

/** Reads several numbers of one kind: `400/690`, `230/460 V`, `12.5, 21.7`. */
export function parseQuantities(text: string, dimension: Dimension, defaultUnit: string): Parsed<Quantity[]> {
  const unitAtEnd = /[^\d\s.,/;]+\s*$/.exec(text.trim())?.[0]?.trim();
  const out: Quantity[] = [];
  for (const part of text
    .trim()
    .split(/\s*[/;]\s*|,\s+/)
    .filter(Boolean)) {
    const one = parseQuantity(part, dimension, unitAtEnd ?? defaultUnit);
    if (!one.ok) return one;
    out.push(one.value);
  }
  if (out.length === 0) return bad('Type at least one number.');
  return good(out);
}
