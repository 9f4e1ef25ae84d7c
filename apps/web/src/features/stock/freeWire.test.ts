import type { StockLotView } from '@norther/contracts';
import { describe, expect, it } from 'vitest';
import { freeWire } from './freeWire.ts';

const TODAY = '2026-03-10';
let next = 0;
const lot = (mm: number, free: number, more: Partial<StockLotView> = {}): StockLotView => ({
  id: String(next++),
  lot: `L${next}`,
  what: { kind: 'wire', bareM: mm / 1000, label: String(mm), grade: '2', material: 'copper' },
  unit: 'kg',
  left: free,
  reserved: 0,
  free,
  pricePerUnit: 10,
  spools: 1,
  expires: null,
  quarantined: false,
  note: '',
  receivedAt: '2026-01-01T00:00:00Z',
  version: 1,
  ...more,
});

describe('wire free to take', () => {
  it('lots of one size together at the dearest price, in rising size', () => {
    const made = freeWire([lot(0.9, 5), lot(0.71, 3), lot(0.71, 4, { pricePerUnit: 12 })], {
      grade: '2',
      today: TODAY,
    });
    expect(made.map((w) => [w.label, w.massKg, w.pricePerKg])).toEqual([
      ['0.71', 7, 12],
      ['0.9', 5, 10],
    ]);
  });
  it('a size typed another way is the same size', () => {
    const other = lot(0.71, 1);
    const near = { ...other, what: { ...other.what, bareM: 0.71 / 1000 + 1e-12 } } as StockLotView;
    expect(freeWire([other, near], { grade: '2', today: TODAY })).toHaveLength(1);
  });
  it('not what is promised, quarantined, expired, of another enamel or metal, or no wire', () => {
    const aluminium = {
      kind: 'wire' as const,
      bareM: 0.001,
      label: '1',
      grade: '2' as const,
      material: 'aluminium' as const,
    };
    const lots = [
      lot(0.8, 0),
      lot(0.85, 5, { quarantined: true }),
      lot(0.95, 5, { expires: '2026-03-09' }),
      lot(1, 5, { what: { kind: 'wire', bareM: 0.001, label: '1', grade: '1', material: 'copper' } }),
      lot(1, 5, { what: aluminium }),
      lot(1, 5, { what: { kind: 'material', name: 'cord' }, unit: 'm' }),
    ];
    expect(freeWire(lots, { grade: '2', today: TODAY })).toEqual([]);
    expect(freeWire(lots, { grade: '2', today: TODAY, material: 'aluminium' })).toHaveLength(1);
    expect(freeWire(lots, { grade: '1', today: TODAY })).toHaveLength(1);
  });
  it('a lot that runs out today may be used today', () => {
    expect(freeWire([lot(0.95, 5, { expires: TODAY })], { grade: '2', today: TODAY })).toHaveLength(1);
  });
  it('a lot without a price has none', () => {
    expect(freeWire([lot(0.8, 2, { pricePerUnit: null })], { grade: '2', today: TODAY })[0]).not.toHaveProperty(
      'pricePerKg',
    );
  });
});
