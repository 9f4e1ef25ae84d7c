import type { Measurable, TestStage, Verdict } from '@norther/core';

/** One value of a measured quantity, in its base unit. */
export interface TrendPoint {
  /** the visit it belongs to */
  number: string;
  at: string;
  value: number;
  /** the instrument was over its range */
  bound: 'above' | null;
  stage: TestStage | null;
  verdict: Verdict | null;
}

/** A quantity of a motor over its visits, and of motors of the same kind, output, poles, voltage and shaft height. */
export interface Trend extends Measurable {
  own: TrendPoint[];
  family: string | null;
  others: TrendPoint[];
}
