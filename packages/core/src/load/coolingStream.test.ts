import { describe, expect, it } from 'vitest';
import { loadFrame } from '../../../../scripts/testing/onDynamometer.ts';
import { LoadStand } from '../bench/loadStand.ts';
import { LOAD_ORDER } from '../../../../scripts/testing/onDynamometer.ts';
import { coolingOfStream, coolingTyped, resistanceRow, switchedOffAt } from './coolingStream.ts';
import { riseAtRest, riseByResistance } from './temperatureRise.ts';

describe('resistance that an instrument sends while a winding cools', () => {
  it.each([
    [[{ name: 'R', unit: 'mΩ' }], { row: 0, unit: 'mΩ' }],
    [
      [
        { name: 'T', unit: '°C' },
        { name: 'R 12', unit: '' },
      ],
      { row: 1, unit: 'Ω' },
    ],
    [[{ name: 'Line resistance', unit: 'ohm' }], { row: 0, unit: 'ohm' }],
    [[{ name: 'R', unit: 'V' }], '"R" is in "V": a resistance is wanted, as in Ω.'],
    [
      [
        { name: 'U', unit: 'V' },
        { name: 'I', unit: 'A' },
      ],
      'No channel is a resistance (R): U, I.',
    ],
  ] as const)('%j', (channels, found) => {
    expect(resistanceRow(channels)).toEqual(found);
  });

  it('the power went off when a line carried current last', () => {
    const at = (t: number, a: number) => loadFrame(t, { lineA: [a, a, a] });
    expect(switchedOffAt([at(0, 10), at(1, 10), at(2, 0), at(3, 0.4)])).toBe(1);
    expect(switchedOffAt([at(0, 10), at(1, 0.5), at(2, 0.51), at(3, 0)])).toBe(2);
    expect(switchedOffAt([at(0, 0), at(1, 0)])).toBeUndefined();
    expect(switchedOffAt([loadFrame(0, { lineA: [undefined, undefined, undefined] })])).toBeUndefined();
    expect(switchedOffAt([])).toBeUndefined();
  });

  it('few are taken as they are; lost and impossible ones are left out', () => {
    expect(coolingOfStream([-1, 5, 10, 15, 20], [2, 1.9, null, 0, 1.8])).toEqual([
      { seconds: 5, ohm: 1.9 },
      { seconds: 20, ohm: 1.8 },
    ]);
    expect(coolingOfStream([5, 10], [1900, 1800], 'mΩ')).toEqual([
      { seconds: 5, ohm: expect.closeTo(1.9, 12) },
      { seconds: 10, ohm: expect.closeTo(1.8, 12) },
    ]);
    expect(coolingOfStream([], [])).toEqual([]);
    expect(coolingOfStream([1, 2], [NaN, null])).toEqual([]);
  });

  it('of many, twelve spread over it, each the mean around its time', () => {
    const x = Array.from({ length: 111 }, (_, i) => 5 + i);
    const found = coolingOfStream(
      x,
      x.map((s) => 2 - s / 1000),
    );
    expect(found.map((r) => Math.round(r.seconds))).toEqual([6, 15, 25, 35, 45, 55, 65, 75, 85, 95, 105, 114]);
    for (const r of found) expect(r.ohm).toBeCloseTo(2 - r.seconds / 1000, 12);
    // one wild value among many moves its own reading only
    const wild = coolingOfStream(
      x,
      x.map((s) => (s === 55 ? 3 : 2 - s / 1000)),
    );
    expect(wild.filter((r, i) => Math.abs(r.ohm - (found[i]?.ohm ?? 0)) > 1e-9)).toHaveLength(1);
  });

  it('a gap in the stream has no reading', () => {
    const x = [...Array.from({ length: 20 }, (_, i) => i), 110];
    const found = coolingOfStream(
      x,
      x.map((s) => 1 + s),
    );
    // ten seconds apart, each over five: 0 to 2, 8 to 12, 18 and 19, and the one behind the gap
    expect(found.map((r) => r.seconds)).toEqual([1, 10, 18.5, 110]);
    expect(found.every((r) => Math.abs(r.ohm - 1 - r.seconds) < 1e-9)).toBe(true);
  });

  it.each([13, 16, 20, 23, 24, 25, 60, 180])(
    'of %i samples, one a second, twelve readings, none of them twice',
    (n) => {
      const x = Array.from({ length: n }, (_, i) => 5.3 + i);
      const found = coolingOfStream(
        x,
        x.map((s) => 2 - s / 1000),
      );
      expect(found).toHaveLength(12);
      expect(new Set(found.map((r) => r.seconds)).size).toBe(12);
      for (const r of found) expect(r.ohm).toBeCloseTo(2 - r.seconds / 1000, 12);
    },
  );

  it('twelve are taken as they are, the thirteenth makes means; names may stand with blanks', () => {
    const x = (n: number) => Array.from({ length: n }, (_, i) => i * i);
    const of = (n: number) =>
      coolingOfStream(
        x(n),
        x(n).map((s) => 1 + s),
      ).map((r) => r.seconds);
    expect(of(12)).toEqual(x(12));
    expect(of(13)).not.toEqual(x(13));
    expect(of(13).length).toBeLessThan(13);
    expect(resistanceRow([{ name: ' R ', unit: ' Ω ' }])).toEqual({ row: 0, unit: 'Ω' });
    // the moment of the switch itself counts
    expect(coolingOfStream([0], [1])).toEqual([{ seconds: 0, ohm: 1 }]);
  });

  it('fills the sheet; nothing where nothing came', () => {
    expect(
      coolingTyped(
        [
          { seconds: 5, ohm: 1.23456789 },
          { seconds: 15.25, ohm: 1.2 },
        ],
        24.13,
      ),
    ).toEqual({
      seconds: '5; 15.25',
      ohms: '1.23457; 1.2',
      coolantC: '24.13',
    });
    expect(coolingTyped([{ seconds: 5, ohm: 1 }])).toEqual({ seconds: '5', ohms: '1' });
    expect(coolingTyped([], 24)).toEqual({});
  });

  it('gives back the rise of the simulated motor at its switch within 1 K', () => {
    const stand = new LoadStand(LOAD_ORDER, 3);
    stand.set(LOAD_ORDER.ratedNm);
    for (let s = 0; s < 4 * 1400; s++) stand.advance(1);
    const hot = stand.lineOhm;
    stand.stop();
    for (let s = 0; s < 8; s++) stand.advance(1);
    const x: number[] = [];
    const ohms: number[] = [];
    for (let s = 8; s < 188; s++) {
      x.push(s);
      ohms.push(stand.readOhm());
      stand.advance(1);
    }
    const cold = { coldOhm: LOAD_ORDER.line20Ohm, coldC: 20, coolantC: 24, k: 234.5 };
    const found = riseAtRest(coolingOfStream(x, ohms), { ...cold, ratedKW: 5.5 });
    expect(found.how).toBe('extrapolated');
    expect(Math.abs(found.riseK - riseByResistance({ ...cold, hotOhm: hot }))).toBeLessThan(1);
  });
});
