import { z } from 'zod';
import { formatNumber } from '../quantity/format.ts';

/** Kelvin offset as IEEE 43 prints it. */
const KELVIN_IEEE43 = 273;

/**
 * Temperature correction factor to 40 °C.
 * Thermosetting (IEEE 43-2013): exp(−4230 (1/T − 1/313)) from 40 to 85 °C, exp(−1245 (1/T − 1/313)) from 10 to 40 °C.
 * Thermoplastic: halving per 10 K.
 */
export function insulationTemperatureFactor(temperatureC: number, system: 'thermosetting' | 'thermoplastic'): number {
  if (system === 'thermoplastic') return 0.5 ** ((40 - temperatureC) / 10);
  const constant = temperatureC >= 40 ? 4230 : 1245;
  return Math.exp(-constant * (1 / (temperatureC + KELVIN_IEEE43) - 1 / (40 + KELVIN_IEEE43)));
}

/** Range in which the correction holds: thermosetting 10–85 °C, halving rule 0–100 °C (common practice). */
export const CORRECTION_RANGE_C = {
  thermosetting: [10, 85],
  thermoplastic: [0, 100],
} as const;

/** Dew point by the Magnus formula, °C. */
export function dewPointC(airC: number, relativeHumidityPercent: number): number {
  const g = Math.log(relativeHumidityPercent / 100) + (17.62 * airC) / (243.12 + airC);
  return (243.12 * g) / (17.62 - g);
}

export const WINDING_KINDS = [
  'random-wound',
  'form-wound',
  'dc armature',
  'field',
  'older (before about 1970)',
] as const;
export type InsulationWindingKind = (typeof WINDING_KINDS)[number];

/** Minimum one-minute resistance at 40 °C of the whole winding, MΩ (IEEE 43-2013, from memory). */
export function minimumInsulationMegohm(kind: InsulationWindingKind, ratedV: number): { megohm: number; rule: string } {
  if (kind === 'random-wound' || kind === 'dc armature' || (kind === 'form-wound' && ratedV < 1000)) {
    return { megohm: 5, rule: '5 MΩ (IEEE 43-2013, random-wound, form-wound below 1 kV, DC armatures)' };
  }
  if (kind === 'form-wound') return { megohm: 100, rule: '100 MΩ (IEEE 43-2013, form-wound from 1 kV)' };
  const megohm = ratedV / 1000 + 1;
  return { megohm, rule: `kV + 1 = ${formatNumber(megohm)} MΩ (IEEE 43-2013, older windings and fields)` };
}

/** Test voltage range by rated voltage, V DC (IEEE 43-2013, from memory; below 100 V common practice). */
export function testVoltageRange(ratedV: number): [number, number] {
  if (ratedV < 100) return [100, 250];
  if (ratedV < 1000) return [500, 500];
  if (ratedV <= 2500) return [500, 1000];
  if (ratedV <= 5000) return [1000, 2500];
  if (ratedV <= 12000) return [2500, 5000];
  return [5000, 10000];
}

/** A reading in MΩ, or a bound when the instrument was over or below its range. */
export const insulationReading = z.strictObject({
  megohm: z.number(),
  overRange: z.boolean().default(false),
  underRange: z.boolean().default(false).describe('the reading is below this'),
});
