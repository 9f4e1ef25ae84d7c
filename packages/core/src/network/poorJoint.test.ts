import { describe, expect, it } from 'vitest';
import { connect } from '../winding/connection.ts';
import { layoutOf } from '../winding/layout.ts';
import { explainReadings, mistakeDictionary } from './explain.ts';
import { explainFigures, poorJoints } from './poorJoint.ts';

const layout = layoutOf({
  slots: 36,
  poles: 4,
  layers: 2,
  form: 'lap',
  poleGroups: 'every-pole',
  spanSlots: 7,
  turns: [10],
  kind: 'three-phase',
});
const joined = (connection: 'wye' | 'delta') =>
  connect(layout, { connection, circuits: 1, jumper: 'adjacent-pole', leads: 3 });

describe('a poor joint by the three readings lead to lead', () => {
  it('wye: the two pairs of the phase rise by half its share', () => {
    // phase B 10 % more: AB and BC 2.1, CA 2
    const [best] = poorJoints('wye', [2.1, 2.1, 2]);
    expect(best?.says).toEqual([
      'phase B or its lead T2: 10 % of a phase more resistance, a poor joint or a broken strand',
    ]);
    expect(best?.misfitPercent).toBeLessThan(1e-6);
  });
  it('delta: a phase raises its own pair most, a lead raises its two pairs alike', () => {
    // phase C (across CA) 30 % more: Σ 3.3, its own pair 1.3·2/3.3, the others (1·2.3)/3.3
    const phase = poorJoints('delta', [2.3 / 3.3, 2.3 / 3.3, 2.6 / 3.3]);
    expect(phase[0]?.says[0]).toMatch(/^phase C: 30 % of a phase more/);
    expect(phase[0]?.misfitPercent).toBeLessThan(1e-6);
    expect(phase[0]?.misfitPercent).toBeLessThan(phase[1]?.misfitPercent ?? 0);
    const lead = poorJoints('delta', [2 / 3 + 0.1, 2 / 3, 2 / 3 + 0.1]);
    expect(lead[0]?.says[0]).toMatch(/^lead T1: 10 % of a phase more/);
    expect(lead[0]?.misfitPercent).toBeLessThan(1e-6);
  });
  it('each phase and lead by its own pattern, any unit', () => {
    for (const scale of [1e-3, 1, 40])
      for (const [i, name] of ['A', 'B', 'C'].entries()) {
        const wye = [0, 1, 2].map((k) => scale * (k === i || k === (i + 2) % 3 ? 2.4 : 2));
        expect(poorJoints('wye', wye)[0]?.says[0]).toMatch(new RegExp(`^phase ${name} or its lead T${i + 1}: 40 %`));
      }
  });
  it('one per cent more is told, less is the meter; an open pair is no joint, nor are two readings', () => {
    expect(poorJoints('wye', [2.0101, 2, 2.0101]).map((e) => e.says[0])).toEqual([expect.stringMatching(/T1: 1 %/)]);
    expect(poorJoints('wye', [2.0098, 2, 2.0098])).toEqual([]);
    expect(poorJoints('wye', [2, 2, 2])).toEqual([]);
    for (const bad of [[Infinity, 2, Infinity], [2, 2], [0, 2, 2], undefined])
      expect(poorJoints('wye', bad)).toEqual([]);
  });
});

describe('mistakes and poor joints together', () => {
  it('a joint leads where no mistake fits', () => {
    const drawn = joined('wye');
    const best = explainFigures(layout, drawn, { resistance: [2.1, 2.1, 2] })[0];
    expect(best?.kind).toBe('poor joint');
    expect(best?.look).toMatch(/four wires across each joint/);
  });
  it('a mistake of connection that fits as well comes first: it says more', () => {
    for (const connection of ['wye', 'delta'] as const) {
      const drawn = joined(connection);
      for (const { mistake, look } of mistakeDictionary(layout, drawn)) {
        if (!look.resistance.every(Number.isFinite)) continue;
        const found = explainFigures(layout, drawn, { resistance: look.resistance });
        expect(found[0]?.kind, mistake.say).not.toBe('poor joint');
        expect(found[0]?.misfitPercent).toBeLessThan(1e-6);
      }
    }
  });
  it('frequency and current that are as drawn speak for the joint; those that are not, against it', () => {
    const drawn = joined('wye');
    const of = (more: object) =>
      explainFigures(layout, drawn, { resistance: [2.1, 2.1, 2], ...more }).find((e) => e.kind === 'poor joint')
        ?.misfitPercent ?? NaN;
    expect(of({ current: [3, 3, 3], frequency: [5, 5, 5] })).toBeLessThan(1e-6);
    expect(of({ frequency: [6, 5, 5] })).toBeGreaterThan(3);
    expect(of({ current: [4, 3, 3] })).toBeGreaterThan(3);
    // an open wave is not made by a joint that still carries
    expect(of({ frequency: [0, 0, 5] })).not.toBeLessThan(3);
  });
  it('without resistance there is nothing of a joint', () => {
    const drawn = joined('delta');
    const readings = { current: [3, 3, 4] };
    expect(explainFigures(layout, drawn, readings)).toEqual(explainReadings(layout, drawn, readings));
  });
});
