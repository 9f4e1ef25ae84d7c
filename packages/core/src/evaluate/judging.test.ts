import { describe, expect, it } from 'vitest';
import { operation } from '../process/operations.ts';
import { routeFor } from '../process/routes.ts';
import { judgeStage, judgingContext, standingTests, testedOf, testStagesOf, type KeptTest } from './judging.ts';
import { fieldsFor, requiredTests, testKind, TEST_KINDS, testsFor, wantedAt } from './tests.ts';

const record = (turns: number) => ({
  slots: 36,
  poles: 4,
  layers: 'double' as const,
  form: 'lap' as const,
  spansSlots: [8],
  turns: [turns],
  connection: 'wye' as const,
  circuits: 1,
  strands: [{ count: 2, bareM: 0.0008, label: '' }],
  boreM: 0.12,
  coreLengthM: 0.13,
  sampleCoilM: 0.6,
  poleGroups: 'every-pole' as const,
});
const nameplate = { voltagesV: [400], outputW: 5500, poles: 4 };
const changed = { voltagesV: [230], outputW: 5000, poles: 4 };
const found = { record: record(20) };
const plan = { record: record(30) };
const redesigned = { record: record(12), redesign: { nameplate: changed } };
const base = { nameplate, limits: { a: 1 }, calibrationExpired: false } as const;

describe('what a test is judged with', () => {
  const turnsOf = (c: ReturnType<typeof judgingContext>) => c.record?.turns?.[0];
  it.each([
    ['IN', 'ac_random_rewind', 20],
    ['BS', 'ac_random_rewind', 20],
    ['AB', 'ac_random_rewind', 20],
    ['AC', 'ac_random_rewind', 30],
    ['VC', 'ac_random_rewind', 30],
    ['AA', 'ac_random_rewind', 30],
    ['FI', 'ac_random_rewind', 30],
    ['AC', 'overhaul', 20],
    ['VC', 'overhaul', 20],
    ['FI', 'overhaul', 20],
  ] as const)('at %s of %s the winding of %i turns counts', (stage, route, turns) => {
    const context = judgingContext({ ...base, stage, route, found, plan });
    expect(turnsOf(context)).toBe(turns);
    expect(context.newWinding).toBe(turns === 30);
    expect(context.rewound).toBe(route === 'ac_random_rewind');
    expect(context.nameplate).toBe(nameplate);
    expect(context.figures?.lineResistance20Ohm).toBeGreaterThan(0);
    expect(context.limits).toEqual({ a: 1 });
  });
  it('a rewound motor without a plan is judged by what was found; without any record by nothing', () => {
    expect(turnsOf(judgingContext({ ...base, stage: 'VC', route: 'ac_random_rewind', found, plan: null }))).toBe(20);
    const bare = judgingContext({ ...base, stage: 'VC', route: 'ac_random_rewind', found: null, plan: null });
    expect([bare.record, bare.figures, bare.nameplate]).toEqual([undefined, undefined, nameplate]);
  });
  it('a changed rewind is judged by the nameplate the motor gets, as found by the one it came with', () => {
    const of = (stage: 'IN' | 'VC') =>
      judgingContext({ ...base, stage, route: 'ac_random_rewind', found, plan: redesigned });
    expect(of('VC').nameplate).toBe(changed);
    expect(of('IN').nameplate).toBe(nameplate);
  });
  it('each test kind reads from its context what it is judged with', () => {
    const context = judgingContext({ ...base, stage: 'VC', route: 'ac_random_rewind', found, plan });
    const input = (id: string, values: object, c = context) => testKind(id)?.input?.(values as never, c);
    const asFound = judgingContext({ ...base, stage: 'IN', route: 'ac_random_rewind', found, plan });
    expect(input('windingResistance', { ab: 1 })).toMatchObject({
      abOhm: 1,
      connection: 'wye',
      material: 'copper',
      planned20Ohm: context.figures?.lineResistance20Ohm,
      newWinding: true,
      strandsInHand: 2,
    });
    expect(input('windingResistance', { ab: 1 }, asFound)).toMatchObject({
      planned20Ohm: asFound.figures?.lineResistance20Ohm,
      newWinding: false,
    });
    expect(input('insulationResistance', { r1min: 900, r1minOverRange: true })).toMatchObject({
      ratedV: 400,
      ratedKVA: 5.5,
      stage: 'VC',
      rewound: true,
      r1min: { megohm: 900, overRange: true },
      r30s: undefined,
    });
    expect(input('noLoadRun', { u12: 400, u23: 401, u31: 402, i1: 1, i2: 1 })).toMatchObject({
      voltsV: [400, 401, 402],
      ampsA: undefined,
      ratedW: 5500,
      poles: 4,
    });
  });
});

describe('the verdict of a stage', () => {
  const decider = (code: string) => {
    const d = operation(code).decidedBy;
    if (d?.kind !== 'tests') throw new Error(code);
    return d;
  };
  let n = 0;
  const test = (kind: string, more: Partial<KeptTest> = {}): KeptTest => ({
    id: String((n += 1)),
    stage: 'AC',
    kind,
    verdict: 'pass',
    reason: 'So.',
    supersedes: null,
    signed: null,
    ...more,
  });
  const all = () => requiredTests('AC').map((k) => test(k.id));
  const judge = (tests: KeptTest[], came: 'whole motor' | 'rotor only' = 'whole motor') =>
    judgeStage(decider('PVT'), came, tests);

  it('passes when every required test passed, and not before', () => {
    expect(judge(all())).toEqual({ verdict: 'pass', reason: 'All tests of this stage passed.' });
    for (const missing of requiredTests('AC')) {
      const rest = all().filter((t) => t.kind !== missing.id);
      expect(judge(rest)).toEqual({
        verdict: 'cannot judge',
        reason: `${missing.title} (before varnish) is not done.`,
      });
      // done at another stage does not count
      expect(judge([...rest, test(missing.id, { stage: 'VC' })]).verdict).toBe('cannot judge');
    }
  });
  it.each([
    ['fail', null, 'fail'],
    ['attention', null, 'attention'],
    ['attention', { by: 'A' }, 'pass'],
    ['fail', { by: 'A' }, 'fail'],
    ['cannot judge', { by: 'A' }, 'cannot judge'],
  ] as const)('one test at %s, signed %j: the stage is at %s', (verdict, signed, stage) => {
    const [first, ...rest] = all() as [KeptTest, ...KeptTest[]];
    const judged = judge([{ ...first, verdict, signed }, ...rest]);
    expect(judged.verdict).toBe(stage);
    expect(judged.reason).toBe(stage === 'pass' ? 'All tests of this stage passed.' : 'Winding resistance: So.');
  });
  it('the newest reading of a kind counts, and a correction in place of what it corrects', () => {
    const tests = all();
    const bad = test('surge', { verdict: 'fail' });
    expect(judge([...tests, bad]).verdict).toBe('fail');
    expect(judge([...tests, bad, test('surge')]).verdict).toBe('pass');
    expect(judge([...tests, bad, test('surge', { supersedes: bad.id })]).verdict).toBe('pass');
    // a correction that was taken before a later measurement does not outlive it
    const old = tests.find((t) => t.kind === 'surge') as KeptTest;
    const corrected = test('surge', { supersedes: old.id });
    expect(standingTests([...tests, corrected, bad], 'AC').get('surge')?.id).toBe(bad.id);
  });
  it('as found, what is recorded is enough', () => {
    const tests = requiredTests('IN').map((k) => test(k.id, { stage: 'IN', verdict: 'fail' }));
    expect(judgeStage(decider('TAF'), 'whole motor', tests)).toEqual({
      verdict: 'pass',
      reason: 'All tests of this stage are recorded.',
    });
    expect(judgeStage(decider('TAF'), 'whole motor', tests.slice(1)).verdict).toBe('cannot judge');
    // what a failed lower test bars is not missing there, and is where tests must pass
    const low = tests
      .filter((t) => t.kind !== 'surge')
      .map((t) => (t.kind === 'insulationResistance' ? { ...t, verdict: 'fail' } : t));
    expect(judgeStage(decider('TAF'), 'whole motor', low).verdict).toBe('pass');
    expect(
      judgeStage(
        decider('TAF'),
        'whole motor',
        low.map((t) => ({ ...t, verdict: 'attention' })),
      ).verdict,
    ).toBe('cannot judge');
  });
  it('a rotor alone has no winding tests', () => {
    expect(judge([], 'rotor only').verdict).toBe('pass');
    for (const kind of TEST_KINDS) expect(wantedAt(kind, 'FI', 'rotor only')).toBeUndefined();
  });
  it('only a whole motor is run', () => {
    const run = TEST_KINDS.filter((k) => wantedAt(k, 'FI', 'whole motor') && !wantedAt(k, 'FI', 'stator only'));
    expect(run.map((k) => k.id)).toEqual([
      'assembly',
      'noLoadRun',
      'noLoadCurve',
      'leadRotation',
      'assembledVibration',
      'coupling',
      'lockedRotor',
      'loadTest',
      'inputOutput',
      'temperatureRise',
    ]);
  });
});

describe('the test stages of a route', () => {
  it.each([
    ['ac_random_rewind', 'whole motor', ['IN', 'AC', 'VC', 'AA', 'FI']],
    ['ac_random_rewind', 'stator only', ['IN', 'AC', 'VC', 'FI']],
    ['overhaul', 'whole motor', ['IN', 'VC', 'AA', 'FI']],
    ['overhaul', 'stator only', ['IN', 'VC', 'FI']],
  ] as const)('%s, %s: %j', (route, came, stages) => {
    expect(testStagesOf(routeFor(route, came, 'dip'))).toEqual(stages);
  });
});

describe('tests by the kind of machine', () => {
  const LOADED = ['noLoadCurve', 'leadRotation', 'lockedRotor', 'loadTest', 'temperatureRise'];
  const names = (nameplate: object, kind: string | undefined, auxKind?: string) => {
    const kept = kind ? { record: { kind, ...(auxKind ? { auxKind } : {}) } } : null;
    return testsFor(testedOf(nameplate, kept, null))
      .map((k) => k.id)
      .filter(
        (id) =>
          ![
            'insulationResistance',
            'surge',
            'polarity',
            'steppedVoltage',
            'highPotential',
            'phaseBalance',
            'rotorSwing',
            'growler',
            'assembledVibration',
            'assembly',
            'coupling',
            'finalList',
            'inputOutput',
          ].includes(id),
      );
  };
  it.each([
    [{}, undefined, undefined, ['windingResistance', 'noLoadRun', ...LOADED]],
    [
      { phases: '1' },
      undefined,
      undefined,
      ['singlePhaseResistance', 'capacitor', 'startSwitch', 'noLoadSingle', 'lockedRotor', 'temperatureRise'],
    ],
    [
      {},
      'single-phase',
      'split phase',
      ['singlePhaseResistance', 'startSwitch', 'noLoadSingle', 'lockedRotor', 'temperatureRise'],
    ],
    [
      {},
      'single-phase',
      'capacitor run',
      ['singlePhaseResistance', 'capacitor', 'noLoadSingle', 'lockedRotor', 'temperatureRise'],
    ],
    [
      {},
      'single-phase',
      'capacitor start',
      ['singlePhaseResistance', 'capacitor', 'startSwitch', 'noLoadSingle', 'lockedRotor', 'temperatureRise'],
    ],
    [
      {},
      'two-speed',
      undefined,
      ['windingResistance', 'noLoadLow', 'noLoadHigh', 'leadRotation', 'lockedRotor', 'temperatureRise'],
    ],
    [
      { rotorVoltageV: 180 },
      'three-phase',
      undefined,
      ['windingResistance', 'rotorResistance', 'ringVoltage', 'noLoadRun', ...LOADED],
    ],
    [
      { rotorCurrentA: 18 },
      undefined,
      undefined,
      ['windingResistance', 'rotorResistance', 'ringVoltage', 'noLoadRun', ...LOADED],
    ],
    [{ machine: 'permanent magnet' }, 'tooth-coil', undefined, ['windingResistance', 'noLoadRun', 'temperatureRise']],
  ])('%j, %s %s', (nameplate, kind, auxKind, ids) => {
    expect(names(nameplate, kind, auxKind)).toEqual(ids);
  });
  it('a single-phase stage waits for main and auxiliary, not for three pairs', () => {
    const tested = testedOf({ phases: '1' }, null, null);
    const wanted = requiredTests('AC', 'whole motor', tested).map((k) => k.id);
    expect(wanted).toContain('singlePhaseResistance');
    expect(wanted).not.toContain('windingResistance');
    const judged = judgeStage(
      { kind: 'tests', stage: 'AC', passes: 'when passed' } as never,
      'whole motor',
      wanted.map((kind, i) => ({
        id: String(i),
        stage: 'AC',
        kind,
        verdict: 'pass',
        reason: '',
        supersedes: null,
        signed: null,
      })),
      tested,
    );
    expect(judged.verdict).toBe('pass');
  });
  it('six leads are asked how they were read, three are not', () => {
    const fields = (leads: string) =>
      fieldsFor(testKind('windingResistance') as never, {
        machine: 'three-phase',
        record: { kind: 'three-phase', leads } as never,
      }).map((f) => f.name);
    expect(fields('6')).toContain('reading');
    expect(fields('3')).not.toContain('reading');
  });
});
