import { describe, expect, it } from 'vitest';
import { worked } from '../../../../scripts/testing/worked.ts';
import { METRIC_DEFAULTS } from '../quantity/fields.ts';
import { EXAMPLE_RECORD } from './exampleRecord.ts';
import { windingFigures } from './figures.ts';
import { readWindingRecord, typedOfRecord } from './readRecord.ts';
import { recordOfBefore, windingRecordSchema, type ThreePhaseRecord, type WindingRecord } from './record.ts';

const M1: ThreePhaseRecord = EXAMPLE_RECORD;

describe('a record typed out again', () => {
  it('reads back the same, in any shop', () => {
    const full: ThreePhaseRecord = {
      ...M1,
      grouping: new Array<number>(12).fill(3),
      coilCount: 36,
      linerM: 0.00025,
      resistanceOhm: 0.6866,
      resistanceTemperatureC: 21.5,
      copperKg: 8.21,
      copperState: 'burned clean',
      remarks: 'two slots burnt',
    };
    const others: WindingRecord[] = [
      {
        ...M1,
        kind: 'single-phase',
        capacitorF: 30e-6,
        auxShiftSlots: 4.5,
        auxKind: 'capacitor run',
        auxTurns: [40, 30],
      },
      { ...M1, kind: 'two-speed', duty: 'variable torque' },
      { kind: 'tooth-coil', slots: 12, poles: 10, layers: 'double', turns: [42], connection: 'wye', circuits: 2 },
      {
        kind: 'bar-rotor',
        slots: 48,
        poles: 4,
        barsPerSlot: 2,
        barWidthM: 0.0035,
        barHeightM: 0.014,
        farPitchSlots: 11,
      },
    ];
    const inch = { ...METRIC_DEFAULTS, lengthUnit: 'in' as const, wireSystem: 'awg' as const, massUnit: 'lb' as const };
    for (const one of [full, ...others])
      for (const shop of [METRIC_DEFAULTS, inch]) {
        const back = readWindingRecord(typedOfRecord(one), shop);
        expect(back.problems).toEqual([]);
        const { strands, ...rest } = back.record;
        const { strands: wanted, ...fields } = one;
        expect(strands?.map((s) => [s.count, s.bareM.toPrecision(9)])).toEqual(
          wanted?.map((s) => [s.count, s.bareM.toPrecision(9)]),
        );
        for (const [k, v] of Object.entries(fields)) {
          const got = rest[k as keyof typeof rest];
          if (typeof v === 'number') expect(got, k).toBeCloseTo(v, 12);
          else expect(got, k).toEqual(v);
        }
      }
  });
  it('holds the fields of its kind; what was typed for another kind stays typed only', () => {
    const typed = { slots: '24', poles: '2', turns: '40', capacitorF: '30', duty: 'variable torque', barsPerSlot: '2' };
    const of = (kind: string) => Object.keys(readWindingRecord({ ...typed, kind }, METRIC_DEFAULTS).record).sort();
    expect(of('')).toEqual(['kind', 'poles', 'slots', 'turns']);
    expect(of('two-speed')).toEqual(['duty', 'kind', 'poles', 'slots', 'turns']);
    expect(of('single-phase')).toEqual(['capacitorF', 'kind', 'poles', 'slots', 'turns']);
    expect(of('bar-rotor')).toEqual(['barsPerSlot', 'kind', 'poles', 'slots']);
  });
  it('of before kinds is read: it gets its kind, and loses what is no part of it', () => {
    expect(recordOfBefore({ slots: 36, poles: 4, duty: 'constant torque', capacitorF: 1e-5 })).toEqual({
      kind: 'three-phase',
      slots: 36,
      poles: 4,
    });
    expect(recordOfBefore({ kind: 'two-speed', slots: 36, duty: 'constant torque' })).toEqual({
      kind: 'two-speed',
      slots: 36,
      duty: 'constant torque',
    });
    expect(() => recordOfBefore({ slots: 'many' })).toThrow();
    expect(windingRecordSchema.safeParse({ kind: 'three-phase', duty: 'constant torque' }).success).toBe(false);
  });
  it('a bar rotor and tooth coils are laid out and reckoned', () => {
    // 48 slots, 4 poles, two bars a slot, full and short pitch: k_w 0.9577 and 0.9495, 16 turns a phase (docs/derivations.md)
    const bars: WindingRecord = {
      kind: 'bar-rotor',
      slots: 48,
      poles: 4,
      barsPerSlot: 2,
      connection: 'wye',
      circuits: 1,
    };
    const of = (record: WindingRecord) => worked(windingFigures, { record, nameplate: {} });
    expect(of(bars).windingFactor).toBeCloseTo(0.9577, 4);
    expect(of(bars).seriesTurns).toBe(16);
    expect(of({ ...bars, farPitchSlots: 11 }).windingFactor).toBeCloseTo(0.9495, 4);
    // 12 slots, 10 poles, a coil on every tooth: k_w 0.933 (handbook tables of tooth coils)
    const teeth: WindingRecord = { kind: 'tooth-coil', slots: 12, poles: 10, layers: 'double', turns: [42] };
    expect(of(teeth).windingFactor).toBeCloseTo(0.933, 3);
  });
});
