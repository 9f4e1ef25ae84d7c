import type { StockWire } from '@norther/core';
import type { StockLotView } from '@norther/contracts';

/** Wire free to take, lots of one size together; the dearest lot's price. Lots in quarantine and expired ones are left out. */
export function freeWire(
  lots: readonly StockLotView[],
  of: { grade: '1' | '2'; material?: 'copper' | 'aluminium'; today: string },
): StockWire[] {
  const bySize = new Map<number, StockWire & { massKg: number }>();
  for (const l of lots) {
    const w = l.what;
    if (w.kind !== 'wire' || w.grade !== of.grade || w.material !== (of.material ?? 'copper')) continue;
    if (l.quarantined || l.free <= 0 || (l.expires !== null && l.expires < of.today)) continue;
    // 0.1 µm apart is the same size, however it was typed
    const key = Math.round(w.bareM * 1e7);
    const now = bySize.get(key);
    const price = Math.max(now?.pricePerKg ?? 0, l.pricePerUnit ?? 0);
    bySize.set(key, {
      bareM: now?.bareM ?? w.bareM,
      label: now?.label ?? w.label,
      massKg: (now?.massKg ?? 0) + l.free,
      ...(price > 0 ? { pricePerKg: price } : {}),
    });
  }
  return [...bySize.values()].sort((a, b) => a.bareM - b.bareM);
}
