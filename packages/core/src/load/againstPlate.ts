import type { FoundTest } from './circuitOfTests.ts';
import type { Nameplate } from '../machine/nameplate.ts';
import { notAbove, notBelow, type Verdict } from '../verdict.ts';
import { atOutput, type LoadRow } from './efficiency.ts';
import { allowed, type Toleranced } from './plateTolerance.ts';

/** One quantity: what the plate or the data sheet declares, what was measured, what is allowed. */
export interface AgainstPlate {
  what: Toleranced;
  /** share for efficiency, power factor and slip; ampere, N m */
  unit: '%' | '' | 'A' | 'N·m';
  declared: number | undefined;
  measured: number | undefined;
  from?: number | undefined;
  to?: number | undefined;
  says: string;
  verdict: Verdict;
}

const num = (v: unknown): number | undefined => (typeof v === 'number' && Number.isFinite(v) ? v : undefined);

/**
 * What the plate declares against what was measured, quantity by quantity, as far as either is known. Source: IEC 60034-1 (from memory).
 * @param poles of the winding, where the plate names none
 */
export function againstPlate(tests: readonly FoundTest[], plate: Nameplate, poles?: number): AgainstPlate[] {
  const last = (kind: string) => tests.filter((t) => t.kind === kind).at(-1);
  const [load, simple, locked] = [last('loadTest'), last('inputOutput'), last('lockedRotor')];
  const { outputW, frequencyHz, speedRpm } = plate;
  const ratedKW = (outputW ?? 0) / 1000;
  const percent = num(load?.found['efficiencyPercent']) ?? num(simple?.found['efficiencyPercent']);
  const judged = load?.values['method'];
  const methods = (load?.found['methods'] ?? []) as { method: string; rows: LoadRow[] }[];
  const rows = (methods.find((m) => m.method === (typeof judged === 'string' ? judged : '2-1-1B')) ?? methods[0])?.rows;
  const p = poles ?? plate.poles;
  const sync = frequencyHz !== undefined && p !== undefined ? (120 * frequencyHz) / p : undefined;
  const share = (v: number | undefined) => (v === undefined ? undefined : v / 100);
  const all: readonly (readonly [Toleranced, AgainstPlate['unit'], number | undefined, number | undefined])[] = [
    ['efficiency', '%', share(plate.efficiencyPercent), share(percent)],
    ['power factor', '', plate.powerFactor, num(load?.found['powerFactor'])],
    [
      'slip',
      '%',
      sync !== undefined && speedRpm !== undefined && speedRpm < sync ? (sync - speedRpm) / sync : undefined,
      rows && outputW !== undefined ? atOutput(rows, outputW, (r) => r.slip) : undefined,
    ],
    ['locked-rotor current', 'A', num(locked?.values['declaredA']), num(locked?.found['ampsAtRated'])],
    ['locked-rotor torque', 'N·m', num(locked?.values['declaredNm']), num(locked?.found['torqueNm'])],
  ];
  return all.flatMap(([what, unit, declared, measured]): AgainstPlate[] => {
    if (measured === undefined) return [];
    const range = declared === undefined ? undefined : allowed(what, declared, ratedKW);
    const within =
      range &&
      (range.from === undefined || notBelow(measured, range.from)) &&
      (range.to === undefined || notAbove(measured, range.to));
    return [
      {
        what,
        unit,
        declared,
        measured,
        from: range?.from,
        to: range?.to,
        says: range ? range.says : 'nothing declared',
        verdict: within === undefined ? 'cannot judge' : within ? 'pass' : 'fail',
      },
    ];
  });
}
