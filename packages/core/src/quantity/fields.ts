import { parseWires, type WireSystem } from '../wire/parseWires.ts';
import type { Strand } from '../wire/strands.ts';
import {
  parseCount,
  parseCounts,
  parseQuantities,
  parseQuantity,
  parseSlotPairs,
  parseSpans,
  parseWords,
  type Parsed,
} from './parse.ts';
import { UNITS, type Dimension } from './units.ts';

/** How a typed field is read. */
export type FieldKind =
  | { kind: 'text'; long?: true }
  | { kind: 'count'; min?: number; max?: number; even?: true }
  | {
      kind: 'quantity';
      dimension: Dimension;
      unit: string;
      min?: number;
      max?: number;
      above?: number;
      /** `>2000` is taken as a bound: the instrument was over its range */
      overRange?: true;
      /** `<0.1` is taken as a bound: the instrument was below its range; a bare 0 asks for that range */
      underRange?: true;
    }
  | { kind: 'quantities'; dimension: Dimension; unit: string }
  | { kind: 'counts' }
  | { kind: 'spans' }
  | { kind: 'wires' }
  /** coils from slot to slot: 1-9, 2-10, 11-18 */
  | { kind: 'slotPairs' }
  /** words of a list, one for each coil */
  | { kind: 'words'; options: readonly string[] }
  /** `assumed`: what an empty choice is taken for */
  | { kind: 'choice'; options: readonly { value: string; label: string }[]; assumed?: string }
  | { kind: 'flag' }
  | { kind: 'date' };

/** One field of a form or of an operation's record: what it is called, how it is read, whether it must be there. */
export interface FieldSpec {
  readonly name: string;
  readonly label: string;
  readonly read: FieldKind;
  readonly required?: true;
  /** one short line: what to measure and how */
  readonly hint?: string;
}

/** What a bare number means where no unit is typed; the shop's choice, stored with what was read. */
export interface ReadingDefaults {
  lengthUnit: 'mm' | 'in';
  temperatureUnit: '°C' | '°F';
  massUnit: 'kg' | 'lb';
  powerUnit: 'kW' | 'hp';
  wireSystem: WireSystem;
}

export const METRIC_DEFAULTS: ReadingDefaults = {
  lengthUnit: 'mm',
  temperatureUnit: '°C',
  massUnit: 'kg',
  powerUnit: 'kW',
  wireSystem: 'metric',
};

/** A value as read: numbers are in the dimension's base unit. */
export type FieldValue = number | string | boolean | number[] | string[] | [number, number][] | Strand[];

/** What was typed, by field name; kept as typed. */
export type Typed = Readonly<Record<string, string>>;

export interface FieldProblem {
  field: string;
  label: string;
  message: string;
}

export interface FormReading {
  values: Record<string, FieldValue>;
  problems: FieldProblem[];
  /** how each quantity was understood, for showing beside the field ("18" -> "AWG 18") */
  understood: Record<string, string>;
}

/** The unit a bare number in this field has for this reader. */
export function defaultUnitOf(read: FieldKind & { dimension: Dimension; unit: string }, d: ReadingDefaults): string {
  switch (read.dimension) {
    case 'length':
      return read.unit === 'mm' ? d.lengthUnit : read.unit;
    case 'temperature':
      return d.temperatureUnit;
    case 'mass':
      return read.unit === 'kg' ? d.massUnit : read.unit;
    case 'power':
      return read.unit === 'kW' ? d.powerUnit : read.unit;
    default:
      return read.unit;
  }
}

/** Reads one typed field; an empty field is not a problem here (see readForm). */
export function readField(
  spec: FieldSpec,
  typed: string,
  defaults: ReadingDefaults,
): Parsed<FieldValue> & { understood?: string } {
  const read = spec.read;
  switch (read.kind) {
    case 'text':
      return { ok: true, value: typed.trim() };
    case 'flag':
      return typed === 'yes' || typed === 'no'
        ? { ok: true, value: typed === 'yes' }
        : { ok: false, message: 'Answer yes or no.' };
    case 'date':
      return /^\d{4}-\d{2}-\d{2}$/.test(typed) && !Number.isNaN(Date.parse(typed))
        ? { ok: true, value: typed }
        : { ok: false, message: 'Type the date as year-month-day, for example 2026-11-30.' };
    case 'choice':
      return read.options.some((o) => o.value === typed)
        ? { ok: true, value: typed }
        : { ok: false, message: `Choose one of: ${read.options.map((o) => o.label).join(', ')}.` };
    case 'count': {
      const n = parseCount(typed);
      if (!n.ok) return n;
      if (read.min !== undefined && n.value < read.min)
        return { ok: false, message: `This must be at least ${read.min}.` };
      if (read.max !== undefined && n.value > read.max)
        return { ok: false, message: `This must be at most ${read.max}.` };
      if (read.even && n.value % 2 !== 0) return { ok: false, message: 'This must be an even number.' };
      return n;
    }
    case 'counts':
      return parseCounts(typed);
    case 'spans':
      return parseSpans(typed);
    case 'slotPairs':
      return parseSlotPairs(typed);
    case 'words':
      return parseWords(typed, read.options);
    case 'wires': {
      const wires = parseWires(typed, defaults.wireSystem);
      return wires.ok
        ? { ok: true, value: wires.value, understood: wires.value.map((s) => `${s.count} × ${s.label}`).join(' + ') }
        : wires;
    }
    case 'quantities': {
      const list = parseQuantities(typed, read.dimension, defaultUnitOf(read, defaults));
      return list.ok ? { ok: true, value: list.value.map((q) => q.base) } : list;
    }
    case 'quantity': {
      const unit = defaultUnitOf(read, defaults);
      const q = parseQuantity(typed, read.dimension, unit);
      if (!q.ok) return q;
      if (read.above !== undefined && !(q.value.base > read.above)) {
        return { ok: false, message: `This must be more than ${read.above} ${read.unit}.`.replace(' .', '.') };
      }
      if (read.min !== undefined && q.value.base < read.min) {
        return { ok: false, message: `This must be at least ${read.min}.` };
      }
      if (read.max !== undefined && q.value.base > read.max) {
        return { ok: false, message: `This must be at most ${read.max}.` };
      }
      return { ok: true, value: q.value.base, understood: `${q.value.value} ${q.value.unit}`.trim() };
    }
  }
}

/**
 * Reads a whole form of typed fields. Server and screen call this same function, so what is stored is what was shown.
 * @param require whether empty required fields are problems (a draft may be incomplete, a finished step not)
 */
export function readForm(
  specs: readonly FieldSpec[],
  typed: Typed,
  defaults: ReadingDefaults,
  require: 'complete' | 'draft' = 'draft',
): FormReading {
  const reading: FormReading = { values: {}, problems: [], understood: {} };
  for (const spec of specs) {
    const text = typed[spec.name]?.trim() ?? '';
    if (text === '') {
      if (spec.required && require === 'complete') {
        reading.problems.push({ field: spec.name, label: spec.label, message: `${spec.label} is needed.` });
      }
      continue;
    }
    const over = spec.read.kind === 'quantity' && spec.read.overRange === true && /^[>≥]/.test(text);
    const under = spec.read.kind === 'quantity' && spec.read.underRange === true && /^[<≤]/.test(text);
    const result = readField(spec, over || under ? text.replace(/^[<>≤≥]=?\s*/, '') : text, defaults);
    if (result.ok && result.value === 0 && spec.read.kind === 'quantity' && spec.read.underRange) {
      reading.problems.push({
        field: spec.name,
        label: spec.label,
        message: `${spec.label}: a reading of zero is below the range. Type the lowest range of the instrument: <0.1.`,
      });
      continue;
    }
    if (result.ok && over) reading.values[`${spec.name}OverRange`] = true;
    if (result.ok && under) reading.values[`${spec.name}UnderRange`] = true;
    if (result.ok) {
      reading.values[spec.name] = result.value;
      if (result.understood) reading.understood[spec.name] = result.understood;
    } else {
      reading.problems.push({ field: spec.name, label: spec.label, message: result.message });
    }
  }
  return reading;
}

/**
 * What was typed, with the unit a bare number stands for. Where the recorded base value is known, the unit is the one it was read
 * in then, which the shop may have changed since; else the one of today. Nothing typed: nothing.
 * @example typedWithUnit(lengthField, '4.2', METRIC_DEFAULTS) // '4.2 mm'
 */
export function typedWithUnit(
  field: FieldSpec,
  typed: string,
  defaults: ReadingDefaults,
  recorded?: FieldValue | null,
): string {
  const read = field.read;
  if ((read.kind !== 'quantity' && read.kind !== 'quantities') || typed.trim() === '' || /[^\d\s.,/]/.test(typed))
    return typed;
  const now = defaultUnitOf(read, defaults);
  if (typeof recorded !== 'number' || read.kind !== 'quantity') return `${typed} ${now}`.trim();
  const readAs = [now, ...UNITS[read.dimension].map((u) => u.name)].find((unit) => {
    const q = parseQuantity(typed, read.dimension, unit);
    return q.ok && Math.abs(q.value.base - recorded) <= 1e-9 * Math.max(1e-9, Math.abs(recorded));
  });
  return `${typed} ${readAs ?? now}`.trim();
}
