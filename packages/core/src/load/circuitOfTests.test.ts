import { describe, expect, it } from 'vitest';
import { circuitReadings } from './circuitOfTests.ts';
import { equivalentCircuit } from './equivalentCircuit.ts';
import { lockedRotor } from './lockedRotorTest.ts';
import { lockedPulse } from './lockedPulse.ts';

const PLATE = { outputW: 7500, voltagesV: [230, 400], currentsA: [25.1, 14.5], frequencyHz: 50, poles: 4 };
// tests.md 8, the true circuit: no load 6.78 A, 331.7 W; locked at 12.5 Hz 32.52 V, 15 A, 712.3 W; R1 0.62, P_fw 70 W
const NO_LOAD = {
  kind: 'noLoadCurve',
  values: { volts: [440, 400, 200], amps: [7.6, 6.78, 3.2], watts: [400, 331.7, 160], lineOhm: 1.24 },
  found: { frictionW: 70 },
};
const LOCKED = {
  kind: 'lockedRotor',
  values: { volts: [20, 32.52, 60], amps: [9, 15, 28], watts: [260, 712.3, 2500], frequency: 12.5 },
  found: {},
};

describe('the circuit of a motor from its recorded tests', () => {
  it('tests.md 8: the readings at rated voltage and nearest to the rated current give the circuit that made them', () => {
    const readings = circuitReadings([NO_LOAD, LOCKED], PLATE, undefined);
    expect(readings).toMatchObject({
      noLoad: { lineV: 400, amps: 6.78, watts: 331.7 },
      locked: { lineV: 32.52, amps: 15, watts: 712.3, frequencyHz: 12.5 },
      r1Ohm: 0.62,
    });
    const found = equivalentCircuit.compute(equivalentCircuit.input.parse(readings), undefined);
    expect(found.exact?.x1).toBeCloseTo(1.0719, 2);
    expect(found.bySteps?.x1).toBeCloseTo(1.1122, 2);
    expect(found.atOutput?.rpm).toBeCloseTo(1459.3, 0);
  });
  it('the frequency is the plate’s where none was read; poles of the winding win', () => {
    const { volts, amps, watts } = LOCKED.values;
    const plain = { ...LOCKED, values: { volts, amps, watts } };
    expect(circuitReadings([NO_LOAD, plain], PLATE, 6)).toMatchObject({ locked: { frequencyHz: 50 }, poles: 6 });
  });
  it('the newest of each kind counts', () => {
    const newer = { ...NO_LOAD, found: { frictionW: 60 } };
    expect(circuitReadings([NO_LOAD, LOCKED, newer], PLATE, undefined)).toMatchObject({ frictionW: 60 });
  });
  it.each([
    [[], PLATE, /the no-load curve, the locked rotor test are missing/],
    [[NO_LOAD], PLATE, /the locked rotor test is missing/],
    [[NO_LOAD, LOCKED], { ...PLATE, frequencyHz: undefined }, /the frequency is missing/],
    [[{ ...NO_LOAD, found: {} }, LOCKED], PLATE, /gives no friction/],
    [[{ ...NO_LOAD, found: { frictionW: -1 } }, LOCKED], PLATE, /gives no friction/],
    [[NO_LOAD, { ...LOCKED, values: { ...LOCKED.values, watts: [] } }], PLATE, /has no powers/],
    [[{ ...NO_LOAD, values: { ...NO_LOAD.values, lineOhm: null } }, LOCKED], PLATE, /has no resistance/],
  ] as const)('what is missing is said (%#)', (tests, plate, says) => {
    expect(circuitReadings(tests as never, plate as never, undefined)).toMatch(says);
  });
});

describe('a pulse of a locked rotor', () => {
  it('heats copper without loss of heat: 6.57e-3 K/s at 1 A/mm², by the square', () => {
    expect(lockedPulse(1).kelvinPerS).toBeCloseTo(0.00657, 5);
    expect(lockedPulse(30).kelvinPerS).toBeCloseTo(900 * (lockedPulse(1).kelvinPerS ?? 0), 9);
  });
  it('lasts at most ten seconds, less where the wire heats faster; the pause goes with it', () => {
    expect(lockedPulse(undefined).mostS).toBe(10);
    expect(lockedPulse(10).mostS).toBe(10);
    expect(lockedPulse(36).mostS).toBeCloseTo(25 / (0.006571 * 1296), 1);
    expect(lockedPulse(36, { 'locked.pulseK': 50 }).mostS).toBeCloseTo(50 / (0.006571 * 1296), 1);
    const { pauseS } = lockedPulse(10);
    expect([pauseS(0.5), pauseS(1), pauseS(4)]).toEqual([30, 30, 120]);
  });
});

describe('the exponent of the locked current', () => {
  const at = (n: number) =>
    lockedRotor.compute(
      lockedRotor.input.parse({
        ratedV: 400,
        points: [60, 90, 120].map((volts) => ({ volts, amps: 20 * (volts / 60) ** n })),
      }),
      undefined,
    );
  it.each([
    [0.994, 'attention'],
    [0.9951, 'pass'],
    [1, 'pass'],
    [1.15, 'pass'],
    [1.151, 'attention'],
  ] as const)('%s: %s', (n, verdict) => {
    expect(at(n).verdict).toBe(verdict);
  });
});
