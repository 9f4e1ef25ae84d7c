import { forceN } from './planes.ts';

/** Gravity as the trade reckons it, m/s². */
const GRAVITY = 9.81;

/** A trial mass by both rules, g·mm of one plane, and what it pulls with at the balancing speed. Common practice. */
export interface TrialMass {
  /** a tenth of the static load of the bearing as force */
  byForceGMm: number;
  /** five to ten times the share of the tolerance */
  byToleranceGMm: readonly [number, number];
  /** the smaller to begin with */
  gMm: number;
  /** where the response is too weak: not beyond this */
  mostGMm: number;
  forceN: number;
}

/**
 * @param massKg mass of the rotor; the bearing carries half of it
 * @param shareGMm permissible unbalance of the plane
 */
export function trialMass(massKg: number, rpm: number, shareGMm: number): TrialMass {
  const w = (2 * Math.PI * rpm) / 60;
  const byForceGMm = (0.1 * (massKg / 2) * GRAVITY * 1e6) / w ** 2;
  const byToleranceGMm = [5 * shareGMm, 10 * shareGMm] as const;
  const gMm = Math.min(byForceGMm, byToleranceGMm[0]);
  return {
    byForceGMm,
    byToleranceGMm,
    gMm,
    mostGMm: Math.max(byForceGMm, byToleranceGMm[1]),
    forceN: forceN(gMm, rpm),
  };
}
