import type { Nameplate } from '../machine/nameplate.ts';
import type { WindingRecord } from './record.ts';

/** The worked example of the winding calculations: 11 kW, four poles, 36 slots, two-circuit delta at 400 V, 50 Hz. */
export const EXAMPLE_RECORD = {
  kind: 'three-phase',
  slots: 36,
  poles: 4,
  layers: 'double',
  form: 'lap',
  spansSlots: [8],
  turns: [34],
  strands: [{ count: 2, bareM: 0.00085, label: '0.85' }],
  wireGrade: '2',
  circuits: 2,
  connection: 'delta',
  leads: '3',
  boreM: 0.15,
  coreLengthM: 0.14,
  toothWidthM: 0.007,
  backIronM: 0.025,
  slotDepthM: 0.024,
  slotAreaM2: 185e-6,
  slotNetAreaM2: 158e-6,
} satisfies WindingRecord;

export const EXAMPLE_PLATE = {
  outputW: 11000,
  voltagesV: [400],
  currentsA: [22],
  frequencyHz: 50,
  speedRpm: 1455,
} satisfies Nameplate;
