import { highestRating, type Nameplate } from '../machine/nameplate.ts';
import { atSlip, slipAtOutput, type Circuit, type Supply } from './circuit.ts';

/** Shares of the rated output that friction and core take where the plate names no efficiency; ratio of locked to rated current (common practice). */
const USUAL = { friction: 0.01, core: 0.022 } as const;
/** Of the constant losses the core's; stray losses of the output; the least that either takes (common practice). */
const SHARED = { core: 0.7, stray: 0.012, least: 0.002 } as const;
const LOCKED = 6;
/** Share of the leakage that is the stator's (design B; IEEE 112, from memory). */
const STATOR_SHARE = 0.4;
/** A warm winding has this much of its resistance at 20 °C. */
const WARM = (235 + 75) / (235 + 20);
/** No-load current where nothing better is known, of the rated one (common practice). */
const NO_LOAD = 0.35;

export interface PlateMachine {
  circuit: Circuit;
  supply: Supply;
  ratedSlip: number;
  ratedA: number;
  ratedNm: number;
}

/**
 * A circuit that gives what the plate declares: rated output at rated speed, locked current six times the rated one, with the
 * winding's own resistance and no-load current where they are known. For simulated machines and for a first look, not for a verdict.
 * @param own line resistance at 20 °C and no-load line current of this motor's own winding
 * @returns a sentence where the plate does not suffice
 */
export function plateMachine(
  plate: Nameplate,
  own: { line20Ohm?: number | undefined; noLoadA?: number | undefined } = {},
): PlateMachine | string {
  const { outputW, frequencyHz, speedRpm, poles } = plate;
  const { lineV, ratedA } = highestRating(plate);
  const missing = [
    [outputW, 'output'],
    [lineV, 'voltage'],
    [ratedA, 'current'],
    [frequencyHz, 'frequency'],
    [speedRpm, 'speed'],
    [poles, 'poles'],
  ].flatMap(([value, name]) => (value === undefined ? [name as string] : []));
  if (
    outputW === undefined ||
    frequencyHz === undefined ||
    speedRpm === undefined ||
    poles === undefined ||
    lineV === undefined ||
    ratedA === undefined
  )
    return `The plate lacks ${missing.join(', ')}.`;
  const synchronous = (120 * frequencyHz) / poles;
  const ratedSlip = (synchronous - speedRpm) / synchronous;
  if (!(ratedSlip > 0 && ratedSlip < 0.2))
    return `${speedRpm} r/min is no speed of a loaded motor with ${poles} poles at ${frequencyHz} Hz.`;
  const phaseV = lineV / Math.sqrt(3);
  const leakage = phaseV / (LOCKED * ratedA);
  const supply: Supply = { lineV, frequencyHz, poles };
  const noLoadA = Math.min(own.noLoadA ?? NO_LOAD * ratedA, 0.9 * ratedA);
  const withShares = (r2: number, share: { friction: number; core: number }): Circuit => ({
    r1: own.line20Ohm === undefined ? 0.02 * (phaseV / ratedA) : (own.line20Ohm / 2) * WARM,
    x1: STATOR_SHARE * leakage,
    r2,
    x2: (1 - STATOR_SHARE) * leakage,
    xm: Math.max(phaseV / noLoadA - STATOR_SHARE * leakage, leakage),
    rfe: (lineV * lineV) / (share.core * outputW),
    frictionW: share.friction * outputW,
  });
  // the rotor resistance at which the rated output comes at the rated speed: near s V²/P, so sought round it
  const found = (share: { friction: number; core: number }): Circuit => {
    let [low, high] = [1e-4, 4].map((k) => (k * ratedSlip * phaseV * phaseV * 3) / outputW) as [number, number];
    for (let i = 0; i < 100; i++) {
      const middle = (low + high) / 2;
      if (atSlip(withShares(middle, share), supply, ratedSlip).shaftW > outputW) low = middle;
      else high = middle;
    }
    return withShares((low + high) / 2, share);
  };
  let circuit = found(USUAL);
  const efficiency = plate.efficiencyPercent === undefined ? undefined : plate.efficiencyPercent / 100;
  // what the plate's efficiency leaves beside the windings' losses is core and friction
  for (let i = 0; i < 4 && efficiency !== undefined; i++) {
    const at = atSlip(circuit, supply, ratedSlip);
    const windings = 3 * at.amps ** 2 * circuit.r1 + (ratedSlip * outputW) / (1 - ratedSlip);
    const rest = Math.max(0, 1 / efficiency - 1 - windings / outputW - SHARED.stray);
    circuit = found({
      core: Math.max(SHARED.least, SHARED.core * rest),
      friction: Math.max(SHARED.least, (1 - SHARED.core) * rest),
    });
  }
  const slip = slipAtOutput(circuit, supply, outputW);
  if (slip === undefined || Math.abs(slip / ratedSlip - 1) > 0.01)
    return `No machine of ${lineV} V and ${ratedA} A gives ${outputW / 1000} kW at ${speedRpm} r/min.`;
  return { circuit, supply, ratedSlip, ratedA, ratedNm: (outputW * 30) / (Math.PI * speedRpm) };
}
