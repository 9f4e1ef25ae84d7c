import { runCalculation } from '../../packages/core/src/calculation.ts';
import { calculationOf } from '../../packages/core/src/catalogue.ts';
import { judgingContext } from '../../packages/core/src/evaluate/judging.ts';
import type { JudgingContext, Readings } from '../../packages/core/src/evaluate/testKind.ts';
import { testKind } from '../../packages/core/src/evaluate/tests.ts';
import { EXAMPLE_PLATE, EXAMPLE_RECORD } from '../../packages/core/src/winding/exampleRecord.ts';

/** A rewound motor on the bench after the cure: 11 kW, 400 V, four poles, 36 slots. */
export const at = (more: object = {}): JudgingContext =>
  judgingContext({
    stage: 'VC',
    route: 'ac_random_rewind',
    nameplate: EXAMPLE_PLATE,
    found: { record: EXAMPLE_RECORD },
    plan: null,
    limits: {},
    calibrationExpired: false,
    tests: [],
    ...more,
  } as never);
export const kindOf = (id: string) => {
  const kind = testKind(id);
  if (!kind) throw new Error(id);
  return kind;
};
export const due = (id: string, more: object = {}) => kindOf(id).due?.(at(more));
export const input = (id: string, values: object, more: object = {}) =>
  kindOf(id).input?.(values as Readings, at(more)) as Record<string, unknown> | undefined;
export const lacks = (id: string, values: object) => kindOf(id).lacks?.(values as Readings)?.field;
export const ran = (id: string, x: object) => {
  const { values, working } = runCalculation(calculationOf(id) as never, x);
  return { values: values as Record<string, unknown>, working };
};
