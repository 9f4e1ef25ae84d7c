import { limit, type ShopLimits } from '../limits/limits.ts';

/** Copper at about 100 °C that gives no heat away: resistivity over volume heat, K/s at 1 A/mm² (derived: 2.26e-8 Ω m, 385 J/kg K, 8933 kg/m³). */
const COPPER_K_S = (2.26e-8 * 1e12) / (385 * 8933);

/**
 * How long a locked rotor may be on, and how long it then rests.
 * @param densityAMm2 density in the stator's wire at that current, A/mm²; undefined: the longest pulse alone counts
 */
export function lockedPulse(
  densityAMm2: number | undefined,
  limits: ShopLimits = {},
): { mostS: number; kelvinPerS: number | undefined; pauseS: (pulseS: number) => number } {
  const kelvinPerS = densityAMm2 === undefined ? undefined : COPPER_K_S * densityAMm2 ** 2;
  const longest = limit('locked.pulseS', limits);
  return {
    kelvinPerS,
    mostS: kelvinPerS === undefined ? longest : Math.min(longest, limit('locked.pulseK', limits) / kelvinPerS),
    pauseS: (pulseS) => Math.max(limit('locked.pauseS', limits), limit('locked.coolFactor', limits) * pulseS),
  };
}
