import type { SurgePulse } from './wave.ts';

/** A capacitor charged to a voltage, switched onto a coil with its losses. */
export interface SurgeCircuit {
  ohm: number;
  henry: number;
  farad: number;
}

/** Part of a winding short-circuited in itself. */
export interface ShortedPart {
  /** turns of the part over turns of the winding, n_s/N */
  turnsShare: number;
  /** k² between the part and the rest */
  couplingSquared: number;
  /** resistance round the short, ohm */
  loopOhm: number;
}

/**
 * v(t) = V₀ e^(−at)(cos wt + (a/w) sin wt), a = R/2L, w = √(1/LC − a²). Critically damped and beyond, the same equation with its own
 * solutions. Source: the series circuit, derived.
 * @returns `samples` values from the closing of the switch on
 */
export function surgeWave(
  { ohm, henry, farad }: SurgeCircuit,
  appliedV: number,
  dtS: number,
  samples: number,
): SurgePulse {
  const a = ohm / (2 * henry);
  const square = 1 / (henry * farad) - a * a;
  const v = new Float64Array(samples);
  const w = Math.sqrt(Math.abs(square));
  for (let i = 0; i < samples; i++) {
    const t = i * dtS;
    v[i] =
      w * t < 1e-9
        ? appliedV * Math.exp(-a * t) * (1 + a * t)
        : square > 0
          ? appliedV * Math.exp(-a * t) * (Math.cos(w * t) + (a / w) * Math.sin(w * t))
          : // e^(−at) cosh and sinh, written so that nothing overflows
            appliedV * 0.5 * (Math.exp((w - a) * t) * (1 + a / w) + Math.exp(-(w + a) * t) * (1 - a / w));
  }
  return { v, dtS, appliedV };
}

/** What the circuit becomes with a part of the winding shorted in itself: L′ and R′ at the ring frequency. */
export function withShort({ ohm, henry, farad }: SurgeCircuit, short: ShortedPart): SurgeCircuit {
  const w = 1 / Math.sqrt(henry * farad);
  const own = short.turnsShare ** 2 * henry;
  const D = short.loopOhm ** 2 + (w * own) ** 2;
  const shared = (w * w * short.couplingSquared * henry * own) / D;
  return { ohm: ohm + shared * short.loopOhm, henry: henry - shared * own, farad };
}

/** Ring frequency of the circuit, Hz; 0 where it does not ring. */
export function circuitHz({ ohm, henry, farad }: SurgeCircuit): number {
  const square = 1 / (henry * farad) - (ohm / (2 * henry)) ** 2;
  return square > 0 ? Math.sqrt(square) / (2 * Math.PI) : 0;
}
