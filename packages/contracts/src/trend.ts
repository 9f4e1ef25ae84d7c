import type { Measurable, TestStage, Verdict } from '@norther/core';

/** One value of a measured quantity, in its base unit. */
export interface TrendPoint {
  /** the visit it belongs to */
  number: string;
  at: string;
  value: number;
  /** the instrument was over its range */
  bound: 'above' | 'below' | null;
  stage: TestStage | null;
  verdict: Verdict | null;
}

/** Points of many motors, column by column: thousands of them stand behind those of one. */
export interface TrendColumns {
  /** the visits they belong to, each once, and the place of its visit for each point */
  numbers: string[];
  visit: number[];
  /** milliseconds since 1970, UTC */
  atMs: number[];
  /** to seven digits: more than an instrument has */
  value: number[];
  stage: (TestStage | null)[];
  /** places of those that were over the range of the instrument */
  above: number[];
  /** the same, of points that lie below */
  below: number[];
}

/** A quantity of a motor over its visits, and of motors of the same kind, output, poles, voltage and shaft height. */
export interface Trend extends Measurable {
  own: TrendPoint[];
  family: string | null;
  others: TrendColumns;
}
