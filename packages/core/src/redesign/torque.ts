import type { RedesignWish } from './wish.ts';

/** A torque that differs by less than this share is the torque as found (docs/derivations.md 9). */
const SAME_TORQUE = 0.02;

export interface OutputAndTorque {
  /** wanted output over rated output */
  outputRatio: number;
  /** torque at that output over rated torque */
  torqueRatio: number;
  /** air gap density the turns aim at, over as found: √torque, or 1 where the flux is kept */
  fluxRatio: number;
  /** the output was not given: torque kept */
  assumed: boolean;
}

/**
 * What a wished output asks of the machine. Speed goes with f/P, so k_T = k_P (P₂/P₁)(f₁/f₂); the torques go with the square of the
 * flux. With no output given the torque is kept, and the output follows the speed. Source: docs/derivations.md 9 (derived).
 * @example outputAndTorque({ powerRatio: 1.2, frequencyHz: 60 }, { frequencyHz: 50, poles: 4 }).torqueRatio // 1
 */
export function outputAndTorque(
  wish: Pick<RedesignWish, 'powerRatio' | 'frequencyHz' | 'poles' | 'flux'>,
  was: { frequencyHz: number; poles: number },
): OutputAndTorque {
  const frequency = (wish.frequencyHz ?? was.frequencyHz) / was.frequencyHz;
  const poles = (wish.poles ?? was.poles) / was.poles;
  const outputRatio = wish.powerRatio ?? frequency / poles;
  const exact = (outputRatio * poles) / frequency;
  const torqueRatio = Math.abs(exact - 1) <= SAME_TORQUE + 1e-12 ? 1 : exact;
  return {
    outputRatio,
    torqueRatio,
    fluxRatio: wish.flux === 'as found' ? 1 : Math.sqrt(torqueRatio),
    assumed: wish.powerRatio === undefined,
  };
}
