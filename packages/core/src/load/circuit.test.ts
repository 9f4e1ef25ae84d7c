import { describe, expect, it } from 'vitest';
import { printed } from '../../../../scripts/testing/printed.ts';
import { atSlip, breakdown, slipAtOutput, type Circuit } from './circuit.ts';
import { circuitBySteps, circuitExactly, readingsOf } from './circuitFromTests.ts';
import { fitLine } from './fit.ts';
import { codeLetter, kvaPerHp, lockedTorqueNm, scaleLocked } from './lockedRotor.ts';
import { allowed, nemaMinimum, nemaMinimumByLoss } from './plateTolerance.ts';

describe('equivalent circuit', () => {
  // the invented machine of the test reference, 8
  const TRUE: Circuit = { r1: 0.62, x1: 1.072, r2: 0.48, x2: 1.6, xm: 33, rfe: 850, frictionW: 70 };
  const SUPPLY = { lineV: 400, frequencyHz: 50, poles: 4 };
  const READ = {
    ratedV: 400,
    frequencyHz: 50,
    poles: 4,
    noLoad: { lineV: 400, amps: 6.78, watts: 331.7 },
    locked: { lineV: 32.52, amps: 15, watts: 712.3, frequencyHz: 12.5 },
    r1: 0.62,
    r1Locked: 0.62,
    frictionW: 70,
    ratio: 0.67,
  };
  it.each<[number, string[]]>([
    [0.01, ['19.34', '8.383', '0.5752', '3340.6', '2937.8', '87.94']],
    [0.02, ['37.45', '11.735', '0.7756', '6305.6', '5695.0', '90.32']],
    [0.03, ['54.12', '15.591', '0.8439', '9115.6', '8176.8', '89.70']],
    [0.04, ['69.24', '19.510', '0.8685', '11740.1', '10370.8', '88.34']],
    [0.1, ['127.26', '39.638', '0.8389', '23038.1', '17921.2', '77.79']],
    [0.2, ['143.96', '59.050', '0.7135', '29190.4', '18020.0', '61.73']],
  ])('at a slip of %d', (slip, want) => {
    const p = atSlip(TRUE, SUPPLY, slip);
    [p.gapNm, p.amps, p.powerFactor, p.inW, p.shaftW, 100 * (p.efficiency ?? NaN)].forEach((v, i) =>
      printed(v, want[i] ?? ''),
    );
  });
  it('locked nothing comes out: no power, no efficiency', () => {
    const p = atSlip(TRUE, SUPPLY, 1);
    printed(p.gapNm, '56.27');
    printed(p.amps, '82.193');
    printed(p.powerFactor, '0.3769');
    printed(p.inW, '21464.4');
    expect([p.shaftW, p.shaftNm, p.efficiency, p.rpm]).toEqual([0, undefined, undefined, 0]);
  });
  it('C44, C45: torque at 0.03, breakdown; 7500 W at the shaft', () => {
    printed(atSlip(TRUE, SUPPLY, 0.03).gapNm, '54.124');
    const top = breakdown(TRUE, SUPPLY);
    printed(top.gapNm, '144.835');
    printed(top.slip, '0.1771');
    for (const near of [0.97, 1.03]) expect(atSlip(TRUE, SUPPLY, top.slip * near).gapNm).toBeLessThan(top.gapNm);
    const slip = slipAtOutput(TRUE, SUPPLY, 7500) ?? NaN;
    printed(slip, '0.02716');
    const p = atSlip(TRUE, SUPPLY, slip);
    printed(p.rpm, '1459.3');
    printed(p.amps, '14.477');
    printed(100 * (p.efficiency ?? NaN), '89.99');
    printed(p.powerFactor, '0.8309');
    printed(p.shaftNm, '49.08');
    expect(slipAtOutput(TRUE, SUPPLY, 25_000)).toBeUndefined();
  });
  it('C46, C47: by the steps X1 comes out 3.7 % high; exactly the circuit comes back', () => {
    const steps = circuitBySteps(READ);
    printed(steps?.x1, '1.11217');
    printed(steps?.x2, '1.6600');
    printed(steps?.xm, '33.041');
    printed(steps?.rfe, '849.9');
    printed(steps?.r2, '0.479889');
    const exact = circuitExactly(READ);
    printed(exact?.x1, '1.0719');
    printed(exact?.xm, '33.002');
    printed(exact?.r2, '0.47999');
    printed(exact?.rfe, '850.0');
  });
  it('random machines: the exact solution gives back the circuit that made the readings', () => {
    let seed = 7;
    const draw = (low: number, high: number) => {
      seed = (seed * 16_807) % 2_147_483_647;
      return low * (high / low) ** (seed / 2_147_483_647);
    };
    for (let i = 0; i < 60; i++) {
      // per unit of an impedance: leakage 0.05 to 0.15, magnetizing 1.5 to 4, resistances 0.01 to 0.05, core loss 20 to 80
      const z = draw(0.5, 40);
      const ratio = [1, 0.67, 0.43][i % 3] ?? 1;
      const x2 = draw(0.05, 0.15) * z;
      const made: Circuit = {
        r1: draw(0.01, 0.05) * z,
        x1: ratio * x2,
        r2: draw(0.01, 0.05) * z,
        x2,
        xm: draw(1.5, 4) * z,
        rfe: draw(20, 80) * z,
        frictionW: (0.008 * 400 ** 2) / z,
      };
      const fl = i % 2 === 0 ? 12.5 : 50;
      const asked = { ...READ, ratio, r1: made.r1, r1Locked: made.r1, frictionW: made.frictionW };
      const lockedA = (400 / Math.sqrt(3) / z) * 0.9;
      const [i0, p0, vl, pl] = readingsOf(made, {
        ...asked,
        locked: { ...READ.locked, amps: lockedA, frequencyHz: fl },
      });
      const back = circuitExactly({
        ...asked,
        noLoad: { lineV: 400, amps: i0, watts: p0 },
        locked: { lineV: vl, amps: lockedA, watts: pl, frequencyHz: fl },
      });
      for (const name of ['x1', 'x2', 'xm', 'r2', 'rfe'] as const)
        expect(Math.abs((back?.[name] ?? NaN) / made[name] - 1), `${i} ${name}`).toBeLessThan(1e-3);
    }
  });
  it('readings that make no circuit give none', () => {
    expect(circuitBySteps({ ...READ, noLoad: { lineV: 400, amps: 0.1, watts: 331.7 } })).toBeUndefined();
    expect(circuitBySteps({ ...READ, frictionW: 320 })).toBeUndefined();
    expect(circuitBySteps({ ...READ, locked: { ...READ.locked, watts: 1 } })).toBeUndefined();
    expect(circuitExactly({ ...READ, frictionW: 320 })).toBeUndefined();
  });
});

describe('locked rotor', () => {
  it('one reading is taken as linear; several by the line through their logarithms', () => {
    expect(scaleLocked([{ volts: 160, amps: 25, torqueNm: 8, watts: 1000 }], 400)).toEqual({
      exponent: 1,
      amps: 62.5,
      torqueNm: 50,
      watts: 6250,
      linear: true,
    });
    const two = scaleLocked(
      [
        { volts: 225, amps: 52 },
        { volts: 400, amps: 98, torqueNm: 30 },
      ],
      400,
    );
    printed(two?.exponent, '1.1014');
    expect(two?.amps).toBeCloseTo(98, 9);
    expect(two?.torqueNm).toBe(30);
    expect(scaleLocked([], 400)).toBeUndefined();
  });
  it('C42, C43: kVA a horsepower, code letters with their lower bounds', () => {
    printed(kvaPerHp(460, 145, 20 * 745.6998715822702), '5.77639');
    expect(kvaPerHp(230, 20, 745.6998715822702, 1)).toBeCloseTo(4.6, 9);
    const bounds = [3.15, 3.55, 4, 4.5, 5, 5.6, 6.3, 7.1, 8, 9, 10, 11.2, 12.5, 14, 16, 18, 20, 22.4];
    const letters = 'ABCDEFGHJKLMNPRSTUV';
    bounds.forEach((from, i) => {
      expect(codeLetter(from)).toBe(letters[i + 1]);
      expect(codeLetter(from - 1e-6)).toBe(letters[i]);
    });
    expect(codeLetter(5.6)).toBe('G');
    expect(codeLetter(99)).toBe('V');
  });
  it('torque from the power that crosses the gap', () => {
    const x = { watts: 21_464.4, amps: 82.193, lineOhm: 1.24, coreW: 0, synchronousRpm: 1500 };
    expect(lockedTorqueNm({ ...x, c1: 1 })).toBeCloseTo(
      (30 / Math.PI) * ((21_464.4 - 1.5 * 82.193 ** 2 * 1.24) / 1500),
      9,
    );
    expect(lockedTorqueNm(x) / lockedTorqueNm({ ...x, c1: 1 })).toBeCloseTo(0.91, 12);
  });
});

describe('tolerances of a plate, IEC 60034-1 and NEMA MG 1 (from memory)', () => {
  it.each<[Parameters<typeof allowed>, number | undefined, number | undefined]>([
    [['efficiency', 0.89, 15], 0.8735, undefined],
    [['efficiency', 0.89, 150], 0.8735, undefined],
    [['efficiency', 0.95, 150.1], 0.945, undefined],
    [['power factor', 0.83, 15], 0.83 - 0.17 / 6, undefined],
    [['power factor', 0.95, 15], 0.93, undefined],
    [['power factor', 0.55, 15], 0.48, undefined],
    [['slip', 0.03, 1], 0.024, 0.036],
    [['slip', 0.03, 0.99], 0.021, 0.039],
    [['locked-rotor current', 100, 15], undefined, 120],
    [['locked-rotor torque', 100, 15], 85, 125],
    [['pull-up torque', 100, 15], 85, undefined],
    [['breakdown torque', 100, 15], 90, undefined],
    [['total losses', 100, 151], undefined, 110],
  ])('%o', (asked, from, to) => {
    const range = allowed(...asked);
    expect(range?.from ?? 0).toBeCloseTo(from ?? 0, 9);
    expect(range?.to ?? 0).toBeCloseTo(to ?? 0, 9);
    expect([range?.from === undefined, range?.to === undefined]).toEqual([from === undefined, to === undefined]);
  });
  it('C50, C51 and the table of minima against its own rule', () => {
    expect(allowed('total losses', 100, 150)).toBeUndefined();
    expect(nemaMinimum(93)).toBe(91.7);
    expect(nemaMinimum(93.2)).toBeUndefined();
    printed(100 * nemaMinimumByLoss(0.93), '91.716');
    for (const nominal of [96.5, 95, 93, 90.2, 85.5, 80, 72])
      expect(Math.abs((nemaMinimum(nominal) ?? NaN) - 100 * nemaMinimumByLoss(nominal / 100))).toBeLessThan(0.9);
  });
});

describe('a line by least squares', () => {
  it('slope, intercept, correlation', () => {
    expect(fitLine([1, 2, 3], [5, 7, 9])).toEqual({ slope: 2, intercept: 3, r: 1 });
    expect(fitLine([1, 2, 3], [9, 7, 5])?.r).toBeCloseTo(-1, 12);
    expect(fitLine([1, 2, 3], [4, 4, 4])).toEqual({ slope: 0, intercept: 4, r: 1 });
    expect(fitLine([2, 2], [1, 3])).toBeUndefined();
    expect(fitLine([1], [1])).toBeUndefined();
    // the longer list is not read beyond the shorter
    expect(fitLine([1, 2, 3, 9], [5, 7, 9])).toEqual({ slope: 2, intercept: 3, r: 1 });
    expect(fitLine([0, 1, 2, 3], [0, 1, 1, 2])?.r).toBeCloseTo(0.948683, 6);
  });
});
