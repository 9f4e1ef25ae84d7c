import { describe, expect, it } from 'vitest';
import { METRIC_DEFAULTS } from '../quantity/fields.ts';
import { windingFigures } from '../winding/figures.ts';
import { threePhaseRecord } from '../winding/record.ts';
import { insulatedDiameterM } from '../wire/insulatedDiameter.ts';
import { billFieldOf } from './billFields.ts';
import { billFigures, billInputSchema } from './bill.ts';
import { USUAL_MATERIALS, type ShopMaterial } from './materials.ts';
import { billOfRecord } from './planBill.ts';

/** 36 slots, 4 poles, 12 groups of 3, two circuits, six leads in wye; 100 turns, one wire of 1 mm. */
const RECORD = threePhaseRecord({
  slots: 36,
  poles: 4,
  layers: 'double',
  form: 'lap',
  spansSlots: [8],
  turns: [100],
  strands: [{ count: 1, bareM: 0.001, label: '1.00' }],
  wireGrade: '1',
  circuits: 2,
  connection: 'wye',
  leads: '6',
  boreM: 0.15,
  coreLengthM: 0.14,
  toothWidthM: 0.007,
  slotDepthM: 0.02,
  sampleCoilM: 0.7,
});
const PLATE = { voltagesV: [400], currentsA: [20], frequencyHz: 50, insulationClass: 'F' as const, frame: '132M' };
const made = (typed: Record<string, string> = {}, more: object = {}, plate: object = {}, materials = USUAL_MATERIALS) =>
  billOfRecord({ ...RECORD, ...more } as never, { ...PLATE, ...plate }, typed, {
    materials,
    defaults: METRIC_DEFAULTS,
  });
const bill = (...x: Parameters<typeof made>) => {
  const { bill: got, problems } = made(...x);
  if (!got) throw new Error(problems.map((p) => p.message).join(' '));
  return got;
};
const lines = (b: ReturnType<typeof bill>, use: string) => b.lines.filter((l) => l.use === use);
const line = (b: ReturnType<typeof bill>, use: string) => lines(b, use)[0];

describe('a bill worked by hand', () => {
  const b = bill();
  const mean = windingFigures.compute(windingFigures.input.parse({ record: RECORD, nameplate: PLATE })).meanTurnM ?? 0;
  it('mean turn of the sample coil, wire with tails, waste and enamel', () => {
    expect(mean).toBeCloseTo(0.7, 9);
    // 36 coils of 100 turns, and two tails of 180 mm to each of 12 groups
    const bundle = 3600 * 0.7 + 2 * 12 * 0.18;
    expect(b.figures.bundleM).toBeCloseTo(bundle, 9);
    const bare = bundle * (Math.PI / 4) * 1e-6 * 8890;
    expect(b.figures.bareKg).toBeCloseTo(bare, 6);
    expect(b.figures.orderKg).toBeCloseTo(bare * (1 + b.input.enamelShare) * 1.05, 6);
    expect(b.input.enamelShare).toBeGreaterThan(0.01);
    expect(b.input.enamelShare).toBeLessThan(0.03);
    expect(bill({ wireWaste: '20' }).figures.orderKg / b.figures.orderKg).toBeCloseTo(1.2 / 1.05, 9);
    expect(bill({ groupTail: '280' }).figures.bundleM - bundle).toBeCloseTo(2.4, 9);
    expect(bill({}, { wireGrade: '2' }).input.enamelShare).toBeGreaterThan(b.input.enamelShare);
    expect(bill({}, { material: 'aluminium' }).input.material).toBe('aluminium');
    expect(line(b, 'winding wire')).toMatchObject({ material: '1.00 grade 1 copper', nesting: '1 of 1 in hand' });
    expect(line(b, 'winding wire')?.quantity).toBeCloseTo(b.figures.orderKg, 9);
    expect(line(bill({ spoolKg: '2' }), 'winding wire')?.spools).toBe(Math.ceil(b.figures.orderKg / 2));
  });
  it('slot cell from parallel teeth: widths at 1.5 mm and at the bottom', () => {
    const at = (h: number) => (Math.PI * (0.15 + 2 * h)) / 36 - 0.007;
    expect(b.input.slot).toMatchObject({ bottom: 'flat', depthM: 0.02 });
    expect(b.input.slot.topWidthM).toBeCloseTo(at(0.0015), 9);
    expect(b.input.slot.bottomWidthM).toBeCloseTo(at(0.02), 9);
    // a shallow slot: a tenth of its depth
    expect(bill({}, { slotDepthM: 0.01 }).input.slot.topWidthM).toBeCloseTo(at(0.001), 9);
    const [top, bottom] = [at(0.0015), at(0.02)];
    expect(line(b, 'slot liner')?.widthM).toBeCloseTo(2 * Math.hypot(0.02, (bottom - top) / 2) + bottom, 9);
    // core, 8 mm and a cuff of 6 mm at each end
    expect(line(b, 'slot liner')?.lengthM).toBeCloseTo(0.14 + 2 * 0.014, 9);
    expect(line(bill({ allowance: '2' }), 'slot liner')?.widthM).toBeCloseTo(
      (line(b, 'slot liner')?.widthM ?? 0) + 0.004,
      9,
    );
    // 36 with 5 % waste
    expect(b.figures.liners).toBe(38);
    expect(bill({ sheetWaste: '0' }).figures.liners).toBe(36);
  });
  it('a round bottom takes half the bottom width as radius, never more than the depth', () => {
    const round = (typed: object = {}) => bill({ slotBottom: 'round', ...typed }).input.slot;
    expect(round().bottomRadiusM).toBeCloseTo((b.input.slot.bottomWidthM ?? 0) / 2, 9);
    expect(round({ slotBottomRadius: '3' }).bottomRadiusM).toBeCloseTo(0.003, 9);
    expect(round({ slotBottomRadius: '30' }).bottomRadiusM).toBeCloseTo(0.02, 9);
    expect(round()).not.toHaveProperty('bottomWidthM');
    expect(b.input.slot).not.toHaveProperty('bottomRadiusM');
  });
  it('without a tooth the mean width of the slot area; without an area half a pitch', () => {
    const slot = (more: object) => bill({}, { toothWidthM: undefined, ...more }).input.slot;
    expect(slot({ slotAreaM2: 160e-6 }).topWidthM).toBeCloseTo(0.008, 9);
    expect(slot({ slotAreaM2: 160e-6 }).bottomWidthM).toBeCloseTo(0.008, 9);
    expect(slot({ slotNetAreaM2: 100e-6 }).topWidthM).toBeCloseTo((100e-6 * 1.15) / 0.02, 9);
    expect(slot({}).topWidthM).toBeCloseTo((Math.PI * 0.15) / 72, 9);
    // a tooth as wide as the pitch leaves no slot: the area counts then
    expect(bill({}, { toothWidthM: 0.013, slotAreaM2: 160e-6 }).input.slot.topWidthM).toBeCloseTo(0.008, 9);
  });
  it('extension by the shaft height of the plate, 132 where it says nothing', () => {
    const extension = (frame: string | undefined) => bill({}, {}, { frame }).input.extensionM;
    expect([
      extension('90S'),
      extension('91'),
      extension(' 160L'),
      extension('180M'),
      extension('250'),
      extension('280M'),
    ]).toEqual([0.005, 0.008, 0.008, 0.01, 0.01, 0.015]);
    expect([extension(undefined), extension('T'), extension('T 280'), extension('8')]).toEqual([
      0.008, 0.008, 0.008, 0.008,
    ]);
    expect(bill({ extension: '12' }).input.extensionM).toBeCloseTo(0.012, 9);
  });
  it('separators at the middle of the slot', () => {
    const { topWidthM, bottomWidthM = 0 } = b.input.slot;
    expect(line(b, 'separator')).toMatchObject({ pieces: 38 });
    expect(line(b, 'separator')?.widthM).toBeCloseTo((topWidthM + bottomWidthM) / 2 + 0.0036, 9);
    expect(line(b, 'separator')?.lengthM).toBeCloseTo(0.14 + 0.016 + 0.005, 9);
    expect(
      line(bill({}, { layers: 'single', circuits: 1, spansSlots: [9], turns: [200] }), 'separator'),
    ).toBeUndefined();
  });
  it('phase papers: two at each of 12 boundaries, over a group and its span', () => {
    // 24 and 5 %
    expect(line(b, 'phase paper')?.pieces).toBe(26);
    expect(line(b, 'phase paper')?.widthM).toBeCloseTo((Math.PI * 0.17 * (8 + 3 - 1)) / 36 + 0.024, 9);
    // end turns from the mean turn where nothing was measured
    expect(line(b, 'phase paper')?.lengthM).toBeCloseTo(0.35 * 0.7 - 0.14 / 3 + 0.012, 6);
    const measured = bill({}, { extensionConnectionEndM: 0.07, extensionOppositeEndM: 0.05 });
    expect(line(measured, 'phase paper')?.lengthM).toBeCloseTo(0.082, 9);
    expect(line(bill({}, { extensionOppositeEndM: 0.05 }), 'phase paper')?.lengthM).toBeCloseTo(0.062, 9);
    expect(line(bill({ overhang: '40', topMargin: '5', sideMargin: '0' }), 'phase paper')?.lengthM).toBeCloseTo(
      0.045,
      9,
    );
    expect(line(bill({ overhang: '1', topMargin: '0' }), 'phase paper')?.lengthM).toBeCloseTo(0.01, 9);
    const one = bill({ papers: 'one', overhang: '40', topMargin: '5' });
    expect(line(one, 'phase paper')).toMatchObject({ pieces: 13 });
    expect(line(one, 'phase paper')?.lengthM).toBeCloseTo(2 * 0.045 + 0.14, 9);
  });
  it('wedges, sleeves, cord and leads by length', () => {
    expect(line(b, 'wedge')).toMatchObject({ pieces: 38, unit: 'm' });
    expect(line(b, 'wedge')?.lengthM).toBeCloseTo(0.156, 9);
    expect(line(b, 'wedge')?.quantity).toBeCloseTo(38 * 0.156, 9);
    expect(line(b, 'wedge')?.widthM).toBeCloseTo(b.input.slot.topWidthM, 12);
    expect(line(b, 'group sleeving')).toMatchObject({ pieces: 24, lengthM: 0.16, boreM: 0.0015 });
    expect(line(b, 'group sleeving')?.quantity).toBeCloseTo(24 * 0.16 * 1.1, 9);
    expect(line(bill({ sleeveWaste: '0', groupSleeve: '200' }), 'group sleeving')?.quantity).toBeCloseTo(4.8, 9);
    // two ends: 36 stitches of 2 (20 + 49.2) mm, once round 170 mm, two tails
    const overhang = 0.35 * 0.7 - 0.14 / 3;
    const cord = 36 * (2 * (0.02 + overhang / 2)) + Math.PI * 0.17 + 0.4;
    expect(line(b, 'lacing cord')?.quantity).toBeCloseTo(2 * cord * 1.1, 6);
    const typed = bill({ stitches: '10', bundlePerimeter: '100', sleeveWaste: '0' });
    expect(line(typed, 'lacing cord')?.quantity).toBeCloseTo(2 * (1 + Math.PI * 0.17 + 0.4), 9);
    expect(line(bill({ overhang: '10', sleeveWaste: '0' }), 'lacing cord')?.quantity).toBeCloseTo(
      2 * (36 * 2 * 0.03 + Math.PI * 0.17 + 0.4),
      9,
    );
    // 20 A at 4 A/mm²
    expect(b.lead).toMatchObject({ leastMm2: 5, sizeMm2: 6, cables: 1 });
    expect(line(b, 'lead cable')).toMatchObject({ pieces: 6, lengthM: 0.6, areaMm2: 6 });
    expect(line(b, 'lead cable')?.quantity).toBeCloseTo(3.6, 9);
    expect(line(bill({ leadLength: '1000' }), 'lead cable')?.quantity).toBeCloseTo(6, 9);
  });
  it('joints with the sleeve of their own thickness, the star apart', () => {
    // 12 groups in two circuits a phase: 6 jumpers; six leads
    expect(b.figures.joints).toBe(12);
    const sleeves = lines(b, 'joint sleeving');
    expect(sleeves.reduce((n, l) => n + l.pieces, 0)).toBe(12);
    expect(sleeves.map((l) => l.boreM ?? 0)).toEqual([...sleeves.map((l) => l.boreM ?? 0)].sort((x, y) => x - y));
    for (const l of sleeves) expect(l.quantity).toBeCloseTo(l.pieces * 0.06 * 1.1, 9);
    expect(lines(bill({ jointSleeve: '80' }), 'joint sleeving')[0]?.lengthM).toBeCloseTo(0.08, 9);
    const d = insulatedDiameterM(0.001, 1);
    // two ends of one wire side by side at packing 0.75
    const bundle = Math.sqrt((2 * d * d) / 0.75);
    expect(line(b, 'braze metal')?.nesting).toBe('12 joints, 20 mm lap, 0.15 mm gap');
    expect(line(b, 'braze metal')?.quantity).toBeCloseTo(12 * 0.02 * Math.max(0.004, bundle) * 0.00015 * 8400, 9);
    const thick = bill({}, { strands: [{ count: 12, bareM: 0.001, label: '' }] });
    expect(line(thick, 'braze metal')?.quantity).toBeCloseTo(
      12 * 0.02 * Math.sqrt((24 * d * d) / 0.75) * 0.00015 * 8400,
      9,
    );
  });
});

describe('leads of a bill', () => {
  it.each([
    [{ leads: '3', connection: 'wye' }, 20, 5],
    [{ leads: '3', connection: 'delta' }, 20, 5],
    [{ leads: '6', connection: 'wye' }, 20, 5],
    [{ leads: '6', connection: 'delta' }, 20, 5 / Math.sqrt(3)],
    [{ leads: '9', connection: 'wye', circuits: 1 }, 20, 2.5],
    [{ leads: '9', connection: 'delta', circuits: 1 }, 20, 2.5],
    [{ leads: '12', connection: 'delta', circuits: 1 }, 20, 2.5 / Math.sqrt(3)],
    [{ leads: '6 part-winding', connection: 'wye', circuits: 1 }, 20, 2.5],
  ] as const)('%j at %d A: at least %d mm²', (more, amps, mm2) => {
    const got = made({}, more, { currentsA: [amps] });
    expect(got.problems).toEqual([]);
    expect(got.bill?.lead?.leastMm2).toBeCloseTo(mm2, 9);
  });
  it('parallel cables where one will not do, each counted', () => {
    const b = bill({}, { leads: '3' }, { currentsA: [1200] });
    expect(b.lead).toMatchObject({ sizeMm2: 150, cables: 2 });
    expect(line(b, 'lead cable')).toMatchObject({ pieces: 6 });
    expect(line(b, 'lead cable')?.quantity).toBeCloseTo(3 * 0.6 * 2, 9);
    expect(b.warnings.join(' ')).toMatch(/needs 300 mm², .*2 parallel cables of 150 mm², each with its own lug/);
    expect(bill().warnings.join(' ')).not.toMatch(/parallel cables/);
    const unknown = bill({}, {}, { currentsA: undefined });
    expect(unknown.lead).toBeUndefined();
    expect(line(unknown, 'lead cable')).toMatchObject({ pieces: 6 });
    expect(line(unknown, 'lead cable')).not.toHaveProperty('areaMm2');
  });
});

describe('materials and class of a bill', () => {
  const named = (use: ShopMaterial['use'], list: [string, number | null][]): ShopMaterial[] =>
    list.map(([name, classC]) => ({ name, use, classC, supply: { kind: 'length' } }));
  it('where nobody chose: the lowest class that reaches the plate’s, else the highest there is', () => {
    const wedges = named(
      ['wedge'],
      [
        ['H', 180],
        ['B', 130],
        ['F', 155],
        ['none', null],
      ],
    );
    const taken = (insulationClass: string | undefined, of = wedges) =>
      line(bill({}, {}, { insulationClass }, of), 'wedge')?.material;
    expect([taken('B'), taken('F'), taken('H'), taken('N'), taken(undefined), taken('E')]).toEqual([
      'B',
      'F',
      'H',
      'H',
      'F',
      'B',
    ]);
    expect(taken('F', [])).toBe('none chosen');
    expect(line(bill({ [billFieldOf('wedge')]: 'none' }, {}, {}, wedges), 'wedge')).toMatchObject({
      material: 'none',
      classC: undefined,
    });
    expect(line(bill({ [billFieldOf('wedge')]: 'unknown' }, {}, {}, wedges), 'wedge')?.material).toBe('none chosen');
  });
  it('class of the system: the lowest of wire, insulation and varnish; braze does not count', () => {
    const usual = bill({ wireClass: '180' });
    expect(usual.system.classC).toBe(155);
    expect(usual.wantedClassC).toBe(155);
    expect(usual.warnings).toEqual([]);
    const cool = USUAL_MATERIALS.map((m) => (m.use.includes('braze metal') ? { ...m, classC: 60 } : m));
    expect(bill({ wireClass: '180' }, {}, {}, cool).system.classC).toBe(155);
    const weak = USUAL_MATERIALS.map((m) => (m.use.includes('varnish') ? { ...m, classC: 130 } : m));
    expect(bill({ wireClass: '180' }, {}, {}, weak).system).toMatchObject({ classC: 130 });
    expect(bill({ wireClass: '180' }, {}, {}, weak).warnings[0]).toMatch(
      /The system is class 130 \(B\) by its weakest/,
    );
    const unstated = USUAL_MATERIALS.map((m) => (m.use.includes('varnish') ? { ...m, classC: null } : m));
    expect(bill({ wireClass: '180' }, {}, {}, unstated).warnings.join(' ')).toMatch(
      /Class of the system not verified: no class stated for (Polyester dip resin|Epoxy)/,
    );
    expect(bill({ wireClass: '120' }, {}, {}, unstated).warnings.join(' ')).toMatch(/The system is class 120 \(E\)/);
    expect(bill({ wireClass: '180' }, {}, { insulationClass: undefined }).warnings).toEqual([]);
    const none = bill(
      { wireClass: '180' },
      {},
      {},
      USUAL_MATERIALS.filter((m) => !m.use.includes('varnish')),
    );
    expect(none.system.unstated).toEqual(['varnish']);
    expect(
      line(
        bill(
          {},
          {},
          {},
          USUAL_MATERIALS.filter((m) => !m.use.includes('braze metal')),
        ),
        'braze metal',
      ),
    ).toBeUndefined();
  });
  it('a lead cable below the class of the system is said; what is not chosen too', () => {
    const cable = (classC: number | null) =>
      bill(
        { wireClass: '180', testedClass: '180', certificate: 'S 1' },
        {},
        {},
        USUAL_MATERIALS.map((m) => (m.use.includes('lead cable') ? { ...m, classC } : m)),
      ).warnings.join(' ');
    expect(cable(179)).toMatch(/lead cable is of a lower class than the system/);
    expect(cable(180)).not.toMatch(/lead cable/);
    expect(cable(null)).toMatch(/lead cable is of a lower class/);
    const without = (use: ShopMaterial['use'][number]) =>
      bill(
        { wireClass: '180' },
        {},
        {},
        USUAL_MATERIALS.filter((m) => !m.use.includes(use)),
      ).warnings.join(' ');
    for (const use of ['slot liner', 'phase paper', 'wedge', 'group sleeving', 'lead cable'] as const)
      expect(without(use)).toContain(`No shop material is chosen for: ${use}.`);
    expect(without('lacing cord')).not.toContain('No shop material');
  });
  it('wires thicker than any sleeving sold', () => {
    const heavy = bill({}, { strands: [{ count: 40, bareM: 0.0045, label: '' }], turns: [2] });
    expect(heavy.warnings.join(' ')).toMatch(/A joint is thicker than any sleeving sold/);
    expect(heavy.warnings.join(' ')).toMatch(/wires of a group end are thicker than any sleeving sold/);
    expect(line(heavy, 'group sleeving')).not.toHaveProperty('boreM');
    expect(lines(heavy, 'joint sleeving').at(-1)).not.toHaveProperty('boreM');
  });
});

describe('a bill that cannot be', () => {
  it('says in our words what is out of range', () => {
    const { problems } = made({}, { sampleCoilM: 25 });
    expect(problems.map((p) => p.message)).toEqual(['meanTurnM: This must be at most 20.']);
  });
  it.each([
    ['slots', 'slots'],
    ['slotDepthM', 'slot depth'],
    ['coreLengthM', 'core length'],
    ['boreM', 'bore'],
    ['strands', 'wires in hand'],
    ['turns', 'turns'],
  ])('without %s: the bill needs the record’s %s', (field, label) => {
    const { problems, bill: none } = made({}, { [field]: undefined, sampleCoilM: undefined });
    expect(none).toBeUndefined();
    expect(problems.map((p) => p.message)).toContain(`The bill needs the record's ${label}.`);
  });
});

describe('what a bill counts', () => {
  const x = {
    slots: 36,
    layers: 2,
    groups: 12,
    circuits: 2,
    leads: 6,
    totalTurns: 100,
    strands: [{ count: 2, bareM: 0.001 }],
    meanTurnM: 0.5,
    slot: { bottom: 'flat', depthM: 0.02, topWidthM: 0.008 },
    coreLengthM: 0.1,
    extensionM: 0.01,
  };
  const figures = (more: object = {}) => billFigures(billInputSchema.parse({ ...x, ...more }));
  it('coils, joints, papers, sleeves by the counts it is given', () => {
    expect(figures()).toMatchObject({ coils: 36, seriesJoints: 6, joints: 12, phasePapers: 24, separators: 38 });
    expect(figures({ layers: 1 })).toMatchObject({ coils: 18, separators: 0 });
    expect(figures({ coils: 30, slotsOfTwo: 24, sheetWaste: 0 })).toMatchObject({ coils: 30, separators: 24 });
    expect(figures({ halves: 2, circuits: 1, internalStars: 1 })).toMatchObject({ seriesJoints: 6, joints: 13 });
    expect(figures({ phases: 2, circuits: 1, leads: 4 })).toMatchObject({ seriesJoints: 10, joints: 14 });
    expect(figures({ phaseBoundaries: 8, papersPerBoundary: 1 }).phasePapers).toBe(8);
    expect(figures().strandM).toBeCloseTo(2 * (50 + 24 * 0.18), 9);
    expect(figures().jointSleeveM).toBeCloseTo(12 * 0.06 * 1.1, 9);
    expect(figures().leadCableM).toBeCloseTo(3.6, 9);
    expect(figures({ linerThicknessM: 0.0005 }).linerWidthM).toBeCloseTo(0.048 - 0.001, 9);
  });
});
