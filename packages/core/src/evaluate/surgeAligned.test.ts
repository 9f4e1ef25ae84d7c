import { describe, expect, it } from 'vitest';
import { worked as workedOf } from '../../../../scripts/testing/worked.ts';
import { calculationOf } from '../catalogue.ts';
import { surgeWave, type SurgeCircuit } from '../surge/simulatedWave.ts';
import { againstEarlier } from './surgeAligned.ts';

const worked = (id: string, input: object) => workedOf(calculationOf(id) as never, input) as Record<string, unknown>;
const BEFORE: SurgeCircuit = { ohm: 180, henry: 12e-3, farad: 0.1e-6 };
const wave = (c: SurgeCircuit, volts = 1500) => {
  const { v } = surgeWave(c, volts, 10e-6, 60);
  return { appliedV: volts, dtUs: 10, v: Array.from(v) };
};
/** The same wave, faster by so much: both L and C smaller, the damping of a swing the same. */
const shifted = (percent: number): SurgeCircuit => {
  const k = 1 + percent / 100;
  return { ohm: BEFORE.ohm, henry: BEFORE.henry / k, farad: BEFORE.farad / k };
};

describe('a wave against an earlier one, frequencies aligned', () => {
  const against = (later: object, more: object = {}) =>
    worked('evaluate.surgeAgainstEarlier', { earlier: wave(BEFORE), later, acrossCure: true, ...more });
  it('C63, C64: the cure example is within, though it is 11 % off as it stands', () => {
    const out = against(wave({ ohm: 190, henry: 12.8e-3, farad: 0.1e-6 }));
    expect(out['verdict']).toBe('pass');
    expect(out['plainPercent']).toBeCloseTo(11.309, 2);
    expect(out['alignedPercent']).toBeCloseTo(2.352, 2);
    expect(out['reason']).toMatch(/15 %.*across the cure.*between −5 and \+3 %/);
  });
  it.each<[string, object, object, string]>([
    ['a fall of less than 5 %', wave(shifted(-4.9)), {}, 'pass'],
    ['a fall of more', wave(shifted(-5.3)), {}, 'attention'],
    ['a rise of less than 3 %', wave(shifted(2.9)), {}, 'pass'],
    ['a rise of more: turns lost', wave(shifted(3.3)), {}, 'attention'],
    ['much more damped', wave({ ...BEFORE, ohm: 420 }), {}, 'attention'],
    ['another voltage', wave(BEFORE, 1600), {}, 'cannot judge'],
    ['within 2 % of the voltage', wave(BEFORE, 1520), {}, 'pass'],
    ['taken otherwise', wave(BEFORE), { alikeTaken: false }, 'cannot judge'],
    ['does not ring', { appliedV: 1500, dtUs: 10, v: [1500, 900, 500, 300, 100] }, {}, 'cannot judge'],
  ])('%s', (_, later, more, verdict) => expect(against(later, more)['verdict']).toBe(verdict));
  it('a rise says that turns may be lost; without a cure the area is narrower', () => {
    expect(against(wave(shifted(4)))['reason']).toMatch(/a rise means turns lost/);
    const damped = wave({ ...BEFORE, ohm: 210 });
    const [with15, with10] = [against(damped), against(damped, { acrossCure: false })];
    expect(with15['alignedPercent']).toBe(with10['alignedPercent']);
    expect(with15['alignedPercent']).toBeGreaterThan(10);
    expect(with15['alignedPercent']).toBeLessThan(15);
    expect([with15['verdict'], with10['verdict']]).toEqual(['pass', 'attention']);
  });
});

describe('waves of a test against those of the test before', () => {
  const record = (name: string, c: SurgeCircuit, volts: number[]) => ({
    name,
    pulses: volts.map((v) => surgeWave(c, v, 10e-6, 60)),
  });
  it('by name, at the highest voltage that both were taken at', () => {
    const out = againstEarlier(
      [record('UV', shifted(-2), [800, 1200, 1800]), record('VW', BEFORE, [1800])],
      [record('UV', BEFORE, [700, 1200]), record('VW', BEFORE, [1200]), record('WU', BEFORE, [1200])],
      true,
      {},
    );
    expect(out.map((a) => [a.wave, a.appliedV, a.verdict])).toEqual([['UV', 1200, 'pass']]);
    expect(out[0]?.shiftPercent).toBeCloseTo(-2, 1);
  });
  it('belong to the verdict of the comparison', () => {
    const waves = ['UV', 'VW', 'WU'].map((name) => ({ name, pulses: [wave(BEFORE)] }));
    const risen = ['UV', 'VW', 'WU'].map((name) => ({ name, pulses: [wave(shifted(4))] }));
    const judged = (now: object[]) =>
      worked('evaluate.surge', { waves: now, earlier: { said: 'before varnish', acrossCure: true, waves } });
    expect(judged(waves)).toMatchObject({ verdict: 'pass' });
    expect(judged(waves)['reason']).toMatch(/As before varnish: every wave within/);
    expect(judged(risen)).toMatchObject({ verdict: 'attention' });
    expect(judged(risen)['reason']).toMatch(/UV against before varnish:.*turns lost/);
    expect(judged(risen)['againstEarlier']).toHaveLength(3);
  });
});
