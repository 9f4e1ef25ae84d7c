import type { StockBill, WindingPart } from '@norther/core';
import { z } from 'zod';
import { typedSchema } from './typed.ts';
import type { StockUnit } from './stock.ts';

export const materialBody = z.strictObject({ version: z.int().min(0), typed: typedSchema });
export const makeListsBody = z.strictObject({ version: z.int().min(0) });
export const useMaterialBody = z.strictObject({
  lotId: z.uuid(),
  quantity: z.number().positive('Type how much was used, above zero.').max(1e6),
  /** the operation it was used in */
  code: z.string().min(2).max(8),
  reason: z.string().trim().max(300).default(''),
});

/** Lots a line of the bill is drawn from. */
export interface LinePick {
  picks: { lotId: string; lot: string; quantity: number }[];
  /** what no lot covers, in the line's unit */
  short: number;
  /** of the lots taken, where they have a price */
  cost: number | null;
}
/** The cutting and picking lists, as they were made. */
export interface MaterialLists {
  by: string;
  at: string;
  planRevision: number;
  bill: StockBill;
  lines: LinePick[];
}
export interface MaterialUse {
  lotId: string;
  lot: string;
  what: string;
  unit: StockUnit;
  reserved: number;
  used: number;
}
export interface MaterialSheet {
  part: WindingPart;
  version: number;
  typed: Record<string, string>;
  lists: MaterialLists | null;
  /** why the lists cannot be made now, or empty */
  why: string;
  uses: MaterialUse[];
}
