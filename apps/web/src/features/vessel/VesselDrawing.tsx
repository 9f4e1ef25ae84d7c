import { formatNumber, type VesselSetUp } from '@norther/core';
import type { CycleView } from '@norther/contracts';

const WIDE = 190;
const HIGH = 250;
const WALL = 6;

/** The vessel cut through, to scale: stand, part, how high the resin stands, the level that covers the part. */
export function VesselDrawing({ setUp, cycle }: { setUp: VesselSetUp; cycle: CycleView | null }) {
  const scale = Math.min(WIDE / setUp.diameterMm, HIGH / setUp.depthMm);
  const w = setUp.diameterMm * scale;
  const h = setUp.depthMm * scale;
  const y = (mm: number) => h - Math.max(0, Math.min(setUp.depthMm, mm)) * scale;
  const level = typeof cycle?.signals['level_mm'] === 'number' ? cycle.signals['level_mm'] : undefined;
  const gauge = typeof cycle?.signals['gauge_bar'] === 'number' ? cycle.signals['gauge_bar'] : undefined;
  const abs = typeof cycle?.signals['abs_mbar'] === 'number' ? cycle.signals['abs_mbar'] : undefined;
  const cover = cycle ? cycle.partTopMm + setUp.coverMm : undefined;
  return (
    <svg
      viewBox={`0 0 ${w + 2 * WALL + 96} ${h + 2 * WALL + 8}`}
      className="w-full max-w-[320px] h-auto block"
      role="img"
      aria-label={`Vessel${level === undefined ? '' : `, resin at ${formatNumber(level)} mm`}`}
    >
      <g transform={`translate(${WALL} ${WALL})`}>
        <path
          d={`M0 0 V${h} H${w} V0`}
          fill="var(--sheet)"
          stroke="var(--ink)"
          strokeWidth={WALL}
          strokeLinejoin="round"
        />
        <path
          d={`M${-WALL} 0 H${w + WALL}`}
          stroke="var(--ink)"
          strokeWidth={cycle ? WALL : 2}
          strokeDasharray={cycle ? undefined : '5 4'}
        />
        {level !== undefined && level > 0 ? (
          <rect
            x={WALL / 2}
            y={y(level)}
            width={w - WALL}
            height={h - y(level) - WALL / 2}
            fill="var(--accent)"
            fillOpacity="0.28"
          />
        ) : null}
        {cycle ? (
          <>
            <rect
              x={w * 0.3}
              y={y(cycle.partTopMm)}
              width={w * 0.4}
              height={(cycle.partTopMm - setUp.standMm) * scale}
              fill="var(--sunk)"
              stroke="var(--ink)"
              strokeWidth="1.5"
            />
            <rect
              x={w * 0.42}
              y={y(cycle.partTopMm)}
              width={w * 0.16}
              height={(cycle.partTopMm - setUp.standMm) * scale}
              fill="var(--sheet)"
              stroke="var(--edge)"
            />
            <path
              d={`M${w * 0.36} ${h - WALL / 2} V${y(setUp.standMm)} M${w * 0.64} ${h - WALL / 2} V${y(setUp.standMm)}`}
              stroke="var(--edge)"
              strokeWidth="2"
            />
          </>
        ) : null}
        {cover !== undefined ? (
          <>
            <path d={`M0 ${y(cover)} H${w + 8}`} stroke="var(--attention)" strokeDasharray="6 4" />
            <text x={w + 12} y={y(cover) + 4} fontSize="11.5" fill="var(--soft)">
              covered at {formatNumber(cover)}
            </text>
          </>
        ) : null}
        {level !== undefined ? (
          <text x={w + 12} y={Math.min(h, y(level) + 20)} fontSize="11.5" fill="var(--ink)">
            resin {formatNumber(level)} mm
          </text>
        ) : null}
        <text x={w + 12} y={12} fontSize="13" fontWeight="600" fill="var(--ink)">
          {gauge !== undefined && gauge > 0.05
            ? `${formatNumber(gauge, 2)} bar`
            : abs !== undefined && abs < 900
              ? `${formatNumber(abs, 3)} mbar`
              : ''}
        </text>
      </g>
    </svg>
  );
}
