/** What a new hand is told at an operation beside what it is: why, what a good one looks like, and what usually goes wrong. */
export interface Guidance {
  readonly why: string;
  readonly good: string;
  readonly mistake: string;
}
