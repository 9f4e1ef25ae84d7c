import { formatNumber, sayUnbalance, type BalanceNow, type BalanceSetUp } from '@norther/core';
import { VerdictMark } from '../../ui/Verdict.tsx';
import { EndView } from './EndView.tsx';
import { STAGE_WORDS } from './words.ts';

/** What is to be done now, in large letters, and what is judged. */
export function Now({ is, setUp }: { is: BalanceNow; setUp: BalanceSetUp }) {
  return (
    <section aria-label="Now" className="border-l-4 border-accent pl-3">
      <h2 className="text-title font-bold">{STAGE_WORDS[is.stage]}</h2>
      {is.stage === 'correct'
        ? is.next?.map((n) => (
            <p key={n.plane} className="text-bench font-semibold">
              {n.says}
            </p>
          ))
        : null}
      <p>
        {is.stage === 'done' || is.stage === 'correct' || is.stage === 'refused' ? (
          <VerdictMark verdict={is.verdict} />
        ) : null}{' '}
        {is.reason}
      </p>
      {is.expected !== undefined ? (
        <p className="text-soft">
          Expected after it: {formatNumber(100 * is.expected, 2)} % of what is allowed at the worse bearing
          {is.expectedGMm
            ? ` (A ${sayUnbalance(is.expectedGMm[0] ?? 0, setUp.unbalanceUnit, 3)}, B ${sayUnbalance(is.expectedGMm[1] ?? 0, setUp.unbalanceUnit, 3)})`
            : ''}
          .
        </p>
      ) : null}
      {is.merged ? (
        <p className="text-soft">
          Or take out the {is.merged.out.length} masses that are in, and fix afresh:{' '}
          {is.merged.next.map((n) => n.says).join(' ')} Expected: {formatNumber(100 * is.merged.expected, 2)} %.
        </p>
      ) : null}
      {is.stored ? <p className="text-soft">Influence set of {setUp.stored?.from}, confirmed by a trial.</p> : null}
      {is.stage !== 'correct' && is.stage !== 'done'
        ? is.notes.map((j) => (
            <p key={j.reason}>
              <VerdictMark verdict={j.verdict} /> {j.reason}
            </p>
          ))
        : null}
    </section>
  );
}

/** Each plane seen from the end that was stated: places, heavy spot, where the hand must go. */
export function PlaneViews({ is, setUp }: { is: BalanceNow; setUp: BalanceSetUp }) {
  return setUp.planes.map((p, i) => (
    <EndView
      key={i}
      n={i + 1}
      plane={p}
      heavy={is.unbalance?.[i]}
      step={is.next?.[i]}
      there={is.there[i] ?? []}
      share={Math.max(...is.tolerance.sharesGMm)}
      view={setUp.view}
    />
  ));
}
