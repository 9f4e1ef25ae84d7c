import { describe, expect, it } from 'vitest';
import { worked as workedOf } from '../../../../scripts/testing/worked.ts';
import { calculationOf } from '../catalogue.ts';
import { groupV, withstand, type WithstandQuestion } from './withstand.ts';
import { judgeTest, judgingContext } from './judging.ts';
import { testKind } from './tests.ts';
import { withstandStateOf } from './highPotential.ts';

const worked = (id: string, input: object) => workedOf(calculationOf(id) as never, input) as Record<string, unknown>;

const volts = (q: Partial<WithstandQuestion>) =>
  withstand({ winding: 'armature or stator', state: 'new', standard: 'IEC 60034-1', ratedV: 400, outputKW: 5.5, ...q });

describe('withstand voltages, table of IEC 60034-1 (from memory)', () => {
  it.each<[string, Partial<WithstandQuestion>, number]>([
    ['C15: 400 V 5.5 kW, new', {}, 1800],
    ['C16: 24 V 0.2 kW, new', { ratedV: 24, outputKW: 0.2 }, 548],
    [
      'C17: 230 V 0.37 kW, partly rewound: the floor before the factor',
      { ratedV: 230, outputKW: 0.37, state: 'partly rewound' },
      1125,
    ],
    ['C18: 690 V 90 kW, overhauled', { ratedV: 690, outputKW: 90, state: 'overhauled' }, 1035],
    ['C19: synchronous field of 600 V', { winding: 'synchronous field', ratedV: 600 }, 5200],
    ['400 V, repeat', { state: 'repeat' }, 1440],
    ['400 V, partly rewound', { state: 'partly rewound' }, 1350],
    ['400 V, overhauled: at least 1000 V', { state: 'overhauled' }, 1000],
    ['690 V, partly rewound', { ratedV: 690, state: 'partly rewound' }, 1785],
    ['230 V 0.37 kW, new: at least 1500 V', { ratedV: 230, outputKW: 0.37 }, 1500],
    ['60 V, overhauled: at least 500 V', { ratedV: 60, outputKW: 0.5, state: 'overhauled' }, 500],
    ['100 V, overhauled: at least 1000 V', { ratedV: 100, outputKW: 0.5, state: 'overhauled' }, 1000],
    ['exactly 1 kW is not below it', { ratedV: 48, outputKW: 1 }, 1500],
    ['exactly 100 V is not below it', { ratedV: 100, outputKW: 0.5 }, 1500],
    ['output not known: not taken for a small machine', { ratedV: 48, outputKW: undefined }, 1500],
    ['10 MW at 6 kV', { ratedV: 6000, outputKW: 10_000 }, 13_000],
    ['10 MW at 200 V has no floor', { ratedV: 200, outputKW: 10_000 }, 1400],
    ['separately excited field of 110 V', { winding: 'separately excited field', ratedV: 110 }, 1500],
    ['separately excited field of 440 V', { winding: 'separately excited field', ratedV: 440 }, 1880],
    ['synchronous field of exactly 500 V', { winding: 'synchronous field', ratedV: 500 }, 5000],
    ['synchronous field of 120 V', { winding: 'synchronous field', ratedV: 120 }, 1500],
    ['started shorted, at most 3500 V', { winding: 'synchronous field, started shorted', ratedV: 400 }, 3500],
    ['started shorted, at least 1500 V', { winding: 'synchronous field, started shorted', ratedV: 100 }, 1500],
    ['started open', { winding: 'synchronous field, started open', ratedV: 900 }, 2800],
    ['wound rotor', { winding: 'wound rotor', ratedV: 180 }, 1360],
    ['wound rotor, reversed while running', { winding: 'wound rotor, reversed while running', ratedV: 180 }, 1720],
    ['detectors', { winding: 'detectors and other parts' }, 1500],
    [
      'a field, overhauled, by the share of a partly rewound one',
      { winding: 'separately excited field', ratedV: 440, state: 'overhauled' },
      1410,
    ],
    ['before resin, the shop’s 60 %', { state: 'before resin' }, 1080],
    ['reconditioned by trade practice', { state: 'reconditioned' }, 1170],
  ])('%s', (_, q, want) => expect(volts(q).testV).toBeCloseTo(want, 9));

  it.each<[string, Partial<WithstandQuestion>, number]>([
    ['above half a horsepower no floor: 115 V', { ratedV: 115, outputKW: 0.75 }, 1230],
    ['exactly half a horsepower at 250 V', { ratedV: 250, outputKW: 0.5 * 0.7456998715822702 }, 1500],
    ['half a horsepower above 250 V', { ratedV: 251, outputKW: 0.37 }, 1502],
    ['direct current, small, up to 240 V', { ratedV: 240, outputKW: 0.3, machine: 'direct' }, 1500],
    ['direct current, small, above', { ratedV: 241, outputKW: 0.3, machine: 'direct' }, 1482],
    ['what it does not name goes by IEC', { winding: 'synchronous field', ratedV: 600 }, 5200],
  ])('NEMA MG 1 (from memory): %s', (_, q, want) =>
    expect(volts({ standard: 'NEMA MG 1', ...q }).testV).toBeCloseTo(want, 9),
  );

  it('C20: direct voltage; a second at 120 % up to 1 kV and 200 kW; a group at 80 % of the lowest', () => {
    expect(volts({}).dcV).toBeCloseTo(3060, 9);
    expect(volts({}).productionV).toBeCloseTo(2160, 9);
    expect(volts({ outputKW: 200 }).productionV).toBeCloseTo(2160, 9);
    expect(volts({ outputKW: 200.1 }).productionV).toBeUndefined();
    expect(volts({ outputKW: undefined }).productionV).toBeUndefined();
    expect(volts({ ratedV: 1000 }).productionV).toBeCloseTo(3600, 9);
    expect(volts({ ratedV: 1001 }).productionV).toBeUndefined();
    expect(volts({ state: 'repeat' }).productionV).toBeUndefined();
    expect(volts({ standard: 'NEMA MG 1', ratedV: 750 }).productionV).toBeCloseTo(3000, 9);
    expect(volts({ standard: 'NEMA MG 1', ratedV: 751 }).productionV).toBeUndefined();
    expect(groupV([1800, 1500, 2000])).toBe(1200);
  });

  it('C21: the charging current, and what the set is to trip at', () => {
    const out = worked('evaluate.withstandVoltage', { ratedV: 400, outputKW: 5.5, capacitanceNF: 12 });
    expect(out).toMatchObject({ testV: 1800, startV: 900, rampS: 10, holdS: 60 });
    expect(out['chargingMA']).toBeCloseTo(6.78584, 4);
    expect(out['tripMA']).toBeCloseTo(1.5 * 6.78584, 4);
  });

  it('a second test at full value is refused, 80 % offered', () => {
    expect(() => worked('evaluate.withstandVoltage', { ratedV: 400, outputKW: 5.5, fullTests: 1 })).toThrow(/1440 V/);
    expect(
      worked('evaluate.withstandVoltage', { ratedV: 400, outputKW: 5.5, fullTests: 1, state: 'repeat' }),
    ).toMatchObject({ testV: 1440 });
  });
});

describe('high potential, judged', () => {
  const judged = (x: object) =>
    worked('evaluate.highPotential', { ratedV: 400, outputKW: 5.5, reachedV: 1800, heldS: 60, ...x });
  it.each<[string, object, string]>([
    ['held', {}, 'pass'],
    ['breakdown', { ended: 'breakdown' }, 'fail'],
    ['breakdown without voltage and time', { ended: 'breakdown', reachedV: undefined, heldS: undefined }, 'fail'],
    ['trip', { ended: 'trip' }, 'fail'],
    ['trip below the charging current', { ended: 'trip', capacitanceNF: 12, tripMA: 5 }, 'cannot judge'],
    ['trip above the charging current', { ended: 'trip', capacitanceNF: 12, tripMA: 7 }, 'fail'],
    ['exactly 97 %', { reachedV: 1746 }, 'pass'],
    ['below 97 %', { reachedV: 1745.9 }, 'cannot judge'],
    ['exactly 105 %', { reachedV: 1890 }, 'pass'],
    ['above 105 %', { reachedV: 1890.1 }, 'attention'],
    ['59.9 s', { heldS: 59.9 }, 'cannot judge'],
    ['no voltage', { reachedV: undefined }, 'cannot judge'],
    ['no time', { heldS: undefined }, 'cannot judge'],
    ['a second at 120 %', { reachedV: 2160, heldS: 1 }, 'pass'],
    ['a second below 97 % of 120 %', { reachedV: 2095, heldS: 1 }, 'cannot judge'],
    ['0.9 s at 120 %', { reachedV: 2160, heldS: 0.9 }, 'cannot judge'],
    ['a second at 120 % where that may not stand', { reachedV: 2160, heldS: 1, outputKW: 250 }, 'cannot judge'],
    ['current at 1.5 times the usual', { currentMA: 6, usualMA: 4 }, 'pass'],
    ['current above 1.5 times the usual', { currentMA: 6.01, usualMA: 4 }, 'attention'],
    ['raised in 10 s', { rampS: 10 }, 'pass'],
    ['raised too fast', { rampS: 9.9 }, 'attention'],
    ['something seen', { seen: true }, 'attention'],
    ['instrument out of date', { calibrationExpired: true }, 'attention'],
    ['DC at 1.7 times', { kind: 'DC', reachedV: 3060 }, 'pass'],
    ['the AC value as DC', { kind: 'DC' }, 'cannot judge'],
  ])('%s: %s', (_, x, verdict) => expect(judged(x)['verdict']).toBe(verdict));

  it('says status, formula, voltage, time, current; only a new winding’s counts as the full value', () => {
    expect(judged({ currentMA: 4.2 })).toMatchObject({
      reason:
        '1800 V AC for 60 s, at most 4.2 mA; wanted 1800 V for 60 s (new: 2 · 400 V + 1000 V (IEC 60034-1 (from memory))). Held.',
      fullValue: true,
    });
    expect(judged({ state: 'repeat', reachedV: 1440 })['fullValue']).toBe(false);
    expect(judged({ ended: 'breakdown' })['fullValue']).toBe(false);
    expect(judged({ reachedV: 1890.1 })['fullValue']).toBe(true);
    expect(judged({ reachedV: 1000 })['fullValue']).toBe(false);
  });
});

describe('on the bench', () => {
  const kind = testKind('highPotential');
  const base = {
    route: 'ac_random_rewind' as const,
    nameplate: { voltagesV: [230, 400], outputW: 5500 },
    found: null,
    plan: null,
    limits: {},
    calibrationExpired: false,
  };
  const full = { id: 'a', stage: 'VC', kind: 'highPotential', part: 'stator', verdict: 'pass', supersedes: null };
  it('the voltage comes from nameplate, route, stage and the tests before', () => {
    const due = (stage: 'AC' | 'VC' | 'FI', tests: (typeof full)[] = [], route: string = base.route) =>
      kind?.due?.(judgingContext({ ...base, route: route as never, stage, tests }))?.typed;
    expect(due('VC')).toMatchObject({ testV: '1800', state: 'new' });
    expect(due('AC')).toMatchObject({ testV: '1080', state: 'before resin' });
    expect(due('VC', [full])).toMatchObject({ testV: '1440', state: 'repeat' });
    expect(due('FI', [full])).toMatchObject({ testV: '1440', state: 'repeat' });
    expect(due('VC', [], 'overhaul')).toMatchObject({ testV: '1000', state: 'overhauled' });
    expect(kind?.due?.(judgingContext({ ...base, nameplate: {}, stage: 'VC' }))?.says[0]).toMatch(/no voltage/);
    expect(withstandStateOf({ stage: 'FI', newWinding: true, before: undefined })).toBe('repeat');
  });
  it('counts full-value tests: said by the result, else stated after the cure; those replaced do not count', () => {
    const fullTests = (tests: object[]) =>
      judgingContext({ ...base, stage: 'FI', tests: tests as never }).before?.fullTests;
    const said = (fullValue: boolean, more: object = {}) => ({ ...full, result: { values: { fullValue } }, ...more });
    expect(fullTests([full])).toBe(1);
    expect(fullTests([said(true), said(false, { id: 'b' })])).toBe(1);
    expect(fullTests([{ ...full, verdict: 'fail' }])).toBe(0);
    expect(fullTests([{ ...full, stage: 'FI' }])).toBe(0);
    expect(fullTests([{ ...full, stage: 'AC' }, said(true, { id: 'c', stage: 'IN' })])).toBe(0);
    expect(fullTests([full, { ...full, id: 'b', verdict: 'fail', supersedes: 'a' }])).toBe(0);
    expect(fullTests([{ ...full, part: 'wound-rotor' }])).toBe(0);
  });
  it('reads the form; direct voltage is recorded only when it was discharged', () => {
    const values = { testV: 1800, seconds: 1, outcome: 'pass', instrument: 'set', current: 0.0042 };
    const context = judgingContext({ ...base, stage: 'VC' });
    const judge = (more: object) => kind && judgeTest(kind, { ...values, ...more }, context, 'Ada');
    expect(judge({})).toMatchObject({ verdict: 'pass' });
    expect(judge({ outcome: 'fail' })?.verdict).toBe('fail');
    expect(judge({ outcome: 'trip' })?.reason).toMatch(/tripped/);
    expect(judge({ outcome: 'attention' })?.verdict).toBe('attention');
    expect(judge({ state: 'repeat' })?.reason).toMatch(/overstressed/);
    expect(kind?.lacks?.({ voltage: 'DC' })?.field).toBe('discharged');
    expect(kind?.lacks?.({ voltage: 'DC', discharged: true })).toBeUndefined();
    expect(kind?.lacks?.({})).toBeUndefined();
    const bare = judgingContext({ ...base, nameplate: {}, stage: 'VC' });
    expect(kind && judgeTest(kind, values, bare, 'Ada').reason).toMatch(/Stated by Ada/);
  });
});
