import type { FieldValue } from '../quantity/fields.ts';
import { highestRating, type Nameplate } from '../machine/nameplate.ts';

/** A recorded test that stands: what was read, and what was found in it. */
export interface FoundTest {
  kind: string;
  values: Readonly<Record<string, FieldValue>>;
  /** what the test found */
  found: Readonly<Record<string, unknown>>;
}

const list = (v: FieldValue | undefined): number[] =>
  Array.isArray(v) ? v.filter((n): n is number => typeof n === 'number') : [];
const one = (v: unknown): number | undefined => (typeof v === 'number' && Number.isFinite(v) ? v : undefined);
const nearest = (values: readonly number[], wanted: number): number =>
  values.reduce((best, v, i) => (Math.abs(v - wanted) < Math.abs((values[best] ?? Infinity) - wanted) ? i : best), 0);

/**
 * The readings that an equivalent circuit is worked out from: no load at the rated voltage, friction from the same curve, the locked
 * point nearest to the rated current.
 * @returns a sentence where something is missing
 */
export function circuitReadings(tests: readonly FoundTest[], plate: Nameplate, poles: number | undefined) {
  const last = (kind: string) => tests.filter((t) => t.kind === kind).at(-1);
  const [noLoad, locked] = [last('noLoadCurve'), last('lockedRotor')];
  const { lineV: ratedV, ratedA } = highestRating(plate);
  const wanted = [
    [noLoad, 'the no-load curve'],
    [locked, 'the locked rotor test'],
    [ratedV, 'the rated voltage'],
    [ratedA, 'the rated current'],
    [plate.frequencyHz, 'the frequency'],
    [poles ?? plate.poles, 'the poles'],
  ] as const;
  const missing = wanted.flatMap(([value, name]) => (value === undefined ? [name] : []));
  const { frequencyHz } = plate;
  const p = poles ?? plate.poles;
  if (
    !noLoad ||
    !locked ||
    ratedV === undefined ||
    ratedA === undefined ||
    frequencyHz === undefined ||
    p === undefined
  )
    return `For the circuit of this motor ${missing.join(', ')} ${missing.length === 1 ? 'is' : 'are'} missing.`;
  const frictionW = one(noLoad.found['frictionW']);
  if (frictionW === undefined || frictionW < 0) return 'The no-load curve gives no friction: take lower voltages.';
  const [nv, na, nw] = ['volts', 'amps', 'watts'].map((n) => list(noLoad.values[n])) as [number[], number[], number[]];
  const [lv, la, lw] = ['volts', 'amps', 'watts'].map((n) => list(locked.values[n])) as [number[], number[], number[]];
  if (lw.length !== lv.length) return 'The locked rotor test has no powers: they tell the resistances.';
  const [n, l] = [nearest(nv, ratedV), nearest(la, ratedA)];
  const lineOhm = one(noLoad.values['lineOhm']);
  if (lineOhm === undefined) return 'The no-load curve has no resistance.';
  const lockedOhm = one(locked.values['lineOhm']);
  return {
    ratedV,
    frequencyHz,
    poles: p,
    noLoad: { lineV: nv[n] ?? 0, amps: na[n] ?? 0, watts: nw[n] ?? 0 },
    locked: {
      lineV: lv[l] ?? 0,
      amps: la[l] ?? 0,
      watts: lw[l] ?? 0,
      frequencyHz: one(locked.values['frequency']) ?? frequencyHz,
    },
    r1Ohm: lineOhm / 2,
    ...(lockedOhm === undefined ? {} : { r1LockedOhm: lockedOhm / 2 }),
    frictionW,
    ...(plate.outputW === undefined ? {} : { outputW: plate.outputW }),
  };
}
