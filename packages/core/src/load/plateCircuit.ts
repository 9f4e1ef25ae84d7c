import type { Nameplate } from '../machine/nameplate.ts';
import { atSlip, slipAtOutput, type Circuit, type Supply } from './circuit.ts';

/** Shares of the rated output that friction and core take, ratio of locked to rated current (common practice). */
const FRICTION = 0.01;
const CORE = 0.022;
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
  const { outputW, frequencyHz, speedRpm, poles, voltagesV, currentsA } = plate;
  const missing = [
    [outputW, 'output'],
    [voltagesV, 'voltage'],
    [currentsA, 'current'],
    [frequencyHz, 'frequency'],
    [speedRpm, 'speed'],
    [poles, 'poles'],
  ].flatMap(([value, name]) => (value === undefined ? [name as string] : []));
  if (
    outputW === undefined ||
    frequencyHz === undefined ||
    speedRpm === undefined ||
    poles === undefined ||
    voltagesV === undefined ||
    currentsA === undefined
  )
    return `The plate lacks ${missing.join(', ')}.`;
  const lineV = Math.max(...voltagesV);
  const ratedA = currentsA[voltagesV.indexOf(lineV)] ?? Math.min(...currentsA);
  const synchronous = (120 * frequencyHz) / poles;
  const ratedSlip = (synchronous - speedRpm) / synchronous;
  if (!(ratedSlip > 0 && ratedSlip < 0.2))
    return `${speedRpm} r/min is no speed of a loaded motor with ${poles} poles at ${frequencyHz} Hz.`;
  const phaseV = lineV / Math.sqrt(3);
  const leakage = phaseV / (LOCKED * ratedA);
  const supply: Supply = { lineV, frequencyHz, poles };
  const noLoadA = Math.min(own.noLoadA ?? NO_LOAD * ratedA, 0.9 * ratedA);
  const with2 = (r2: number): Circuit => ({
    r1: own.line20Ohm === undefined ? 0.02 * (phaseV / ratedA) : (own.line20Ohm / 2) * WARM,
    x1: STATOR_SHARE * leakage,
    r2,
    x2: (1 - STATOR_SHARE) * leakage,
    xm: Math.max(phaseV / noLoadA - STATOR_SHARE * leakage, leakage),
    rfe: (lineV * lineV) / (CORE * outputW),
    frictionW: FRICTION * outputW,
  });
  // the rotor resistance at which the rated output comes at the rated speed: near s V²/P, so sought round it
  let [low, high] = [1e-4, 4].map((k) => (k * ratedSlip * phaseV * phaseV * 3) / outputW) as [number, number];
  for (let i = 0; i < 100; i++) {
    const middle = (low + high) / 2;
    const more = atSlip(with2(middle), supply, ratedSlip).shaftW > outputW;
    if (more) low = middle;
    else high = middle;
  }
  const circuit = with2((low + high) / 2);
  const slip = slipAtOutput(circuit, supply, outputW);
  if (slip === undefined || Math.abs(slip / ratedSlip - 1) > 0.01)
    return `No machine of ${lineV} V and ${ratedA} A gives ${outputW / 1000} kW at ${speedRpm} r/min.`;
  return { circuit, supply, ratedSlip, ratedA, ratedNm: (outputW * 30) / (Math.PI * speedRpm) };
}
