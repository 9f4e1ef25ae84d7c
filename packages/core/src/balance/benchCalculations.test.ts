import { describe, expect, it } from 'vitest';
import { worked } from '../../../../scripts/testing/worked.ts';
import { CalculationInputError } from '../calculation.ts';
import { balanceMaterialTaken, balanceMovedMass } from './benchCalculations.ts';

describe('calculations of the balance bench', () => {
  it('B22 B23: the residual of section 12', () => {
    const is = worked(balanceMovedMass, balanceMovedMass.example as never);
    expect(is.gMm).toBeCloseTo(37.9923, 3);
    expect(is.angleDeg).toBeCloseTo(70.01, 1);
    expect(is.simpleGMm).toBeCloseTo(37.4817, 3);
    expect(is.tooSmall).toBe(false);
    const none = {
      testGMm: 200,
      positions: [0, 60, 120, 180, 240, 300].map((angleDeg) => ({ angleDeg, amplitude: 0 })),
    };
    expect(() => worked(balanceMovedMass, none)).toThrow(CalculationInputError);
  });
  it('B19 B20 B21: hole, depth, flat', () => {
    const hole = worked(balanceMaterialTaken, {
      way: 'drill',
      radiusMm: 60,
      diameterMm: 10,
      depthMm: 15,
      wantedGMm: 350,
    });
    expect(hole.massG).toBeCloseTo(8.01322, 5);
    expect(hole.gMm).toBeCloseTo(428.56, 2);
    expect(hole.depthMm).toBeCloseTo(12.36291, 4);
    const flat = { way: 'mill a flat', radiusMm: 25, depthMm: 0.6, lengthMm: 30, densityGMm3: 7.45e-3 } as const;
    expect(worked(balanceMaterialTaken, flat).gMm).toBeCloseTo(24.0438, 3);
    const slot = {
      way: 'mill tooth tops',
      radiusMm: 25,
      depthMm: 1.2,
      widthMm: 2.5,
      lengthMm: 30,
      densityGMm3: 7.45e-3,
    } as const;
    // section 11: 16.36 g·mm
    expect(worked(balanceMaterialTaken, slot).gMm).toBeCloseTo(16.36, 2);
    expect(worked(balanceMaterialTaken, { ...slot, depthMm: undefined, wantedGMm: 16.3595 }).depthMm).toBeCloseTo(
      1.2,
      3,
    );
    expect(worked(balanceMaterialTaken, { ...flat, depthMm: undefined, wantedGMm: 24.0438 }).depthMm).toBeCloseTo(
      0.6,
      4,
    );
  });
  it.each([
    [{}, 'depthMm'],
    [{ depthMm: 61 }, 'depthMm'],
    [{ wantedGMm: 1e6 }, 'wantedGMm'],
  ])('%j is refused at %s', (more, field) => {
    try {
      worked(balanceMaterialTaken, { way: 'drill', radiusMm: 60, ...more });
      expect.unreachable();
    } catch (e) {
      expect((e as CalculationInputError).problems[0]?.field).toBe(field);
    }
  });
});
