import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { jointsOf } from '../network/joints.ts';
import { openedCircuit, reversed } from '../network/mistakes.ts';
import { connect } from '../winding/connection.ts';
import { layoutOf } from '../winding/layout.ts';
import { expectedWaves, qualityOf, ringing } from './expectedWaves.ts';
import { ringFrequencyHz } from './wave.ts';

const layout = layoutOf({
  slots: 36,
  poles: 4,
  layers: 2,
  form: 'lap',
  poleGroups: 'every-pole',
  spanSlots: 8,
  turns: [10],
  kind: 'three-phase',
});
const wye = connect(layout, { connection: 'wye', circuits: 1, jumper: 'adjacent-pole', leads: 3 });
const joints = jointsOf(wye);
const measured = (uv: number, vw: number, wu: number) => [
  { name: 'UV', frequencyHz: uv },
  { name: 'VW', frequencyHz: vw },
  { name: 'WU', frequencyHz: wu },
];
const ratios = (waves: { hz: number }[] | undefined) => {
  const least = Math.min(...(waves ?? []).map((w) => w.hz));
  return (waves ?? []).map((w) => Number((w.hz / least).toFixed(2)));
};

describe('waves as the joints would make them', () => {
  it('a sound winding rings alike; what was measured is told against it', () => {
    const [uv, vw, wu] = expectedWaves(layout, joints, 'lead to lead', measured(4000, 4000, 4200)) ?? [];
    const mean = Math.cbrt(4000 * 4000 * 4200);
    expect(uv?.hz).toBeCloseTo(mean, 6);
    expect(vw?.hz).toBeCloseTo(mean, 6);
    expect(wu?.offPercent).toBeCloseTo(100 * (4200 / mean - 1), 9);
  });
  it('a reversed group of U shows as in the table of the reference: 1.13, 1.00, 1.13; one against two 1.18, 1.05, 1.05', () => {
    const made = reversed(joints, 1);
    const lead = expectedWaves(layout, made, 'lead to lead', measured(4520, 4000, 4520));
    expect(ratios(lead)).toEqual([1.13, 1, 1.13]);
    expect(lead?.every((w) => Math.abs(w.offPercent ?? 9) < 0.5)).toBe(true);
    const tied = expectedWaves(layout, made, 'one against two', [{ name: 'U', frequencyHz: 5000 }]) ?? [];
    expect(tied.map((w) => w.name)).toEqual(['U', 'V', 'W']);
    expect((tied[0]?.hz ?? 0) / (tied[1]?.hz ?? 1)).toBeCloseTo(1.18 / 1.05, 1);
    expect(tied[0]).toMatchObject({ hz: expect.closeTo(5000, 6), offPercent: expect.closeTo(0, 9) });
    expect(tied[1]).not.toHaveProperty('offPercent');
  });
  it('one that was measured sizes them all; none measured, or an open pair, and nothing is expected', () => {
    expect(expectedWaves(layout, joints, 'lead to lead', [{ name: 'VW', frequencyHz: 3000 }])?.[0]?.hz).toBeCloseTo(
      3000,
      6,
    );
    expect(expectedWaves(layout, joints, 'lead to lead', [])).toBeUndefined();
    expect(
      expectedWaves(layout, joints, 'lead to lead', [{ name: 'UV' }, { name: 'X', frequencyHz: 3 }]),
    ).toBeUndefined();
    expect(expectedWaves(layout, joints, 'lead to lead', [{ name: 'UV', frequencyHz: 0 }])).toBeUndefined();
    const open = openedCircuit(joints, wye, 'A', 1);
    const found = expectedWaves(layout, open, 'lead to lead', measured(1, 1, 1));
    expect(found === undefined || found.every((w) => Number.isFinite(w.hz))).toBe(true);
  });
  it('the scale of the frequencies changes no difference', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.1, max: 1000, noNaN: true }), (k) => {
        const one = expectedWaves(layout, joints, 'lead to lead', measured(4000, 4100, 4300)) ?? [];
        const other = expectedWaves(layout, joints, 'lead to lead', measured(4000 * k, 4100 * k, 4300 * k)) ?? [];
        other.forEach((w, i) => expect(w.offPercent).toBeCloseTo(one[i]?.offPercent ?? NaN, 8));
      }),
    );
  });
});

describe('a wave of a frequency and a quality', () => {
  it('rings at the one and swings by the other', () => {
    for (const quality of [2, 3, 5])
      for (const hz of [900, 4436.6]) {
        const dtS = 1 / (hz * 200);
        const v = ringing(hz, quality, 1500, { dtS, samples: 800 });
        expect(v[0]).toBeCloseTo(1500, 6);
        expect((ringFrequencyHz({ v, dtS }) ?? 0) / hz).toBeCloseTo(1, 3);
        expect(qualityOf(-Math.min(...v) / 1500)).toBeCloseTo(quality, 1);
      }
  });
  it('a swing that says nothing is taken for the usual; what rings on and what hardly rings are bounded', () => {
    for (const none of [0, 1, -0.2, 1.2, NaN]) expect(qualityOf(none)).toBe(3);
    expect(qualityOf(0.9999)).toBe(50);
    expect(qualityOf(1e-9)).toBe(0.8);
    // ln(2)/π = 0.2206: √(1 + 0.0487)/0.4413
    expect(qualityOf(0.5)).toBeCloseTo(2.3207, 3);
  });
});
