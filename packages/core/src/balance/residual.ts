import { limit, quoteLimit, type ShopLimits } from '../limits/limits.ts';
import { formatAgainst, formatNumber } from '../quantity/format.ts';
import { combineVerdicts, notAbove, notBelow, type Judged } from '../verdict.ts';
import type { Complex } from '../winding/complex.ts';
import { ZERO, type BalanceEntry } from './entries.ts';
import type { Influence } from './influence.ts';
import { complexOf } from './planes.ts';
import type { BalanceSetUp } from './setUp.ts';
import { residualByMoving, withoutCrosstalk, type MovedMass } from './testMass.ts';

export type Moved = Extract<BalanceEntry, { kind: 'moved' }>;
/** What a test mass moved round each plane tells of the residual. */
export interface ResidualCheck {
  planes: { plane: number; entry: Moved; fit: MovedMass | undefined }[];
  /** heavy spots of the planes, what each bearing feels of the other plane taken off; once every plane was done */
  left: Complex[] | undefined;
  judged: Judged[];
}

/** The checks that count: those after the last run or correction, the newest of each plane. */
export function residualCheck(
  setUp: BalanceSetUp,
  entries: readonly BalanceEntry[],
  influence: Influence,
  limits: ShopLimits = {},
): ResidualCheck | undefined {
  const from = entries.findLastIndex((e) => e.kind === 'run' || e.kind === 'correction');
  const since = entries.slice(from + 1);
  const planes = setUp.planes.flatMap((_, i) => {
    const entry = since.findLast((e): e is Moved => e.kind === 'moved' && e.plane === i + 1);
    return entry ? [{ plane: i + 1, entry, fit: residualByMoving(entry.positions, entry.testGMm) }] : [];
  });
  if (planes.length === 0) return undefined;
  const judged = planes.flatMap((p) => judgeFit(p, limits));
  const sound = combineVerdicts(['pass', ...judged.map((j) => j.verdict)]) !== 'cannot judge';
  const q = setUp.planes.map((_, i) => {
    const fit = planes.find((p) => p.plane === i + 1)?.fit;
    return fit && complexOf({ size: fit.gMm, angleDeg: fit.angleDeg });
  });
  const [q1, q2] = q;
  const direct = setUp.readings === 'unbalance per plane';
  const left =
    !sound || !q1 || (setUp.planes.length === 2 && !q2)
      ? undefined
      : setUp.planes.length === 1
        ? [q1]
        : direct
          ? [q1, q2 ?? ZERO]
          : withoutCrosstalk(influence, q1, q2 ?? ZERO);
  return { planes, left, judged };
}

function judgeFit({ plane, entry, fit }: ResidualCheck['planes'][number], limits: ShopLimits): Judged[] {
  const out: Judged[] = [];
  const where = `Residual of plane ${plane} by a moved mass`;
  const [first] = entry.positions;
  if (!fit) return [{ verdict: 'cannot judge', reason: `${where}: nothing can be fitted through these amplitudes.` }];
  if (!notBelow(fit.r2, limit('balance.fitLeast', limits)))
    out.push({
      verdict: 'cannot judge',
      reason: `${where}: the readings do not follow the mass, r² ${formatAgainst(fit.r2, limit('balance.fitLeast', limits))[0]}, at least ${quoteLimit('balance.fitLeast', limits)}. Read them again.`,
    });
  if (entry.again !== undefined && first && first.amplitude > 0) {
    const off = 100 * Math.abs(entry.again / first.amplitude - 1);
    if (!notAbove(off, limit('balance.fitAgainPercent', limits)))
      out.push({
        verdict: 'cannot judge',
        reason: `${where}: the first place read again strays by ${formatNumber(off, 3)} %, within ${quoteLimit('balance.fitAgainPercent', limits)} is wanted.`,
      });
  }
  if (fit.tooSmall)
    out.push({
      verdict: 'attention',
      reason: `${where}: the test mass is too small for it, the residual is more than half of it. Repeat with a larger one.`,
    });
  return out;
}
