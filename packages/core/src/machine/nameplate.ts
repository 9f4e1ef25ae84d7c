import { z } from 'zod';
import { defineCalculation } from '../calculation.ts';
import type { FieldSpec } from '../quantity/fields.ts';

const positive = z.number().positive().optional();

export const MACHINE_TYPES = ['induction', 'permanent magnet'] as const;
/** How the line EMF of a magnet machine was measured. */
export const EMF_MEASURED = ['line, rms', 'line, peak'] as const;

/** What is stamped on the motor, in core units. */
export const nameplateSchema = z.strictObject({
  manufacturer: z.string().max(80).optional(),
  serial: z.string().max(80).optional(),
  typeMark: z.string().max(80).optional(),
  outputW: positive,
  voltagesV: z.array(z.number().positive()).min(1).max(4).optional(),
  currentsA: z.array(z.number().positive()).min(1).max(4).optional(),
  frequencyHz: positive,
  speedRpm: positive,
  poles: z.int().min(2).max(96).multipleOf(2).optional(),
  phases: z.enum(['1', '3']).optional(),
  plateConnection: z.string().max(40).optional(),
  insulationClass: z.enum(['A', 'E', 'B', 'F', 'H', 'N']).optional(),
  duty: z.string().max(40).optional(),
  serviceFactor: z.number().min(0.5).max(2).optional(),
  ambientC: z.number().min(-60).max(100).optional(),
  enclosure: z.string().max(40).optional(),
  frame: z.string().max(40).optional(),
  efficiencyPercent: z.number().min(1).max(100).optional(),
  powerFactor: z.number().min(0.05).max(1).optional(),
  massKg: positive,
  rotorVoltageV: positive.describe('slip rings: open-circuit voltage at standstill'),
  rotorCurrentA: positive,
  machine: z.enum(MACHINE_TYPES).optional().describe('induction where nothing is said'),
  emfConstantVs: positive.describe('magnets: line EMF per mechanical rad/s, V s, as it was measured'),
  emfMeasured: z.enum(EMF_MEASURED).optional().describe('rms where nothing is said'),
  magnetC: z.number().min(-60).max(250).optional().describe('temperature of the magnets at that EMF'),
});
export type Nameplate = z.infer<typeof nameplateSchema>;

/** The highest voltage of a plate and the current that stands with it; each where it is known. */
export function highestRating({ voltagesV, currentsA }: Pick<Nameplate, 'voltagesV' | 'currentsA'>): {
  lineV: number | undefined;
  ratedA: number | undefined;
} {
  const lineV = voltagesV ? Math.max(...voltagesV) : undefined;
  const at = voltagesV && lineV !== undefined ? voltagesV.indexOf(lineV) : 0;
  return { lineV, ratedA: currentsA?.[at] ?? currentsA?.[0] };
}

const text = { kind: 'text' } as const;

/** Fields of the nameplate as typed at the intake desk. */
export const NAMEPLATE_FIELDS: readonly FieldSpec[] = [
  { name: 'manufacturer', label: 'Maker', read: text },
  { name: 'serial', label: 'Serial number', read: text },
  { name: 'typeMark', label: 'Type', read: text },
  {
    name: 'outputW',
    label: 'Output',
    read: { kind: 'quantity', dimension: 'power', unit: 'kW', above: 0 },
    hint: '7.5 kW or 10 hp',
  },
  {
    name: 'voltagesV',
    label: 'Voltage',
    read: { kind: 'quantities', dimension: 'voltage', unit: 'V' },
    hint: 'both if dual: 230/400',
  },
  {
    name: 'currentsA',
    label: 'Current',
    read: { kind: 'quantities', dimension: 'current', unit: 'A' },
    hint: 'in the same order',
  },
  { name: 'frequencyHz', label: 'Frequency', read: { kind: 'quantity', dimension: 'frequency', unit: 'Hz', above: 0 } },
  { name: 'speedRpm', label: 'Speed', read: { kind: 'quantity', dimension: 'speed', unit: 'r/min', above: 0 } },
  {
    name: 'poles',
    label: 'Poles',
    read: { kind: 'count', min: 2, max: 96, even: true },
    hint: 'worked out from speed and frequency',
  },
  {
    name: 'phases',
    label: 'Phases',
    read: {
      kind: 'choice',
      options: [
        { value: '3', label: '3' },
        { value: '1', label: '1' },
      ],
    },
  },
  {
    name: 'machine',
    label: 'Machine',
    read: {
      kind: 'choice',
      assumed: 'induction',
      options: MACHINE_TYPES.map((v) => ({ value: v, label: v })),
    },
  },
  {
    name: 'emfConstantVs',
    label: 'Ke',
    read: { kind: 'quantity', dimension: 'emfConstant', unit: 'V/1000 r/min', above: 0 },
    hint: 'magnets: 18.6 V at 3000 r/min is 6.2 V/1000 r/min',
  },
  {
    name: 'emfMeasured',
    label: 'Ke measured',
    read: { kind: 'choice', assumed: 'line, rms', options: EMF_MEASURED.map((v) => ({ value: v, label: v })) },
  },
  {
    name: 'magnetC',
    label: 'Magnets at',
    read: { kind: 'quantity', dimension: 'temperature', unit: '°C', min: -60, max: 250 },
  },
  { name: 'plateConnection', label: 'Connection on the plate', read: text, hint: 'Δ/Y, Y, Δ …' },
  {
    name: 'insulationClass',
    label: 'Insulation class',
    read: { kind: 'choice', options: ['A', 'E', 'B', 'F', 'H', 'N'].map((v) => ({ value: v, label: v })) },
  },
  { name: 'duty', label: 'Duty', read: text, hint: 'S1, S3 40 % …' },
  {
    name: 'serviceFactor',
    label: 'Service factor',
    read: { kind: 'quantity', dimension: 'number', unit: '', min: 0.5, max: 2 },
  },
  {
    name: 'ambientC',
    label: 'Ambient',
    read: { kind: 'quantity', dimension: 'temperature', unit: '°C', min: -60, max: 100 },
  },
  { name: 'enclosure', label: 'Enclosure', read: text, hint: 'IP 55, open drip-proof …' },
  { name: 'frame', label: 'Frame', read: text, hint: '132M, 254T …' },
  {
    name: 'efficiencyPercent',
    label: 'Efficiency',
    read: { kind: 'quantity', dimension: 'percent', unit: '%', min: 1, max: 100 },
  },
  {
    name: 'powerFactor',
    label: 'Power factor',
    read: { kind: 'quantity', dimension: 'number', unit: '', min: 0.05, max: 1 },
  },
  { name: 'massKg', label: 'Mass', read: { kind: 'quantity', dimension: 'mass', unit: 'kg', above: 0 } },
  {
    name: 'rotorVoltageV',
    label: 'Rotor voltage',
    read: { kind: 'quantity', dimension: 'voltage', unit: 'V', above: 0 },
    hint: 'slip rings only',
  },
  {
    name: 'rotorCurrentA',
    label: 'Rotor current',
    read: { kind: 'quantity', dimension: 'current', unit: 'A', above: 0 },
  },
];

/** Largest slip (per cent) at which a pole number is still believed for an ordinary / a high-slip cage motor. */
export const ORDINARY_SLIP_PERCENT = 8;
export const HIGH_SLIP_PERCENT = 13;

export interface PoleFinding {
  poles: number;
  synchronousRpm: number;
  slipPercent: number;
  likely: 'ordinary' | 'high slip' | 'not an induction motor speed';
}

/**
 * Poles from rated speed and frequency: the synchronous speed next above the rated speed.
 * P = 120 f / n_s; common practice: slip 0–8 %, to 13 % for high-slip motors.
 */
export function polesFrom(speedRpm: number, frequencyHz: number): PoleFinding {
  let poles = 2 * Math.floor((60 * frequencyHz) / speedRpm + 1e-9);
  if (poles < 2) poles = 2;
  const synchronousRpm = (120 * frequencyHz) / poles;
  const slipPercent = (100 * (synchronousRpm - speedRpm)) / synchronousRpm;
  const likely =
    slipPercent >= -1e-9 && slipPercent <= ORDINARY_SLIP_PERCENT
      ? 'ordinary'
      : slipPercent >= -1e-9 && slipPercent <= HIGH_SLIP_PERCENT
        ? 'high slip'
        : 'not an induction motor speed';
  return { poles, synchronousRpm, slipPercent, likely };
}

/** Calculation `machine.poles`. */
export const machinePoles = defineCalculation({
  id: 'machine.poles',
  version: 1,
  title: 'Number of poles from rated speed and frequency',
  sources: ['n = 120 f / P (definition); slip ranges common practice'],
  input: z.strictObject({ speedRpm: z.number().positive(), frequencyHz: z.number().positive() }),
  output: z.object({
    poles: z.number(),
    synchronousRpm: z.number(),
    slipPercent: z.number(),
    likely: z.enum(['ordinary', 'high slip', 'not an induction motor speed']),
  }),
  example: { speedRpm: 1455, frequencyHz: 50 },
  compute: ({ speedRpm, frequencyHz }, note) => {
    const found = polesFrom(speedRpm, frequencyHz);
    note?.({
      name: 'Synchronous speed next above the rated speed',
      symbol: 'n_s',
      formula: '120 f / P',
      numbers: `120 · ${frequencyHz} / ${found.poles}`,
      value: found.synchronousRpm,
      unit: 'r/min',
      source: 'definition',
    });
    note?.({
      name: 'Slip',
      symbol: 's',
      formula: '100 (n_s − n) / n_s',
      numbers: `100 · (${found.synchronousRpm} − ${speedRpm}) / ${found.synchronousRpm}`,
      value: found.slipPercent,
      unit: '%',
      source: 'definition',
    });
    return found;
  },
});
