import type { TankSetUp, Verdict } from '@norther/core';
import { z } from 'zod';

const typed = z.record(z.string().max(40), z.string().max(300));

export const tankBody = z.strictObject({ typed });
export const changeTankBody = tankBody.extend({ version: z.int().min(1), active: z.boolean() });
export const tankTestBody = z.strictObject({ typed });
/** What goes into a tank: of which lots, how much; all that it holds then is a lot of its own. */
export const fillTankBody = z.strictObject({
  lots: z
    .array(z.strictObject({ lotId: z.uuid(), quantity: z.number().positive('Type how much, above zero.').max(1e6) }))
    .min(1, 'Say which lot goes in.')
    .max(20),
  /** the tank's content before, as measured; left out: as the books say */
  leftKg: z.number().min(0).max(1e6).optional(),
});

export interface TankTestView {
  id: string;
  at: string;
  by: string;
  lot: string | null;
  typed: Record<string, string>;
  atReference: number;
  verdict: Verdict;
  reason: string;
}
export interface TankView {
  id: string;
  name: string;
  resin: string;
  typed: Record<string, string>;
  setUp: TankSetUp;
  lot: { id: string; lot: string; leftKg: number; expires: string | null; quarantined: boolean } | null;
  /** lots that are in it, by their numbers */
  within: string[];
  tests: TankTestView[];
  /** why nothing may be impregnated from it now */
  blocked: string[];
  /** the day on which it will be too thick, by its trend */
  limitDay: string | null;
  nextTest: string | null;
  active: boolean;
  version: number;
}

/** A lot, and what it went into. */
export interface LotTrace {
  within: { id: string; lot: string; what: string; quarantined: boolean }[];
  after: { id: string; lot: string; what: string; quarantined: boolean }[];
  motors: { job: string; what: string; customer: string; lot: string; how: string; at: string }[];
}
/** The lots in a motor, with all that is in them. */
export interface MotorLot {
  lot: string;
  what: string;
  how: string;
  quarantined: boolean;
  within: string[];
}
export interface OrderAgain {
  what: string;
  unit: string;
  free: number;
  perDay: number;
  point: number;
  order: boolean;
}
