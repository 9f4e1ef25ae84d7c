/** The four outcomes of anything judged. */
export const VERDICTS = ['pass', 'attention', 'fail', 'cannot judge'] as const;
export type Verdict = (typeof VERDICTS)[number];

const RANK: Readonly<Record<Verdict, number>> = { pass: 0, attention: 1, 'cannot judge': 2, fail: 3 };

/** Combines required parts: fail > cannot judge > attention > pass. No part at all cannot be judged. */
export function combineVerdicts(parts: readonly Verdict[]): Verdict {
  return (
    parts.reduce<Verdict | undefined>(
      (worst, v) => (worst === undefined || RANK[v] > RANK[worst] ? v : worst),
      undefined,
    ) ?? 'cannot judge'
  );
}

/** One judged part with its sentence. */
export interface Judged {
  verdict: Verdict;
  reason: string;
}

/** Room for floating-point rounding at a limit: a boundary is met by equality. */
const ROUNDING = 1e-12;

/** value ≤ bound, met by equality also when the last bit of either was rounded. */
export function notAbove(value: number, bound: number): boolean {
  return value <= bound + ROUNDING * Math.max(Math.abs(value), Math.abs(bound));
}

/** value ≥ bound, met by equality also when the last bit of either was rounded. */
export function notBelow(value: number, bound: number): boolean {
  return notAbove(bound, value);
}

/** Up to a first bound inclusive it passes, up to a second it wants attention, above it fails. */
export function judgeUpTo(value: number, passAt: number, failAt: number): Verdict {
  return notAbove(value, passAt) ? 'pass' : notAbove(value, failAt) ? 'attention' : 'fail';
}

/** Parts of one test as one: the combined verdict, with what decides it said first. */
export function judgedTogether(parts: readonly Judged[]): Judged {
  const verdict = combineVerdicts(parts.map((p) => p.verdict));
  return {
    verdict,
    reason: [...parts.filter((p) => p.verdict === verdict), ...parts.filter((p) => p.verdict !== verdict)]
      .map((p) => p.reason)
      .join(' '),
  };
}

/** What an instrument out of calibration makes of a test. */
export const outOfCalibration = (expired: boolean): Judged[] =>
  expired ? [{ verdict: 'attention', reason: 'The instrument is out of calibration.' }] : [];
