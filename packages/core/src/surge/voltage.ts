import { limit, quoteLimit } from '../limits/limits.ts';
import type { ShopLimits } from '../limits/limits.ts';
import { formatNumber } from '../quantity/format.ts';

/** A test voltage with how it came about. */
export interface RequiredVoltage {
  /** crest, V */
  crestV: number;
  /** formula with the numbers in it */
  formula: string;
  source: string;
}

/** New: per unit of √(2/3) U for a rise of 0.1 to 0.2 µs, and of 1.2 µs or longer. Source: IEEE 522 (from memory). */
const STEEP_PU = 3.5;
const SLOW_PU = 5;
const SLOW_RISE_US = 1.2;

/** Crest of the voltage to earth, V: 1 per unit. */
export const perUnitV = (lineV: number): number => Math.sqrt(2 / 3) * lineV;

/** What is tested, as far as the voltage goes. */
export interface SurgeState {
  lineV: number;
  winding: 'random-wound' | 'form-wound';
  state: 'new' | 'before resin' | 'service';
  /** rise of the tester's pulse, µs; 0.2 where nothing is said */
  riseUs?: number | undefined;
}

/** The crest that a surge comparison wants. Sources: IEEE 522 for form-wound coils (from memory); 2 E + 1000 V common practice. */
export function surgeVoltage(
  { lineV, winding, state, riseUs = 0.2 }: SurgeState,
  limits: ShopLimits = {},
): RequiredVoltage {
  const form = winding === 'form-wound';
  const pu = riseUs >= SLOW_RISE_US ? SLOW_PU : STEEP_PU;
  const full = form ? pu * perUnitV(lineV) : 2 * lineV + 1000;
  const formula = form ? `${pu} · √(2/3) · ${formatNumber(lineV)} V` : `2 · ${formatNumber(lineV)} V + 1000 V`;
  const share =
    state === 'before resin'
      ? 'surge.beforeResinPercent'
      : state === 'service'
        ? form
          ? 'surge.serviceFormPercent'
          : 'surge.serviceRandomPercent'
        : undefined;
  const percent = share === undefined ? 100 : limit(share, limits);
  const source = form ? 'IEEE 522 (from memory)' : 'common practice';
  return {
    crestV: (full * percent) / 100,
    formula: percent === 100 ? formula : `${formatNumber(percent)} % of ${formula}`,
    source: share === undefined || limits[share] === undefined ? source : `${source}; ${quoteLimit(share, limits)}`,
  };
}

/** Lightning and steep-front impulse of sample coils, V. Source: IEC 60034-15 (from memory). */
export const sampleCoilV = (lineV: number): { impulseV: number; steepFrontV: number } => {
  const impulseV = 4 * lineV + 5000;
  return { impulseV, steepFrontV: 0.65 * impulseV };
};
