import { describe, expect, it } from 'vitest';
import { METRIC_DEFAULTS, readForm } from '../quantity/fields.ts';
import { derivedOf, familyOf, MEASURABLES, measurablesOf, measurementsOf } from './measurements.ts';
import { testKind, TEST_KINDS } from './tests.ts';
import type { TestKind } from './testKind.ts';

const kind = (id: string) => testKind(id) as TestKind;
const measured = (id: string, typed: Record<string, string>) => {
  const { fields } = kind(id);
  return measurementsOf(id, fields, readForm(fields, typed, METRIC_DEFAULTS).values, typed, METRIC_DEFAULTS);
};

describe('measured quantities', () => {
  it('are in base units and keep what was typed with its unit', () => {
    expect(
      measured('windingResistance', { ab: '950 mΩ', bc: '0.96', windingC: '68 °F', instrument: 'bridge' }),
    ).toEqual([
      { what: 'windingResistance.ab', value: expect.closeTo(0.95, 12), unit: 'Ω', bound: null, typed: '950 mΩ' },
      { what: 'windingResistance.bc', value: 0.96, unit: 'Ω', bound: null, typed: '0.96 Ω' },
      { what: 'windingResistance.windingC', value: expect.closeTo(20, 9), unit: '°C', bound: null, typed: '68 °F' },
    ]);
  });
  it('a reading over the range is a bound from below', () => {
    const [volts, ir] = measured('insulationResistance', { testV: '1 kV', r1min: '>2 GΩ' });
    expect(volts).toMatchObject({ value: 1000, unit: 'V', bound: null });
    expect(ir).toMatchObject({ value: 2000, unit: 'MΩ', bound: 'above' });
  });
  it('what was worked out is added where there is a finite figure', () => {
    const result = { values: { correctedMeanOhm: 1.5, unbalancePercent: NaN, verdict: 'pass' } };
    expect(derivedOf(kind('windingResistance'), result)).toEqual([
      { what: 'windingResistance.correctedMeanOhm', value: 1.5, unit: 'Ω', bound: null, typed: null },
    ]);
    expect(derivedOf(kind('windingResistance'), null)).toEqual([]);
    expect(derivedOf(kind('surge'), { values: { testV: 3 } })).toEqual([]);
  });
  it('every figure a test names as comparable is one of its calculation, and no name stands twice', () => {
    for (const k of TEST_KINDS) {
      const names = measurablesOf(k).map((m) => m.what);
      expect(new Set(names).size).toBe(names.length);
      const out = (k.calculation?.output as { shape?: Record<string, unknown> } | undefined)?.shape ?? {};
      for (const d of k.derived ?? []) expect(Object.keys(out)).toContain(d.name);
    }
    expect([...MEASURABLES.values()].some((m) => m.what.startsWith('BRN.') && m.title.startsWith('Burn off, '))).toBe(
      true,
    );
  });
});

describe('motors that are compared', () => {
  const plate = { outputW: 7500, poles: 4, voltagesV: [230, 400], frame: '132M' };
  it.each([
    [plate, '3~, 7.5 kW, 4 poles, 400 V, 130 mm'],
    [{ ...plate, outputW: 7457 }, '3~, 7.5 kW, 4 poles, 400 V, 130 mm'],
    [{ ...plate, outputW: 7650 }, '3~, 7.7 kW, 4 poles, 400 V, 130 mm'],
    [{ ...plate, poles: 6 }, '3~, 7.5 kW, 6 poles, 400 V, 130 mm'],
    [{ ...plate, voltagesV: [690] }, '3~, 7.5 kW, 4 poles, 690 V, 130 mm'],
    [{ ...plate, frame: undefined }, '3~, 7.5 kW, 4 poles, 400 V, height not known'],
    [{ ...plate, phases: '1' as const }, '1~, 7.5 kW, 4 poles, 400 V, 130 mm'],
    [{ ...plate, rotorVoltageV: 300 }, '3~ slip ring, 7.5 kW, 4 poles, 400 V, 130 mm'],
    [{ ...plate, outputW: undefined }, undefined],
    [{ ...plate, poles: undefined }, undefined],
    [{ ...plate, voltagesV: undefined }, undefined],
  ])('%j: %s', (nameplate, family) => expect(familyOf(nameplate)).toBe(family));
});
