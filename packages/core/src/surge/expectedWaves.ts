import type { Joint } from '../network/joints.ts';
import type { Layout } from '../winding/layoutTypes.ts';
import { portsOf } from './motorWaves.ts';
import { surgeWave } from './simulatedWave.ts';
import { waveNames, type SurgeMode } from './suspect.ts';

/** A wave as it was measured: its ring frequency, and its first swing to the other side as a share of the applied voltage. */
export interface MeasuredWave {
  name: string;
  frequencyHz?: number | undefined;
}

/** A wave as the joints would make it. */
export interface ExpectedWave {
  name: string;
  hz: number;
  /** measured against it; undefined where none was measured */
  offPercent?: number;
}

/** √(L/C)/R that is taken where no measured wave shows it. Source: tests reference 4 (2 to 5). */
const USUAL_QUALITY = 3;
const [LEAST_QUALITY, MOST_QUALITY] = [0.8, 50];
/** Any capacitor will do: only frequency and damping are drawn. */
const FARAD = 1e-7;

/**
 * Ring frequencies of the three waves as joints would make them: the pattern from the network (f ~ 1/√L), its size from what was
 * measured (equal geometric means), as the inductance in henry is not known. Undefined where no wave that was measured is among them.
 */
export function expectedWaves(
  layout: Layout,
  joints: readonly Joint[],
  mode: Exclude<SurgeMode, 'not known'>,
  measured: readonly MeasuredWave[],
): ExpectedWave[] | undefined {
  const ports = portsOf(layout, joints, mode);
  const rows = waveNames(mode).map((name, i) => ({
    name,
    relative: 1 / Math.sqrt(ports[i]?.inductance ?? NaN),
    own: measured.find((m) => m.name === name)?.frequencyHz,
  }));
  // an open pair has no inductance between its leads
  if (rows.some((r) => !(r.relative > 0 && Number.isFinite(r.relative)))) return undefined;
  const known = rows.flatMap((r) => (r.own === undefined || !(r.own > 0) ? [] : [Math.log(r.own / r.relative)]));
  if (known.length === 0) return undefined;
  const scale = Math.exp(known.reduce((n, x) => n + x, 0) / known.length);
  return rows.map(({ name, relative, own }) => {
    const hz = scale * relative;
    return { name, hz, ...(own === undefined ? {} : { offPercent: 100 * (own / hz - 1) }) };
  });
}

/**
 * √(L/C)/R from how far a wave swings to the other side: −v_min/V = e^(−π a/ω), and √(L/C)/R = √(a² + ω²)/(2a). Source: derived.
 * @example qualityOf(0.5) // 2.3…
 */
export function qualityOf(swing: number): number {
  if (!(swing > 0 && swing < 1)) return USUAL_QUALITY;
  const share = -Math.log(swing) / Math.PI;
  return Math.min(MOST_QUALITY, Math.max(LEAST_QUALITY, Math.sqrt(1 + share * share) / (2 * share)));
}

/** A wave of a ring frequency and a quality, volts over seconds. */
export function ringing(
  hz: number,
  quality: number,
  appliedV: number,
  window: { dtS: number; samples: number },
): Float64Array {
  // ω = ω₀ √(1 − 1/(4 Q²))
  const w0 = (2 * Math.PI * hz) / Math.sqrt(1 - 1 / (4 * quality * quality));
  const henry = 1 / (w0 * w0 * FARAD);
  return Float64Array.from(
    surgeWave({ ohm: Math.sqrt(henry / FARAD) / quality, henry, farad: FARAD }, appliedV, window.dtS, window.samples).v,
  );
}
