import { z } from 'zod';

export const STOCK_UNITS = ['kg', 'm', 'sheets', 'pieces'] as const;
export type StockUnit = (typeof STOCK_UNITS)[number];
export const STOCK_KINDS = ['received', 'counted', 'reserved', 'freed', 'used', 'returned'] as const;
export type StockKind = (typeof STOCK_KINDS)[number];

export const stockWhatSchema = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('wire'),
    bareM: z.number().positive().max(0.02),
    label: z.string().trim().min(1).max(24),
    grade: z.enum(['1', '2']).default('2'),
    material: z.enum(['copper', 'aluminium']).default('copper'),
    classC: z.number().min(90).max(250).optional(),
  }),
  z.strictObject({ kind: z.literal('material'), name: z.string().trim().min(1, 'Name the material.').max(80) }),
]);
export type StockWhat = z.output<typeof stockWhatSchema>;

const quantity = z.number().positive('Type how much, above zero.').max(1e6);
const day = z.string().regex(/^\d{4}-\d{2}-\d{2}$/, 'Type the date as year-month-day, for example 2026-11-30.');

export const lotBody = z.strictObject({
  lot: z.string().trim().min(1, 'Give the lot its number, as on the label.').max(60),
  what: stockWhatSchema,
  unit: z.enum(STOCK_UNITS),
  quantity,
  pricePerUnit: z.number().min(0).max(1e6).optional(),
  spools: z.int().min(1).max(1000).optional(),
  expires: day.optional(),
  note: z.string().trim().max(300).default(''),
});
export const changeLotBody = z.strictObject({
  version: z.int().min(1),
  quarantined: z.boolean(),
  pricePerUnit: z.number().min(0).max(1e6).nullable(),
  expires: day.nullable(),
  note: z.string().trim().max(300),
});
/** A count puts what is left right; what came or went beside a job is said too. */
export const stockEntryBody = z.strictObject({
  kind: z.enum(['received', 'counted', 'used', 'returned']),
  /** counted: what is left in truth; else how much */
  quantity: z.number().min(0).max(1e6),
  reason: z.string().trim().max(300).default(''),
});

export interface StockLotView {
  id: string;
  lot: string;
  what: StockWhat;
  unit: StockUnit;
  left: number;
  reserved: number;
  free: number;
  pricePerUnit: number | null;
  spools: number | null;
  expires: string | null;
  /** itself, or by a lot that is in it */
  quarantined: boolean;
  /** the lot in it that is in quarantine, where it is not itself */
  heldBy: string | null;
  note: string;
  receivedAt: string;
  version: number;
}
/** Lowest class that the usable lots of one wire state; undefined while none states one. */
export function enamelClassOf(
  lots: readonly StockLotView[],
): (bareM: number, grade: 1 | 2, material: 'copper' | 'aluminium') => number | undefined {
  return (bareM, grade, material) => {
    const stated = lots.flatMap((l) =>
      l.what.kind === 'wire' &&
      Math.abs(l.what.bareM - bareM) < 1e-7 &&
      l.what.grade === String(grade) &&
      l.what.material === material &&
      !l.quarantined &&
      l.left > 0 &&
      l.what.classC !== undefined
        ? [l.what.classC]
        : [],
    );
    return stated.length > 0 ? Math.min(...stated) : undefined;
  };
}
export interface StockEntryView {
  id: number;
  kind: StockKind;
  quantity: number;
  job: string | null;
  code: string | null;
  reason: string | null;
  person: string;
  at: string;
}
