import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { worked } from '../../../../scripts/testing/worked.ts';
import { runCalculation } from '../calculation.ts';
import { expiryDay, pickLots, reorderPoint, useVariancePercent } from '../stock/lots.ts';
import { awgDiameterM } from '../wire/gauge.ts';
import { metresPerKg, spoolsToBring, wireSpool } from '../wire/spools.ts';
import { insulationBill } from './bill.ts';
import { insulationNesting, insulationSlotCell, insulationSystemClass } from './cutCalculations.ts';
import { phaseBoundaries, phasePapers, phasePaperSize, slotCellWidthM } from './cutSizes.ts';
import { bandingTapeM, brazeMassKg, bundleDiameterM, jointCount, lacingCordM, sleeveBoreM } from './ends.ts';
import { insulationLeadSize } from './leadSize.ts';
import { nestOnRoll, nestOnSheet, withWaste } from './nesting.ts';
import { classTemperatureC, lifeFactor, systemClass } from './thermalClass.ts';

// Check values C11 to C35, C63, C64 of docs/derivations.md 13 (derived there by an independent computation).
describe('insulation: check values', () => {
  it('C11, C12: the system is as its weakest member; life doubles each 10 K', () => {
    const members = [180, classTemperatureC('F'), 155, classTemperatureC('B')].map((classC, i) => ({
      name: `m${i}`,
      classC,
    }));
    expect(systemClass(members)).toEqual({ classC: 130, weakest: ['m3'], unstated: [] });
    expect(lifeFactor(155, 140)).toBeCloseTo(2.828, 3);
  });
  it('a member without a class leaves the system unverified; a tested system counts by its certificate', () => {
    const members = [
      { name: 'liner', classC: 180 },
      { name: 'cord', classC: undefined },
    ];
    expect(systemClass(members)).toEqual({ classC: undefined, weakest: ['liner'], unstated: ['cord'] });
    expect(systemClass(members, { classC: 180, certificate: 'T-12' }).classC).toBe(180);
    expect(systemClass(members, { classC: 180, certificate: ' ' }).classC).toBeUndefined();
    expect(
      worked(insulationSystemClass, { members: [{ name: 'cord', classC: 155 }], hotSpotC: 140 }).lifeFactor,
    ).toBeCloseTo(2.828, 3);
  });
  it('letters are not in the order of their temperatures (IEC 60085)', () => {
    expect(classTemperatureC('E')).toBeLessThan(classTemperatureC('b') ?? 0);
    expect(classTemperatureC('N')).toBeLessThan(classTemperatureC('R') ?? 0);
    expect(classTemperatureC('155')).toBe(155);
    expect(classTemperatureC('Q')).toBeUndefined();
    expect(classTemperatureC('')).toBeUndefined();
  });
  it('C13, C14: flat slot cell, mid-line correction', () => {
    const cell = {
      slot: { depthM: 0.02, topWidthM: 0.007, bottomWidthM: 0.007 },
      coreLengthM: 0.15,
      extensionM: 0.008,
      cuffM: 0.006,
    };
    const made = worked(insulationSlotCell, cell);
    expect(made.widthM * 1000).toBeCloseTo(47, 2);
    expect(made.lengthM * 1000).toBeCloseTo(178, 2);
    expect(worked(insulationSlotCell, { ...cell, thicknessM: 0.00035 }).widthM * 1000).toBeCloseTo(46.3, 2);
  });
  it('C15, C16: tapered flat, round', () => {
    expect(
      1000 * slotCellWidthM({ bottom: 'flat', depthM: 0.024, topWidthM: 0.0095, bottomWidthM: 0.006 }, 0.001),
    ).toBeCloseTo(56.127, 2);
    expect(
      1000 * slotCellWidthM({ bottom: 'round', depthM: 0.022, topWidthM: 0.01, bottomRadiusM: 0.0035 }),
    ).toBeCloseTo(48.117, 2);
  });
  it('a radius larger than the slot is refused', () => {
    expect(() =>
      runCalculation(insulationSlotCell, {
        slot: { bottom: 'round', depthM: 0.01, topWidthM: 0.01, bottomRadiusM: 0.02 },
        coreLengthM: 0.1,
        extensionM: 0.005,
      }),
    ).toThrow(/radius/);
  });
  it('C17, C18: sheet and roll', () => {
    const sheet = worked(insulationNesting, {
      pieces: 288,
      lengthM: 0.178,
      widthM: 0.047,
      from: { kind: 'sheet', lengthM: 1, widthM: 0.6 },
    });
    expect(sheet).toMatchObject({ perSheet: 60, pieces: 303, sheets: 6 });
    const roll = worked(insulationNesting, {
      pieces: 36,
      lengthM: 0.178,
      widthM: 0.047,
      from: { kind: 'roll', widthM: 0.914 },
    });
    expect(roll).toMatchObject({ across: 5, rows: 8, pieces: 38 });
    expect((roll.lengthM ?? 0) * 1000).toBeCloseTo(376, 6);
  });
  it('C19, C20, C21: phase paper', () => {
    const regular = 'ACBACBACBACB'.split('');
    expect([phaseBoundaries(regular), phasePapers(regular)]).toEqual([12, 24]);
    const pairs = 'AABBCC'.split('');
    expect([phaseBoundaries(pairs), phasePapers(pairs), phasePapers(pairs, true)]).toEqual([3, 6, 3]);
    const size = phasePaperSize({
      boreM: 0.16,
      slotDepthM: 0.021,
      spanSlots: 8,
      coilsPerGroup: 3,
      slots: 36,
      sideMarginM: 0.012,
      overhangM: 0.052,
      topMarginM: 0.012,
    });
    expect(size.widthM * 1000).toBeCloseTo(182, 1);
    expect(size.heightM * 1000).toBeCloseTo(64, 6);
  });
  it('C22, C23: joints', () => {
    expect(jointCount({ groups: 12, phases: 3, circuits: 1, halves: 1, leads: 3, internalStars: 1 })).toEqual({
      series: 9,
      total: 13,
    });
    expect(jointCount({ groups: 12, phases: 3, circuits: 2, halves: 1, leads: 6, internalStars: 0 })).toEqual({
      series: 6,
      total: 12,
    });
  });
  it('C24, C25: lacing and banding', () => {
    const end = lacingCordM({ stitches: 36, loops: 1, perimeterM: 0.11, meanDiameterM: 0.19, tailM: 0.2 });
    expect(end).toBeCloseTo(4.957, 2);
    expect(2 * end * 1.1).toBeCloseTo(10.905, 2);
    expect(bandingTapeM({ diameterM: 0.15, thicknessM: 0.0003, layers: 4, turns: 3 })).toBeCloseTo(5.7, 2);
  });
  it('C26, C27: leads', () => {
    const made = worked(insulationLeadSize, { lineCurrentA: 96, use: '9 leads wye low' });
    expect(made).toMatchObject({ currentA: 48, leastMm2: 12, sizeMm2: 16 });
    expect(made.kcmil).toBeCloseTo(31.58, 2);
    // beyond the list: the fewest equal cables of a listed size
    for (const [amps, cables, size] of [
      [960, 1, 240],
      [960.1, 2, 150],
      [1200, 2, 150],
      [1920, 2, 240],
      [1921, 3, 185],
      [4000, 5, 240],
    ] as const)
      expect(worked(insulationLeadSize, { lineCurrentA: amps }), String(amps)).toMatchObject({
        cables,
        sizeMm2: size,
      });
  });
  it('C28: braze metal', () => {
    expect(1000 * brazeMassKg({ joints: 16, lapM: 0.02, widthM: 0.006, gapM: 0.00015, densityKgM3: 8400 })).toBeCloseTo(
      2.419,
      3,
    );
  });
  it('C29, C30: metres in a kilogram', () => {
    expect(metresPerKg(0.001)).toBeCloseTo(143.22, 1);
    expect(metresPerKg(0.001, 0.001062)).toBeCloseTo(140.39, 1);
    expect(awgDiameterM(18) * 1000).toBeCloseTo(1.0237, 4);
    expect(metresPerKg(awgDiameterM(18))).toBeCloseTo(136.6702, 1);
  });
  it('C31 to C34: bill A', () => {
    const bill = worked(insulationBill, insulationBill.example);
    expect(bill.coils).toBe(36);
    expect(bill.bundleM).toBeCloseTo(244.08, 6);
    expect(bill.strandM).toBeCloseTo(732.24, 6);
    expect(bill.bareKg).toBeCloseTo(3.992, 3);
    expect(bill.orderKg).toBeCloseTo(4.276, 3);
    expect(bill.linerWidthM * 1000).toBeCloseTo(46.34, 2);
    expect(bill.linerLengthM * 1000).toBeCloseTo(178, 6);
    expect([bill.liners, bill.phasePapers, bill.joints]).toEqual([38, 24, 12]);
    expect(bill.groupSleeveM).toBeCloseTo(4.224, 3);
    expect(bill.jointSleeveM).toBeCloseTo(0.792, 3);
  });
  it('C35: spools', () => {
    expect(spoolsToBring(3, 4.1, 5)).toBe(3);
    expect(spoolsToBring(3, 31, 5)).toBe(7);
    const left = worked(wireSpool, { bareM: 0.001, overallM: 0.001062, grossKg: 7.4, tareKg: 0.4 });
    expect(left.metresLeft).toBeCloseTo(7 * 140.39, -1);
  });
});

describe('stock: check values and order of taking', () => {
  it('C63: safety stock and reorder point', () => {
    const made = reorderPoint({ meanPerDay: 6.5, sdPerDay: 3, leadDays: 9, sdLeadDays: 2, z: 1.645 });
    expect(made.safety).toBeCloseTo(26.01, 2);
    expect(made.point).toBeCloseTo(84.51, 2);
  });
  it('C64: expiry', () => {
    const lot = { made: '2024-02-10', days: 365, referenceC: 20, storedC: 25 };
    expect(expiryDay(lot)).toBe('2024-10-25');
    expect(expiryDay({ ...lot, opened: '2024-09-01', openDays: 30 })).toBe('2024-10-01');
    expect(expiryDay({ ...lot, storedC: 5 })).toBe('2025-02-09');
  });
  it('takes what expires first, never a quarantined or expired lot, and says what is short', () => {
    const lot = (name: string, expires: string | null, free: number, quarantined = false) => ({
      lot: name,
      expires,
      free,
      quarantined,
    });
    const lots = [
      lot('C', null, 5),
      lot('B', '2026-12-01', 2),
      lot('A', '2026-12-01', 1),
      lot('D', '2026-01-01', 9),
      lot('E', '2027-01-01', 9, true),
    ];
    const made = pickLots(lots, 4, '2026-11-24');
    expect(made.picks.map((p) => [p.lot.lot, p.quantity])).toEqual([
      ['A', 1],
      ['B', 2],
      ['C', 1],
    ]);
    expect(pickLots(lots, 10, '2026-11-24').short).toBeCloseTo(2, 9);
    expect(pickLots([lot('A', '2026-11-24', 1)], 1, '2026-11-24').short).toBe(0);
    expect(useVariancePercent(11, 10)).toBeCloseTo(10, 9);
  });
});

describe('nesting', () => {
  const mm = fc.integer({ min: 20, max: 400 }).map((x) => x / 1000);
  it('never needs less than the pieces cover, and one sheet fewer would not do', () => {
    fc.assert(
      fc.property(
        mm,
        mm,
        fc.integer({ min: 1, max: 500 }),
        fc.constantFrom('along' as const, 'free' as const),
        fc.integer({ min: 0, max: 5 }),
        (l, w, n, grain, gap) => {
          const sheet = { lengthM: 1, widthM: 0.6, grain };
          const made = nestOnSheet(n, { lengthM: l, widthM: w }, sheet, gap / 1000);
          if (!made) {
            expect(l > 0.6 || w > 0.6 || (grain === 'along' && l > 1)).toBe(true);
            return;
          }
          expect(n * l * w).toBeLessThanOrEqual(made.sheets * sheet.lengthM * sheet.widthM + 1e-9);
          expect(made.perSheet * (made.sheets - 1)).toBeLessThan(n);
          expect(made.perSheet * made.sheets).toBeGreaterThanOrEqual(n);
        },
      ),
    );
  });
  it('a roll is as long as its rows and as wide as the pieces across', () => {
    fc.assert(
      fc.property(mm, mm, fc.integer({ min: 1, max: 500 }), (across, along, n) => {
        const made = nestOnRoll(n, { acrossM: across, alongM: along }, 0.914);
        if (!made) return;
        expect(made.across * across).toBeLessThanOrEqual(0.914 + 1e-9);
        expect((made.across + 1) * across).toBeGreaterThan(0.914 - 1e-9);
        expect(n * across * along).toBeLessThanOrEqual(made.lengthM * 0.914 + 1e-9);
      }),
    );
  });
  it('an exact fit counts in spite of binary fractions', () => {
    expect(nestOnSheet(1, { lengthM: 0.1, widthM: 0.1 }, { lengthM: 1, widthM: 0.6, grain: 'along' })?.perSheet).toBe(
      60,
    );
    expect(nestOnSheet(1, { lengthM: 0.7, widthM: 0.1 }, { lengthM: 0.6, widthM: 1, grain: 'along' })).toBeUndefined();
    expect(nestOnSheet(1, { lengthM: 0.7, widthM: 0.1 }, { lengthM: 0.6, widthM: 1, grain: 'free' })?.along).toBe(
      false,
    );
    expect(withWaste(100, 0.1)).toBe(110);
  });
});

describe('sleeving', () => {
  const wire = (count: number, mm: number) => [{ count, bareM: mm / 1000, label: '' }];
  it('passes over the bundle with a fifth to spare', () => {
    for (const [count, mm, ends] of [
      [1, 1, 1],
      [2, 0.85, 2],
      [3, 0.5, 12],
    ] as const) {
      const bundle = bundleDiameterM(wire(count, mm), ends, 2);
      expect(sleeveBoreM(bundle) ?? 0).toBeGreaterThanOrEqual(bundle * 1.2 - 1e-12);
    }
    expect(bundleDiameterM(wire(1, 1), 1, 2)).toBeCloseTo(0.001094, 6);
    expect(sleeveBoreM(0.1)).toBeUndefined();
  });
});
