import type { FieldSpec } from '../quantity/fields.ts';
import { formatNumber } from '../quantity/format.ts';
import { celsius, kilogram, millimetre, need, quantity, text } from './fieldKinds.ts';
import { followPlateau, plateauBegun, plateauSettingsSchema, type PlateauFollowed } from './capacitance.ts';
import { lampsOf, type Lamp, type PlantAct, type PlantSignals } from './interlocks.ts';

/** Stages of a vacuum-pressure cycle, in their order. */
export const VESSEL_STAGES = [
  'load',
  'warm',
  'vacuum',
  'admit',
  'soak',
  'pressurise',
  'hold',
  'release',
  'return',
  'drip',
  'out',
] as const;
export type VesselStage = (typeof VESSEL_STAGES)[number];
export const STAGE_WORDS: Readonly<Record<VesselStage, string>> = {
  load: 'Load, masked; lid locked',
  warm: 'Part in its temperature',
  vacuum: 'Vacuum',
  admit: 'Admit resin under vacuum',
  soak: 'Soak',
  pressurise: 'Pressurise',
  hold: 'Hold under pressure',
  release: 'Let the pressure off',
  return: 'Resin back to its tank',
  drip: 'Drip off, turn',
  out: 'Out, into the oven at once',
};
/** What is done to come into a stage, where interlocks stand before it. */
export const ACT_INTO: Partial<Record<VesselStage, PlantAct>> = {
  vacuum: 'pull_vacuum',
  admit: 'admit_resin',
  pressurise: 'pressurise',
  release: 'release_pressure',
  return: 'return_resin',
  out: 'open_lid',
};
export const nextStage = (stage: VesselStage): VesselStage | undefined =>
  VESSEL_STAGES[VESSEL_STAGES.indexOf(stage) + 1];

const minutes = (name: string, label: string) => quantity(name, label, 'time', 'min', need);
/** A vessel as it is entered once; set points are those of its resin's data sheet. */
export const VESSEL_FIELDS: readonly FieldSpec[] = [
  text('name', 'Name', need),
  millimetre('diameter', 'Inner diameter', need),
  millimetre('depth', 'Depth', need),
  millimetre('stand', 'Part stands above the bottom', need),
  millimetre('cover', 'Resin over the part', need),
  quantity('vacuum', 'Vacuum, absolute', 'pressure', 'mbar', need),
  minutes('vacuumHold', 'Vacuum held'),
  minutes('soak', 'Soak'),
  quantity('pressure', 'Pressure', 'pressure', 'bar', need),
  minutes('holdLeast', 'Pressure held, at least'),
  minutes('holdMost', 'at most, then a named person decides'),
  quantity('transfer', 'Resin goes back up to', 'pressure', 'bar', need),
  celsius('partCold', 'Part, from', need),
  celsius('partWarm', 'to', need),
  celsius('resinCold', 'Resin, from', need),
  celsius('resinWarm', 'to', need),
  quantity('monomer', 'Never below (its monomer boils)', 'pressure', 'mbar', need),
  { name: 'reliefDue', label: 'Relief valve inspected until', read: { kind: 'date' }, required: true },
];

/** In the units of the signals: mm, mbar absolute, bar over the air, min, °C. */
export interface VesselSetUp {
  diameterMm: number;
  depthMm: number;
  standMm: number;
  coverMm: number;
  vacuumMbar: number;
  vacuumHoldMin: number;
  soakMin: number;
  pressureBar: number;
  holdLeastMin: number;
  holdMostMin: number;
  transferBar: number;
  partC: readonly [number, number];
  resinC: readonly [number, number];
  monomerMbar: number;
  reliefDue: string;
}

/** A cycle as it is begun. */
export const CYCLE_FIELDS: readonly FieldSpec[] = [
  millimetre('partHeight', 'The highest part stands', need),
  kilogram('steel', 'Steel and iron in it', { hint: 'for the resin to hold ready' }),
  kilogram('copper', 'Copper in it'),
];

/** Quantities that a plant sends or a person types, and flags. */
export const PLANT_FIGURES = [
  'gauge_bar',
  'abs_mbar',
  'level_mm',
  'part_C',
  'resin_C',
  'storage_free_litre',
  'resin_in_tank_litre',
  'capacitance_nF',
] as const;
export const PLANT_FLAGS = [
  'lid_locked',
  'vent_open',
  'pump_on',
  'pressure_valve_open',
  'resin_valve_open',
  'vacuum_valve_open',
] as const;
export type PlantFigure = (typeof PLANT_FIGURES)[number];
export type PlantFlag = (typeof PLANT_FLAGS)[number];
export const SIGNAL_WORDS: Readonly<Record<PlantFigure | PlantFlag, string>> = {
  gauge_bar: 'Pressure, bar over the air',
  abs_mbar: 'Vacuum, mbar absolute',
  level_mm: 'Resin level, mm',
  part_C: 'Part, °C',
  resin_C: 'Resin, °C',
  storage_free_litre: 'Room in the resin tank, l',
  resin_in_tank_litre: 'Resin in the vessel, l',
  capacitance_nF: 'Capacitance, nF',
  lid_locked: 'Lid locked',
  vent_open: 'Vent open',
  pump_on: 'Vacuum pump on',
  pressure_valve_open: 'Pressure valve open',
  resin_valve_open: 'Resin valve open',
  vacuum_valve_open: 'Vacuum valve open',
};

/** One sample: min on the cycle's own axis, and what was read; what is absent was not read. */
export interface PlantSample {
  t: number;
  values: Partial<Record<PlantFigure | PlantFlag, number>>;
}
export interface VesselCourse {
  setUp: VesselSetUp;
  /** over the bottom of the vessel */
  partTopMm: number;
  /** when each stage was begun, min; the last is the one it is in */
  stages: readonly { stage: VesselStage; t: number }[];
  /** when the leak test was begun, min */
  leakT?: number | undefined;
  samples: readonly PlantSample[];
  nowMin: number;
  resinPassed: boolean;
  today: string;
}
export interface VesselNow {
  stage: VesselStage;
  next: VesselStage | undefined;
  act: PlantAct | undefined;
  /** every interlock before the next stage */
  lamps: Lamp[];
  signals: PlantSignals;
  /** minutes in this stage */
  stageMin: number;
  plateau: PlateauFollowed | undefined;
  leak: { riseMbar: number; passed: boolean } | 'runs' | undefined;
  alarms: string[];
  /** of the record: lowest vacuum, highest pressure, minutes held */
  lowestMbar: number | undefined;
  highestBar: number | undefined;
  heldMin: number | undefined;
}

/** Rise within so many minutes with the valve shut, at most so many mbar (common practice). */
const LEAK_MIN = 5;
const LEAK_MBAR = 2;
/** A signal older than this says nothing any more, min. */
const FRESH_MIN = 3;

/** How a cycle stands: signals as they are, what follows from their course, and what still stands before the next stage. */
export function vesselNow(of: VesselCourse): VesselNow {
  const { setUp } = of;
  const last = of.stages.at(-1) ?? { stage: 'load' as const, t: 0 };
  const began = (stage: VesselStage): number | undefined => of.stages.findLast((s) => s.stage === stage)?.t;
  const latest = new Map<string, { t: number; v: number }>();
  const settings = plateauSettingsSchema.parse({});
  const vacuumT = began('vacuum');
  const admitT = began('admit');
  let plateau: PlateauFollowed | undefined;
  let vacuumSince: number | undefined;
  let before: { t: number; nF: number } | undefined;
  let lowest: number | undefined;
  let highest: number | undefined;
  const rises: { t: number; mbar: number }[] = [];
  for (const { t, values } of of.samples) {
    for (const [name, v] of Object.entries(values)) latest.set(name, { t, v });
    const { abs_mbar: abs, gauge_bar: gauge, capacitance_nF: nF } = values;
    if (abs !== undefined) {
      if (abs <= setUp.vacuumMbar) vacuumSince ??= t;
      else vacuumSince = undefined;
      if (vacuumT !== undefined && t >= vacuumT) lowest = Math.min(lowest ?? Infinity, abs);
      if (of.leakT !== undefined && t >= of.leakT && t <= of.leakT + LEAK_MIN) rises.push({ t, mbar: abs });
    }
    if (gauge !== undefined) highest = Math.max(highest ?? -Infinity, gauge);
    if (nF !== undefined && nF > 0 && vacuumT !== undefined && t >= vacuumT) {
      // the first that counts is the last one in vacuum, before resin came
      if (admitT === undefined || t < admitT) before = { t, nF };
      else {
        plateau ??= before ? followPlateau(plateauBegun(), before.t, before.nF, settings) : plateauBegun();
        plateau = followPlateau(plateau, t, nF, settings);
      }
    }
  }
  const fresh = (name: PlantFigure | PlantFlag): number | undefined => {
    const is = latest.get(name);
    return is && of.nowMin - is.t <= FRESH_MIN ? is.v : undefined;
  };
  const flag = (name: PlantFlag): boolean | undefined => {
    const v = fresh(name);
    return v === undefined ? undefined : v !== 0;
  };
  const since = (t: number | undefined): number | undefined => (t === undefined ? undefined : of.nowMin - t);
  const leak = leakOf(of, rises);
  const holdT = began('hold');
  const releaseT = began('release');
  const signals: PlantSignals = {
    gauge_bar: fresh('gauge_bar'),
    abs_mbar: fresh('abs_mbar'),
    level_mm: fresh('level_mm'),
    part_C: fresh('part_C'),
    resin_C: fresh('resin_C'),
    storage_free_litre: fresh('storage_free_litre'),
    resin_in_tank_litre: fresh('resin_in_tank_litre'),
    part_top_mm: of.partTopMm,
    cover_mm: setUp.coverMm,
    part_min_C: setUp.partC[0],
    part_max_C: setUp.partC[1],
    resin_min_C: setUp.resinC[0],
    resin_max_C: setUp.resinC[1],
    resin_min_mbar: setUp.monomerMbar,
    vacuum_set_mbar: setUp.vacuumMbar,
    vacuum_held_min: fresh('abs_mbar') === undefined ? undefined : since(vacuumSince),
    vacuum_hold_min: setUp.vacuumHoldMin,
    soak_min: since(began('soak')),
    soak_set_min: setUp.soakMin,
    pressure_min: since(holdT),
    min_hold_min: setUp.holdLeastMin,
    max_hold_min: setUp.holdMostMin,
    transfer_max_bar: setUp.transferBar,
    lid_locked: flag('lid_locked'),
    vent_open: flag('vent_open'),
    pump_on: flag('pump_on'),
    pressure_valve_open: flag('pressure_valve_open'),
    resin_valve_open: flag('resin_valve_open'),
    vacuum_valve_open: flag('vacuum_valve_open'),
    leak_test_passed: leak === undefined || leak === 'runs' ? undefined : leak.passed,
    resin_test_in_date: of.resinPassed,
    relief_in_date: setUp.reliefDue >= of.today,
    plateau: plateau === undefined ? undefined : plateau.state === 'plateau',
  };
  const next = nextStage(last.stage);
  const act = next && ACT_INTO[next];
  return {
    stage: last.stage,
    next,
    act,
    lamps: act ? lampsOf(act, signals) : [],
    signals,
    stageMin: of.nowMin - last.t,
    plateau,
    leak,
    alarms: alarmsOf(last.stage, signals, plateau, of),
    lowestMbar: lowest,
    highestBar: highest,
    heldMin: holdT === undefined ? undefined : (releaseT ?? of.nowMin) - holdT,
  };
}

function leakOf(of: VesselCourse, rises: readonly { t: number; mbar: number }[]): VesselNow['leak'] {
  if (of.leakT === undefined) return undefined;
  const [first, end] = [rises[0], rises.at(-1)];
  if (of.nowMin < of.leakT + LEAK_MIN) return 'runs';
  // too few readings of the five minutes prove nothing
  if (!first || !end || end.t - first.t < LEAK_MIN * 0.8) return undefined;
  const riseMbar = end.mbar - first.mbar;
  return { riseMbar, passed: riseMbar <= LEAK_MBAR };
}

const COVERED_IN: readonly VesselStage[] = ['soak', 'pressurise', 'hold'];
function alarmsOf(
  stage: VesselStage,
  signals: PlantSignals,
  plateau: PlateauFollowed | undefined,
  of: VesselCourse,
): string[] {
  const out: string[] = [];
  const top = of.partTopMm + of.setUp.coverMm;
  if (COVERED_IN.includes(stage) && !(typeof signals.level_mm === 'number' && signals.level_mm >= top))
    out.push(
      typeof signals.level_mm === 'number'
        ? `The part is not covered: resin at ${formatNumber(signals.level_mm)} mm, ${formatNumber(top)} mm are wanted.`
        : 'The resin level is not read: nobody knows whether the part is covered.',
    );
  if (plateau?.state === 'signal_fault')
    out.push('The capacitance fell: the signal is not believed. Look at the lead; hold for the longest time.');
  if (stage === 'hold' && typeof signals.pressure_min === 'number' && signals.pressure_min > of.setUp.holdMostMin)
    out.push('The longest hold is over: a named person decides.');
  if (stage === 'hold' && typeof signals.gauge_bar === 'number' && signals.gauge_bar < of.setUp.pressureBar - 0.2)
    out.push(
      `The pressure is ${formatNumber(signals.gauge_bar, 2)} bar; ${formatNumber(of.setUp.pressureBar, 2)} bar are meant.`,
    );
  if (
    typeof signals.abs_mbar === 'number' &&
    signals.abs_mbar < of.setUp.monomerMbar &&
    ['admit', 'soak'].includes(stage)
  )
    out.push(`The vacuum is below ${formatNumber(of.setUp.monomerMbar)} mbar: the monomer boils off.`);
  return out;
}
