import { EXAMPLE_RECORD } from './winding/exampleRecord.ts';
import { describe, expect, it } from 'vitest';
import { worked } from '../../../scripts/testing/worked.ts';
import { CalculationInputError, runCalculation } from './calculation.ts';
import { windingConnection } from './winding/connection.ts';
import { windingLayout } from './winding/layoutCalculation.ts';
import { windingReadConnection } from './winding/readConnection.ts';
import { windingRedesign } from './redesign/redesign.ts';

const said = (work: () => unknown): { field: string; message: string }[] => {
  try {
    work();
  } catch (error) {
    if (error instanceof CalculationInputError) return error.problems;
    throw error;
  }
  return [];
};
const layout = windingLayout.example;
const connection = windingConnection.example;

describe('input of a calculation, in words', () => {
  it('a missing field says which values fit', () => {
    const { connection: _c, ...without } = connection;
    expect(said(() => runCalculation(windingConnection, without))).toEqual([
      { field: 'connection', message: 'This is missing; one of these fits: wye, delta.' },
    ]);
    const { layers: _l, ...flat } = layout;
    expect(said(() => runCalculation(windingLayout, flat))[0]?.message).toBe(
      'This is missing; one of these fits: 1, 2.',
    );
  });
  it('star is understood, at any depth', () => {
    const as = (c: string) => worked(windingConnection, { ...connection, connection: c as never }).connection;
    expect(['wye', 'star', 'Star', 'Y'].map(as)).toEqual(['wye', 'wye', 'wye', 'wye']);
    expect(['delta', 'mesh'].map(as)).toEqual(['delta', 'delta']);
    const wish = worked(windingRedesign, { ...windingRedesign.example, wish: { connection: 'star' } });
    expect((wish.candidates as { connection: string }[]).every((c) => c.connection === 'wye')).toBe(true);
  });
  it('poles are not pairs', () => {
    expect(said(() => runCalculation(windingLayout, { ...layout, poles: 3 }))[0]?.message).toMatch(/not of pole pairs/);
    const { poles, ...rest } = layout;
    expect(
      said(() => runCalculation(windingLayout, { ...rest, polePairs: poles / 2 }))
        .map((p) => p.message)
        .join(),
    ).toMatch(/say poles, the number of poles/);
  });
  it('a name near a field offers it; one far from all tells what there is', () => {
    const message = (key: string) =>
      said(() => runCalculation(windingLayout, { ...layout, [key]: 1 })).find((p) => p.field === key)?.message ?? '';
    expect(message('spanslot')).toBe('There is no field spanslot; did you mean spanSlots?');
    expect(message('slot')).toMatch(/did you mean slots/);
    expect(message('colour')).toMatch(/there are slots, poles/);
  });
  it('leads are taken as a number and as text', () => {
    for (const leads of [6, '6'] as never[]) expect(worked(windingConnection, { ...connection, leads }).leads).toBe(6);
    for (const leads of [6, '6'] as never[])
      expect(said(() => runCalculation(windingReadConnection, { ...windingReadConnection.example, leads }))).toEqual(
        [],
      );
  });
  it('what the search misses is told by its name on the sheet', () => {
    const { spansSlots: _s, boreM: _b, ...record } = EXAMPLE_RECORD;
    expect(said(() => runCalculation(windingRedesign, { ...windingRedesign.example, record }))[0]?.message).toMatch(
      /span.*bore.* missing/i,
    );
  });
});
