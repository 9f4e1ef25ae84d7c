import { z } from 'zod';
import { defineCalculation } from '../calculation.ts';

const flag = z.boolean().nullable().optional();
const value = z.number().nullable().optional();
/** What a vacuum-pressure plant says of itself. A signal that is absent or null counts as not satisfied. */
export const plantSignalsSchema = z.strictObject({
  gauge_bar: value.describe('tank, bar above the air'),
  abs_mbar: value.describe('tank, mbar absolute'),
  level_mm: value,
  part_top_mm: value,
  cover_mm: value,
  part_C: value,
  resin_C: value,
  part_min_C: value,
  part_max_C: value,
  resin_min_C: value,
  resin_max_C: value,
  resin_min_mbar: value.describe('never below: its monomer boils'),
  vacuum_set_mbar: value,
  vacuum_held_min: value,
  vacuum_hold_min: value,
  soak_min: value,
  soak_set_min: value,
  pressure_min: value,
  min_hold_min: value,
  max_hold_min: value,
  transfer_max_bar: value,
  resin_in_tank_litre: value,
  storage_free_litre: value,
  lid_locked: flag,
  vent_open: flag,
  pump_on: flag,
  pressure_valve_open: flag,
  resin_valve_open: flag,
  vacuum_valve_open: flag,
  leak_test_passed: flag,
  resin_test_in_date: flag,
  relief_in_date: flag,
  plateau: flag,
});
export type PlantSignals = z.output<typeof plantSignalsSchema>;

type Rule = { says: string; holds: (s: PlantSignals) => boolean };
const is = (name: keyof PlantSignals, wanted: boolean) => (s: PlantSignals) => s[name] === wanted;
/** a ≤ b, both known */
const upTo = (a: keyof PlantSignals, b: keyof PlantSignals | number) => (s: PlantSignals) => {
  const [x, y] = [s[a], typeof b === 'number' ? b : s[b]];
  return typeof x === 'number' && typeof y === 'number' && x <= y;
};
const between = (low: keyof PlantSignals, x: keyof PlantSignals, high: keyof PlantSignals) => {
  const [from, to] = [upTo(low, x), upTo(x, high)];
  return (s: PlantSignals) => from(s) && to(s);
};

/** Every interlock of the plant: what it asks for, and when it is satisfied. */
const RULES = {
  P_ATM: {
    says: 'no pressure and no vacuum in the tank',
    holds: (s: PlantSignals) => typeof s.gauge_bar === 'number' && Math.abs(s.gauge_bar) <= 0.02,
  },
  LEVEL_ZERO: { says: 'no resin in the tank', holds: upTo('level_mm', 0) },
  VENT_OPEN: { says: 'vent open', holds: is('vent_open', true) },
  VENT_SHUT: { says: 'vent shut', holds: is('vent_open', false) },
  PUMP_OFF: { says: 'vacuum pump off', holds: is('pump_on', false) },
  PRESS_VALVE_SHUT: { says: 'pressure valve shut', holds: is('pressure_valve_open', false) },
  RESIN_VALVE_SHUT: { says: 'resin valve shut', holds: is('resin_valve_open', false) },
  VAC_VALVE_SHUT: { says: 'vacuum valve shut', holds: is('vacuum_valve_open', false) },
  LID_LOCKED: { says: 'lid locked', holds: is('lid_locked', true) },
  PART_IN_RANGE: { says: 'part as warm as the resin wants it', holds: between('part_min_C', 'part_C', 'part_max_C') },
  VAC_REACHED: { says: 'vacuum reached', holds: upTo('abs_mbar', 'vacuum_set_mbar') },
  VAC_HELD: { says: 'vacuum held long enough', holds: upTo('vacuum_hold_min', 'vacuum_held_min') },
  RESIN_IN_RANGE: { says: 'resin at its temperature', holds: between('resin_min_C', 'resin_C', 'resin_max_C') },
  RESIN_PASSED: { says: 'shelf tests of the resin passed and in date', holds: is('resin_test_in_date', true) },
  LEAK_OK: { says: 'leak test passed', holds: is('leak_test_passed', true) },
  ABOVE_MONOMER: { says: 'vacuum not below what the monomer bears', holds: upTo('resin_min_mbar', 'abs_mbar') },
  COVERED: {
    says: 'part covered by resin',
    holds: (s: PlantSignals) =>
      typeof s.level_mm === 'number' &&
      typeof s.part_top_mm === 'number' &&
      typeof s.cover_mm === 'number' &&
      s.level_mm >= s.part_top_mm + s.cover_mm,
  },
  SOAKED: { says: 'soaked long enough', holds: upTo('soak_set_min', 'soak_min') },
  RELIEF_IN_DATE: { says: 'relief valve inspected and in date', holds: is('relief_in_date', true) },
  MIN_HOLD: { says: 'pressure held long enough', holds: upTo('min_hold_min', 'pressure_min') },
  PLATEAU_OR_MAX: {
    says: 'capacitance stands, or the longest hold is over',
    holds: (s: PlantSignals) => s.plateau === true || upTo('max_hold_min', 'pressure_min')(s),
  },
  GAUGE_LOW: { says: 'pressure low enough to send resin back', holds: upTo('gauge_bar', 'transfer_max_bar') },
  TANK_ROOM: { says: 'room for the resin in its tank', holds: upTo('resin_in_tank_litre', 'storage_free_litre') },
} as const satisfies Record<string, Rule>;
export type InterlockCode = keyof typeof RULES;
export const INTERLOCK_CODES = Object.keys(RULES) as InterlockCode[];

/** What must hold before each act. Letting pressure off in an emergency asks for nothing and is not among them. */
export const PLANT_ACTS = {
  open_lid: ['P_ATM', 'LEVEL_ZERO', 'VENT_OPEN', 'PUMP_OFF', 'PRESS_VALVE_SHUT', 'RESIN_VALVE_SHUT'],
  pull_vacuum: ['LID_LOCKED', 'PRESS_VALVE_SHUT', 'RESIN_VALVE_SHUT', 'VENT_SHUT', 'PART_IN_RANGE'],
  admit_resin: [
    'LID_LOCKED',
    'VAC_REACHED',
    'VAC_HELD',
    'RESIN_IN_RANGE',
    'RESIN_PASSED',
    'PRESS_VALVE_SHUT',
    'VENT_SHUT',
    'LEAK_OK',
    'ABOVE_MONOMER',
  ],
  pressurise: [
    'LID_LOCKED',
    'VAC_VALVE_SHUT',
    'COVERED',
    'SOAKED',
    'RELIEF_IN_DATE',
    'RESIN_VALVE_SHUT',
    'VENT_SHUT',
    'PUMP_OFF',
  ],
  release_pressure: ['MIN_HOLD', 'PLATEAU_OR_MAX', 'VAC_VALVE_SHUT'],
  return_resin: ['GAUGE_LOW', 'TANK_ROOM', 'LID_LOCKED', 'VAC_VALVE_SHUT'],
} as const satisfies Record<string, readonly InterlockCode[]>;
export type PlantAct = keyof typeof PLANT_ACTS;
export const PLANT_ACT_IDS = Object.keys(PLANT_ACTS) as [PlantAct, ...PlantAct[]];

export interface Lamp {
  code: InterlockCode;
  says: string;
  holds: boolean;
}
/** Every interlock of an act as a lamp. */
export const lampsOf = (act: PlantAct, signals: PlantSignals): Lamp[] =>
  PLANT_ACTS[act].map((code) => ({ code, says: RULES[code].says, holds: RULES[code].holds(signals) }));

/** Calculation `process.interlocks`: what still keeps a vacuum-pressure plant from its next act. It advises; the vessel's own interlocks rule. */
export const processInterlocks = defineCalculation({
  id: 'process.interlocks',
  version: 1,
  title: 'Interlocks of a vacuum-pressure plant before an act, as lamps with their reasons',
  sources: ["common practice; the vessel's own interlocks and the inspection of pressure vessels rule"],
  input: z.strictObject({ act: z.enum(PLANT_ACT_IDS), signals: plantSignalsSchema }),
  output: z.object({
    missing: z.array(z.string()),
    lamps: z.array(z.object({ code: z.string(), says: z.string(), holds: z.boolean() })),
    says: z.string(),
  }),
  example: {
    act: 'pull_vacuum',
    signals: {
      lid_locked: true,
      pressure_valve_open: false,
      resin_valve_open: false,
      vent_open: false,
      part_C: 47,
      part_min_C: 40,
      part_max_C: 60,
    },
  },
  compute: ({ act, signals }) => {
    const lamps = lampsOf(act, signals);
    const missing = lamps.filter((l) => !l.holds);
    return {
      missing: missing.map((l) => l.code),
      lamps,
      says:
        missing.length === 0
          ? 'Nothing stands against it here; the vessel itself has the last word.'
          : `Not yet: ${missing.map((l) => l.says).join('; ')}.`,
    };
  },
});
