import type { AnalyserFault, Impregnation, RouteId, TestStage, WhatCame } from '@norther/core';
import type { designFormWound, designMagnets, designRotor, designSinglePhase, MotorWish } from './design.ts';

/** An invented motor and how far its job has come. */
export interface DemoFailure {
  /** damage of every coil of a phase */
  burnt?: Partial<Record<'A' | 'B' | 'C', number>>;
  more?: string;
  seen: Record<string, string>;
  concluded: Record<string, string>;
}

export interface DemoJob {
  what: string;
  customer: string;
  serial: string;
  frame: string;
  mass: string;
  complaint: string;
  /** serial numbers of a job of several alike, and what was measured of them as found, MΩ */
  pieces?: { serials: string[]; megohm: number[] };
  condition: string;
  motor: MotorWish;
  came?: WhatCame;
  route?: RouteId;
  impregnation?: Impregnation;
  priority?: 'ordinary' | 'urgent';
  fitted?: ('bearings' | 'thermal sensors' | 'heaters' | 'brake' | 'encoder' | 'fan' | 'coupling')[];
  daysAgo: number;
  promisedInDays: number;
  /** operations up to and with these are done (or left as `leave` says) */
  until: string[];
  leave?: 'running' | 'attention';
  restDays?: number;
  poorShop?: true;
  rotor?: { massKg: number; widthMm: number; spanMm: number };
  records?: Record<string, Record<string, string>>;
  winding?: Record<string, string>;
  /** a single-phase motor in place of `motor`, or a rotor winding beside it */
  singlePhase?: Parameters<typeof designSinglePhase>[0];
  /** form-wound coils of strip in place of `motor` */
  formWound?: Parameters<typeof designFormWound>[0];
  /** a magnet machine with tooth coils in place of `motor` */
  magnets?: Parameters<typeof designMagnets>[0];
  woundRotor?: Omit<Parameters<typeof designRotor>[1], 'outputKW' | 'poles'>;
  /** the data are typed in, though not yet agreed */
  dataTyped?: true;
  /** why it failed, marked when its data were taken: whole phases burnt, single coils, and what was seen */
  failure?: DemoFailure;
  resistanceSpread?: Partial<Record<TestStage, [number, number, number]>>;
  megohm?: Partial<Record<TestStage, number>>;
  surgeAsFound?: 'pass' | 'fail';
  /** its surge comparisons come with their waves, as an analyser would send them, with what is wrong at each stage */
  waves?: Partial<Record<TestStage, AnalyserFault>>;
  /** insulation resistance while it dries, MΩ, one reading after the other before the last */
  drying?: Partial<Record<TestStage, number[]>>;
  /** it was on the dynamometer: one torque read wrong, too hot, or a supply that was told by leads rotated */
  loaded?: 'bad point' | 'hot' | 'unbalanced';
}

const FERRY = 'Sound Ferries';
const DAIRY = 'Tindvik Dairy';
const QUARRY = 'Graholm Quarry';
const LIFT = 'Fonnfjell Ski Lift';
const WATER = 'Skarvøy Desalination';

export const DEMO_JOBS: readonly DemoJob[] = [
  {
    what: 'Mooring winch motor', customer: FERRY, serial: 'MW-2207', frame: '180L', mass: '165', complaint: 'Trips after ten minutes of hauling.', condition: 'Salt in the fan cover, winding dark all round.',
    motor: { outputKW: 22, volts: 400, hertz: 50, poles: 4, slots: 36, layers: 2, form: 'lap', oneToN: 9, connection: 'delta', circuits: 2, slipPercent: 2.3, efficiency: 0.91, powerFactor: 0.85 },
    daysAgo: 24, promisedInDays: -4, until: ['DSP'], restDays: 6, fitted: ['bearings', 'fan', 'heaters', 'brake'], loaded: 'bad point',
  },
  {
    what: 'Chairlift drive', customer: LIFT, serial: 'FL-0031', frame: '315L', mass: '1180', complaint: 'Ground fault trip in the morning frost.', condition: 'Condensate in the box, one heater open.', priority: 'urgent',
    motor: { outputKW: 200, volts: 400, hertz: 50, poles: 4, slots: 60, layers: 2, form: 'lap', oneToN: 13, connection: 'delta', circuits: 4, slipPercent: 1.1, efficiency: 0.955, powerFactor: 0.88 },
    daysAgo: 19, promisedInDays: -2, until: ['CON', 'BRG'], impregnation: 'vacuum-pressure', fitted: ['bearings', 'fan', 'heaters', 'thermal sensors', 'encoder'], restDays: 2, surgeAsFound: 'fail',
    megohm: { IN: 0.8 }, rotor: { massKg: 410, widthMm: 130, spanMm: 900 },
  },
  {
    what: 'High-pressure pump motor', customer: WATER, serial: 'DS-4410', frame: '315M', mass: '960', complaint: 'Single-phased after a contactor failure.', condition: 'One phase burnt through, the two others clean.',
    failure: {
      burnt: { A: 2 }, more: '4, 5 destroyed at end turn',
      seen: { bearings: 'sound', shaft: 'true', cooling: 'clear', terminals: 'burnt or loose', protection: 'did not trip', endTurns: 'tied', contamination: 'no', rotorRub: 'no', rotorBlued: 'no' },
      concluded: { cause: 'single_phasing_delta', causeSays: 'A contact of the contactor was burnt away; the motor ran on two lines until it smelt.', contributing: 'The protection did not trip', advice: 'Renew the contactor; protection against loss of a phase; check the setting of the overload relay.' },
    },
    motor: { outputKW: 132, volts: 460, hertz: 60, poles: 2, slots: 48, layers: 2, form: 'lap', oneToN: 19, connection: 'delta', circuits: 2, slipPercent: 0.9, efficiency: 0.95, powerFactor: 0.9 },
    daysAgo: 12, promisedInDays: 5, until: ['PVT'], resistanceSpread: { AC: [1.09, 0.96, 0.95] }, surgeAsFound: 'fail', rotor: { massKg: 240, widthMm: 90, spanMm: 820 },
  },
  {
    what: 'Crusher conveyor motor', customer: QUARRY, serial: 'GQ-118', frame: '315S', mass: '780', complaint: 'Bearings noisy, runs hot.', condition: 'Full of stone dust, air passages shut.',
    motor: { outputKW: 75, volts: 400, hertz: 50, poles: 6, slots: 72, layers: 2, form: 'lap', oneToN: 11, connection: 'delta', circuits: 3, slipPercent: 1.4, efficiency: 0.945, powerFactor: 0.84 },
    daysAgo: 14, promisedInDays: 3, until: ['PVT'], leave: 'attention', megohm: { AC: 8.5 }, rotor: { massKg: 220, widthMm: 100, spanMm: 760 },
  },
  {
    what: 'Separator stator', customer: DAIRY, serial: 'TD-77', frame: '132M', mass: '41', complaint: 'Earth fault, washed down with the cover open.', condition: 'Stator only, leads cut short.', came: 'stator only', fitted: [],
    motor: { outputKW: 7.5, volts: 440, hertz: 60, poles: 4, slots: 36, layers: 1, form: 'concentric', poleGroups: 'every-pole', connection: 'wye', circuits: 1, slipPercent: 2.8, efficiency: 0.89, powerFactor: 0.83 },
    daysAgo: 9, promisedInDays: 2, until: ['CUR'], leave: 'running', megohm: { IN: 0.2 },
  },
  {
    what: 'Bow thruster cooling pump', customer: FERRY, serial: 'BT-90', frame: '225M', mass: '340', complaint: 'Smell of burning, tripped twice.', condition: 'Coils loose in two slots.',
    motor: { outputKW: 37, volts: 440, hertz: 60, poles: 6, slots: 54, layers: 2, form: 'lap', oneToN: 8, connection: 'wye', circuits: 3, slipPercent: 1.9, efficiency: 0.93, powerFactor: 0.84 },
    daysAgo: 10, promisedInDays: 6, until: ['INS', 'RBL'], restDays: 1, rotor: { massKg: 95, widthMm: 70, spanMm: 600 },
  },
  {
    what: 'Milk pump', customer: DAIRY, serial: 'TD-102', frame: '132S', mass: '52', complaint: 'Does not start, hums.', condition: 'One phase open at the box.',
    motor: { outputKW: 5.5, volts: [400, 690], hertz: 50, poles: 2, slots: 24, layers: 2, form: 'lap', oneToN: 11, connection: 'delta', circuits: 1, leads: '6', slipPercent: 3.3, efficiency: 0.88, powerFactor: 0.88 },
    daysAgo: 6, promisedInDays: 7, until: ['CT2', 'DA2'], restDays: 0.4,
  },
  {
    what: 'Slewing gear motor', customer: 'Skarvøy Harbour Crane', serial: 'SH-12', frame: '180L', mass: '150', complaint: 'Bearing howl, grease run out.', condition: 'Winding sound, dirty.', route: 'overhaul',
    motor: { outputKW: 11, volts: 400, hertz: 50, poles: 8, slots: 48, layers: 2, form: 'lap', oneToN: 6, connection: 'delta', circuits: 2, slipPercent: 3, efficiency: 0.88, powerFactor: 0.76 },
    daysAgo: 5, promisedInDays: 4, until: ['ODR', 'BRG'], restDays: 0.3, rotor: { massKg: 48, widthMm: 55, spanMm: 430 },
  },
  {
    what: 'Cheese cellar fan', customer: DAIRY, serial: 'TD-15', pieces: { serials: ['TD-15', 'TD-16', 'TD-17', 'TD-18'], megohm: [210, 3.2] }, frame: '80', mass: '10.5', complaint: 'Runs slow.', condition: 'Dry bearings.',
    motor: { outputKW: 0.55, volts: [230, 400], hertz: 50, poles: 4, slots: 24, layers: 1, form: 'lap', oneToN: 6, connection: 'wye', circuits: 1, leads: '6', slipPercent: 6, efficiency: 0.74, powerFactor: 0.74 },
    daysAgo: 2, promisedInDays: 12, until: ['TAF'], restDays: 0.5, megohm: { IN: 210 },
  },
  {
    what: 'Screen feeder motor', customer: QUARRY, serial: 'GQ-204', frame: '132M', mass: '66', complaint: 'Tripped on overload.', condition: 'Terminal box broken.',
    motor: { outputKW: 2.2, volts: 400, hertz: 50, poles: 10, slots: 60, layers: 2, form: 'lap', oneToN: 6, connection: 'wye', circuits: 1, slipPercent: 6, efficiency: 0.78, powerFactor: 0.66 },
    daysAgo: 1, promisedInDays: 15, until: ['INT'], restDays: 0.5,
  },
  {
    what: 'Dosing pump motor', customer: WATER, serial: 'DS-66', frame: '90L', mass: '16', complaint: 'Phase to earth.', condition: 'Corroded fins.',
    motor: { outputKW: 1.5, volts: 460, hertz: 60, poles: 4, slots: 36, layers: 1, form: 'concentric', poleGroups: 'consequent', connection: 'wye', circuits: 1, slipPercent: 4, efficiency: 0.84, powerFactor: 0.78 },
    daysAgo: 4, promisedInDays: 9, until: ['DAT'], restDays: 0.2, rotor: { massKg: 6, widthMm: 40, spanMm: 220 },
  },
  {
    what: 'Spare rotor, lift drive', customer: LIFT, serial: 'FL-0031-R', frame: '250M', mass: '160', complaint: 'Balance before storage.', condition: 'Clean, journals sound.', came: 'rotor only', fitted: ['fan'],
    motor: { outputKW: 55, volts: 400, hertz: 50, poles: 4, slots: 60, layers: 2, form: 'lap', oneToN: 13, connection: 'delta', circuits: 2, slipPercent: 1.5, efficiency: 0.94, powerFactor: 0.86 },
    daysAgo: 3, promisedInDays: 8, until: ['RBL'], restDays: 0.2, rotor: { massKg: 150, widthMm: 90, spanMm: 640 },
  },
  {
    what: 'Gangway hoist, ten poles', customer: FERRY, serial: 'GH-51', frame: '160L', mass: '148', complaint: 'Hums and will not lift.', condition: 'One group burnt, the rest sound.',
    motor: { outputKW: 5.5, volts: 400, hertz: 50, poles: 10, slots: 54, layers: 2, form: 'lap', oneToN: 6, connection: 'wye', circuits: 2, slipPercent: 3.2, efficiency: 0.84, powerFactor: 0.74, rotorBars: 62 },
    daysAgo: 3, promisedInDays: 12, until: ['TAF'], dataTyped: true,
  },
  {
    what: 'Ice maker compressor', customer: DAIRY, serial: 'IM-9', frame: '90L', mass: '19', complaint: 'Starts only when pushed.', condition: 'Auxiliary open, capacitor swollen.', fitted: ['bearings', 'fan'],
    motor: { outputKW: 1.1, volts: 230, hertz: 50, poles: 4, slots: 36, layers: 2, form: 'lap', connection: 'delta', circuits: 1, slipPercent: 4, efficiency: 0.74, powerFactor: 0.93 },
    singlePhase: { outputKW: 1.1, volts: 230, hertz: 50, poles: 4, slots: 36, coils: 4, slipPercent: 4, efficiency: 0.74, powerFactor: 0.93, capacitorUF: 30, ratio: 1.35 },
    daysAgo: 12, promisedInDays: 2, until: ['DSP'], restDays: 1,
  },
  {
    what: 'Two-speed ventilator', customer: QUARRY, serial: 'TV-3', frame: '160M', mass: '110', complaint: 'Runs at the low speed only.', condition: 'Winding dark at three groups.',
    motor: { outputKW: 8.5, volts: 400, hertz: 50, poles: 8, slots: 36, layers: 2, form: 'lap', oneToN: 6, connection: 'delta', circuits: 1, kind: 'two-speed', duty: 'constant torque', leads: '6', slipPercent: 3, efficiency: 0.85, powerFactor: 0.86, airGapT: 0.78, rotorBars: 46 },
    daysAgo: 14, promisedInDays: 1, until: ['DSP'], restDays: 2,
  },
  {
    what: 'Brine pump, nine leads', customer: WATER, serial: 'BP-230', frame: '180M', mass: '150', complaint: 'Low insulation after flooding.', condition: 'Salt crust on the end turns.',
    motor: { outputKW: 15, volts: [230, 460], hertz: 60, poles: 4, slots: 48, layers: 2, form: 'lap', oneToN: 11, connection: 'wye', circuits: 2, leads: '9', slipPercent: 2.2, efficiency: 0.91, powerFactor: 0.85 },
    daysAgo: 3, promisedInDays: 10, until: ['TAF'], dataTyped: true,
  },
  {
    what: 'Booster pump, twelve leads', customer: WATER, serial: 'BP-612', frame: '225M', mass: '390', complaint: 'Tripped on start, wye-delta.', condition: 'Phase paper charred between two groups.',
    motor: { outputKW: 37, volts: [230, 460], hertz: 60, poles: 6, slots: 72, layers: 2, form: 'lap', oneToN: 11, connection: 'delta', circuits: 1, leads: '12', slipPercent: 1.8, efficiency: 0.93, powerFactor: 0.84 },
    daysAgo: 5, promisedInDays: 14, until: ['TAF'], dataTyped: true,
  },
  {
    what: 'Positioning drive, tooth coils', customer: LIFT, serial: 'PD-7', frame: '112M', mass: '31', complaint: 'Encoder fault, then smoke.', condition: 'Two tooth coils shorted.', fitted: ['bearings', 'encoder', 'brake'],
    motor: { outputKW: 2.8, volts: 330, hertz: 50, poles: 10, slots: 12, layers: 2, form: 'lap', oneToN: 2, connection: 'wye', circuits: 1, slipPercent: 0, efficiency: 0.9, powerFactor: 0.94, airGapT: 0.72 },
    magnets: { outputKW: 2.8, amps: 6.4, rpm: 3000, emfPer1000: 88, poles: 10, slots: 12, turns: 42, wire: '0.9', circuits: 1, connection: 'wye' },
    daysAgo: 2, promisedInDays: 8, until: ['INT'], dataTyped: true,
  },
  {
    what: 'Slip-ring hoist motor', customer: QUARRY, serial: 'SR-40', frame: '250M', mass: '520', complaint: 'Rings sparking, no torque at the lowest step.', condition: 'Rotor leads charred at the star ring.', fitted: ['bearings', 'fan'],
    motor: { outputKW: 30, volts: 400, hertz: 50, poles: 6, slots: 54, layers: 2, form: 'lap', oneToN: 9, connection: 'delta', circuits: 3, slipPercent: 3, efficiency: 0.9, powerFactor: 0.82 },
    woundRotor: { slots: 72, oneToN: 13, ringVolts: 260, bars: true },
    daysAgo: 6, promisedInDays: 15, until: ['TAF'], dataTyped: true,
  },
  {
    what: 'Deck wash pump', customer: FERRY, serial: 'DW-14', frame: '90L', mass: '17', complaint: 'Blows the fuse.', condition: 'Two coils burnt through at the crossing.',
    motor: { outputKW: 1.6, volts: 400, hertz: 50, poles: 4, slots: 36, layers: 1, form: 'lap', coilList: [[1, 9], [2, 10], [11, 18]], connection: 'wye', circuits: 1, slipPercent: 4.2, efficiency: 0.82, powerFactor: 0.8 },
    daysAgo: 3, promisedInDays: 7, until: ['TAF'], dataTyped: true,
  },
  {
    what: 'Whey separator drive', customer: DAIRY, serial: 'WS-5', frame: '160M', mass: '121', complaint: 'Earth fault after the wash.', condition: 'Phase paper soft, one group green.',
    motor: { outputKW: 9.5, volts: 400, hertz: 50, poles: 4, slots: 48, layers: 2, form: 'concentric', oneToN: 12, mixed: true, connection: 'delta', circuits: 2, slipPercent: 2.8, efficiency: 0.89, powerFactor: 0.84 },
    daysAgo: 9, promisedInDays: 6, until: ['DSG'], restDays: 1, records: { DSG: { secondName: 'Tomas Brekke', coats: '2' } },
  },
  {
    what: 'Intake pump, 3.3 kV', customer: WATER, serial: 'IP-33', frame: '400L', mass: '2650', complaint: 'Earth fault relay trips after the rains.', condition: 'Ground wall wet at two slots, wedges loose.', priority: 'urgent', fitted: ['bearings', 'thermal sensors', 'heaters'],
    route: 'ac_form_rewind', impregnation: 'vacuum-pressure',
    motor: { outputKW: 355, volts: 3300, hertz: 50, poles: 6, slots: 72, layers: 2, form: 'lap', oneToN: 11, connection: 'wye', circuits: 1, slipPercent: 0.9, efficiency: 0.945, powerFactor: 0.85 },
    formWound: { outputKW: 355, volts: 3300, hertz: 50, poles: 6, slots: 72, oneToN: 11, boreM: 0.52, lengthM: 0.46, strip: [1.6, 6.3], high: 2, airGapT: 0.72, efficiency: 0.945, powerFactor: 0.85, slipPercent: 0.9 },
    daysAgo: 5, promisedInDays: 24, until: ['TAF'], dataTyped: true, megohm: { IN: 420 },
  },
  {
    what: 'Capstan motor, aft', customer: FERRY, serial: 'CA-31', frame: '160L', mass: '118', complaint: 'Flashed over at the box in a head sea.', condition: 'One phase charred, salt in the end turns.', came: 'stator only',
    motor: { outputKW: 15, volts: 400, hertz: 50, poles: 4, slots: 36, layers: 2, form: 'lap', oneToN: 8, connection: 'delta', circuits: 2, slipPercent: 2.6, efficiency: 0.9, powerFactor: 0.85 },
    daysAgo: 11, promisedInDays: 1, until: ['DRN'], restDays: 0.2, megohm: { IN: 0.8 },
  },
  {
    what: 'Ballast pump motor', customer: FERRY, serial: 'BP-11', frame: '200L', mass: '232', complaint: 'Winding to earth after a leak of the gland.', condition: 'Two groups green, core sound.', came: 'stator only',
    motor: { outputKW: 30, volts: 400, hertz: 50, poles: 4, slots: 48, layers: 2, form: 'lap', oneToN: 11, connection: 'delta', circuits: 2, slipPercent: 2.1, efficiency: 0.92, powerFactor: 0.86 },
    daysAgo: 4, promisedInDays: 10, until: ['CUT'], restDays: 0.6,
  },
  {
    what: 'Curd pump motor', customer: DAIRY, serial: 'TD-61', frame: '100L', mass: '24', complaint: 'Hums, trips, smells.', condition: 'Coils of one pole dark.', came: 'stator only',
    motor: { outputKW: 2.4, volts: 400, hertz: 50, poles: 4, slots: 36, layers: 1, form: 'concentric', oneToN: 12, connection: 'wye', circuits: 1, slipPercent: 5, efficiency: 0.83, powerFactor: 0.8 },
    daysAgo: 12, promisedInDays: 2, until: ['DRN'], restDays: 4,
  },
  {
    what: 'Ventilator of the dust hall', customer: QUARRY, serial: 'CV-8', frame: '132M', mass: '47', complaint: 'Two fuses blown, one phase open.', condition: 'Dust packed between the end turns.', came: 'stator only',
    motor: { outputKW: 6.3, volts: 400, hertz: 50, poles: 4, slots: 36, layers: 1, form: 'concentric', oneToN: 12, connection: 'delta', circuits: 1, slipPercent: 3.8, efficiency: 0.87, powerFactor: 0.83 },
    daysAgo: 7, promisedInDays: 3, until: ['DRN'], restDays: 0.3,
  },
  {
    what: 'Reverse-osmosis feed pump', customer: WATER, serial: 'RO-17', frame: '225M', mass: '305', complaint: 'Insulation alarm each wet morning.', condition: 'Green bloom on two groups, core sound.', came: 'stator only', impregnation: 'vacuum-pressure',
    motor: { outputKW: 45, volts: 400, hertz: 50, poles: 2, slots: 36, layers: 2, form: 'lap', oneToN: 15, connection: 'delta', circuits: 2, slipPercent: 1.5, efficiency: 0.93, powerFactor: 0.89 },
    daysAgo: 13, promisedInDays: 4, until: ['PRE'], restDays: 0.2, megohm: { IN: 3 },
  },
  {
    what: 'Fan wheel of the dust hall, on its shaft', customer: QUARRY, serial: 'CV-8-F', frame: '132M', mass: '24', complaint: 'Shakes the ducts since it was cleaned.', condition: 'Two blades dented, one balance weight gone.', came: 'rotor only', fitted: ['fan'],
    motor: { outputKW: 6.3, volts: 400, hertz: 50, poles: 4, slots: 36, layers: 1, form: 'concentric', oneToN: 12, connection: 'delta', circuits: 1, slipPercent: 3.8, efficiency: 0.87, powerFactor: 0.83 },
    daysAgo: 2, promisedInDays: 5, until: ['RJR', 'RBT'], restDays: 0.1,
  },
  {
    what: 'Armature of the piste grinder', customer: LIFT, serial: 'PG-4', frame: '71', mass: '1.9', complaint: 'Sparks and hums at speed.', condition: 'Rewound and cured here before; commutator turned.', came: 'rotor only', fitted: ['fan'],
    motor: { outputKW: 1.1, volts: 400, hertz: 50, poles: 2, slots: 24, layers: 1, form: 'concentric', oneToN: 12, connection: 'wye', circuits: 1, slipPercent: 5, efficiency: 0.78, powerFactor: 0.82 },
    daysAgo: 2, promisedInDays: 4, until: ['RJR', 'RBT'], restDays: 0.1,
  },
  {
    what: 'Rope drive of the nursery slope', customer: LIFT, serial: 'NS-12', frame: '160M', mass: '104', complaint: 'Trips when it is started loaded.', condition: 'Clean, one group warm to the hand.',
    motor: { outputKW: 13, volts: 400, hertz: 50, poles: 4, slots: 36, layers: 2, form: 'lap', oneToN: 9, connection: 'wye', circuits: 1, slipPercent: 2.8, efficiency: 0.895, powerFactor: 0.84 },
    daysAgo: 9, promisedInDays: 6, until: ['PVT'], restDays: 0.2, waves: { IN: 'turn short', AC: 'group reversed' }, megohm: { IN: 310 },
  },
  {
    what: 'Brine return pump', customer: WATER, serial: 'BR-9', frame: '132S', mass: '49', complaint: 'Bearings worn, yearly overhaul.', condition: 'Dry, salt on the fins.', route: 'overhaul', impregnation: 'dip',
    motor: { outputKW: 5.2, volts: 400, hertz: 50, poles: 4, slots: 36, layers: 2, form: 'lap', oneToN: 9, connection: 'wye', circuits: 1, slipPercent: 3.6, efficiency: 0.87, powerFactor: 0.83 },
    daysAgo: 240, promisedInDays: -228, until: ['DSP'], restDays: 232, megohm: { IN: 420 },
  },
  {
    what: 'Brine return pump', customer: WATER, serial: 'BR-9', frame: '132S', mass: '49', complaint: 'Stood flooded for a night.', condition: 'Wet, no burn, bearings rusty.', route: 'overhaul', impregnation: 'dip',
    motor: { outputKW: 5.2, volts: 400, hertz: 50, poles: 4, slots: 36, layers: 2, form: 'lap', oneToN: 9, connection: 'wye', circuits: 1, slipPercent: 3.6, efficiency: 0.87, powerFactor: 0.83 },
    daysAgo: 3, promisedInDays: 8, until: ['TAF'], restDays: 0.2, waves: {}, megohm: { IN: 164 }, drying: { IN: [0.7, 4.2, 21] },
  },
  {
    what: 'Chilled water pump', customer: DAIRY, serial: 'CW-44', frame: '160M', mass: '112', complaint: 'Trips on hot days.', condition: 'Fins clogged with whey, one phase dark.',
    motor: { outputKW: 9, volts: 400, hertz: 50, poles: 4, slots: 36, layers: 2, form: 'lap', oneToN: 9, connection: 'delta', circuits: 1, slipPercent: 2.9, efficiency: 0.885, powerFactor: 0.84 },
    daysAgo: 16, promisedInDays: 1, until: ['RUN'], restDays: 0.2, loaded: 'hot',
  },
  {
    what: 'Quay winch, port side', customer: FERRY, serial: 'QW-8', frame: '180M', mass: '158', complaint: 'One line draws more than the others.', condition: 'Winding sound, bearings worn.', route: 'overhaul', impregnation: 'dip',
    motor: { outputKW: 17, volts: 400, hertz: 50, poles: 4, slots: 48, layers: 2, form: 'lap', oneToN: 11, connection: 'delta', circuits: 2, slipPercent: 2.4, efficiency: 0.905, powerFactor: 0.85 },
    daysAgo: 8, promisedInDays: 2, until: ['RUN'], restDays: 0.1, loaded: 'unbalanced',
  },
];
