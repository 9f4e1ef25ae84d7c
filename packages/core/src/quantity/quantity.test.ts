import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { METRIC_DEFAULTS, readForm, type FieldSpec } from './fields.ts';
import { formatAgainst, formatNumber, formatQuantity } from './format.ts';
import { parseCounts, parseNumber, parseQuantities, parseQuantity, parseSpans } from './parse.ts';
import { fromBase, toBase, UNITS, type Dimension } from './units.ts';

describe('numbers as typed at the bench', () => {
  it.each([
    ['15.9', 15.9],
    ['15,9', 15.9],
    ['5/8', 0.625],
    ['1 3/8', 1.375],
    ['1-3/8', 1.375],
    ['1.234,5', 1234.5],
    ['1,234.5', 1234.5],
    ['-3', -3],
    ['2 500', 2500],
  ])('%s', (text, value) => {
    expect(parseNumber(text)).toBeCloseTo(value, 12);
  });
  it.each(['', 'abc', '5/0', '1.2.3', '--3', '1/2/3'])('refuses "%s"', (text) =>
    expect(parseNumber(text)).toBeUndefined(),
  );
  it.each([
    ['5/8 in', 'length', 'mm', 0.015875],
    ['15.9 mm', 'length', 'mm', 0.0159],
    ['15.9', 'length', 'mm', 0.0159],
    ['6 "', 'length', 'mm', 0.1524],
    ['10 hp', 'power', 'kW', 7456.998715822702],
    ['275 °F', 'temperature', '°C', 135],
    ['275F', 'temperature', '°C', 135],
    ['3.1 GΩ', 'insulation', 'MΩ', 3100],
    ['0,6866', 'resistance', 'Ω', 0.6866],
    ['686.6 mΩ', 'resistance', 'Ω', 0.6866],
    ['1455 rpm', 'speed', 'r/min', 1455],
  ] as [string, Dimension, string, number][])('%s is a %s', (text, dimension, unit, base) => {
    const q = parseQuantity(text, dimension, unit);
    expect(q.ok && q.value.base).toBeCloseTo(base, 9);
    expect(q.ok && q.value.typed).toBe(text);
  });
  it('says what would be right', () => {
    const q = parseQuantity('12 kg', 'length', 'mm');
    expect(!q.ok && q.message).toMatch(/"kg" is not a unit for this\. Use m, mm/);
  });
  it('mΩ and MΩ are not mixed up', () => {
    const milli = parseQuantity('5 mΩ', 'resistance', 'Ω');
    const mega = parseQuantity('5 MΩ', 'insulation', 'MΩ');
    expect(milli.ok && milli.value.base).toBe(0.005);
    expect(mega.ok && mega.value.base).toBe(5);
  });
  it.each([
    ['1-9', [8]],
    ['1-12, 2-11, 3-10', [11, 9, 7]],
    ['1 to 9', [8]],
    ['1-10 2-9', [9, 7]],
  ])('span %s', (text, spans) => {
    const s = parseSpans(text);
    expect(s.ok && s.value).toEqual(spans);
  });
  it('a span must be counted from slot to slot', () => expect(parseSpans('9').ok).toBe(false));
  it.each([
    ['12x3', Array(12).fill(3)],
    ['3-3-2', [3, 3, 2]],
    ['11, 12, 11', [11, 12, 11]],
    ['11\n12\n11', [11, 12, 11]],
    ['34', [34]],
  ])('counts %s', (text, list) => {
    const c = parseCounts(text);
    expect(c.ok && c.value).toEqual(list);
  });
  it('dual voltages', () => {
    const v = parseQuantities('230/400 V', 'voltage', 'V');
    expect(v.ok && v.value.map((q) => q.base)).toEqual([230, 400]);
  });
});

describe('units', () => {
  it('convert there and back for every unit', () => {
    const all = Object.entries(UNITS).flatMap(([d, list]) => list.map((u) => [d as Dimension, u.name] as const));
    fc.assert(
      fc.property(fc.constantFrom(...all), fc.double({ min: -1e6, max: 1e6, noNaN: true }), ([dimension, unit], x) => {
        expect(fromBase(toBase(x, dimension, unit), dimension, unit)).toBeCloseTo(x, 6);
      }),
    );
  });
  it('fixed points (SI brochure)', () => {
    expect(toBase(85, 'fluxDensity', 'kl/in²')).toBeCloseTo(1.3175, 4);
    expect(fromBase(360, 'temperature', '°F')).toBeCloseTo(680, 9);
    expect(toBase(1, 'area', 'mm²') / toBase(1, 'area', 'cmil')).toBeCloseTo(1973.5, 0);
  });
});

describe('numbers for reading', () => {
  it.each([
    [0.68664, '0.6866'],
    [1234.56, '1235'],
    [0, '0'],
    [12, '12'],
    [1e-7, '1.000e-7'],
    [Number.NaN, '–'],
  ])('%d', (x, text) => expect(formatNumber(x)).toBe(text));
  it('a quantity with its unit', () => expect(formatQuantity(0.0159, 'length', 'mm')).toBe('15.9 mm'));
  it('shown value and limit never contradict the comparison', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.001, max: 1000, noNaN: true }),
        fc.double({ min: 0.001, max: 1000, noNaN: true }),
        (a, b) => {
          const [x, y] = formatAgainst(a, b);
          if (a !== b && Math.abs(a - b) > 1e-9 * b) expect(Math.sign(Number(x) - Number(y))).toBe(Math.sign(a - b));
        },
      ),
    );
  });
});

describe('forms', () => {
  const specs: FieldSpec[] = [
    {
      name: 'bore',
      label: 'Bore',
      read: { kind: 'quantity', dimension: 'length', unit: 'mm', above: 0 },
      required: true,
    },
    { name: 'r', label: 'R', read: { kind: 'quantity', dimension: 'insulation', unit: 'MΩ', overRange: true } },
    { name: 'ok', label: 'OK', read: { kind: 'flag' } },
  ];
  it('an inch shop reads a bare number as inches', () => {
    const r = readForm(specs, { bore: '6' }, { ...METRIC_DEFAULTS, lengthUnit: 'in' });
    expect(r.values['bore']).toBeCloseTo(0.1524, 9);
    expect(r.understood['bore']).toBe('6 in');
  });
  it('an over-range reading is a bound', () => {
    expect(readForm(specs, { r: '>2000' }, METRIC_DEFAULTS).values).toMatchObject({ r: 2000, rOverRange: true });
  });
  it('a draft may be incomplete, a finished form not; every problem names its field', () => {
    expect(readForm(specs, {}, METRIC_DEFAULTS).problems).toEqual([]);
    expect(readForm(specs, {}, METRIC_DEFAULTS, 'complete').problems).toEqual([
      { field: 'bore', label: 'Bore', message: 'Bore is needed.' },
    ]);
    expect(readForm(specs, { bore: '-3', ok: 'maybe' }, METRIC_DEFAULTS).problems.map((p) => p.field)).toEqual([
      'bore',
      'ok',
    ]);
  });
});
