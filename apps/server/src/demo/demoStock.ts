import { METRIC_R20_MM } from '@norther/core';
import { lotBody } from '@norther/contracts';
import type { z } from 'zod';

const DAY = 86_400_000;
const dayAt = (ms: number): string => new Date(ms).toISOString().slice(0, 10);

/** What stands on the shelves of the invented shop: wire by size, some sizes in two lots, sheets, sleeving, cable, cord. */
export function DEMO_LOTS(now: number): z.output<typeof lotBody>[] {
  const sizes = METRIC_R20_MM.filter((d) => d >= 0.315 && d <= 1.6);
  const between = [0.53, 0.6, 0.67, 0.75, 0.85, 0.95, 1.06, 1.18];
  const wire = [...sizes, ...between]
    .sort((a, b) => a - b)
    .map((mm, i) => ({
      lot: `W-26-${String(101 + i)}`,
      what: { kind: 'wire', bareM: mm / 1000, label: mm.toFixed(3).replace(/0$/, ''), grade: '2', material: 'copper', classC: 180 },
      unit: 'kg',
      // common sizes by the pail, thin and thick ones by a spool or two; the count is uneven as on any shelf
      quantity: ([25, 45, 90, 15, 60][i % 5] ?? 25) * (mm >= 0.85 ? 3 : 1),
      spools: [5, 3, 1, 3, 4][i % 5],
      pricePerUnit: Number((13.2 + (mm < 0.5 ? 2.6 : mm > 1.2 ? -0.5 : 0.4)).toFixed(2)),
    }));
  const material = (lot: string, name: string, unit: string, quantity: number, pricePerUnit: number, more: object = {}) => ({ lot, what: { kind: 'material', name }, unit, quantity, pricePerUnit, ...more });
  return [
    ...wire,
    { lot: 'W-25-088', what: { kind: 'wire', bareM: 0.00071, label: '0.71', grade: '2', material: 'copper', classC: 180 }, unit: 'kg', quantity: 8.4, spools: 2, pricePerUnit: 12.9, note: 'rest of last year, use first' },
    material('L-118', 'Fleece-film-fleece laminate 0.25', 'sheets', 64, 7.4),
    material('L-121', 'Aramid paper 0.25', 'm', 38, 21),
    material('L-122', 'Aramid-film laminate 0.30', 'm', 22, 24),
    material('G-77', 'Glass-epoxy wedge strip', 'm', 180, 1.1),
    material('S-31', 'Acrylic-coated glass sleeving', 'm', 240, 0.6),
    material('S-32', 'Silicone-coated glass sleeving', 'm', 90, 1.4),
    material('C-12', 'Polyester lacing cord', 'm', 900, 0.12),
    material('K-40', 'Silicone rubber lead cable', 'm', 75, 3.2),
    material('B-5', 'Copper-phosphorus-silver alloy', 'kg', 1.8, 160),
    material('BB-6310', 'Deep-groove ball bearing', 'pieces', 14, 38),
    material('GR-8', 'Polyurea grease', 'kg', 16, 21),
    material('R-26-17', 'Epoxy for vacuum-pressure', 'kg', 900, 14.5, { expires: dayAt(now + 200 * DAY) }),
    material('R-26-04', 'Polyester dip resin', 'kg', 95, 9.2, { expires: dayAt(now + 70 * DAY) }),
    material('R-26-09', 'Polyester dip resin', 'kg', 180, 9.5, { expires: dayAt(now + 150 * DAY) }),
    material('R-26-02', 'Epoxy for vacuum-pressure', 'kg', 320, 14, { expires: dayAt(now + 60 * DAY) }),
  ].map((x) => lotBody.parse(x));
}
