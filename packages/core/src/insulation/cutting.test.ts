import { describe, expect, it } from 'vitest';
import { worked } from '../../../../scripts/testing/worked.ts';
import { windingRecordSchema } from '../winding/record.ts';
import { cutLine } from './billLines.ts';
import {
  phaseBoundaries,
  phasePapers,
  phasePaperSize,
  separatorSize,
  slotCellLengthM,
  slotCellWidthM,
  usualExtensionM,
} from './cutSizes.ts';
import { bandingTapeM, brazeMassKg, bundleDiameterM, jointCount, lacingCordM, sleeveBoreM } from './ends.ts';
import { FORM_BILL_USUAL, formBill, insulationFormBill, tapeM } from './formBill.ts';
import { jointMaterial } from './jointMaterials.ts';
import { insulationLeadSize, LEAD_SIZES_MM2, leadSize } from './leadSize.ts';
import { nestOnRoll, nestOnSheet, withWaste } from './nesting.ts';
import { sayAmount } from './sayAmount.ts';
import { classTemperatureC, lifeFactor, sayClass, systemClass } from './thermalClass.ts';

describe('cut sizes by hand', () => {
  it('a slot cell goes down one side, across the bottom and up the other', () => {
    // 3-4-5: a side of 20 over 15 mm of taper each
    expect(slotCellWidthM({ bottom: 'flat', depthM: 0.02, topWidthM: 0.04, bottomWidthM: 0.01 })).toBeCloseTo(0.06, 12);
    expect(slotCellWidthM({ bottom: 'flat', depthM: 0.02, topWidthM: 0.01 })).toBeCloseTo(0.05, 12);
    expect(slotCellWidthM({ bottom: 'flat', depthM: 0.02, topWidthM: 0.01 }, 0.002, 0.0005)).toBeCloseTo(0.053, 12);
    // half round: 16 mm straight, then π r
    const round = { bottom: 'round', depthM: 0.02, topWidthM: 0.008 } as const;
    expect(slotCellWidthM(round)).toBeCloseTo(0.032 + Math.PI * 0.004, 12);
    // 3-4-5 again: d − r = 12, half the taper 5: 13
    expect(slotCellWidthM({ ...round, topWidthM: 0.026, bottomRadiusM: 0.008 })).toBeCloseTo(
      0.026 + Math.PI * 0.008,
      12,
    );
    expect(slotCellWidthM(round, 0.001, 0.0004)).toBeCloseTo(0.032 + Math.PI * 0.004 + 0.002 - Math.PI * 0.0002, 12);
    expect(slotCellLengthM(0.1, 0.008, 0.006)).toBeCloseTo(0.128, 12);
  });
  it.each([
    [90, 0.005],
    [90.1, 0.008],
    [160, 0.008],
    [160.1, 0.01],
    [250, 0.01],
    [250.1, 0.015],
  ])('shaft height %d mm: %d m beyond the core', (height, m) => expect(usualExtensionM(height)).toBe(m));
  it('separators and phase papers', () => {
    expect(separatorSize(0.008, 0.1, 0.01)).toEqual({
      widthM: expect.closeTo(0.0116, 12),
      lengthM: expect.closeTo(0.125, 12),
    });
    expect(separatorSize(0.008, 0.1, 0.01, 0, 0)).toEqual({ widthM: 0.008, lengthM: expect.closeTo(0.12, 12) });
    expect([
      phaseBoundaries([]),
      phaseBoundaries(['A']),
      phaseBoundaries(['A', 'B']),
      phaseBoundaries(['A', 'A']),
    ]).toEqual([0, 0, 2, 0]);
    expect(phaseBoundaries(['A', 'A', 'B', 'C'])).toBe(3);
    expect([phasePapers(['A', 'B', 'C']), phasePapers(['A', 'B', 'C'], true)]).toEqual([6, 3]);
    const paper = {
      boreM: 0.1,
      slotDepthM: 0.02,
      spanSlots: 8,
      coilsPerGroup: 3,
      slots: 36,
      sideMarginM: 0.01,
      overhangM: 0.05,
      topMarginM: 0.01,
    };
    expect(phasePaperSize(paper)).toEqual({
      widthM: expect.closeTo((Math.PI * 0.12 * 10) / 36 + 0.02, 12),
      heightM: expect.closeTo(0.06, 12),
    });
  });
});

describe('nesting by hand', () => {
  it('waste is counted up, dust is not', () => {
    expect([
      withWaste(36, 0.05),
      withWaste(40, 0.05),
      withWaste(100, 0.1),
      withWaste(10, 0),
      withWaste(0, 0.1),
    ]).toEqual([38, 42, 110, 10, 0]);
  });
  it('sheets: columns times rows, the other way only where the grain lets it', () => {
    const sheet = (grain: 'along' | 'free') => ({ lengthM: 1, widthM: 0.6, grain });
    const piece = { lengthM: 0.3, widthM: 0.1 };
    expect(nestOnSheet(19, piece, sheet('along'))).toEqual({
      perSheet: 18,
      sheets: 2,
      along: true,
      columns: 3,
      rows: 6,
    });
    expect(nestOnSheet(18, piece, sheet('along'))?.sheets).toBe(1);
    expect(nestOnSheet(19, piece, sheet('free'))).toEqual({
      perSheet: 20,
      sheets: 1,
      along: false,
      columns: 10,
      rows: 2,
    });
    // as good either way: the grain stays
    expect(nestOnSheet(1, { lengthM: 0.1, widthM: 0.1 }, sheet('free'))?.along).toBe(true);
    expect(nestOnSheet(1, { lengthM: 1.1, widthM: 0.1 }, sheet('along'))).toBeUndefined();
    expect(nestOnSheet(1, { lengthM: 0.1, widthM: 0.7 }, sheet('along'))).toBeUndefined();
    expect(nestOnSheet(1, { lengthM: 0.1, widthM: 0.7 }, sheet('free'))?.along).toBe(false);
    // a gap of 20 mm between cuts: (1000 + 20)/(300 + 20), (600 + 20)/(100 + 20)
    expect(nestOnSheet(1, piece, sheet('along'), 0.02)).toMatchObject({ columns: 3, rows: 5 });
    expect(nestOnSheet(1, { lengthM: 1, widthM: 0.6 }, sheet('along'), 0.02)).toMatchObject({ perSheet: 1 });
  });
  it('rolls: across the width, in rows', () => {
    expect(nestOnRoll(7, { acrossM: 0.3, alongM: 0.05 }, 0.914)).toEqual({
      across: 3,
      rows: 3,
      lengthM: expect.closeTo(0.15, 12),
    });
    expect(nestOnRoll(6, { acrossM: 0.3, alongM: 0.05 }, 0.9)).toMatchObject({ across: 3, rows: 2 });
    expect(nestOnRoll(7, { acrossM: 0.3, alongM: 0.05 }, 0.914, 0.01)).toEqual({
      across: 2,
      rows: 4,
      lengthM: expect.closeTo(0.23, 12),
    });
    expect(nestOnRoll(1, { acrossM: 0.3, alongM: 0.05 }, 0.914, 0.01)?.lengthM).toBeCloseTo(0.05, 12);
    expect(nestOnRoll(1, { acrossM: 1, alongM: 0.05 }, 0.914)).toBeUndefined();
    expect(nestOnRoll(1, { acrossM: 0, alongM: 0.05 }, 0.914)).toBeUndefined();
  });
  it('a line of the bill says how its pieces lie, or that they do not fit', () => {
    const warnings: string[] = [];
    const cut = (supply: object, lengthM = 0.3, widthM = 0.1) =>
      cutLine(
        'slot liner',
        { name: 'Foil', use: ['slot liner'], classC: 155, supply } as never,
        19,
        lengthM,
        widthM,
        warnings,
      );
    expect(cut({ kind: 'sheet', lengthM: 1, widthM: 0.6, grain: 'along' })).toMatchObject({
      quantity: 2,
      unit: 'sheets',
      nesting: '18 a sheet (3 × 6, length along the sheet)',
    });
    expect(cut({ kind: 'sheet', lengthM: 1, widthM: 0.6, grain: 'free' }).nesting).toMatch(
      /20 a sheet .*across the sheet/,
    );
    // the slot lies across the roll: the length takes the width
    expect(cut({ kind: 'roll', widthM: 0.914, slot: 'across' })).toMatchObject({
      unit: 'm',
      quantity: expect.closeTo(0.7, 9),
      nesting: '3 across the roll, 7 rows',
    });
    expect(cut({ kind: 'roll', widthM: 0.914, slot: 'along' })).toMatchObject({
      quantity: expect.closeTo(0.9, 9),
      nesting: '9 across the roll, 3 rows',
    });
    expect(cut({ kind: 'piece' })).toMatchObject({ unit: 'pieces', quantity: 19, nesting: '' });
    expect(warnings).toEqual([]);
    expect(cut({ kind: 'sheet', lengthM: 0.2, widthM: 0.6, grain: 'along' })).toMatchObject({ unit: 'pieces' });
    expect(cut({ kind: 'roll', widthM: 0.2, slot: 'across' })).toMatchObject({ unit: 'pieces' });
    expect(warnings).toEqual([
      'slot liner: a piece of 300 × 100 mm does not fit a sheet of Foil.',
      'slot liner: a piece of 300 × 100 mm is wider than the roll of Foil.',
    ]);
    expect(cutLine('wedge', undefined, 2, 1, 1, warnings)).toMatchObject({
      material: 'none chosen',
      classC: undefined,
    });
  });
});

describe('ends, joints, leads by hand', () => {
  it('joints, cord, tape and braze', () => {
    expect(jointCount({ groups: 12, phases: 3, circuits: 2, halves: 1, leads: 6, internalStars: 1 })).toEqual({
      series: 6,
      total: 13,
    });
    expect(jointCount({ groups: 24, phases: 3, circuits: 2, halves: 2, leads: 12, internalStars: 0 })).toEqual({
      series: 12,
      total: 24,
    });
    expect(lacingCordM({ stitches: 10, loops: 2, perimeterM: 0.1, meanDiameterM: 0.2, tailM: 0.3 })).toBeCloseTo(
      2 + Math.PI * 0.2 + 0.6,
      12,
    );
    // three layers of two turns on 100 mm, tape of 1 mm: 101, 103, 105
    expect(bandingTapeM({ diameterM: 0.1, thicknessM: 0.001, layers: 3, turns: 2 })).toBeCloseTo(
      2 * Math.PI * 0.309,
      12,
    );
    expect(brazeMassKg({ joints: 10, lapM: 0.02, widthM: 0.005, gapM: 0.0001, densityKgM3: 8000 })).toBeCloseTo(
      0.0008,
      12,
    );
  });
  it('a bundle and the sleeve that passes over it', () => {
    const one = bundleDiameterM([{ count: 1, bareM: 0.001, label: '' }], 1, 1);
    expect(bundleDiameterM([{ count: 2, bareM: 0.001, label: '' }], 1, 1)).toBeCloseTo(one * Math.sqrt(2 / 0.75), 12);
    expect(bundleDiameterM([{ count: 1, bareM: 0.001, label: '' }], 2, 1)).toBeCloseTo(one * Math.sqrt(2 / 0.75), 12);
    expect(bundleDiameterM([{ count: 2, bareM: 0.001, label: '' }], 3, 1)).toBeCloseTo(one * Math.sqrt(6 / 0.75), 12);
    expect(sleeveBoreM(0.0025)).toBeCloseTo(0.003, 12);
    expect(sleeveBoreM(0.00251)).toBeCloseTo(0.004, 12);
    expect(sleeveBoreM(0.025)).toBeCloseTo(0.03, 12);
    expect(sleeveBoreM(0.0251)).toBeUndefined();
    expect(sleeveBoreM(0.0001)).toBe(0.0005);
  });
  it('what goes onto a joint: the thicker of bundle and cable decides', () => {
    const strands = [{ count: 1, bareM: 0.001, label: '' }];
    const lead = { currentA: 20, leastMm2: 5, sizeMm2: 6, cables: 1 };
    const joint = (what: string, ends: string[]) => ({ what, ends }) as never;
    const series = jointMaterial(joint('series', ['1F', '4F']), strands, 1, lead, 0.06);
    expect(series).toMatchObject({ ends: 2, leadMm2: undefined, sleeveLengthM: 0.06 });
    expect(series.copperMm2).toBeCloseTo((2 * Math.PI) / 4, 9);
    expect(series.sleeveBoreM).toBe(sleeveBoreM(bundleDiameterM(strands, 2, 1)));
    // 6 mm²: 2.764 mm bare, 4.42 over its insulation, 1.2 times that is 5.3
    const at = jointMaterial(joint('lead', ['T1', '1S']), strands, 1, lead, 0.06);
    expect(at).toMatchObject({ ends: 1, leadMm2: 6, sleeveBoreM: 0.006 });
    expect(jointMaterial(joint('lead', ['T1', '1S']), strands, 1, { ...lead, cables: 4 }, 0.06).sleeveBoreM).toBe(
      0.012,
    );
    expect(jointMaterial(joint('lead', ['T1', '1S']), strands, 1, undefined, 0.06).leadMm2).toBeUndefined();
    const thick = jointMaterial(
      joint('lead', ['T1', '1S', '4S', '7S']),
      [{ count: 20, bareM: 0.0014, label: '' }],
      1,
      lead,
      0.06,
    );
    expect(thick.sleeveBoreM).toBe(sleeveBoreM(bundleDiameterM([{ count: 20, bareM: 0.0014, label: '' }], 3, 1)));
  });
  it.each([
    [2, 4, 0.5, 1],
    [2.01, 4, 0.75, 1],
    [960, 4, 240, 1],
    [961, 4, 150, 2],
    [1200, 4, 150, 2],
    [2000, 4, 185, 3],
    [20, 5, 4, 1],
  ])('%d A at %d A/mm²: %d mm², %i cables', (amps, density, size, cables) => {
    expect(leadSize(amps, density)).toEqual({ currentA: amps, leastMm2: amps / density, sizeMm2: size, cables });
    expect(LEAD_SIZES_MM2).toContain(size);
  });
  it('what each lead carries', () => {
    const of = (use: string) => worked(insulationLeadSize, { lineCurrentA: 100, use, densityAMm2: 5 });
    expect(of('9 leads delta high')).toMatchObject({
      currentA: 100,
      othersA: expect.closeTo(57.735, 3),
      sizeMm2: 25,
      cables: 1,
    });
    expect(of('9 leads delta low')).toMatchObject({
      currentA: 50,
      othersA: expect.closeTo(28.868, 3),
      leastMm2: 10,
      sizeMm2: 10,
    });
    expect(of('12 leads delta low').currentA).toBeCloseTo(28.868, 3);
    expect(of('9 leads wye low').kcmil).toBeCloseTo(10 / 0.5067, 9);
    expect(worked(insulationLeadSize, { lineCurrentA: 2000, use: '3 leads' })).toMatchObject({
      cables: 3,
      sizeMm2: 185,
    });
  });
});

describe('thermal classes', () => {
  it.each([
    ['F', 155],
    [' h ', 180],
    ['N', 200],
    ['250', 250],
    [155, 155],
    ['', undefined],
    ['Z', undefined],
    ['0', undefined],
    [0, undefined],
    [-5, undefined],
    [Number.NaN, undefined],
    [undefined, undefined],
  ] as const)('%s is %s °C', (stated, celsius) => expect(classTemperatureC(stated)).toBe(celsius));
  it('said with its letter where it has one', () => {
    expect([sayClass(155), sayClass(180), sayClass(250), sayClass(90)]).toEqual([
      '155 (F)',
      '180 (H)',
      '250',
      '90 (Y)',
    ]);
  });
  it('the weakest decides; nobody’s word is not the others’; a certificate stands above', () => {
    const members = [
      { name: 'wire', classC: 180 },
      { name: 'liner', classC: 155 },
      { name: 'cord', classC: 155 },
    ];
    expect(systemClass(members)).toEqual({ classC: 155, weakest: ['liner', 'cord'], unstated: [] });
    const some = [...members, { name: 'varnish', classC: undefined }];
    expect(systemClass(some)).toEqual({ classC: undefined, weakest: ['liner', 'cord'], unstated: ['varnish'] });
    expect(systemClass(some, { classC: 180, certificate: 'S 1' })).toEqual({
      classC: 180,
      weakest: ['liner', 'cord'],
      unstated: ['varnish'],
    });
    expect(systemClass(members, { classC: 180, certificate: ' ' }).classC).toBe(155);
    expect(systemClass([])).toEqual({ classC: undefined, weakest: [], unstated: [] });
    expect(systemClass([{ name: 'varnish', classC: undefined }])).toEqual({
      classC: undefined,
      weakest: [],
      unstated: ['varnish'],
    });
    expect([lifeFactor(155, 145), lifeFactor(155, 165)]).toEqual([2, 0.5]);
  });
  it('amounts as they are drawn', () => {
    expect(sayAmount(0.0999, 'kg')).toBe('100 g');
    expect(sayAmount(0.0543, 'kg')).toBe('54 g');
    expect(sayAmount(-0.0543, 'kg')).toMatch(/54 g/);
    expect(sayAmount(0.1, 'kg')).toBe('0.1 kg');
    expect(sayAmount(0, 'kg')).toBe('0 kg');
    expect(sayAmount(4.5359237, 'kg', 'lb')).toBe('10 lb');
    expect(sayAmount(12.345, 'm')).toBe('12.3 m');
    expect([sayAmount(1, 'sheets'), sayAmount(2, 'sheets'), sayAmount(1, 'pieces')]).toEqual([
      '1 sheet',
      '2 sheets',
      '1 piece',
    ]);
  });
});

describe('the bill of form-wound coils by hand', () => {
  const record = windingRecordSchema.parse({
    ...insulationFormBill.example.record,
    coilStraightM: 0.03,
    knucklePinM: 0.015,
    coilGapM: 0.0035,
  });
  const typed = (more: object = {}) => worked(insulationFormBill, { record, ...more });
  const quantity = (b: ReturnType<typeof typed>, what: RegExp) => b.lines.find((l) => what.test(l.what))?.quantity ?? 0;
  it('strip with spare coils and waste; the bare mass without them', () => {
    const b = typed();
    expect(b.coils).toBe(60);
    // the worked coil of the winding reference, 11.3
    expect(Math.abs(b.bareKg / 162.2 - 1)).toBeLessThan(2e-3);
    expect(quantity(b, /^Strip/)).toBeCloseTo((b.bareKg * 61 * 1.05) / 60, 6);
    expect(quantity(typed({ spareCoils: 0, wasteShare: 0 }), /^Strip/)).toBeCloseTo(b.bareKg, 6);
    const metres = Number(/^(\d+) m, 61 coils, 1 of them spare, 5 % waste/.exec(b.lines[0]?.of ?? '')?.[1]);
    // two strips high, six turns
    expect(Math.abs(metres / (61 * 6 * 2.0403 * 2 * 1.05) - 1)).toBeLessThan(2e-3);
    const light = worked(insulationFormBill, { record: { ...record, material: 'aluminium' } });
    expect(light.bareKg / b.bareKg).toBeLessThan(0.32);
  });
  it('tape: layers by the build, half-lapped', () => {
    expect(tapeM({ lengthM: 2, perimeterM: 0.1, sideM: 0.001, thicknessM: 0.00025, widthM: 0.02 })).toBeCloseTo(
      (2 * 2 * 0.1) / 0.01,
      12,
    );
    // thinner than one layer it still is one
    expect(tapeM({ lengthM: 2, perimeterM: 0.1, sideM: 0.0001, thicknessM: 0.00025, widthM: 0.02 })).toBeCloseTo(
      20,
      12,
    );
    const b = typed({ spareCoils: 0, wasteShare: 0 });
    const twice = typed({
      spareCoils: 0,
      wasteShare: 0,
      turnTapeWidthM: 2 * FORM_BILL_USUAL.turnTapeWidthM,
      wallTapeWidthM: 2 * FORM_BILL_USUAL.wallTapeWidthM,
    });
    for (const tape of [/^Turn tape/, /^Ground-wall tape/])
      expect(quantity(b, tape) / quantity(twice, tape)).toBeCloseTo(2, 9);
    // turn 7.57 × 4.22 mm, six of them of 2.0403 m; coil 10.17 × 27.92 mm, five layers
    expect(Math.abs(quantity(b, /^Turn tape/) / ((60 * 6 * 2.0403 * 2 * (0.00757 + 0.00422)) / 0.01) - 1)).toBeLessThan(
      2e-3,
    );
    expect(
      Math.abs(quantity(b, /^Ground-wall/) / ((60 * 5 * 2.0403 * 2 * (0.01017 + 0.02792)) / 0.0125) - 1),
    ).toBeLessThan(2e-3);
    const thin = typed({ spareCoils: 0, wasteShare: 0, wallTapeThicknessM: 0.000065 });
    expect(quantity(thin, /^Ground-wall/) / quantity(b, /^Ground-wall/)).toBeCloseTo(2, 9);
    expect(b.lines[2]?.of).toBe('half-lapped, 1.3 mm a side');
  });
  it('a piece of everything for every slot, none of what is not there', () => {
    const b = typed();
    for (const piece of [/^Bottom strip 1 mm/, /^Separator 2 mm/, /^Top strip 1 mm/, /^Wedge 4 mm/])
      expect(quantity(b, piece)).toBe(63);
    expect(b.lines.at(-1)?.of).toMatch(/^10\.6 mm wide, \d+(\.\d+)? mm long$/);
    const bare = formBill({ ...record, turnTapeM: 0, bottomStripM: 0, topStripM: 0 } as never, { wasteShare: 0 });
    expect(bare?.lines.map((l) => l.what.split(' ')[0])).toEqual(['Strip', 'Ground-wall', 'Separator', 'Wedge']);
    expect(bare?.lines.at(-1)?.quantity).toBe(60);
    expect(formBill({ ...record, groundWallM: undefined } as never)).toBeUndefined();
    expect(() => typed({ record: { kind: 'form-wound' } })).toThrow(/The bill needs strip/);
    expect(() => typed({ spareCoils: 13 })).toThrow();
    expect(() => typed({ spareCoils: -1 })).toThrow();
    expect(() => typed({ wasteShare: 0.51 })).toThrow();
    expect(typed({ spareCoils: 12, wasteShare: 0.5 }).coils).toBe(60);
  });
});
