import {
  JOINT_KINDS,
  JOINT_ORDERS,
  windingPartSchema,
  type JointKind,
  type JointOrder,
  type WindingPart,
} from '@norther/core';
import { z } from 'zod';

/** One joint made, with who made it and who looked at it after. */
export interface JointTick {
  kind: JointKind;
  by: string;
  at: string;
  checkedBy: string | null;
  checkedAt: string | null;
}
export interface JointSheet {
  part: WindingPart;
  version: number;
  order: JointOrder;
  /** by the joint's name, its ends joined with dashes */
  ticks: Record<string, JointTick>;
  /** joints as they really are, when they were entered; empty = none entered */
  asMade: string;
}

export const tickBody = z.strictObject({
  joint: z.string().min(3).max(600),
  kind: z.enum(JOINT_KINDS).default('braze'),
  what: z.enum(['made', 'not made', 'checked']),
});
export const jointSheetBody = z.strictObject({
  version: z.int().min(0),
  order: z.enum(JOINT_ORDERS),
  asMade: z.string().max(20_000),
});
export const jointPart = windingPartSchema;
