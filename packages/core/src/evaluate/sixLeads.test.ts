import { describe, expect, it } from 'vitest';
import { worked } from '../../../../scripts/testing/worked.ts';
import { expectedReading, namePattern, nameRatio, type ReadingKind } from './resistanceRatio.ts';
import { windingResistance } from './windingResistance.ts';

const read = (more: object) =>
  worked(windingResistance, {
    abOhm: 1.052,
    bcOhm: 1.049,
    caOhm: 1.055,
    windingC: 20,
    connection: 'delta',
    newWinding: true,
    ...more,
  });
const LINE = 'lead to lead' as const;
const PHASE = 'phase by phase' as const;

describe('six leads read phase by phase (tests reference 2.1)', () => {
  it.each([
    [PHASE, 'wye', 1.05],
    [PHASE, 'delta', 1.05],
    [LINE, 'wye', 2.1],
    [LINE, 'delta', 0.7],
  ] as const)('%s in %s a phase of 1.05 Ω should read %d', (reading, connection, ohm) => {
    expect(expectedReading(1.05, reading, connection)).toBeCloseTo(ohm, 12);
  });
  it('C71 typed as pairs of a delta: the ratio is 1.50286, phases were read alone; never changed silently', () => {
    expect((1.052 + 1.049 + 1.055) / 3 / expectedReading(1.05, LINE, 'delta')).toBeCloseTo(1.50286, 5);
    const judged = read({ planned20Ohm: expectedReading(1.05, LINE, 'delta') });
    expect(judged.verdict).toBe('cannot judge');
    expect(judged.reason).toMatch(/ratio 1\.503: the readings look like phases read alone.*Change the kind of reading/);
  });
  it('C72 the same as phases: ratio 1.0019, unbalance over phases 0.29 %, pass', () => {
    const judged = read({ reading: PHASE, othersOpen: true, planned20Ohm: 1.05 });
    expect(judged.verdict).toBe('pass');
    expect(judged.againstPlanPercent).toBeCloseTo(0.19, 2);
    expect(judged.unbalancePercent).toBeCloseTo(0.2852, 3);
    expect(judged.reason).toMatch(/Unbalance over phases/);
    expect(judged.phasesOhm).toBeUndefined();
  });
  it('leads of different phases joined: the marks are wrong, whatever the readings', () => {
    expect(read({ reading: PHASE, othersOpen: false }).verdict).toBe('fail');
    expect(read({ reading: PHASE, othersOpen: false }).reason).toMatch(/marks are wrong/);
    const unsaid = read({ reading: PHASE });
    expect([unsaid.verdict, unsaid.reason]).toEqual(['cannot judge', expect.stringMatching(/every other pair/)]);
  });
  it.each([
    [['ab', 'ca'], LINE, 'fail', /T1–T2, T3–T1 read open: the phase of T1/],
    [['ab', 'bc'], LINE, 'fail', /the phase of T2/],
    [['bc', 'ca'], LINE, 'fail', /the phase of T3/],
    [['ab'], LINE, 'cannot judge', /no winding gives that/],
    [['ab', 'bc', 'ca'], LINE, 'fail', /All three pairs read open/],
    [['bc'], PHASE, 'fail', /Open: T2–T5/],
  ])('open %j read %s: %s', (open, reading, verdict, reason) => {
    const judged = read({ open, reading, othersOpen: true });
    expect(judged.verdict).toBe(verdict);
    expect(judged.reason).toMatch(reason);
  });
});

describe('ratios that name a mix-up', () => {
  const name = (ratio: number, reading: ReadingKind, connection: 'wye' | 'delta') => {
    const found = nameRatio(ratio, { reading, connection });
    return found ? `${found.wrong}: ${found.says}` : '';
  };
  it.each([
    [1 / 4, LINE, 'wye', /making: twice the circuits/],
    [1 / 4, LINE, 'delta', /making: twice the circuits/],
    [1 / 4, PHASE, 'delta', /making: twice the circuits/],
    [4, LINE, 'wye', /making: half the circuits/],
    [4, PHASE, 'wye', /making: half the circuits/],
    [1 / 3, LINE, 'wye', /making: connected in delta/],
    [1 / 3, LINE, 'delta', /^$/],
    [1 / 3, PHASE, 'wye', /^$/],
    [1 / 2, LINE, 'wye', /reading: phases read alone.*wire doubled/],
    [1 / 2, LINE, 'delta', /^$/],
    [2 / 3, PHASE, 'delta', /reading: phases read with the delta links left on/],
    [2 / 3, LINE, 'delta', /^$/],
    [2, PHASE, 'wye', /reading: pairs of line leads/],
    [2, LINE, 'wye', /^$/],
    [3 / 2, LINE, 'delta', /reading: phases read alone/],
    [3 / 2, LINE, 'wye', /^$/],
    [3 / 2, PHASE, 'delta', /^$/],
    [3, LINE, 'delta', /making: connected in wye/],
    [3, LINE, 'wye', /^$/],
    [1, LINE, 'wye', /^$/],
  ] as const)('%d, %s, plan %s', (ratio, reading, connection, said) => {
    expect(name(ratio, reading, connection)).toMatch(said);
  });
  it.each([0.25, 1 / 3, 0.5, 3, 4, 1.5])('near %d ends at 4 %%', (ratio) => {
    const connection = ratio === 3 || ratio === 1.5 ? 'delta' : 'wye';
    expect(name(ratio * 1.04, LINE, connection)).not.toBe('');
    expect(name(ratio * 0.96, LINE, connection)).not.toBe('');
    expect(name(ratio * 1.0399, LINE, connection)).not.toBe('');
    expect(name(ratio * 0.9601, LINE, connection)).not.toBe('');
    expect(name(ratio * 1.0401, LINE, connection)).toBe('');
    expect(name(ratio * 0.9599, LINE, connection)).toBe('');
  });
  it('a wrong circuit fails a new winding and only asks for a look at one as found', () => {
    const of = (newWinding: boolean) =>
      read({ abOhm: 0.25, bcOhm: 0.25, caOhm: 0.25, planned20Ohm: 1, newWinding }).verdict;
    expect([of(true), of(false)]).toEqual(['fail', 'attention']);
  });
  it('above 5 % unbalance the pattern is named, not a ratio', () => {
    expect(namePattern([1.5, 1.5, 1])).toMatch(/two circuits one is open/);
    expect(namePattern([1, 1.5, 1.5])).toMatch(/two circuits one is open/);
    expect(namePattern([3, 1.5, 1.5])).toMatch(/delta with one phase open/);
    expect(namePattern([1.2, 1, 1])).toBeUndefined();
    expect(namePattern([1.56, 1.44, 1])).toMatch(/two circuits/);
    expect(namePattern([2.08, 1.04, 1])).toMatch(/delta with one phase open/);
    expect(namePattern([2.08, 1.041, 1])).toBeUndefined();
    expect(namePattern([1.561, 1.5, 1])).toBeUndefined();
    expect(namePattern([1.5, 1.439, 1])).toBeUndefined();
    const wye = read({ abOhm: 3, bcOhm: 2, caOhm: 3, connection: 'wye', planned20Ohm: 2 });
    expect(wye.verdict).toBe('fail');
    expect(wye.reason).toMatch(/two circuits one is open/);
    expect(wye.reason).not.toMatch(/look like/);
  });
  it('one strand of two missing is asked about', () => {
    expect(read({ planned20Ohm: 1.052 / 2, strandsInHand: 2, connection: 'wye' }).reason).toMatch(/One of 2 strands/);
    expect(read({ planned20Ohm: 1.052 / 2, strandsInHand: 1, connection: 'wye' }).reason).not.toMatch(/strands/);
  });
});
