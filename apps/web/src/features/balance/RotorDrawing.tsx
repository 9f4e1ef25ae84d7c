import type { BalanceSetUp } from '@norther/core';

const WIDE = 640;
const HIGH = 170;
const EDGE = 46;

/** The rotor along its shaft, to scale as it was typed: bearings, planes, centre of mass, both ends named. */
export function RotorDrawing({ setUp }: { setUp: BalanceSetUp }) {
  const { bearingAMm: a, bearingBMm: b, centreMm, planes, bodyMm } = setUp;
  const all = [
    a,
    b,
    centreMm,
    ...planes.map((p) => p.xMm),
    ...(bodyMm ? [centreMm - bodyMm / 2, centreMm + bodyMm / 2] : []),
  ];
  const [low, high] = [Math.min(...all), Math.max(...all)];
  const scale = (WIDE - 2 * EDGE) / Math.max(1, high - low);
  // bearing A stands at the left, whichever way the datum counts
  const x = (mm: number) => (b >= a ? EDGE + (mm - low) * scale : WIDE - EDGE - (mm - low) * scale);
  const mid = HIGH / 2 - 8;
  const most = Math.max(...planes.map((p) => p.radiusMm));
  const r = (mm: number) => Math.min(48, Math.max(10, (mm / most) * 48));
  const bearing = (at: number, name: string) => (
    <g key={name}>
      <path d={`M${x(at)} ${mid + 5}l-11 22h22z`} fill="var(--sunk)" stroke="var(--ink)" strokeWidth="1.5" />
      <text x={x(at)} y={mid + 44} textAnchor="middle" fontSize="13" fontWeight="600" fill="var(--ink)">
        {name}
      </text>
      <text x={x(at)} y={mid + 60} textAnchor="middle" fontSize="12" fill="var(--soft)">
        {Math.round(at * 10) / 10}
      </text>
    </g>
  );
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      className="w-full h-auto block max-w-[720px]"
      role="img"
      aria-label="Rotor, bearings and planes to scale"
    >
      <path
        d={`M${x(low) < x(high) ? EDGE - 26 : EDGE - 26} ${mid}H${WIDE - EDGE + 26}`}
        stroke="var(--ink)"
        strokeWidth="5"
      />
      {bodyMm || planes.length > 1 ? (
        <rect
          x={Math.min(
            x(bodyMm ? centreMm - bodyMm / 2 : (planes[0]?.xMm ?? 0)),
            x(bodyMm ? centreMm + bodyMm / 2 : (planes[1]?.xMm ?? 0)),
          )}
          y={mid - 34}
          width={Math.abs(
            x(bodyMm ? centreMm + bodyMm / 2 : (planes[1]?.xMm ?? 0)) -
              x(bodyMm ? centreMm - bodyMm / 2 : (planes[0]?.xMm ?? 0)),
          )}
          height={68}
          fill="var(--sunk)"
          stroke="var(--edge)"
        />
      ) : null}
      {bearing(a, 'A')}
      {bearing(b, 'B')}
      {planes.map((p, i) => (
        <g key={i}>
          <path
            d={`M${x(p.xMm)} ${mid - r(p.radiusMm)}V${mid + r(p.radiusMm)}`}
            stroke="var(--accent)"
            strokeWidth="4"
          />
          <text
            x={x(p.xMm)}
            y={mid - r(p.radiusMm) - 6}
            textAnchor="middle"
            fontSize="13"
            fontWeight="600"
            fill="var(--ink)"
          >
            plane {i + 1}
          </text>
          <text x={x(p.xMm)} y={mid + r(p.radiusMm) + 14} textAnchor="middle" fontSize="12" fill="var(--soft)">
            {Math.round(p.xMm * 10) / 10}
          </text>
        </g>
      ))}
      <circle cx={x(centreMm)} cy={mid} r={6} fill="var(--sheet)" stroke="var(--ink)" strokeWidth="2" />
      <path d={`M${x(centreMm)} ${mid - 6}v12M${x(centreMm) - 6} ${mid}h12`} stroke="var(--ink)" strokeWidth="1.5" />
      <text x={EDGE - 40} y={16} fontSize="12" fill="var(--soft)">
        end of bearing A
      </text>
      <text x={WIDE - 6} y={16} textAnchor="end" fontSize="12" fill="var(--soft)">
        end of bearing B
      </text>
    </svg>
  );
}
