import { describe, expect, it } from 'vitest';
import { changeOf as change, figureBefore, sameSupply, sameWay } from './change.ts';
import type { ReadFigure } from './testKind.ts';
import { testKind } from './tests.ts';
import type { TestStage } from '../process/operation.ts';

const at = (figure: number, stage: TestStage = 'IN', more: object = {}) => ({ figure, stage, ...more });
type At = ReturnType<typeof at> & { visit?: string; testV?: number; values?: object };
const readAs = (kind: string, { testV, ...x }: At) =>
  ({ kind, part: 'stator', values: testV === undefined ? {} : { testV }, ...x }) as ReadFigure;
const changeOf = (kind: string, was: At, now: At, how: { rewound: boolean; limits?: Record<string, number> }) =>
  change(testKind(kind) ?? {}, readAs(kind, was), readAs(kind, now), how);
const of = (kind: string, was: number, now: number, limits = {}) =>
  changeOf(kind, at(was), at(now), { rewound: false, limits });

describe('a figure against the one before', () => {
  // Source: common practice (tests reference 0.3)
  it.each([
    ['insulationResistance', 100, 50, 49.99],
    ['windingResistance', 100, 102, 102.01],
    ['windingResistance', 100, 98, 97.99],
    ['leadResistances', 100, 102, 102.01],
    ['rotorResistance', 100, 98, 97.99],
    ['noLoadRun', 100, 110, 110.01],
    ['noLoadRun', 100, 90, 89.99],
    ['noLoadLow', 100, 110, 110.01],
    ['noLoadHigh', 100, 90, 89.99],
    ['noLoadSingle', 100, 110, 110.01],
    ['singlePhaseResistance', 100, 102, 102.01],
    ['assembledVibration', 100, 150, 150.01],
  ])('%s: from %d to %d is let be, to %d looked at', (kind, was, border, beyond) => {
    expect(of(kind, was, border).flagged).toBe(false);
    expect(of(kind, was, beyond)).toMatchObject({
      flagged: true,
      says: expect.stringMatching(/^more than \d+ % \(common practice\)$/),
    });
  });
  it('a better figure is no warning: insulation that rises, vibration that falls', () => {
    expect(of('insulationResistance', 10, 1000)).toEqual({ percent: expect.closeTo(9900), flagged: false, says: '' });
    expect(of('assembledVibration', 4, 0.5)).toMatchObject({ flagged: false });
  });
  it('the shop may say otherwise; a test without a flag is only told', () => {
    expect(of('windingResistance', 100, 101.5, { 'change.resistancePercent': 1 }).flagged).toBe(true);
    expect(of('surge', 5, 50)).toEqual({ percent: expect.closeTo(900), flagged: false, says: '' });
  });
  it('another winding is not compared: as found with new, an earlier visit with new', () => {
    const rewound = { rewound: true };
    for (const stage of ['AC', 'VC', 'AA', 'FI'] as const) {
      expect(changeOf('windingResistance', at(1), at(2, stage), rewound)).toEqual({
        flagged: false,
        says: 'another winding: not compared',
      });
      expect(changeOf('windingResistance', at(1, 'AC'), at(2, stage), rewound).flagged).toBe(true);
      expect(changeOf('windingResistance', at(1, 'FI', { visit: 'visit b' }), at(2, stage), rewound).says).toMatch(
        /another/,
      );
    }
    for (const stage of ['IN', 'BS', 'AB'] as const) {
      expect(changeOf('windingResistance', at(1), at(2, stage), rewound).flagged).toBe(true);
      expect(changeOf('windingResistance', at(1, 'FI', { visit: 'visit b' }), at(2, stage), rewound).flagged).toBe(
        true,
      );
    }
    expect(changeOf('windingResistance', at(1), at(2, 'VC'), { rewound: false }).flagged).toBe(true);
  });
  it('another test voltage is not compared; one that is not known is', () => {
    expect(
      changeOf('insulationResistance', at(100, 'IN', { testV: 1000 }), at(1, 'IN', { testV: 500 }), { rewound: false }),
    ).toEqual({
      flagged: false,
      says: 'read at 1000 V: not compared',
    });
    expect(changeOf('insulationResistance', at(100), at(1, 'IN', { testV: 500 }), { rewound: false }).flagged).toBe(
      true,
    );
    expect(changeOf('insulationResistance', at(0), at(1), { rewound: false })).toEqual({ flagged: false, says: '' });
  });
  it('a figure over the range of the instrument is a bound: no fall to it, at least so much from it', () => {
    const over = { values: { r1minOverRange: true } };
    const not = { flagged: false, says: 'over the range of the instrument: not compared' };
    const how = { rewound: false };
    expect(changeOf('insulationResistance', at(5000), at(2000, 'IN', over), how)).toEqual(not);
    expect(changeOf('insulationResistance', at(2000, 'IN', over), at(5000), how)).toEqual(not);
    expect(changeOf('insulationResistance', at(2000, 'IN', over), at(2000, 'IN', over), how)).toEqual(not);
    expect(changeOf('insulationResistance', at(2000, 'IN', over), at(900), how)).toMatchObject({
      flagged: true,
      percent: expect.closeTo(-55),
    });
  });
  it('read otherwise, or run at another voltage, is not compared', () => {
    const not = (kind: string, was: object, now: object) =>
      changeOf(kind, at(1, 'IN', { values: was }), at(2, 'IN', { values: now }), { rewound: false }).says;
    expect(not('windingResistance', { reading: 'phase by phase' }, { reading: 'lead to lead' })).toBe(
      'read otherwise (phase by phase): not compared',
    );
    expect(not('insulationResistance', { system: 'thermoplastic' }, { system: 'thermosetting' })).toMatch(/otherwise/);
    expect(
      not('insulationResistance', { measured: 'whole winding' }, { measured: 'one phase, others earthed' }),
    ).toMatch(/whole winding/);
    expect(not('assembledVibration', { mounting: 'free' }, { mounting: 'rigid' })).toMatch(/free/);
    expect(not('noLoadRun', { u12: 400, u23: 400, u31: 400 }, { u12: 380, u23: 380, u31: 380 })).toBe(
      'run at 400 V: not compared',
    );
  });
  it.each([
    [392, undefined],
    [391.9, 'run at 400 V'],
    [408.16, undefined],
    [408.2, 'run at 400 V'],
  ])('a run at 400 V and one at %d V: %s', (volts, says) => {
    expect(sameSupply('u')({ u: 400 }, { u: volts })).toBe(says);
    expect(sameSupply('u', 'w')({ u: 380, w: 420 }, { u: volts })).toBe(says);
  });
  it('what was not said is taken as alike', () => {
    expect(sameSupply('u')({}, { u: 400 })).toBeUndefined();
    expect(sameSupply('u')({ u: 400 }, {})).toBeUndefined();
    expect(sameWay('a')({ a: 'x' }, {})).toBeUndefined();
    expect(sameWay('a', 'b')({ a: 'x', b: 'y' }, { a: 'x', b: 'z' })).toBe('read otherwise (y)');
  });
});

describe('the reading before', () => {
  const kind = testKind('insulationResistance') ?? {};
  const past = (figure: number, stage: TestStage, more: Partial<ReadFigure> = {}): ReadFigure =>
    readAs('insulationResistance', { figure, stage, ...more } as At);
  const before = (list: ReadFigure[], stage: TestStage, rewound = false, values: ReadFigure['values'] = {}) =>
    figureBefore(kind, list, { kind: 'insulationResistance', part: 'stator', stage, values }, rewound)?.figure;
  it('is the newest of this visit, else of an earlier visit at the same stage', () => {
    expect(before([past(1, 'IN'), past(2, 'VC'), past(3, 'VC')], 'AA')).toBe(3);
    const visits = [past(8, 'FI', { visit: 'a' }), past(9, 'FI', { visit: 'b' }), past(7, 'VC', { visit: 'b' })];
    expect(before([...visits, past(1, 'IN')], 'FI')).toBe(1);
    expect(before(visits, 'FI')).toBe(9);
    expect(before(visits, 'AA')).toBeUndefined();
  });
  it('is no other test, no other part, no later stage', () => {
    expect(before([past(1, 'AA')], 'VC')).toBeUndefined();
    expect(before([past(1, 'VC')], 'VC')).toBe(1);
    expect(before([past(1, 'IN', { kind: 'surge' })], 'VC')).toBeUndefined();
    expect(before([past(1, 'IN', { part: 'wound-rotor' })], 'VC')).toBeUndefined();
  });
  it('passes over one that is not alike, and comes back to it where there is no other', () => {
    const list = [past(1, 'VC', { values: { testV: 500 } }), past(2, 'AA', { values: { testV: 1000 } })];
    expect(before(list, 'FI', true, { testV: 500 })).toBe(1);
    expect(before(list, 'FI', true, { testV: 250 })).toBe(2);
    expect(before([past(1, 'VC'), past(2, 'IN')], 'FI', true)).toBe(1);
    expect(before([past(2, 'IN')], 'VC', true)).toBe(2);
  });
});
