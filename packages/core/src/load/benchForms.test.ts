import { describe, expect, it } from 'vitest';
import { leadRotation, leadRotationTest } from './leadRotation.ts';
import { scaleLocked } from './lockedRotor.ts';
import { lockedRotor, lockedRotorTest } from './lockedRotorTest.ts';
import { noLoadCurve, noLoadCurveTest } from './noLoadCurve.ts';

const context = (more: object = {}) =>
  ({
    nameplate: { voltagesV: [230, 400], frequencyHz: 50, poles: 4, outputW: 7500, ...more },
    limits: {},
    tests: [],
  }) as never;
const says = (kind: { due?: unknown }, plate: object): string =>
  (kind.due as (c: unknown) => { says: string[] })({ nameplate: plate }).says.join(' ');

describe('the form of a no-load curve', () => {
  const read = { volts: [400, 200], amps: [7, 3], watts: [300, 100], lineOhm: 0.9 };
  it('hands over points and the highest voltage of the plate; none where the plate has none', () => {
    expect(noLoadCurveTest.input?.(read, context())).toEqual({
      points: [
        { volts: 400, amps: 7, watts: 300 },
        { volts: 200, amps: 3, watts: 100 },
      ],
      lineOhm: 0.9,
      ratedV: 400,
    });
    expect(noLoadCurveTest.input?.(read, context({ voltagesV: undefined }))).toMatchObject({ ratedV: undefined });
  });
  it.each([
    [{ ...read, amps: [7] }, 'amps'],
    [{ ...read, watts: [300, 200, 100] }, 'watts'],
    [read, undefined],
  ])('lists of one length: %j', (v, field) => {
    expect(noLoadCurveTest.lacks?.(v)?.field).toBe(field);
    const hand = () => noLoadCurveTest.input?.(v, context());
    if (field === undefined) expect(hand).not.toThrow();
    else expect(hand).toThrow(/Each voltage has its current and its power/);
  });
  it('belongs to cage and slip-ring motors', () => {
    const of = ['three-phase', 'slip-ring', 'single-phase', 'two-speed', 'permanent magnet'];
    expect(of.filter((machine) => noLoadCurveTest.for?.({ machine } as never))).toEqual(['three-phase', 'slip-ring']);
  });
  it('names the voltages of the highest connection', () => {
    expect(says(noLoadCurveTest, { voltagesV: [230, 400] })).toMatch(
      /from 440 V down to 120 V: four points about 400 V, four up to 240 V/,
    );
    expect(says(noLoadCurveTest, {})).toMatch(/from 110 % of the rated voltage down to 30 %/);
  });
  it('friction of nothing is allowed, below it is not; a curve that stays low tells no core loss', () => {
    const run = (x: object) =>
      noLoadCurve.compute(noLoadCurve.input.parse({ ratedV: 400, lineOhm: 1e-9, ...x }), undefined);
    const line = (frictionW: number, volts: number[]) =>
      volts.map((u) => ({ volts: u, amps: u / 100, watts: frictionW + (100 * u * u) / 160_000 }));
    const through = run({ points: line(0, [400, 240, 200, 160]) });
    expect(through.reason).toMatch(/Friction and windage|Friction comes out below zero \(-?0/);
    expect(run({ points: line(-5, [400, 240, 200, 160]) }).reason).toMatch(/below zero \(-5 W\)/);
    const low = run({ points: line(50, [240, 200, 160]) });
    expect(low).toMatchObject({ verdict: 'attention', fitted: [1, 2, 3] });
    expect(low.coreW).toBeUndefined();
    expect(low.reason).toMatch(/^The curve does not reach 400 V/);
    expect(run({ points: line(50, [400, 240, 200, 160]) })).toMatchObject({
      verdict: 'pass',
      coreW: expect.closeTo(100, 5),
    });
    expect(run({ points: line(50, [400, 240, 200, 160]), ratedV: undefined }).reason).toMatch(
      /^The rated voltage decides/,
    );
    const steps: { name: string; numbers: string }[] = [];
    noLoadCurve.compute(
      noLoadCurve.input.parse({ ratedV: 400, lineOhm: 1, points: line(50, [400, 240, 200, 160]) }),
      (s) => steps.push(s as never),
    );
    expect(steps.at(-1)?.numbers).toBe('points 2, 3, 4');
    expect(steps).toHaveLength(5);
  });
});

describe('the form of rotated leads', () => {
  const read = Object.fromEntries(
    [1, 2, 3].flatMap((p) => ['U', 'V', 'W'].map((lead, t) => [`run${p}${lead}`, 10 * p + t])),
  );
  it('hands over three runs of three leads', () => {
    expect(leadRotationTest.input?.(read, context())).toEqual({
      runs: [
        [10, 11, 12],
        [20, 21, 22],
        [30, 31, 32],
      ],
    });
  });
  it('says on which line each lead lies in each run, and how to go on', () => {
    const labels = leadRotationTest.fields.map((f) => f.label);
    expect(labels.slice(0, 9)).toEqual([
      'Run 1: lead U on line 1',
      'Run 1: lead V on line 2',
      'Run 1: lead W on line 3',
      'Run 2: lead U on line 2',
      'Run 2: lead V on line 3',
      'Run 2: lead W on line 1',
      'Run 3: lead U on line 3',
      'Run 3: lead V on line 1',
      'Run 3: lead W on line 2',
    ]);
    expect(says(leadRotationTest, {})).toMatch(/every lead goes one line further/);
  });
  it('is none of single-phase and permanent-magnet motors', () => {
    const of = ['three-phase', 'slip-ring', 'two-speed', 'single-phase', 'permanent magnet'];
    expect(of.filter((machine) => leadRotationTest.for?.({ machine } as never))).toEqual(of.slice(0, 3));
  });
  it('names the lead and the line that are furthest off, and hands over what each has', () => {
    const found = leadRotation.compute(leadRotation.input.parse(leadRotation.example), undefined);
    expect(found.reason).toMatch(/\(lead U most\).*\(line 1 most\)/);
    expect(found.leadA.map((a) => Number(a.toFixed(6)))).toEqual([0.1, -0.1, 0]);
    expect(found.lineA.map((a) => Number(a.toFixed(6)))).toEqual([0.6, -0.2, -0.4]);
  });
});

describe('the form of a locked rotor', () => {
  const read = { volts: [120, 160], amps: [24, 33], watts: [900, 1700], lineOhm: 0.9, declaredA: 100, declaredNm: 90 };
  it('hands over points, the plate and what was declared', () => {
    expect(lockedRotorTest.input?.({ ...read, frequency: 12.5 }, context())).toEqual({
      points: [
        { volts: 120, amps: 24, watts: 900, torqueNm: undefined },
        { volts: 160, amps: 33, watts: 1700, torqueNm: undefined },
      ],
      ratedV: 400,
      outputW: 7500,
      frequencyHz: 12.5,
      ratedHz: 50,
      phases: 3,
      synchronousRpm: 1500,
      lineOhm: 0.9,
      declaredA: 100,
      declaredNm: 90,
    });
    expect(lockedRotorTest.input?.(read, { nameplate: {}, machine: 'single-phase' } as never)).toMatchObject({
      ratedV: undefined,
      phases: 1,
      synchronousRpm: undefined,
    });
    const winding = { nameplate: { frequencyHz: 50, poles: 4 }, record: { poles: 8 } } as never;
    expect(lockedRotorTest.input?.(read, winding)).toMatchObject({ synchronousRpm: 750 });
    expect(lockedRotorTest.input?.(read, { nameplate: { poles: 4 } } as never)).toMatchObject({
      synchronousRpm: undefined,
    });
  });
  it('names the currents of the pulses; is none of a permanent-magnet motor', () => {
    expect(says(lockedRotorTest, { currentsA: [26, 15] })).toMatch(/until 26 to 78 A flow/);
    expect(says(lockedRotorTest, {})).toMatch(/until one to three times the rated current flows/);
    const of = ['three-phase', 'permanent magnet'];
    expect(of.filter((machine) => lockedRotorTest.for?.({ machine } as never))).toEqual(['three-phase']);
  });
});

describe('a locked rotor brought to the rated voltage', () => {
  const run = (x: object) =>
    lockedRotor.compute(lockedRotor.input.parse({ ratedV: 400, outputW: 7500, ...x }), undefined);
  const POINTS = [
    { volts: 120, amps: 24 },
    { volts: 160, amps: 32 },
    { volts: 200, amps: 40 },
  ];
  it.each([
    [50, 50, true],
    [50.5, 50, true],
    [49.5, 50, true],
    [50.51, 50, false],
    [12.5, 50, false],
    [undefined, 50, true],
    [12.5, undefined, true],
  ] as const)('read at %s Hz for a plate of %s Hz: told %s', (frequencyHz, ratedHz, told) => {
    const found = run({ points: POINTS, frequencyHz, ratedHz });
    expect(found.ampsAtRated !== undefined).toBe(told);
    if (!told) expect(found.reason).toMatch(/^Read at [\d.]+ Hz: it tells the equivalent circuit/);
  });
  it('another frequency follows the shop’s limit', () => {
    expect(
      run({ points: POINTS, frequencyHz: 51, ratedHz: 50, limits: { 'live.frequencyPercent': 2 } }).ampsAtRated,
    ).toBeCloseTo(80, 6);
  });
  it('torque is worked out where power, resistance and speed are known, read where it was read', () => {
    const powered = POINTS.map((p) => ({ ...p, watts: p.amps ** 2 * 3 }));
    const all = { points: powered, lineOhm: 0.5, synchronousRpm: 1500 };
    // 80 A: 0.91 · 30/π · (80²·3 − 1.5·80²·0.5)/1500
    expect(run(all)).toMatchObject({ torqueNm: expect.closeTo(83.4, 1), torqueFrom: 'worked out from the power' });
    expect(run({ ...all, c1: 1 }).torqueNm).toBeCloseTo((run(all).torqueNm ?? 0) / 0.91, 9);
    expect(run({ ...all, coreW: 200 }).torqueNm).toBeLessThan(run(all).torqueNm ?? 0);
    for (const without of [{ lineOhm: undefined }, { synchronousRpm: undefined }, { points: POINTS }])
      expect(run({ ...all, ...without }).torqueNm, JSON.stringify(without)).toBeUndefined();
    // less than the winding's own loss: no torque
    expect(run({ ...all, lineOhm: 2.1 })).not.toHaveProperty('torqueNm');
    expect(run({ ...all, lineOhm: 2.1 })).not.toHaveProperty('torqueFrom');
    expect(run({ points: powered.map((p) => ({ ...p, torqueNm: p.amps })) })).toMatchObject({ torqueFrom: 'read' });
    expect(run({ points: POINTS.map((p) => ({ ...p, torqueNm: p.amps })) }).reason).toMatch(/torque 160 N m \(read\)/);
  });
  it('without output no code letter; nothing declared, nothing compared', () => {
    const found = run({ points: POINTS, outputW: undefined });
    expect(found).toEqual({
      verdict: 'pass',
      reason: '80 A at 400 V.',
      exponent: expect.closeTo(1, 9),
      ampsAtRated: expect.closeTo(80, 6),
    });
    expect(run({ points: POINTS, declaredNm: 90 }).reason).not.toMatch(/Declared/);
    expect(run({ points: POINTS, declaredA: 80 }).reason).toMatch(/Declared 80 A: inside its tolerance/);
    expect(run({ points: [POINTS[0]], ratedV: undefined }).reason).toMatch(/^The rated voltage is needed/);
  });
  it('shows its exponent and how many readings it is from', () => {
    const said = (points: object[]) => {
      const steps: { numbers: string }[] = [];
      lockedRotor.compute(lockedRotor.input.parse({ ratedV: 400, points }), (s) => steps.push(s as never));
      return steps[0]?.numbers;
    };
    expect(said(POINTS)).toBe('n = 1, 3 readings');
    expect(said(POINTS.slice(0, 1))).toBe('n = 1, 1 reading');
  });
  it('a small motor may start with less: tolerance by its output', () => {
    // 15 kW and more +20 %; below, the same share of a smaller figure
    const at = (declaredA: number) => run({ points: POINTS, declaredA }).verdict;
    expect([at(66.7), at(66.6)]).toEqual(['pass', 'fail']);
  });
  it('one reading is taken as linear, of the highest voltage; impossible ones are left out', () => {
    expect(scaleLocked([{ volts: 100, amps: 20, torqueNm: 5 }], 400)).toEqual({
      exponent: 1,
      amps: 80,
      torqueNm: 80,
      watts: undefined,
      linear: true,
    });
    const two = scaleLocked(
      [
        { volts: 100, amps: 20 },
        { volts: 0, amps: 9 },
        { volts: 50, amps: 0 },
      ],
      400,
    );
    expect(two).toMatchObject({ amps: 80, linear: true });
    expect(scaleLocked([{ volts: 0, amps: 9 }], 400)).toBeUndefined();
    // the same voltage twice is no line: the first of the highest counts
    expect(
      scaleLocked(
        [
          { volts: 100, amps: 20 },
          { volts: 100, amps: 22 },
        ],
        200,
      ),
    ).toMatchObject({ amps: 40, linear: true });
    expect(
      scaleLocked(
        [
          { volts: 100, amps: 20 },
          { volts: 100, amps: 22 },
        ].reverse(),
        200,
      ),
    ).toMatchObject({ amps: 44 });
  });
  it('power and torque come from the highest voltage that has them, by the square of the current', () => {
    const steep = [
      { volts: 100, amps: 10, watts: 300, torqueNm: 4 },
      { volts: 200, amps: 21.435, watts: 1400 },
    ];
    const found = scaleLocked(steep, 400);
    const n = found?.exponent ?? 0;
    expect(n).toBeCloseTo(Math.log2(2.1435), 6);
    expect(found?.watts).toBeCloseTo(1400 * 2 ** (2 * n), 6);
    expect(found?.torqueNm).toBeCloseTo(4 * 4 ** (2 * n), 6);
    expect(scaleLocked([...steep].reverse(), 400)).toEqual(found);
  });
});
