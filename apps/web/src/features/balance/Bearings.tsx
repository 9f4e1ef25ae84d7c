import {
  bearingsPlot,
  complexOf,
  formatNumber,
  sayUnbalance,
  staticAndCouple,
  unbalanceFactor,
  type BalanceNow,
  type BalanceSetUp,
} from '@norther/core';
import { DrawingView } from '../../drawing/DrawingView.tsx';

/** What the bearings feel, with the ring of what is allowed; of two planes the static part and the couple. */
export function Bearings({ is, setUp }: { is: BalanceNow; setUp: BalanceSetUp }) {
  if (!is.bearings) return null;
  const [u1, u2] = is.unbalance ?? [];
  const parts =
    u1 && u2
      ? staticAndCouple(complexOf(u1), complexOf(u2), (setUp.planes[1]?.xMm ?? 0) - (setUp.planes[0]?.xMm ?? 0))
      : undefined;
  const factor = unbalanceFactor(setUp.unbalanceUnit);
  const say = (gMm: number) => sayUnbalance(gMm, setUp.unbalanceUnit, 3);
  return (
    <>
      <DrawingView drawing={bearingsPlot(is.bearings)} className="max-w-[300px]" />
      <dl className="grid grid-cols-[auto_1fr] gap-x-3 gap-y-1 self-start" aria-label="Figures of this run">
        {is.bearings.map((b, i) => (
          <div key={i} className="contents">
            <dt className="text-soft">Bearing {i === 0 ? 'A' : 'B'}</dt>
            <dd>
              {formatNumber(b.gMm / factor, 3)} of {say(b.allowedGMm)}, at {formatNumber(b.angleDeg, 3)}°
            </dd>
          </div>
        ))}
        {is.levels?.map((l, i) => (
          <div key={`l${i}`} className="contents">
            <dt className="text-soft">Once per turn, {i === 0 ? 'A' : 'B'}</dt>
            <dd>
              {formatNumber(l.mmS, 3)} of {formatNumber(l.allowedMmS, 3)} mm/s rms
            </dd>
          </div>
        ))}
        {parts ? (
          <>
            <dt className="text-soft">Static part</dt>
            <dd>
              {say(parts.staticGMm.size)} at {formatNumber(parts.staticGMm.angleDeg, 4)}°
            </dd>
            <dt className="text-soft">Couple, at plane 1</dt>
            <dd>
              {say(parts.coupleGMm.size)} at {formatNumber(parts.coupleGMm.angleDeg, 4)}°
            </dd>
          </>
        ) : null}
        {is.inPlanes.map((v, i) =>
          v ? (
            <div key={`m${i}`} className="contents">
              <dt className="text-soft">Masses in plane {i + 1}</dt>
              <dd>
                {say(v.size)} at {formatNumber(v.angleDeg, 4)}° together
              </dd>
            </div>
          ) : null,
        )}
      </dl>
    </>
  );
}
