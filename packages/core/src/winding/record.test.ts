import { describe, expect, it } from 'vitest';
import { worked } from '../../../../scripts/testing/worked.ts';
import { METRIC_DEFAULTS } from '../quantity/fields.ts';
import { ALL_LIMITS, limit, quoteLimit } from '../limits/limits.ts';
import { checkRecord } from './checks.ts';
import { windingFigures } from './figures.ts';
import { layoutInputOf, layoutOfRecord, ratingOf } from './recordLayout.ts';
import { readWindingRecord } from './readRecord.ts';
import { threePhaseRecord, fieldsOfKind, RECORD_KINDS } from './record.ts';
import { WINDING_FIELDS } from './recordFields.ts';

/** Machine M1 as a person types it, in two shops. */
const metric = {
  slots: '36',
  poles: '4',
  layers: 'double',
  form: 'lap',
  coilCount: '36',
  groupCount: '12',
  grouping: '12x3',
  spansSlots: '1-9',
  turns: '34',
  turnsSecondCount: '34',
  strands: '2x0,85',
  wireGrade: '2',
  connection: 'delta',
  circuits: '2',
  leads: '3',
  boreM: '150',
  coreLengthM: '140 mm',
  toothWidthM: '7',
  backIronM: '25',
  slotDepthM: '24',
  slotAreaM2: '185',
  slotNetAreaM2: '158',
};
const inch = {
  ...metric,
  strands: '2x0.85 mm',
  boreM: '5.9055',
  coreLengthM: '5.5118',
  toothWidthM: '0.2756',
  backIronM: '0.9843',
  slotDepthM: '0.9449',
  slotAreaM2: '0.28675 in²',
  slotNetAreaM2: '0.2449 in²',
};
const INCH = { ...METRIC_DEFAULTS, lengthUnit: 'in' as const, wireSystem: 'awg' as const };
const plate = { outputW: 11000, voltagesV: [400], currentsA: [22], frequencyHz: 50, speedRpm: 1455 };

describe('a winding record as typed', () => {
  it('has a field on the sheet for every field of the record', () => {
    expect(WINDING_FIELDS.map((f) => f.name).sort()).toEqual(
      [...new Set(RECORD_KINDS.flatMap((k) => [...fieldsOfKind(k)]))].sort(),
    );
  });
  it('reads the same machine in millimetres and in inches', () => {
    const a = readWindingRecord(metric, METRIC_DEFAULTS);
    const b = readWindingRecord(inch, INCH);
    expect(a.problems).toEqual([]);
    expect(b.problems).toEqual([]);
    const fa = worked(windingFigures, { record: a.record, nameplate: plate });
    const fb = worked(windingFigures, { record: b.record, nameplate: plate });
    for (const key of [
      'airGapT',
      'toothT',
      'backIronT',
      'currentDensityAMm2',
      'lineResistance20Ohm',
      'insulatedSquareFill',
    ] as const) {
      expect(Math.abs((fa[key] ?? 0) / (fb[key] ?? 1) - 1), key).toBeLessThan(2e-3);
    }
    expect(checkRecord(a.record, plate).filter((f) => f.severity !== 'I')).toEqual([]);
  });
  it('keeps what can be read beside what cannot, and names each field', () => {
    const r = readWindingRecord({ ...metric, turns: 'many', boreM: '12 kg', slots: '500' }, METRIC_DEFAULTS);
    expect(r.problems.map((p) => p.field).sort()).toEqual(['boreM', 'slots', 'turns']);
    expect(r.record.poles).toBe(4);
    expect(r.record.turns).toBeUndefined();
  });
  it('concentric spans are read as a list and give the layout their mean', () => {
    const { record } = readWindingRecord(
      { ...metric, form: 'concentric', spansSlots: '1-11, 2-10, 3-9' },
      METRIC_DEFAULTS,
    );
    expect(record.spansSlots).toEqual([10, 8, 6]);
    expect(layoutInputOf(record)?.spanSlots).toBe(8);
    expect(layoutOfRecord(record).layout?.coils[0]?.spanSlots).toBe(10);
  });
  it('uneven turns within a group reach the coils', () => {
    const { record } = readWindingRecord({ ...metric, turns: '11, 12, 11' }, METRIC_DEFAULTS);
    const coils = layoutOfRecord(record)
      .layout?.coils.slice(0, 3)
      .map((c) => c.turns);
    expect(coils).toEqual([11, 12, 11]);
  });
  it('a layout that cannot be is said in a sentence, not thrown', () => {
    const { record } = readWindingRecord({ ...metric, layers: 'single', spansSlots: '1-9' }, METRIC_DEFAULTS);
    const laid = layoutOfRecord(record);
    expect(laid.layout).toBeUndefined();
    expect('why' in laid ? laid.why : '').toMatch(/odd span/);
  });
  it('nothing typed is nothing claimed', () => {
    const { record, problems } = readWindingRecord({}, METRIC_DEFAULTS);
    expect([record, problems]).toEqual([{ kind: 'three-phase' }, []]);
    expect(checkRecord(record, {})).toEqual([]);
    expect(worked(windingFigures, { record, nameplate: {} })).toEqual({ meanTurnFrom: 'nothing' });
  });
});

describe('rating that belongs to the connection', () => {
  it('dual voltage: delta takes the lower, wye the higher, with its own current', () => {
    const dual = { voltagesV: [230, 400], currentsA: [20, 11.5] };
    expect(ratingOf(dual, threePhaseRecord({ connection: 'delta' }))).toEqual({ voltageV: 230, currentA: 20 });
    expect(ratingOf(dual, threePhaseRecord({ connection: 'wye' }))).toEqual({ voltageV: 400, currentA: 11.5 });
    expect(ratingOf({ voltagesV: [400] }, threePhaseRecord({ connection: 'wye' }))).toEqual({ voltageV: 400 });
    expect(ratingOf({}, threePhaseRecord({}))).toEqual({});
  });
});

describe('limits', () => {
  it('have ids of their own, positive published values and a named source', () => {
    expect(new Set(ALL_LIMITS.map((l) => l.id)).size).toBe(ALL_LIMITS.length);
    for (const l of ALL_LIMITS) {
      expect(l.published).toBeGreaterThan(0);
      expect(l.source).not.toBe('');
    }
  });
  it("the shop's value is in force and quoted beside the published one", () => {
    expect(limit('winding.fillWarn')).toBe(0.8);
    expect(limit('winding.fillWarn', { 'winding.fillWarn': 0.75 })).toBe(0.75);
    expect(quoteLimit('ir.dewPointMarginK', { 'ir.dewPointMarginK': 5 })).toBe(
      '5 K (this shop; published 3, common practice)',
    );
    expect(quoteLimit('ir.dewPointMarginK')).toBe('3 K (common practice)');
  });
  it('a shop limit moves the finding of a check', () => {
    const { record } = readWindingRecord(metric, METRIC_DEFAULTS);
    expect(checkRecord(record, plate, { 'winding.fillWarn': 0.7 }).map((f) => f.check)).toContain('slot-fill');
    expect(checkRecord(record, plate).map((f) => f.check)).not.toContain('slot-fill');
  });
});
