import { describe, expect, it } from 'vitest';
import { METRIC_DEFAULTS, readForm } from '../quantity/fields.ts';
import { windingFigures } from '../winding/figures.ts';
import { windingFactors } from '../winding/factors.ts';
import { layoutOfRecord } from '../winding/recordLayout.ts';
import { windingRecordSchema } from '../winding/record.ts';
import { judgeStage, judgeTest, judgingContext, testedOf } from './judging.ts';
import { derivedOf, familyOf, MEASURABLES, measurablesOf, measurementsOf } from './measurements.ts';
import { ratedAt, runningHigh } from './ratedAt.ts';
import { statedTest } from './testKind.ts';
import { fieldsFor, requiredTests, testKind, testsFor } from './tests.ts';

/** 36 slots, 8 poles at the low speed, 4 at the high one. */
const two = (more: object = {}) =>
  windingRecordSchema.parse({
    kind: 'two-speed',
    slots: 36,
    poles: 8,
    layers: 'double',
    form: 'lap',
    spansSlots: [5],
    turns: [44],
    strands: [{ count: 1, bareM: 0.001, label: '' }],
    circuits: 1,
    duty: 'constant torque',
    boreM: 0.15,
    coreLengthM: 0.14,
    toothWidthM: 0.007,
    backIronM: 0.025,
    slotDepthM: 0.02,
    airGapM: 0.0004,
    slotOpeningM: 0.0026,
    ...more,
  });
const PLATE = { voltagesV: [400], currentsA: [9, 14], frequencyHz: 50, outputW: 5500, poles: 8 };
const context = (record: ReturnType<typeof two> | undefined, more: object = {}) =>
  ({
    nameplate: PLATE,
    record,
    figures: record ? windingFigures.compute(windingFigures.input.parse({ record, nameplate: PLATE })) : undefined,
    machine: 'two-speed',
    limits: {},
    ...more,
  }) as never;

describe('a two-speed winding at its high speed', () => {
  const x = { voltageV: 400, frequencyHz: 50, totalTurns: 720 };
  it('half the poles; parallel wye for torque, series delta for power', () => {
    const torque = runningHigh(two(), x);
    expect(torque).toMatchObject({ poles: 4, connection: 'wye', seriesTurns: 120 });
    const power = runningHigh(two({ duty: 'constant power' }), x);
    expect(power).toMatchObject({ poles: 4, connection: 'delta', seriesTurns: 240 });
    expect(runningHigh(two({ circuits: 2 }), x)?.seriesTurns).toBe(60);
    // B = Φ P/(2 D L), Φ = E/(√2 π f N k_w)
    const kw = torque?.windingFactor ?? 0;
    const flux = 400 / Math.sqrt(3) / (Math.SQRT2 * Math.PI * 50 * 120 * kw);
    expect(torque?.airGapT).toBeCloseTo((flux * 4) / (2 * 0.15 * 0.14), 9);
    expect((power?.airGapT ?? 0) / (torque?.airGapT ?? 1)).toBeCloseTo(Math.sqrt(3) / 2, 9);
    const { layout } = layoutOfRecord(two());
    expect(kw).toBeLessThan(1);
    expect(kw).toBeGreaterThan(0.5);
    expect(layout && windingFactors(layout, 1)[0]?.size).not.toBeCloseTo(kw, 3);
  });
  it('nothing while a size is missing', () => {
    for (const missing of ['boreM', 'coreLengthM', 'circuits', 'toothWidthM', 'spansSlots'])
      expect(runningHigh(two({ [missing]: undefined }), x), missing).toBeUndefined();
    for (const missing of ['voltageV', 'frequencyHz', 'totalTurns'])
      expect(runningHigh(two(), { ...x, [missing]: undefined }), missing).toBeUndefined();
  });
  it('each speed has its own rated current, poles and expected current', () => {
    const low = ratedAt(context(two()), 'low');
    const high = ratedAt(context(two()), 'high');
    expect([low.ratedA, low.poles, high.ratedA, high.poles]).toEqual([9, 8, 14, 4]);
    expect(low.expectedA).toBeGreaterThan(0);
    expect(high.expectedA).toBeGreaterThan(0);
    expect(high.expectedA).not.toBe(low.expectedA);
    expect(ratedAt(context(two({ airGapM: undefined })), 'high').expectedA).toBeUndefined();
    const bare = ratedAt(context(undefined), 'high');
    expect(bare).toMatchObject({ ratedA: 14, poles: 4, expectedA: undefined, ratedV: 400, ratedW: 5500 });
    expect(ratedAt(context(undefined, { nameplate: { ...PLATE, poles: undefined } }), 'high').poles).toBeUndefined();
    expect(ratedAt(context(two(), { figures: undefined }), 'low').expectedA).toBeUndefined();
    expect(ratedAt(context(two(), { machine: 'permanent magnet' }), 'low')).not.toHaveProperty('poles');
  });
});

describe('what a test is judged with, and by whom', () => {
  const stated = statedTest({ id: 'x', title: 'X', stages: {}, caution: '', fields: [] });
  const by = (outcome: string | undefined, more: object = {}) =>
    judgeTest(stated, { outcome, instrument: 'meter' } as never, context(undefined, more), 'Ada');
  it.each([
    ['pass', 'pass'],
    ['attention', 'attention'],
    ['fail', 'fail'],
    ['perhaps', 'cannot judge'],
    [undefined, 'cannot judge'],
  ])('stated %s: %s', (outcome, verdict) =>
    expect(by(outcome)).toMatchObject({ verdict, reason: 'Stated by Ada, with meter.' }),
  );
  it('an instrument out of calibration takes a pass only', () => {
    expect(by('pass', { calibrationExpired: true })).toMatchObject({
      verdict: 'attention',
      reason: 'Stated by Ada, with meter. The instrument is out of calibration.',
    });
    expect(by('fail', { calibrationExpired: true })).toMatchObject({
      verdict: 'fail',
      reason: 'Stated by Ada, with meter.',
    });
    expect(judgeTest(stated, { outcome: 'pass' }, context(undefined), 'Ada').reason).toBe(
      'Stated by Ada, with no instrument named.',
    );
  });
  it('the shop’s limits and the calibration reach every calculation', () => {
    const kind = testKind('rotorSwing') as never;
    const judged = (more: object) =>
      judgeTest(kind, { maxA: 1.02, minA: 0.98 }, context(undefined, more), 'Ada').verdict;
    expect(judged({})).toBe('attention');
    expect(judged({ limits: { 'rotor.swingPassPercent': 4 } })).toBe('pass');
    expect(judged({ limits: { 'rotor.swingPassPercent': 4 }, calibrationExpired: true })).toBe('attention');
  });
  it('a rotor’s winding is judged by the rings of the plate, a second winding by its line', () => {
    const base = {
      stage: 'IN',
      route: 'ac_random_rewind',
      found: null,
      plan: null,
      limits: {},
      calibrationExpired: false,
    } as const;
    const plate = { ...PLATE, rotorVoltageV: 180, rotorCurrentA: 20 };
    const of = (part: 'stator' | 'second' | 'wound-rotor' | 'cage-rotor' | undefined) =>
      judgingContext({ ...base, nameplate: plate, part });
    expect(of(undefined).nameplate).toEqual(plate);
    expect(of('wound-rotor').nameplate.voltagesV).toEqual([180]);
    expect(of('second').nameplate).not.toEqual(plate);
    expect(of('cage-rotor').nameplate).toEqual(plate);
    expect(of(undefined).machine).toBe('slip-ring');
    expect([of('stator').rewound, of('wound-rotor').rewound]).toEqual([true, false]);
  });
  it('the highest voltage of the plate counts', () => {
    expect(testedOf({ voltagesV: [230, 400] }, null, null).ratedV).toBe(400);
    expect(testedOf({ voltagesV: [690, 400] }, null, null).ratedV).toBe(690);
    expect(testedOf({}, null, null)).not.toHaveProperty('ratedV');
    expect(testedOf({}, { record: { kind: 'two-speed' } }, null).machine).toBe('two-speed');
    expect(testedOf({}, { record: { kind: 'two-speed' } }, { record: { kind: 'single-phase' } }).machine).toBe(
      'single-phase',
    );
  });
  it('of several tests those that decide speak, and only those', () => {
    const kinds = requiredTests('AC', 'whole motor', testedOf({}, null, null));
    const kept = kinds.map((kind, i) => ({
      id: String(i),
      stage: 'AC',
      kind: kind.id,
      verdict: 'pass',
      reason: 'ok',
      supersedes: null,
      signed: null,
    }));
    const [first, second, ...rest] = kept;
    const judged = judgeStage({ kind: 'tests', stage: 'AC', passes: 'when passed' }, 'whole motor', [
      { ...first, verdict: 'fail', reason: 'low.' },
      { ...second, verdict: 'attention', reason: 'odd.' },
      ...rest,
    ] as never);
    expect(judged).toEqual({ verdict: 'fail', reason: `${kinds[0]?.title}: low.` });
  });
});

describe('what is measured', () => {
  const fields = [
    { name: 'r', label: 'R', read: { kind: 'quantity', dimension: 'resistance', unit: 'Ω' } },
    { name: 'note', label: 'Note', read: { kind: 'text' } },
  ] as never;
  it('quantities with their bound and as typed; text is none', () => {
    const of = (values: object) =>
      measurementsOf('T', fields, { r: 1.5, note: 'x', ...values } as never, { r: '1.5', note: 'x' }, METRIC_DEFAULTS);
    expect(of({})).toEqual([{ what: 'T.r', value: 1.5, unit: 'Ω', bound: null, typed: '1.5 Ω' }]);
    expect(of({ rOverRange: true })[0]?.bound).toBe('above');
    expect(of({ rUnderRange: true })[0]?.bound).toBe('below');
    expect(of({ r: undefined })).toEqual([]);
    expect(of({ r: Number.NaN })).toEqual([]);
  });
  it('what a calculation worked out, by its names', () => {
    const kind = testKind('rotorSwing') as never;
    expect(derivedOf(kind, { values: { swingPercent: 3, other: 1 } })).toEqual([
      { what: 'rotorSwing.swingPercent', value: 3, unit: '%', bound: null, typed: null },
    ]);
    expect(derivedOf(kind, { values: {} })).toEqual([]);
    expect(derivedOf(kind, null)).toEqual([]);
    expect(derivedOf(testKind('surge') as never, { values: { x: 1 } })).toEqual([]);
  });
  it('what a trend may be asked of: derived first, then read, of tests and steps', () => {
    const list = measurablesOf(testKind('rotorSwing') as never);
    expect(list.map((m) => m.what)).toEqual(['rotorSwing.swingPercent', 'rotorSwing.maxA', 'rotorSwing.minA']);
    expect(list[1]).toEqual({ what: 'rotorSwing.maxA', title: 'Largest current in one turn', unit: 'A' });
    expect(measurablesOf(testKind('surge') as never).every((m) => m.what.startsWith('surge.'))).toBe(true);
    expect(MEASURABLES.get('rotorSwing.maxA')?.unit).toBe('A');
    expect(MEASURABLES.get('CT1.loss')?.title).toMatch(/, /);
    expect(MEASURABLES.has('rotorSwing.pattern')).toBe(false);
  });
  it('families: kind, output, poles, voltage, height', () => {
    const plate = { outputW: 7460, poles: 4, voltagesV: [230, 400], frame: '132M' };
    expect(familyOf(plate)).toBe('3~, 7.5 kW, 4 poles, 400 V, 130 mm');
    expect(familyOf({ ...plate, phases: '1' })).toMatch(/^1~, /);
    expect(familyOf({ ...plate, rotorVoltageV: 90 })).toMatch(/^3~ slip ring, /);
    expect(familyOf({ ...plate, frame: undefined })).toMatch(/, height not known$/);
    for (const missing of ['outputW', 'poles', 'voltagesV'])
      expect(familyOf({ ...plate, [missing]: undefined })).toBeUndefined();
    expect(familyOf({ ...plate, voltagesV: [] })).toBeUndefined();
  });
});

describe('the matrix', () => {
  it('a test for no machine in particular is for every one; a part alone has its own', () => {
    const names = testsFor({ machine: 'single-phase', record: undefined }).map((k) => k.id);
    expect(names).toContain('surge');
    expect(names).not.toContain('noLoadRun');
    const kind = testKind('capacitor') as never;
    expect(
      fieldsFor(kind, { machine: 'single-phase', record: { auxKind: 'capacitor run' } as never }).map((f) => f.name),
    ).not.toContain('startA');
    expect(fieldsFor(kind, { machine: 'single-phase', record: undefined }).map((f) => f.name)).toContain('startA');
    const readings = readForm(
      fieldsFor(kind, { machine: 'single-phase', record: undefined }),
      { runA: '2' },
      METRIC_DEFAULTS,
    );
    expect(readings.values['runA']).toBe(2);
  });
});
