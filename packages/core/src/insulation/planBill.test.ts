import fc from 'fast-check';
import { draws } from '../../../../scripts/testing/draws.ts';
import { describe, expect, it } from 'vitest';
import { jointList } from '../network/jointList.ts';
import { METRIC_DEFAULTS } from '../quantity/fields.ts';
import { connectionOfRecord } from '../winding/connectionOfRecord.ts';
import { threePhaseRecord, type ThreePhaseRecord } from '../winding/record.ts';
import { jointCount } from './ends.ts';
import { jointMaterial } from './jointMaterials.ts';
import { USUAL_MATERIALS, type ShopMaterial } from './materials.ts';
import { billFieldOf } from './billFields.ts';
import { billOfRecord } from './planBill.ts';

const RECORD: ThreePhaseRecord = threePhaseRecord({
  slots: 48,
  poles: 8,
  layers: 'double',
  form: 'lap',
  spansSlots: [5],
  turns: [21],
  strands: [
    { count: 2, bareM: 0.0008, label: '0.80' },
    { count: 1, bareM: 0.00075, label: '0.75' },
  ],
  wireGrade: '2',
  circuits: 2,
  connection: 'delta',
  leads: '6',
  boreM: 0.2,
  coreLengthM: 0.16,
  toothWidthM: 0.0065,
  slotDepthM: 0.025,
  slotAreaM2: 190e-6,
  slotNetAreaM2: 160e-6,
});
const PLATE = {
  voltagesV: [400, 690],
  currentsA: [24, 13.9],
  frequencyHz: 50,
  insulationClass: 'F' as const,
  frame: '160L',
};
const SHOP = { materials: USUAL_MATERIALS, defaults: METRIC_DEFAULTS };
const bill = (
  typed: Record<string, string> = {},
  record = RECORD,
  materials: readonly ShopMaterial[] = USUAL_MATERIALS,
) => {
  const made = billOfRecord(record, PLATE, typed, { materials, defaults: METRIC_DEFAULTS });
  if (!made.bill) throw new Error(made.problems.map((p) => p.message).join(' '));
  return made.bill;
};
const line = (b: ReturnType<typeof bill>, use: string) => b.lines.find((l) => l.use === use);

describe('the bill of a winding', () => {
  it('counts what the winding has', () => {
    const b = bill({ sheetWaste: '0' });
    expect(b.input).toMatchObject({
      slots: 48,
      layers: 2,
      groups: 24,
      leads: 6,
      internalStars: 0,
      totalTurns: 48 * 21,
    });
    expect(line(b, 'slot liner')).toMatchObject({ pieces: 48, unit: 'sheets' });
    expect(line(b, 'separator')?.pieces).toBe(48);
    expect(line(b, 'phase paper')?.pieces).toBe(48);
    // 24 groups, 2 circuits, six leads: 18 jumpers + 6
    expect(b.figures.joints).toBe(24);
    // 24 A in delta: 13.86 A a lead at 4 A/mm²
    expect(b.lead).toMatchObject({ sizeMm2: 4 });
    expect(line(b, 'lead cable')).toMatchObject({ pieces: 6, areaMm2: 4 });
    const sparing = billOfRecord(RECORD, PLATE, {}, { ...SHOP, limits: { 'winding.leadDensity': 6 } }).bill;
    expect(sparing?.lead).toMatchObject({ sizeMm2: 2.5 });
  });
  it('a single-layer winding takes no separators', () => {
    const b = bill({}, { ...RECORD, layers: 'single', circuits: 1, spansSlots: [5] });
    expect(line(b, 'separator')).toBeUndefined();
    expect(b.figures.coils).toBe(24);
  });
  it('wire of every size by its share of the area, spools for each wire in hand', () => {
    const b = bill();
    const wires = b.lines.filter((l) => l.use === 'winding wire');
    expect(wires.map((w) => w.spools)).toEqual([2, 1]);
    expect(wires.reduce((a, w) => a + w.quantity, 0)).toBeCloseTo(b.figures.orderKg, 9);
    expect((wires[0]?.quantity ?? 0) / (wires[1]?.quantity ?? 1)).toBeCloseTo((2 * 0.8 ** 2) / 0.75 ** 2, 9);
    // every wire of the hand is as long as the bundle, but for the shares of enamel and waste
    for (const w of wires) expect(w.metres ?? 0).toBeGreaterThan(b.figures.bundleM);
  });
  it('the class is the weakest member’s and is warned of below the nameplate’s', () => {
    expect(bill({ wireClass: '180' }).system).toMatchObject({ classC: 155 });
    expect(bill({ wireClass: '180' }).warnings).toEqual([]);
    const poor = bill({ wireClass: '130' });
    expect(poor.system).toMatchObject({ classC: 130, weakest: ['enamel of the wire'] });
    expect(poor.warnings.join(' ')).toMatch(
      /class 130 \(B\) by its weakest member \(enamel of the wire\); the nameplate asks for 155/,
    );
    expect(bill({ wireClass: '130', testedClass: '155', certificate: 'S-155-7' }).warnings).toEqual([]);
    expect(bill({ wireClass: '130', testedClass: '155' }).warnings.join(' ')).toMatch(/counts by its certificate/);
    expect(bill({ testedClass: '130', certificate: 'S-9' }).warnings.join(' ')).toMatch(
      /class 130 \(B\) by certificate S-9/,
    );
    // blank: as the lots state it, each wire for itself
    const stated = billOfRecord(
      RECORD,
      PLATE,
      {},
      { ...SHOP, enamelClass: (bareM) => (bareM > 0.00078 ? 180 : 130) },
    ).bill;
    expect(stated?.system).toMatchObject({ classC: 130, weakest: ['enamel of 0.75 grade 2 copper'] });
    expect(bill().system.classC).toBeUndefined();
    expect(bill().warnings.join(' ')).toMatch(/not verified: no class stated for enamel/);
  });
  it('takes what was chosen, and says what does not fit', () => {
    const b = bill({ [billFieldOf('slot liner')]: 'Aramid paper 0.25', wireClass: '180' });
    expect(line(b, 'slot liner')).toMatchObject({ material: 'Aramid paper 0.25', unit: 'm', classC: 220 });
    const narrow: ShopMaterial = {
      name: 'Narrow',
      use: ['slot liner'],
      classC: 155,
      supply: { kind: 'roll', widthM: 0.1, slot: 'across' },
    };
    expect(bill({}, RECORD, [narrow]).warnings.join(' ')).toMatch(/wider than the roll of Narrow/);
    expect(bill({}, RECORD, [narrow]).warnings.join(' ')).toMatch(/No shop material is chosen for: phase paper/);
  });
  it('says which field cannot be read, and what the record lacks', () => {
    expect(billOfRecord(RECORD, PLATE, { cuff: 'wide' }, SHOP).problems[0]).toMatchObject({
      field: 'cuff',
    });
    const { slotDepthM: _, ...without } = RECORD;
    expect(billOfRecord(without, PLATE, {}, SHOP).problems[0]?.message).toMatch(/slot depth/);
    expect(billOfRecord({ kind: 'three-phase' }, {}, {}, { ...SHOP, materials: [] }).problems.length).toBeGreaterThan(
      4,
    );
  });
  it('prices what has a price', () => {
    const priced = USUAL_MATERIALS.map((m) => (m.name === 'Polyester lacing cord' ? { ...m, price: 2 } : m));
    const b = bill({}, RECORD, priced);
    expect(line(b, 'lacing cord')?.cost).toBeCloseTo(2 * (line(b, 'lacing cord')?.quantity ?? 0), 9);
    expect(line(b, 'slot liner')?.cost).toBeUndefined();
  });
});

const anyRecord = fc
  .record({
    poles: fc.constantFrom(2, 4, 6, 8, 10),
    q: fc.constantFrom(1, 2, 3, 4, 5),
    wye: fc.boolean(),
    leads: fc.constantFrom('3' as const, '6' as const, '9' as const, '12' as const),
    pick: fc.nat(20),
    turns: fc.integer({ min: 3, max: 80 }),
  })
  .map(({ poles, q, wye, leads, pick, turns }) => {
    const slots = 3 * poles * q;
    const half = leads === '9' || leads === '12' ? 2 : 1;
    const circuits = [1, 2, 3, 4, 5].filter((c) => poles % (c * half) === 0);
    return {
      ...RECORD,
      slots,
      poles,
      kind: 'three-phase' as const,
      spansSlots: [Math.max(1, Math.round(2.6 * q))],
      connection: wye ? ('wye' as const) : ('delta' as const),
      circuits: circuits[pick % Math.max(1, circuits.length)] ?? 1,
      leads,
      turns: [turns],
    };
  })
  .filter((r) => r.slots <= 96 && connectionOfRecord(r).connection !== undefined);

describe('any winding', () => {
  it('joints by the formula of the trade are the joints of the connection drawn', () => {
    fc.assert(
      fc.property(anyRecord, (record) => {
        const made = connectionOfRecord(record).connection;
        if (!made) throw new Error('not drawn');
        const x = bill({}, record).input;
        expect(jointCount(x).total).toBe(jointList(made, 'jumpers first').length);
      }),
      { numRuns: draws(150) },
    );
  });
  it('pieces times their sizes never exceed what is drawn from stock for them', () => {
    const sizes: Record<string, ShopMaterial> = Object.fromEntries(USUAL_MATERIALS.map((m) => [m.name, m]));
    fc.assert(
      fc.property(anyRecord, fc.constantFrom('', 'Aramid paper 0.25', 'Aramid-film laminate 0.30'), (record, paper) => {
        const b = bill(paper ? { linerMaterial: paper, phaseMaterial: paper, separatorMaterial: paper } : {}, record);
        let compared = 0;
        for (const l of b.lines) {
          const supply = sizes[l.material]?.supply;
          if (l.lengthM === undefined || l.widthM === undefined || (l.unit !== 'sheets' && supply?.kind !== 'roll'))
            continue;
          if (l.nesting === '') continue; // did not fit; said in a warning
          const area = l.pieces * l.lengthM * l.widthM;
          const drawn =
            supply?.kind === 'sheet'
              ? l.quantity * supply.lengthM * supply.widthM
              : supply?.kind === 'roll'
                ? l.quantity * supply.widthM
                : 0;
          expect(area).toBeLessThanOrEqual(drawn + 1e-9);
          compared += 1;
        }
        expect(compared).toBeGreaterThan(0);
      }),
      { numRuns: draws(150) },
    );
  });
  it('every joint gets a sleeve that passes over all that meets in it, and leads their cable', () => {
    fc.assert(
      fc.property(anyRecord, (record) => {
        const made = connectionOfRecord(record).connection;
        if (!made) throw new Error('not drawn');
        for (const joint of jointList(made, 'leads first')) {
          const m = jointMaterial(
            joint,
            record.strands ?? [],
            2,
            { currentA: 10, leastMm2: 2.5, sizeMm2: 2.5, cables: 1 },
            0.06,
          );
          expect(m.ends).toBeGreaterThanOrEqual(joint.what === 'jumper' ? 2 : 1);
          expect((m.sleeveBoreM ?? 1) ** 2).toBeGreaterThan((m.copperMm2 / 1e6) * (4 / Math.PI));
          expect(m.leadMm2).toBe(joint.what === 'lead' ? 2.5 : undefined);
        }
      }),
      { numRuns: draws(60) },
    );
  });
});
