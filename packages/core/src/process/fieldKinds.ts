import type { FieldSpec } from '../quantity/fields.ts';
import type { Dimension } from '../quantity/units.ts';

type Options = { required?: true; hint?: string };

/** Short builders for the fields of operations; every quantity names its unit. */
export const text = (name: string, label: string, o: Options = {}): FieldSpec => ({
  name,
  label,
  read: { kind: 'text' },
  ...o,
});
export const notes = (name = 'notes', label = 'Notes'): FieldSpec => ({
  name,
  label,
  read: { kind: 'text', long: true },
});
export const yes = (name: string, label: string, o: Options = {}): FieldSpec => ({
  name,
  label,
  read: { kind: 'flag' },
  required: true,
  ...o,
});
export const count = (name: string, label: string, o: Options = {}): FieldSpec => ({
  name,
  label,
  read: { kind: 'count', min: 0, max: 100000 },
  ...o,
});
export const quantity = (
  name: string,
  label: string,
  dimension: Dimension,
  unit: string,
  o: Options = {},
): FieldSpec => ({
  name,
  label,
  read: { kind: 'quantity', dimension, unit, ...(dimension === 'temperature' ? { min: -60, max: 1200 } : { min: 0 }) },
  ...o,
});
export const choice = (name: string, label: string, values: readonly string[], o: Options = {}): FieldSpec => ({
  name,
  label,
  read: { kind: 'choice', options: values.map((value) => ({ value, label: value })) },
  ...o,
});
/** A resistance that may be over the range of the instrument: open. */
export const orOpen = (name: string, label: string, o: Options = {}): FieldSpec => ({
  name,
  label,
  read: { kind: 'quantity', dimension: 'resistance', unit: 'Ω', min: 0, overRange: true },
  ...o,
});
export const need = { required: true } as const;
export const millimetre = (name: string, label: string, o: Options = {}) => quantity(name, label, 'length', 'mm', o);
export const celsius = (name: string, label: string, o: Options = {}) => quantity(name, label, 'temperature', '°C', o);
export const hours = (name: string, label: string, o: Options = {}) => quantity(name, label, 'time', 'h', o);
export const kilogram = (name: string, label: string, o: Options = {}) => quantity(name, label, 'mass', 'kg', o);
/** Outcome that a person states because Norther does not work it out. */
export const stated = (name = 'outcome', label = 'Outcome', o: Options = need): FieldSpec =>
  choice(name, label, ['pass', 'attention', 'fail'], o);

/** Duration coefficients of docs/derivations.md 13, section 0 (common practice). */
export const time = (labour100: number, labourPower: number, wait100 = 0, waitPower = 0) => ({
  labour100,
  labourPower,
  wait100,
  waitPower,
});
/** Must be answered yes, else the operation fails. */
export const ok = (field: string, otherwise: string) => ({ rule: 'yes', field, otherwise }) as const;
/** Should be answered yes, else a person must look at it. */
export const fairly = (field: string, otherwise: string) =>
  ({ rule: 'yes', field, otherwise, verdict: 'attention' }) as const;
