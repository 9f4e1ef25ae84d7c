import { describe, expect, it } from 'vitest';
import { worked } from '../../../../scripts/testing/worked.ts';
import { ringPattern, ringVoltage } from './ringVoltage.ts';
import { windingResistance } from './windingResistance.ts';

const base = { klV: 63.9, lmV: 63.4, mkV: 64.1, appliedV: 160, ratedV: 400, plateV: 160 };
const rings = (more: object = {}) => worked(ringVoltage, { ...base, ...more });
const even = (volts: number) => ({ klV: volts, lmV: volts, mkV: volts });

describe('ring voltages at rest (tests reference 7.4)', () => {
  it('C78 63.9, 63.4, 64.1 V at 160 of 400 V: 0.62696 %, 159.5 V', () => {
    const judged = rings();
    expect(judged.unbalancePercent).toBeCloseTo(0.62696, 5);
    expect(judged.atRatedV).toBeCloseTo(159.5, 9);
    expect(judged.verdict).toBe('pass');
  });
  it.each([
    [2, 'pass'],
    [2.01, 'attention'],
    [5, 'attention'],
    [5.01, 'fail'],
  ] as const)('%d %% off the mean: %s', (percent, verdict) => {
    const d = (64 * percent) / 100;
    expect(rings({ klV: 64 + d, lmV: 64 - d, mkV: 64, plateV: 160 }).verdict).toBe(verdict);
  });
  it.each([
    [5, 'pass'],
    [-5, 'pass'],
    [5.01, 'attention'],
    [-10, 'attention'],
    [10.01, 'fail'],
  ] as const)('%d %% off the plate: %s; by design alike where the plate is silent', (percent, verdict) => {
    const volts = 64 * (1 + percent / 100);
    expect(rings(even(volts)).verdict).toBe(verdict);
    expect(rings({ ...even(volts), plateV: undefined, designV: 160 }).verdict).toBe(verdict);
  });
  it('neither plate nor windings: recorded, not judged', () => {
    expect(rings({ plateV: undefined }).verdict).toBe('cannot judge');
  });
  it.each([
    [15, 'pass'],
    [14.9, 'cannot judge'],
    [100, 'pass'],
    [100.1, 'cannot judge'],
  ] as const)('with %d %% of the stator voltage: %s', (percent, verdict) => {
    expect(rings({ ...even(1.6 * percent), appliedV: 4 * percent }).verdict).toBe(verdict);
  });
  it('a supply more than 1 % unbalanced judges nothing', () => {
    expect(rings({ supplyV: [160, 160, 160] }).verdict).toBe('pass');
    expect(rings({ supplyV: [161.6, 158.4, 160] }).verdict).toBe('pass');
    expect(rings({ supplyV: [161.7, 158.3, 160] }).verdict).toBe('cannot judge');
  });
  it.each([
    [36.9, 64, 36.9, /ring K is turned/],
    [36.9, 36.9, 64, /ring L is turned/],
    [64, 36.9, 36.9, /ring M is turned/],
    [0, 64, 0, /ring K is open/],
    [0, 0, 64, /ring L is open/],
    [64, 0, 0, /ring M is open/],
  ])('%d, %d, %d V: %s', (klV, lmV, mkV, said) => {
    const judged = rings({ klV, lmV, mkV });
    expect(judged.verdict).toBe('fail');
    expect(judged.reason).toMatch(said);
  });
  it('sound rings have no pattern', () => {
    expect(ringPattern(64, 63, 64)).toBeUndefined();
    expect(ringPattern(36.9, 64, 50)).toBeUndefined();
  });
  it('missing readings and a dead machine are said', () => {
    expect(rings({ mkV: undefined }).verdict).toBe('cannot judge');
    expect(rings({ appliedV: undefined }).verdict).toBe('cannot judge');
    expect(rings(even(0)).verdict).toBe('fail');
  });
  it('read through the brushes a rotor resistance is no reading', () => {
    const of = (throughBrushes: boolean) =>
      worked(windingResistance, { abOhm: 0.05, bcOhm: 0.05, caOhm: 0.05, windingC: 20, throughBrushes }).verdict;
    expect([of(true), of(false)]).toEqual(['cannot judge', 'pass']);
  });
});
