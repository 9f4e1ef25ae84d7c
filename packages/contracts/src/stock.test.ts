import { describe, expect, it } from 'vitest';
import { changeLotBody, enamelClassOf, lotBody, stockEntryBody, type StockLotView } from './stock.ts';

const wire = { kind: 'wire', bareM: 0.00085, label: '0.85' };
const good = { lot: 'W-1', what: wire, unit: 'kg', quantity: 12 };

describe('what is sent of a lot', () => {
  it('takes wire and other material, with grade and metal as usual', () => {
    expect(lotBody.parse(good).what).toMatchObject({ grade: '2', material: 'copper' });
    expect(lotBody.parse({ ...good, what: { kind: 'material', name: 'cord' }, unit: 'm' }).note).toBe('');
  });
  it.each([
    ['no number', { lot: ' ' }, /lot its number/],
    ['nothing came', { quantity: 0 }, /above zero/],
    ['a size beyond wire', { what: { ...wire, bareM: 0.05 } }, /./],
    ['a day that is none', { expires: '3 May' }, /year-month-day/],
    ['a price below nothing', { pricePerUnit: -1 }, /./],
    ['no such unit', { unit: 'ells' }, /./],
    ['something unknown', { colour: 'red' }, /./],
  ])('refuses %s', (_, change, why) => {
    const read = lotBody.safeParse({ ...good, ...change });
    expect(read.success).toBe(false);
    expect(JSON.stringify(read.error?.issues)).toMatch(why);
  });
  it('a change names its version; an entry its kind', () => {
    expect(changeLotBody.safeParse({ quarantined: true, pricePerUnit: null, expires: null, note: '' }).success).toBe(
      false,
    );
    expect(stockEntryBody.safeParse({ kind: 'reserved', quantity: 1 }).success).toBe(false);
    expect(stockEntryBody.parse({ kind: 'counted', quantity: 0 }).reason).toBe('');
  });
});

describe('class of the enamel in stock', () => {
  const lot = (classC: number | undefined, more: Partial<StockLotView> = {}): StockLotView => ({
    id: '',
    lot: '',
    what: {
      kind: 'wire',
      bareM: 0.00085,
      label: '0.85',
      grade: '2',
      material: 'copper',
      ...(classC ? { classC } : {}),
    },
    unit: 'kg',
    left: 5,
    reserved: 0,
    free: 5,
    pricePerUnit: null,
    spools: null,
    expires: null,
    quarantined: false,
    heldBy: null,
    note: '',
    receivedAt: '',
    version: 1,
    ...more,
  });
  it('is the lowest that usable lots of that wire state', () => {
    const of = (lots: StockLotView[]) => enamelClassOf(lots)(0.00085, 2, 'copper');
    expect(of([lot(180), lot(155)])).toBe(155);
    expect(of([lot(180), lot(155, { quarantined: true }), lot(130, { left: 0 })])).toBe(180);
    expect(of([lot(undefined)])).toBeUndefined();
    expect(of([])).toBeUndefined();
    expect(enamelClassOf([lot(180)])(0.0009, 2, 'copper')).toBeUndefined();
    expect(enamelClassOf([lot(180)])(0.00085, 1, 'copper')).toBeUndefined();
    expect(enamelClassOf([lot(180)])(0.00085, 2, 'aluminium')).toBeUndefined();
  });
});
