import { formatNumber, type BalanceNow, type BalancePlane, type FixedMass, type PlaneStep } from '@norther/core';

const SIZE = 250;
const MID = SIZE / 2;
const RIM = 84;
const at = (deg: number, r: number): [number, number] => {
  // 0 above, angles growing to the right
  const rad = ((deg - 90) * Math.PI) / 180;
  return [MID + r * Math.cos(rad), MID + r * Math.sin(rad)];
};

/** One plane seen from the end that was stated: places, taken ones crossed, the heavy spot, and where the hand must go. */
export function EndView({
  n,
  plane,
  heavy,
  step,
  there = [],
  share,
  view,
}: {
  n: number;
  plane: BalancePlane;
  heavy: NonNullable<BalanceNow['unbalance']>[number] | undefined;
  step: PlaneStep | undefined;
  /** masses that sit there, or were taken there, already */
  there?: readonly FixedMass[];
  share: number;
  /** the end from which both planes are seen */
  view: string;
}) {
  const places = Array.from({ length: plane.places }, (_, i) => ({
    number: i + 1,
    deg: plane.firstDeg + (360 * i) / plane.places,
  }));
  const said = step?.says ?? `Plane ${n}`;
  // the heavy spot: its length says how large, cut off at the rim
  const long = heavy ? Math.min(RIM - 8, Math.max(18, (heavy.size / Math.max(share, 1e-9)) * 18)) : 0;
  return (
    <figure className="m-0">
      <svg
        viewBox={`-16 0 ${SIZE + 32} ${SIZE}`}
        className="w-full h-auto block max-w-[290px]"
        role="img"
        aria-label={said}
      >
        <circle cx={MID} cy={MID} r={RIM} fill="var(--sheet)" stroke="var(--ink)" strokeWidth="2" />
        <circle cx={MID} cy={MID} r={9} fill="var(--sunk)" stroke="var(--ink)" />
        {/* masses are numbered the way it turns; a lag is turned round before it is drawn */}
        <path
          d={`M${at(305, RIM - 30).join(' ')}A${RIM - 30} ${RIM - 30} 0 0 1 ${at(55, RIM - 30).join(' ')}`}
          fill="none"
          stroke="var(--soft)"
          strokeWidth="1.5"
        />
        <path
          d={`M${at(55, RIM - 36).join(' ')}L${at(66, RIM - 30).join(' ')}L${at(55, RIM - 24).join(' ')}Z`}
          fill="var(--soft)"
        />
        {[0, 90, 180, 270].map((deg) => {
          const [x1, y1] = at(deg, RIM);
          const [x2, y2] = at(deg, RIM + 7);
          const [tx, ty] = at(deg, RIM + (plane.places > 0 ? 34 : 20));
          return (
            <g key={deg}>
              <path d={`M${x1} ${y1}L${x2} ${y2}`} stroke="var(--soft)" />
              <text x={tx} y={ty + 4} textAnchor="middle" fontSize="12" fill="var(--soft)">
                {deg}°
              </text>
            </g>
          );
        })}
        {places.map((p) => {
          const [x, y] = at(p.deg, RIM);
          const [tx, ty] = at(p.deg, RIM + 17);
          const taken = plane.taken.includes(p.number);
          return (
            <g key={p.number}>
              <circle
                cx={x}
                cy={y}
                r={5}
                fill="var(--sheet)"
                stroke={taken ? 'var(--soft)' : 'var(--ink)'}
                strokeWidth="1.5"
              />
              {taken ? (
                <path d={`M${x - 4} ${y - 4}l8 8M${x + 4} ${y - 4}l-8 8`} stroke="var(--fail)" strokeWidth="1.8" />
              ) : null}
              {plane.places <= 24 ? (
                <text x={tx} y={ty + 4} textAnchor="middle" fontSize="11" fill={taken ? 'var(--soft)' : 'var(--ink)'}>
                  {p.number}
                </text>
              ) : null}
            </g>
          );
        })}
        {heavy && heavy.size > 0 ? (
          <path
            d={`M${MID} ${MID}L${at(heavy.angleDeg, long).join(' ')}`}
            stroke="var(--attention)"
            strokeWidth="4"
            strokeLinecap="round"
          />
        ) : null}
        {there.map((m) => {
          const [x, y] = at(m.angleDeg, RIM - 15);
          return (
            <rect
              key={m.angleDeg}
              x={x - 5}
              y={y - 5}
              width={10}
              height={10}
              fill={m.massG > 0 ? 'var(--ink)' : 'var(--sheet)'}
              stroke="var(--ink)"
              strokeWidth="1.5"
            />
          );
        })}
        {(step?.masses ?? []).map((m) => {
          const [x, y] = at(m.angleDeg, RIM);
          return (
            <g key={m.angleDeg}>
              <circle
                cx={x}
                cy={y}
                r={10}
                fill={plane.way === 'add' ? 'var(--accent)' : 'var(--sheet)'}
                stroke="var(--accent)"
                strokeWidth="3"
              />
              <text
                x={x}
                y={y + 4}
                textAnchor="middle"
                fontSize="12"
                fontWeight="700"
                fill={plane.way === 'add' ? 'var(--on-accent)' : 'var(--accent)'}
              >
                {plane.way === 'add' ? '+' : '−'}
              </text>
            </g>
          );
        })}
      </svg>
      <figcaption className="text-small text-soft">
        Plane {n}, seen from the {view}: 0° is the mark, angles grow the way it turns (arrow).
        {there.length > 0
          ? ` Squares: ${plane.way === 'add' ? 'masses that sit there' : 'where material was taken'} (${formatNumber(
              there.reduce((sum, m) => sum + Math.abs(m.massG) * m.radiusMm, 0),
              3,
            )} g·mm in all).`
          : ''}
        {heavy ? ` Heavy spot ${formatNumber(heavy.size, 4)} g·mm at ${formatNumber(heavy.angleDeg, 4)}°.` : ''}
      </figcaption>
    </figure>
  );
}
