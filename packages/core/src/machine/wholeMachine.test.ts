import { describe, expect, it } from 'vitest';
import { worked } from '../../../../scripts/testing/worked.ts';
import { ironDensities, machineFlux } from './flux.ts';
import { hasMagnets, machineKindOf } from './machineKind.ts';
import { machineMagnetFlux } from './magnets.ts';
import { machinePoles, nameplateSchema, polesFrom } from './nameplate.ts';
import { carterFactor, expectedNoLoadA, ironFactor, magnetizingCurrent, runningOf } from './noLoadCurrent.ts';
import {
  FIRST_PART,
  PART_KINDS,
  partFacts,
  partOnRail,
  PARTS,
  partsTakenIn,
  rotorOf,
  sayPart,
  WINDING_PARTS,
  windingPartSchema,
} from './parts.ts';

describe('magnetizing current by hand', () => {
  it.each([
    [1, 1.2],
    [1.5, 1.2],
    [1.6, 1.275],
    [1.7, 1.35],
    [1.775, 1.475],
    [1.85, 1.6],
    [1.9, 1.8],
    [1.95, 2],
    [1.9501, undefined],
  ])('iron at %d T: %s', (tesla, factor) => {
    if (factor === undefined) expect(ironFactor(tesla)).toBeUndefined();
    else expect(ironFactor(tesla)).toBeCloseTo(factor, 9);
  });
  it('Carter: t/(t − γ g), γ = (o/g)²/(5 + o/g)', () => {
    // o/g = 5: γ = 2.5, so 10/(10 − 2.5 · 0.5)
    expect(carterFactor(0.01, 0.0025, 0.0005)).toBeCloseTo(10 / 8.75, 12);
    expect(carterFactor(0.01, 0, 0.0005)).toBe(1);
  });
  const winding = { airGapT: 0.8, toothT: 1.5, gapM: 0.0005, boreM: 0.36 / Math.PI, slots: 36, openingM: 0.0025 };
  it('of a phase: π B_g g k_C k_s P / (6 √2 μ₀ N k_w)', () => {
    const made = magnetizingCurrent({ ...winding, poles: 4, seriesTurns: 200, windingFactor: 0.9 });
    expect(made?.carter).toBeCloseTo(10 / 8.75, 9);
    expect(made?.iron).toBeCloseTo(1.2, 12);
    const gap = 0.8 * 0.0005 * (10 / 8.75) * 1.2;
    expect(made?.phaseA).toBeCloseTo((Math.PI * gap * 4) / (6 * Math.SQRT2 * 1.2566370614e-6 * 200 * 0.9), 6);
    expect(
      magnetizingCurrent({ ...winding, toothT: 1.96, poles: 4, seriesTurns: 200, windingFactor: 0.9 }),
    ).toBeUndefined();
  });
  const record = { poles: 4, airGapM: 0.0005, boreM: 0.36 / Math.PI, slots: 36, slotOpeningM: 0.0025 };
  const figures = { seriesTurns: 200, windingFactor: 0.9, airGapT: 0.8, toothT: 1.5 };
  it('a winding runs as its figures reckon it, whole or not at all', () => {
    expect(runningOf(record as never, figures as never, 'wye')).toEqual({ poles: 4, connection: 'wye', ...figures });
    expect(runningOf(record as never, figures as never, undefined)).toBeUndefined();
    expect(runningOf({ ...record, poles: undefined } as never, figures as never, 'wye')).toBeUndefined();
    for (const missing of Object.keys(figures))
      expect(runningOf(record as never, { ...figures, [missing]: undefined } as never, 'wye')).toBeUndefined();
  });
  it('the line takes √3 of it in delta; nothing is expected while a size is missing', () => {
    const running = (connection: 'wye' | 'delta') => runningOf(record as never, figures as never, connection);
    const wye = expectedNoLoadA(record as never, running('wye')) ?? 0;
    expect(wye).toBeCloseTo(
      magnetizingCurrent({ ...winding, poles: 4, seriesTurns: 200, windingFactor: 0.9 })?.phaseA ?? 0,
      9,
    );
    expect((expectedNoLoadA(record as never, running('delta')) ?? 0) / wye).toBeCloseTo(Math.sqrt(3), 9);
    expect(expectedNoLoadA(record as never, undefined)).toBeUndefined();
    for (const missing of ['airGapM', 'boreM', 'slots', 'slotOpeningM'])
      expect(expectedNoLoadA({ ...record, [missing]: undefined } as never, running('wye'))).toBeUndefined();
    const saturated = runningOf(record as never, { ...figures, toothT: 2 } as never, 'wye');
    expect(expectedNoLoadA(record as never, saturated)).toBeUndefined();
  });
});

describe('parts of a machine', () => {
  it('what each part carries', () => {
    expect(PART_KINDS.filter((p) => PARTS[p].winding)).toEqual([...WINDING_PARTS]);
    expect(PART_KINDS.filter((p) => PARTS[p].rail === 'rotor')).toEqual([
      'cage-rotor',
      'wound-rotor',
      'armature',
      'magnet-rotor',
    ]);
    expect(partFacts('second').core).toBe('stator');
    expect(WINDING_PARTS.map((p) => partFacts(p).plate)).toEqual(['whole', 'line', 'rings']);
    expect(FIRST_PART).toBe('stator');
    expect([sayPart('stator'), sayPart('wound-rotor')]).toEqual(['', 'Wound rotor']);
  });
  it('names of before are understood, others are not', () => {
    expect(windingPartSchema.parse('rotor')).toBe('wound-rotor');
    expect(windingPartSchema.parse('second')).toBe('second');
    expect(windingPartSchema.safeParse('cage-rotor').success).toBe(false);
  });
  it('the rotor is the one the plate speaks of', () => {
    expect(rotorOf({})).toBe('cage-rotor');
    expect(rotorOf({ rotorVoltageV: 180 })).toBe('wound-rotor');
    expect(rotorOf({ rotorCurrentA: 20 })).toBe('wound-rotor');
  });
  it.each([
    ['whole motor', {}, ['stator', 'cage-rotor', 'wound-rotor'], ['stator', 'cage-rotor']],
    ['whole motor', { rotorVoltageV: 9 }, ['stator', 'cage-rotor', 'wound-rotor'], ['stator', 'wound-rotor']],
    ['stator only', {}, ['stator', 'cage-rotor'], ['stator']],
    ['rotor only', {}, ['stator', 'cage-rotor'], ['cage-rotor']],
    ['whole motor', {}, ['stator'], ['stator']],
    ['whole motor', {}, [], []],
  ] as const)('%s, plate %j, route for %j: %j', (came, plate, route, parts) =>
    expect(partsTakenIn(route, came, plate)).toEqual(parts),
  );
  it('work of a rail lies on its own part; of two windings on the one whose core it is', () => {
    expect(partOnRail(['second', 'stator', 'cage-rotor'], 'stator')).toBe('stator');
    expect(partOnRail(['second', 'stator', 'cage-rotor'], 'rotor')).toBe('cage-rotor');
    expect(partOnRail(['second'], 'stator')).toBeUndefined();
    expect(partOnRail(['stator'], 'rotor')).toBeUndefined();
  });
});

describe('what a machine is', () => {
  it.each([
    [{}, undefined, 'three-phase'],
    [{ phases: '1' }, undefined, 'single-phase'],
    [{ phases: '1' }, { kind: 'three-phase' }, 'three-phase'],
    [{ phases: '3' }, { kind: 'single-phase' }, 'single-phase'],
    [{ machine: 'permanent magnet', phases: '1' }, undefined, 'single-phase'],
    [{ machine: 'permanent magnet', rotorVoltageV: 90 }, { kind: 'tooth-coil' }, 'permanent magnet'],
    [{ machine: 'permanent magnet' }, { kind: 'two-speed' }, 'permanent magnet'],
    [{ rotorVoltageV: 90 }, { kind: 'two-speed' }, 'two-speed'],
    [{ rotorVoltageV: 90 }, undefined, 'slip-ring'],
    [{ rotorCurrentA: 90 }, { kind: 'three-phase' }, 'slip-ring'],
    [{ machine: 'induction' }, { kind: 'three-phase' }, 'three-phase'],
  ] as const)('%j with %j: %s', (plate, record, kind) => expect(machineKindOf(plate, record)).toBe(kind));
  it('magnets are what the plate says', () => {
    expect(hasMagnets({ machine: 'permanent magnet' })).toBe(true);
    expect(hasMagnets({ machine: 'induction' })).toBe(false);
    expect(hasMagnets({})).toBe(false);
  });
});

describe('poles from speed: the border of each kind of slip', () => {
  it.each([
    [1500, 50, 4, 0, 'ordinary'],
    [1380, 50, 4, 8, 'ordinary'],
    [1379.9, 50, 4, 8.007, 'high slip'],
    [1305, 50, 4, 13, 'high slip'],
    [1304.9, 50, 4, 13.007, 'not an induction motor speed'],
    [1001, 50, 4, 33.27, 'not an induction motor speed'],
    [1000, 50, 6, 0, 'ordinary'],
    [3500, 60, 2, 2.778, 'ordinary'],
    // faster than two poles turn: two poles, and no induction motor
    [3700, 60, 2, -2.778, 'not an induction motor speed'],
  ] as const)('%d r/min at %d Hz: %i poles, slip %d %%, %s', (rpm, hz, poles, slip, likely) => {
    const found = polesFrom(rpm, hz);
    expect(found).toMatchObject({ poles, likely, synchronousRpm: (120 * hz) / poles });
    expect(found.slipPercent).toBeCloseTo(slip, 2);
    expect(worked(machinePoles, { speedRpm: rpm, frequencyHz: hz }, 2)).toEqual(found);
  });
});

describe('the plate takes what a plate can say', () => {
  const takes = (plate: object) => nameplateSchema.safeParse(plate).success;
  it.each([
    ['outputW', [1e-6], [0, -1]],
    ['voltagesV', [[400], [1, 2, 3, 4]], [[], [1, 2, 3, 4, 5], [0]]],
    ['currentsA', [[9], [1, 2, 3, 4]], [[], [1, 2, 3, 4, 5], [0]]],
    ['poles', [2, 96, 48], [0, 1, 3, 98, 2.5]],
    ['serviceFactor', [0.5, 2], [0.49, 2.01]],
    ['ambientC', [-60, 100], [-61, 101]],
    ['magnetC', [-60, 250], [-61, 251]],
    ['efficiencyPercent', [1, 100], [0.9, 100.1]],
    ['powerFactor', [0.05, 1], [0.04, 1.01]],
    ['manufacturer', ['x'.repeat(80)], ['x'.repeat(81)]],
    ['serial', ['x'.repeat(80)], ['x'.repeat(81)]],
    ['typeMark', ['x'.repeat(80)], ['x'.repeat(81)]],
    ['plateConnection', ['x'.repeat(40)], ['x'.repeat(41)]],
    ['duty', ['x'.repeat(40)], ['x'.repeat(41)]],
    ['enclosure', ['x'.repeat(40)], ['x'.repeat(41)]],
    ['frame', ['x'.repeat(40)], ['x'.repeat(41)]],
    ['emfConstantVs', [0.001], [0]],
    ['rotorVoltageV', [1], [0]],
    ['phases', ['1', '3'], ['2']],
  ] as const)('%s', (field, good, bad) => {
    for (const value of good) expect(takes({ [field]: value }), `${field} ${JSON.stringify(value)}`).toBe(true);
    for (const value of bad) expect(takes({ [field]: value }), `${field} ${JSON.stringify(value)}`).toBe(false);
  });
  it('nothing else', () => {
    expect(takes({})).toBe(true);
    expect(takes({ colour: 'red' })).toBe(false);
  });
});

describe('flux of magnets and of a line by hand', () => {
  const servo = {
    emfConstantVs: 0.06,
    connection: 'wye',
    poles: 10,
    seriesTurns: 80,
    windingFactor: 0.9,
    boreM: 0.04,
    coreLengthM: 0.03,
    stackingFactor: 0.9,
  };
  it('wye and delta, density in the gap, cogging', () => {
    const flux = (2 * Math.SQRT2 * 0.06) / (Math.sqrt(3) * 10 * 80 * 0.9);
    const x = worked(machineMagnetFlux, servo, 1);
    expect(x.fluxWb).toBeCloseTo(flux, 12);
    expect(x.airGapT).toBeCloseTo((flux * 10) / (2 * 0.04 * 0.03), 9);
    expect(x).not.toHaveProperty('coggingPeriods');
    expect([x.toothT, x.backIronT]).toEqual([undefined, undefined]);
    const delta = worked(machineMagnetFlux, { ...servo, connection: 'delta', slots: 12 });
    expect(delta.fluxWb / x.fluxWb).toBeCloseTo(Math.sqrt(3), 9);
    expect(delta.coggingPeriods).toBe(60);
  });
  it('a tooth with a coil of its own links Φ sin(90° P/S), another the flux of its pitch', () => {
    const iron = { slots: 12, toothWidthM: 0.005, backIronM: 0.004 };
    const coils = worked(machineMagnetFlux, { ...servo, ...iron, toothCoils: true });
    const plain = worked(machineMagnetFlux, { ...servo, ...iron });
    const steel = 0.9 * 0.03;
    expect(coils.toothT).toBeCloseTo((coils.fluxWb * Math.sin((Math.PI / 2) * (10 / 12))) / (0.005 * steel), 9);
    expect(plain.toothT).toBeCloseTo((plain.airGapT * ((Math.PI * 0.04) / 12) * 0.03) / (0.005 * steel), 9);
    expect(plain.backIronT).toBeCloseTo(plain.fluxWb / (2 * 0.004 * steel), 9);
    // without a width or without slots there is no tooth
    for (const missing of ['toothWidthM', 'slots'])
      expect(
        worked(machineMagnetFlux, { ...servo, ...iron, toothCoils: true, [missing]: undefined }).toothT,
      ).toBeUndefined();
  });
  it('a voltage drop, ducts and stacking, each where it belongs', () => {
    const line = {
      lineVoltageV: 400,
      frequencyHz: 50,
      connection: 'delta',
      seriesTurns: 200,
      windingFactor: 0.9,
      poles: 4,
      boreM: 0.15,
      coreLengthM: 0.14,
      slots: 36,
      toothWidthM: 0.007,
      backIronM: 0.025,
    };
    const x = worked(machineFlux, line, 1);
    const dropped = worked(machineFlux, { ...line, voltageDropShare: 0.05 });
    expect(dropped.phaseEmfV).toBeCloseTo(380, 9);
    expect(dropped.fluxWb / x.fluxWb).toBeCloseTo(0.95, 9);
    expect(x.voltsPerTurn).toBeCloseTo(2, 9);
    expect(worked(machineFlux, { ...line, connection: 'wye' }).phaseEmfV).toBeCloseTo(230.940108, 5);
    const ducted = worked(machineFlux, { ...line, ductCount: 2, ductWidthM: 0.01 });
    expect((ducted.toothT ?? 0) / (x.toothT ?? 1)).toBeCloseTo(14 / 12, 9);
    expect((ducted.backIronT ?? 0) / (x.backIronT ?? 1)).toBeCloseTo(14 / 12, 9);
    const dense = worked(machineFlux, { ...line, stackingFactor: 1 });
    expect((dense.toothT ?? 0) / (x.toothT ?? 1)).toBeCloseTo(0.95, 9);
    for (const missing of ['slots', 'toothWidthM']) {
      const some = worked(machineFlux, { ...line, [missing]: undefined });
      expect([some.toothT, some.backIronT]).toEqual([undefined, expect.closeTo(x.backIronT ?? 0, 12)]);
    }
    expect(worked(machineFlux, { ...line, backIronM: undefined }).backIronT).toBeUndefined();
    expect(ironDensities({ boreM: 0.15, coreLengthM: 0.14, poles: 4 }, 0.9)).toEqual({
      toothT: undefined,
      backIronT: undefined,
    });
  });
});
