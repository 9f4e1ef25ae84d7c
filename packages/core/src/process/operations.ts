import { fairly, need, yes } from './fieldKinds.ts';
import { FORM_OPERATIONS } from './formOperations.ts';
import { withGauge } from './gauges.ts';
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
export const OPERATIONS: ReadonlyMap<string, Operation> = new Map(
  ALL.map((o): [string, Operation] => [o.code, { ...o, fields: withGauge(o.fields) }]),
);

/** Runs of one operation at most: coats of resin, each dipped, drained and baked. Common practice stays far below. */
export const MOST_RUNS = 5;
const RUN = /^([A-Z][A-Z0-9]{2,3})(?:\.([2-9]))?$/;

/** The operation that a code is a run of: `CUR` of `CUR.2`. */
export const baseOf = (code: string): string => RUN.exec(code)?.[1] ?? code;
/** Which run of its operation a code is: 1 of `CUR`, 2 of `CUR.2`. */
export const runOf = (code: string): number => Number(RUN.exec(code)?.[2] ?? 1);
/** Run n of an operation. */
export const runCode = (base: string, run: number): string => (run === 1 ? base : `${base}.${run}`);

const runs = new Map<string, Operation>();

/** An operation done again for a further coat: the same record, its own title, and the part end for end. */
function runOfOperation(code: string): Operation | undefined {
  const known = runs.get(code);
  if (known) return known;
  const base = OPERATIONS.get(baseOf(code));
  const run = runOf(code);
  if (!base?.runsAgain || run < 2 || run > MOST_RUNS) return undefined;
  const made: Operation = {
    ...base,
    code: code as OperationCode,
    title: `${base.title}, coat ${run}`,
    ...(base.impregnatesBy
      ? {
          fields: [...base.fields, yes('turned', 'Part end for end since the last coat', need)],
          accept: [...base.accept, fairly('turned', 'Runs down the same way twice: the thin end stays thin.')],
        }
      : {}),
  };
  runs.set(code, made);
  return made;
}

/** The operation of a code, a further run of one included; undefined when there is none. */
export const operationIf = (code: string): Operation | undefined => OPERATIONS.get(code) ?? runOfOperation(code);

/** The operation of a code. */
export function operation(code: string): Operation {
  const found = operationIf(code);
  if (!found) throw new RangeError(`There is no operation ${code}.`);
  return found;
}

/** Whether the operation cannot be done without the rotor. */
export const needsRotor = (op: Operation): boolean => op.rail === 'rotor' || op.needsBothParts === true;
/** Whether the operation cannot be done without the stator. */
export const needsStator = (op: Operation): boolean => op.rail === 'stator' || op.needsBothParts === true;
