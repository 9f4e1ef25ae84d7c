import {
  ratingOf,
  readForm,
  redesignWishSchema,
  WINDING_FIELDS,
  type FieldSpec,
  type Nameplate,
  type ReadingDefaults,
  type RedesignWish,
  type Typed,
  type WindingRecord,
} from '@norther/core';

/** A field read as on the data sheet. */
const asOnSheet = (name: string, label: string): FieldSpec => {
  const found = WINDING_FIELDS.find((f) => f.name === name);
  if (!found) throw new Error(`no field ${name} on the data sheet`);
  return { name, label, read: found.read };
};

/** What may be wished of a changed rewind; blank = as found, or whatever works. */
export const WISH_FIELDS: readonly FieldSpec[] = [
  { name: 'voltage', label: 'Line voltage', read: { kind: 'quantity', dimension: 'voltage', unit: 'V', above: 0 } },
  { name: 'frequency', label: 'Frequency', read: { kind: 'quantity', dimension: 'frequency', unit: 'Hz', above: 0 } },
  { name: 'power', label: 'Output', read: { kind: 'quantity', dimension: 'power', unit: 'kW', above: 0 } },
  {
    name: 'flux',
    label: 'Flux',
    read: {
      kind: 'choice',
      options: [
        { value: 'with the torque', label: 'with the torque' },
        { value: 'as found', label: 'as found' },
      ],
    },
  },
  asOnSheet('poles', 'Poles'),
  asOnSheet('connection', 'Connection'),
  asOnSheet('circuits', 'Circuits as it runs'),
  { ...asOnSheet('spansSlots', 'Span'), name: 'span' },
  asOnSheet('form', 'Coils'),
  asOnSheet('layers', 'Layers'),
  {
    name: 'loss',
    label: 'Copper loss up by at most, %',
    read: { kind: 'quantity', dimension: 'number', unit: '', min: -90, max: 200 },
  },
  { name: 'mostWires', label: 'Most wires in hand', read: { kind: 'count', min: 1, max: 12 } },
  { name: 'mostSizes', label: 'Most sizes in a hand', read: { kind: 'count', min: 1, max: 3 } },
  { name: 'converter', label: 'Fed by a converter', read: { kind: 'flag' } },
];

export type WishReading = { wish: RedesignWish; problem?: undefined } | { wish?: undefined; problem: string };

/** The wish as typed, in the terms of the search. */
export function readWish(
  typed: Typed,
  record: WindingRecord,
  plate: Nameplate,
  defaults: ReadingDefaults,
): WishReading {
  const { values, problems } = readForm(WISH_FIELDS, typed, defaults);
  if (problems[0]) return { problem: `${problems[0].label}: ${problems[0].message}` };
  const v = values as Record<string, number | string | number[] | boolean | undefined>;
  const spans = v['span'] as number[] | undefined;
  const power = v['power'] as number | undefined;
  if (power !== undefined && plate.outputW === undefined)
    return { problem: 'Output: the nameplate has no output to compare with; correct the intake first.' };
  const { voltageV } = ratingOf(plate, record);
  const taken: Record<string, unknown> = {
    lineVoltageV: v['voltage'] === voltageV ? undefined : v['voltage'],
    frequencyHz: v['frequency'] === plate.frequencyHz ? undefined : v['frequency'],
    powerRatio: power === undefined ? undefined : power / (plate.outputW ?? power),
    flux: v['flux'],
    poles: v['poles'],
    connection: v['connection'],
    circuits: v['circuits'],
    spanSlots: spans?.[0],
    form: v['form'],
    layers: v['layers'],
    lossAtMostPercent: v['loss'],
    mostWires: v['mostWires'],
    mostSizes: v['mostSizes'],
    converterFed: v['converter'],
  };
  const read = redesignWishSchema.safeParse(
    Object.fromEntries(Object.entries(taken).filter(([, x]) => x !== undefined && x !== '')),
  );
  if (read.success) return { wish: read.data };
  const issue = read.error.issues[0];
  const label: Record<string, string> = {
    lineVoltageV: 'Line voltage',
    frequencyHz: 'Frequency',
    powerRatio: 'Output',
  };
  const at = String(issue?.path[0] ?? '');
  return {
    problem:
      at === 'powerRatio'
        ? 'Output: between a fifth and three times the rated output.'
        : `${label[at] ?? at}: ${issue?.message ?? 'cannot be read.'}`,
  };
}
