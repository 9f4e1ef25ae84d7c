import { describe, expect, it } from 'vitest';
import { METRIC_DEFAULTS } from '../quantity/fields.ts';
import { windingRecordSchema } from '../winding/record.ts';
import { billFieldsOfKind, billFieldOf } from './billFields.ts';
import { FORM_BILL_USUAL, formBill, insulationFormBill } from './formBill.ts';
import { USUAL_MATERIALS, usesOfKind } from './materials.ts';
import { stockBillOfRecord } from './stripBill.ts';

const RECORD = windingRecordSchema.parse({ ...insulationFormBill.example.record, leads: '3', coilStraightM: 0.03 });
const PLATE = { voltagesV: [3300], currentsA: [86], outputW: 400e3, insulationClass: 'F' as const };
const made = (typed: Record<string, string> = {}, more: object = {}, materials = USUAL_MATERIALS) =>
  stockBillOfRecord({ ...RECORD, ...more } as never, PLATE, typed, { materials, defaults: METRIC_DEFAULTS });
const bill = (...x: Parameters<typeof made>) => {
  const got = made(...x);
  if (!got.bill) throw new Error(got.problems.map((p) => p.message).join(' '));
  return got.bill;
};
const line = (b: ReturnType<typeof bill>, what: string) => b.lines.find((l) => `${l.use} ${l.nesting}`.includes(what));

describe('coils of strip in the store', () => {
  it('every line of the coils’ bill, with the shop’s material for it', () => {
    const b = bill();
    const own = formBill(RECORD);
    expect(b.lines.map((l) => [l.use, l.material])).toEqual([
      ['strip', 'Strip 1.8 × 7.1 mm, copper'],
      ['turn tape', 'Mica tape on film 0.08 × 20'],
      ['ground-wall tape', 'Mica tape on glass 0.13 × 25'],
      ['slot strip', 'Glass-epoxy strip'],
      ['slot strip', 'Glass-epoxy strip'],
      ['slot strip', 'Glass-epoxy strip'],
      ['wedge', 'Glass-epoxy wedge strip'],
      ['lead cable', 'Silicone rubber lead cable'],
      ['braze metal', 'Copper-phosphorus-silver alloy'],
    ]);
    own?.lines.slice(0, 3).forEach((l, i) => expect(b.lines[i]?.quantity).toBeCloseTo(l.quantity, 9));
    expect(b.lines[0]?.unit).toBe('kg');
    expect(line(b, 'Separator 2 mm')).toMatchObject({ pieces: 63, quantity: 63, unit: 'pieces', widthM: 0.0106 });
    // wedges come by length: 63 of them as long as the slot and its straight parts
    expect(line(b, 'wedge')).toMatchObject({ pieces: 63, unit: 'm' });
    expect(line(b, 'wedge')?.quantity).toBeCloseTo(63 * 0.56, 9);
    // 86 A at 4 A/mm²
    expect(line(b, 'lead cable')).toMatchObject({ pieces: 3, areaMm2: 25, unit: 'm' });
    expect(line(b, 'lead cable')?.quantity).toBeCloseTo(1.8, 9);
    // 12 groups in one circuit a phase: 9 jumpers, three leads, a star; 60 coils in 12 groups
    expect(line(b, 'braze')?.nesting).toBe('13 joints between groups, leads and stars, 48 inside groups');
    expect(line(b, 'braze')?.quantity).toBeCloseTo(61 * 0.02 * 0.0071 * 0.00015 * 8400, 9);
    expect(b.system.classC).toBe(155);
    expect([b.wantedClassC, b.warnings]).toEqual([155, []]);
  });
  it('what is altered counts: spare coils, waste, tapes and their thickness, leads', () => {
    const quantity = (typed: Record<string, string>, use: string, materials = USUAL_MATERIALS) =>
      bill(typed, {}, materials).lines.find((l) => l.use === use)?.quantity ?? 0;
    const none = quantity({ spareCoils: '0', wireWaste: '0' }, 'strip');
    expect(quantity({}, 'strip') / none).toBeCloseTo((61 / 60) * 1.05, 9);
    expect(quantity({ turnTapeWidth: '40' }, 'turn tape')).toBeCloseTo(quantity({}, 'turn tape') / 2, 9);
    expect(quantity({ wallTapeWidth: '50' }, 'ground-wall tape')).toBeCloseTo(quantity({}, 'ground-wall tape') / 2, 9);
    expect(quantity({ leadLength: '1000' }, 'lead cable')).toBeCloseTo(3, 9);
    const thin = USUAL_MATERIALS.map((m) => (m.use.includes('ground-wall tape') ? { ...m, thicknessM: 0.000065 } : m));
    expect(quantity({}, 'ground-wall tape', thin) / quantity({}, 'ground-wall tape')).toBeCloseTo(2, 9);
    expect(FORM_BILL_USUAL.wallTapeThicknessM).toBe(0.00013);
    const priced = USUAL_MATERIALS.map((m) => (m.use.includes('slot strip') ? { ...m, price: 2 } : m));
    expect(bill({}, {}, priced).lines.find((l) => l.use === 'slot strip')?.cost).toBe(126);
  });
  it('what is not chosen is said, and the class with it', () => {
    const without = USUAL_MATERIALS.filter((m) => !m.use.includes('turn tape'));
    const b = bill({}, {}, without);
    expect(b.lines[1]).toMatchObject({ material: 'none chosen', quantity: bill().lines[1]?.quantity });
    expect(b.warnings.join(' ')).toMatch(
      /not verified: no class stated for turn tape\. No shop material is chosen for: turn tape\./,
    );
    expect(b.system.classC).toBeUndefined();
    expect(bill({ testedClass: '155', certificate: 'S 3' }, {}, without).system.classC).toBe(155);
    expect(line(bill({ [billFieldOf('slot strip')]: 'unknown' }), 'Separator')?.material).toBe('none chosen');
    expect(
      bill(
        {},
        {},
        USUAL_MATERIALS.filter((m) => !m.use.includes('braze metal')),
      ).lines.some((l) => l.use === 'braze metal'),
    ).toBe(false);
  });
  it('what cannot be made says what it needs', () => {
    expect(made({}, { groundWallM: undefined }).problems[0]?.message).toMatch(/needs strip, wall, turns/);
    expect(made({}, { circuits: undefined }).problems[0]?.message).toMatch(/connection/);
    expect(made({ wallTapeWidth: 'wide' }).problems[0]).toMatchObject({ field: 'wallTapeWidth' });
    const bars = stockBillOfRecord({ kind: 'bar-rotor' }, PLATE, {}, { materials: [], defaults: METRIC_DEFAULTS });
    expect(bars.problems[0]?.message).toMatch(/^Bars are used again or ordered by drawing/);
    const wire = stockBillOfRecord({ kind: 'three-phase' }, PLATE, {}, { materials: [], defaults: METRIC_DEFAULTS });
    expect(wire.problems.map((p) => p.message)).toContain("The bill needs the record's wires in hand.");
  });
  it('each kind is asked only what it has', () => {
    expect(usesOfKind('form-wound')).toContain('turn tape');
    expect(usesOfKind('form-wound')).not.toContain('slot liner');
    expect(usesOfKind('three-phase')).toContain('slot liner');
    expect(usesOfKind('three-phase')).not.toContain('ground-wall tape');
    const names = (kind: string) => billFieldsOfKind(kind).map((f) => f.name);
    expect(names('form-wound')).toEqual(
      expect.arrayContaining(['spareCoils', 'wallTapeWidth', 'wireWaste', 'leadLength']),
    );
    expect(names('form-wound')).not.toContain('cuff');
    expect(names('three-phase')).toContain('cuff');
    expect(names('three-phase')).not.toContain('spareCoils');
  });
});
