import type { FieldSpec, FieldValue } from '../quantity/fields.ts';
import type { Dimension } from '../quantity/units.ts';
import type { Judged } from '../verdict.ts';
import { text } from './fieldKinds.ts';

/** What the shop measures with, and the last day of its calibration (ISO day); null = none is kept. */
export interface Gauge {
  name: string;
  calibratedUntil: string | null;
}

const MEASURED: readonly Dimension[] = [
  'length',
  'mass',
  'temperature',
  'temperatureRise',
  'resistance',
  'voltage',
  'current',
  'power',
  'pressure',
  'fluxDensity',
];

/** The fields of an operation, with what it was measured with where something is. */
export function withGauge(fields: readonly FieldSpec[]): readonly FieldSpec[] {
  const measures = fields.some((f) => f.read.kind === 'quantity' && MEASURED.includes(f.read.dimension));
  return measures ? [...fields, text('instrument', 'Measured with')] : fields;
}

/** The gauge of a name, however it is written. */
export const gaugeNamed = (gauges: readonly Gauge[], name: string): Gauge | undefined =>
  gauges.find((g) => g.name.trim().toLowerCase() === name.trim().toLowerCase());

/** A reading with a gauge out of calibration is looked at by a person; one that nobody keeps says nothing. */
export function judgeGauge(named: FieldValue | undefined, gauges: readonly Gauge[], today: string): Judged | undefined {
  const gauge = typeof named === 'string' ? gaugeNamed(gauges, named) : undefined;
  if (!gauge || gauge.calibratedUntil === null || gauge.calibratedUntil >= today) return undefined;
  return {
    verdict: 'attention',
    reason: `${gauge.name} has been out of calibration since ${gauge.calibratedUntil}: measure again with another, or sign for it.`,
  };
}
