import { describe, expect, it } from 'vitest';
import { modeOfWaves, MOST_WAVE_ROWS, readSurgeCsv, wavesInOrder } from './surgeCsv.ts';

const rows = (of: (i: number) => (number | string)[], n = 6, between = ',') =>
  Array.from({ length: n }, (_, i) => of(i).join(between)).join('\n');
const v = [1500, 900, -300, -750, -150, 400];

describe('waves from a file', () => {
  it('one column of time, one of voltage for each wave; the heading says the voltage applied', () => {
    const csv = `time (µs),UV 1500 V,VW 1500 V,WU 1500 V\n${rows((i) => [i * 10, v[i] ?? 0, v[i] ?? 0, 0.9 * (v[i] ?? 0)])}`;
    const waves = readSurgeCsv(csv);
    expect(waves.map((w) => [w.name, w.pulses.length, w.pulses[0]?.appliedV])).toEqual([
      ['UV', 1, 1500],
      ['VW', 1, 1500],
      ['WU', 1, 1500],
    ]);
    expect(waves[0]?.pulses[0]).toMatchObject({ dtUs: 10, v });
    expect(modeOfWaves(waves)).toBe('lead to lead');
  });

  it('two columns a wave, kilovolts, seconds with exponents, decimal comma', () => {
    const csv = `t (s);U (kV);t (s);V (kV);t (s);W (kV)\n${rows(
      (i) => {
        const t = `${i},0E-5`;
        const k = String((v[i] ?? 0) / 1000).replace('.', ',');
        return [t, k, t, k, t, k];
      },
      6,
      ';',
    )}`;
    const waves = readSurgeCsv(csv);
    expect(modeOfWaves(waves)).toBe('one against two');
    expect(waves[1]?.name).toBe('V');
    expect(waves[1]?.pulses[0]?.dtUs).toBeCloseTo(10, 9);
    expect(waves[1]?.pulses[0]?.v).toEqual(v);
    expect(waves[1]?.pulses[0]?.appliedV).toBe(1500);
  });

  it('columns of one name are pulses of one wave, in the order of the file', () => {
    const csv = `t (ms);UV 600 V;UV 1,2 kV;VW 600 V\n${rows((i) => [i / 100, v[i] ?? 0, 2 * (v[i] ?? 0), v[i] ?? 0], 6, ';')}`;
    const waves = readSurgeCsv(csv);
    expect(waves.map((w) => w.pulses.map((p) => p.appliedV))).toEqual([[600, 1200], [600]]);
    expect(waves[0]?.pulses[0]?.dtUs).toBeCloseTo(10, 9);
  });

  it('what lies before the switch closed is left out; without a heading the waves have no names', () => {
    const waves = readSurgeCsv(
      rows((i) => [(i - 2) * 1e-5, v[i] ?? 0, v[i] ?? 0], 8),
      { appliedV: 1400 },
    );
    expect(waves).toHaveLength(2);
    expect(waves[0]?.pulses[0]).toMatchObject({ appliedV: 1400, v: [-300, -750, -150, 400, 0, 0] });
    expect(waves[0]).not.toHaveProperty('name');
  });

  it('names of leads in any order and writing are the three waves', () => {
    const at = (name: string) => ({ name, pulses: [] });
    expect(wavesInOrder([at('T2-T3'), at('T3-T1'), at('T1-T2')]).map((w) => w.name)).toEqual(['UV', 'VW', 'WU']);
    expect(wavesInOrder([at('W1'), at('u1'), at('V')]).map((w) => w.name)).toEqual(['U', 'V', 'W']);
    expect(wavesInOrder([at('b'), at('a')]).map((w) => w.name)).toEqual(['b', 'a']);
    expect(modeOfWaves([at('a'), at('b'), at('c')])).toBeUndefined();
    expect(modeOfWaves([at('U')])).toBeUndefined();
  });

  it('times printed with few figures are taken, a gap is not', () => {
    const printed = rows((i) => [Math.round(i * 2.5) * 1e-6, v[i % 6] ?? 0], 24);
    expect(readSurgeCsv(printed)[0]?.pulses[0]?.dtUs).toBeCloseTo(2.5, 1);
    const gap = rows((i) => [(i > 10 ? i + 5 : i) * 1e-6, v[i % 6] ?? 0], 24);
    expect(() => readSurgeCsv(gap)).toThrow(/steps of time are not equal/);
  });

  it.each<[string, string, RegExp]>([
    ['one column', rows((i) => [i]), /column of time and one of voltage/],
    ['too short', rows((i) => [i, i], 4), /fewer than 5 samples/],
    [
      'words in the middle',
      `t,UV\n${rows((i) => [i, i === 3 ? 'flash' : 100 * i])}`,
      /Line 5: "flash" is not a number/,
    ],
    [
      'kilovolts taken for volts',
      `t,UV\n${rows((i) => [i * 1e-5, (v[i] ?? 0) / 1000])}`,
      /reaches only 1.5 V: are these kV/,
    ],
    ['times that stand', `t,UV\n${rows((i) => [1, v[i] ?? 0])}`, /times do not rise/],
    ['only before the switch closed', rows((i) => [i - 50, v[i] ?? 0]), /from the closing of the switch on/],
    ['zeros', `t,UV (V)\n${rows((i) => [i, 0])}`, /nothing but zeros/],
    ['a unit of time that is none', `t (h),UV\n${rows((i) => [i, v[i] ?? 0])}`, /no unit of time/],
    ['amperes', `t,UV (A)\n${rows((i) => [i, v[i] ?? 0])}`, /no unit of the waves/],
    ['four waves', `t,a,b,c,d\n${rows((i) => [i, 100, 100, 100, 100].map((x, k) => (k === 0 ? i : x)))}`, /4 waves/],
    ['too many rows', rows((i) => [i, 100], MOST_WAVE_ROWS + 1), /at most 20000/],
  ])('%s: refused in words', (_, csv, says) => {
    expect(() => readSurgeCsv(csv)).toThrow(says);
  });

  it('kilovolts that somebody chose are taken', () => {
    const csv = `t,UV\n${rows((i) => [i * 1e-5, (v[i] ?? 0) / 1000])}`;
    expect(readSurgeCsv(csv, { unit: 'kV' })[0]?.pulses[0]?.v).toEqual(v);
    expect(readSurgeCsv(csv, { unit: 'V', appliedV: 2 })[0]?.pulses[0]?.appliedV).toBe(2);
  });
});
