import type { FieldSpec } from '../quantity/fields.ts';
import { celsius, choice, kilogram, millimetre, need, text } from './fieldKinds.ts';
import { CORE_PLATES } from './burnFlags.ts';

/** An oven or burn-off chamber, as it is entered once. */
export const CHAMBER_FIELDS: readonly FieldSpec[] = [
  text('name', 'Name', need),
  millimetre('doorWidth', 'Door, wide', need),
  millimetre('doorHeight', 'Door, high', need),
  kilogram('mostMass', 'Takes up to', need),
  celsius('highest', 'Goes up to', need),
];

/** What a load is begun with. */
export const LOAD_FIELDS: readonly FieldSpec[] = [celsius('setPoint', 'Air set to', need)];

/** A part as it goes in. */
export const LOAD_PART_FIELDS: readonly FieldSpec[] = [
  kilogram('mass', 'Mass', need),
  millimetre('width', 'Stands, wide', need),
  millimetre('height', 'Stands, high', need),
];
export const BURN_PART_FIELDS: readonly FieldSpec[] = [
  ...LOAD_PART_FIELDS,
  choice('corePlate', 'Core plate', CORE_PLATES, need),
];

/** A reading that a person types, where no logger reads. */
export const OVEN_READING_FIELDS: readonly FieldSpec[] = [celsius('c', 'Part temperature', need)];
