import { FORM_OPERATIONS } from './formOperations.ts';
import type { OperationData } from './operation.ts';
import { RESIN_OPERATIONS } from './resinOperations.ts';
import { ROTOR_OPERATIONS } from './rotorOperations.ts';
import { STRIP_OPERATIONS } from './stripOperations.ts';
import { TRUNK_OPERATIONS } from './trunkOperations.ts';
import { WIND_OPERATIONS } from './windOperations.ts';

const ALL = [
  ...TRUNK_OPERATIONS,
  ...STRIP_OPERATIONS,
  ...WIND_OPERATIONS,
  ...FORM_OPERATIONS,
  ...RESIN_OPERATIONS,
  ...ROTOR_OPERATIONS,
] as const;

export type OperationCode = (typeof ALL)[number]['code'];
export interface Operation extends OperationData {
  readonly code: OperationCode;
}

/** Every operation of the routes, by code. */
export const OPERATIONS: ReadonlyMap<string, Operation> = new Map(ALL.map((o): [string, Operation] => [o.code, o]));

/** The operation of a code. */
export function operation(code: string): Operation {
  const found = OPERATIONS.get(code);
  if (!found) throw new RangeError(`There is no operation ${code}.`);
  return found;
}

/** Whether the operation cannot be done without the rotor. */
export const needsRotor = (op: Operation): boolean => op.rail === 'rotor' || op.needsBothParts === true;
/** Whether the operation cannot be done without the stator. */
export const needsStator = (op: Operation): boolean => op.rail === 'stator' || op.needsBothParts === true;
