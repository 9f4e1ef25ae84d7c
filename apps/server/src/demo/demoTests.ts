import {
  analyserRun, connectionOfRecord, isFormWound, jointsOf, judgingContext, type JudgingContext, METRIC_DEFAULTS, ratedAt, readWindingRecord, runCalculation, seeded, temperatureFactor, testedOf, wantedAt, windingFigures, testKind, testVoltageRange, type Speed, type TestStage, type WindingFigures, type WindingRecord,
} from '@norther/core';
import { readNameplate } from '../job/jobs.ts';
import type { DemoJob } from './demoJobs.ts';
import { designRotor, type DesignedMotor } from './design.ts';

type Typed = Record<string, string>;

const MEGOHM = { IN: 38, AC: 650, VC: 2400, AA: 1900, FI: 1900, BS: 100, AB: 100 } as const;
const INSTRUMENT = 'four-wire bridge 2';
const AFTER_AN_HOUR = { minutes: '60', vibration: '0.9', ambientC: '21', bearingDrive: '46', bearingOther: '43', instrument: 'power analyser' };
const SIX_POSITIONS = {
  mounting: 'free', coupled: 'uncoupled', deV: '0.7', deH: '0.9', deA: '0.4', oeV: '0.6', oeH: '0.8', oeA: '0.3',
  deV1: '0.4', deH1: '0.6', oeV1: '0.4', oeH1: '0.5', twiceLine: '0.35', afterOff: '0.03', standHz: '4.5', instrument: 'vibration meter',
};

/** What a careful tester of the demo reads at a stage: a reading for every test that the machine needs there. */
export function testsOf(stage: TestStage, one: DemoJob, designed: DesignedMotor, figures: WindingFigures, cold: number): { kind: string; typed: Typed; waves?: { fileName: string; csv: string } }[] {
  const came = one.came ?? 'whole motor';
  if (came === 'rotor only') return [];
  const rotor = one.woundRotor ? designRotor(designed, { ...one.woundRotor, poles: one.motor.poles, outputKW: one.motor.outputKW }) : undefined;
  const { record } = readWindingRecord(designed.winding, METRIC_DEFAULTS);
  const nameplate = readNameplate({ ...designed.nameplate, ...(rotor?.plate ?? {}) }, METRIC_DEFAULTS);
  const tested = testedOf(nameplate, { record }, null);
  const context = judgingContext({ stage, route: one.route ?? 'ac_random_rewind', nameplate, found: { record }, plan: null, limits: {}, calibrationExpired: false });
  const spread = stage === 'IN' ? [1.004, 0.997, 0.999] : (one.resistanceSpread?.[stage] ?? [1.003, 0.999, 0.998]);
  const ohm = (at20: number | undefined, k: number) => ((at20 ?? 1) * temperatureFactor(20, cold, 235) * (spread[k] ?? 1)).toPrecision(4);
  const cool = { windingC: String(cold), ambientC: String(cold - 0.5) };
  const megohm = one.megohm?.[stage] ?? MEGOHM[stage];
  const idle = (speed: Speed): Typed => {
    const rated = ratedAt(context, speed);
    const poles = rated.poles ?? one.motor.poles;
    const share = poles === 2 ? 0.3 : poles === 4 ? 0.36 : poles === 6 ? 0.42 : 0.48;
    const amps = rated.expectedA ?? (rated.ratedA ?? designed.lineAmps) * share;
    const i = (k: number) => (amps * k).toFixed(2);
    return { u12: String(designed.lineVolts), u23: String(designed.lineVolts + 1), u31: String(designed.lineVolts - 1), i1: i(1.01), i2: i(0.995), i3: i(0.995), ...AFTER_AN_HOUR };
  };
  const rotorOhm = () => {
    if (!rotor) return 1;
    const read = readWindingRecord(rotor.winding, METRIC_DEFAULTS).record;
    return runCalculation(windingFigures, { record: read, nameplate: {} }, { working: 'none' }).values.lineResistance20Ohm;
  };
  const readings: Record<string, () => Typed> = {
    windingResistance: () => ({ ab: ohm(figures.lineResistance20Ohm, 0), bc: ohm(figures.lineResistance20Ohm, 1), ca: ohm(figures.lineResistance20Ohm, 2), ...cool, instrument: INSTRUMENT }),
    singlePhaseResistance: () => ({ main: ohm(figures.phaseResistance20Ohm, 0), aux: stage === 'IN' ? '>200' : ohm(figures.auxResistance20Ohm, 1), behind: 'yes', windingC: String(cold), instrument: INSTRUMENT }),
    rotorResistance: () => ({ where: 'on the rings, brushes lifted', ab: ohm(rotorOhm(), 0), bc: ohm(rotorOhm(), 1), ca: ohm(rotorOhm(), 2), ...cool, instrument: INSTRUMENT }),
    insulationResistance: () => ({ testV: String(testVoltageRange(designed.lineVolts)[1]), r30s: (megohm * 0.8).toPrecision(3), r1min: String(megohm), r10min: (megohm * 1.9).toPrecision(3), windingC: String(cold), airC: String(cold - 0.5), humidity: '52', measured: 'whole winding', kind: isFormWound(record) ? 'form-wound' : 'random-wound', system: 'thermosetting', instrument: 'insulation tester 1' }),
    surge: () => ({ testV: String(testKind('surge')?.due?.(context).typed?.['testV'] ?? 1800), outcome: stage === 'IN' && one.surgeAsFound ? one.surgeAsFound : 'pass', instrument: 'surge tester', finding: stage === 'IN' ? 'three waves alike' : '' }),
    polarity: () => ({ outcome: 'pass', instrument: 'phase-sequence meter' }),
    highPotential: () => ({ ...testKind('highPotential')?.due?.(context).typed, outcome: 'pass', current: '4.2', instrument: 'high-voltage set' }),
    ringVoltage: () => ({ applied: '160', kl: '63.9', lm: '63.4', mk: '64.1', open: 'brushes lifted', instrument: 'power analyser' }),
    capacitor: () => {
      const farad = record.capacitorF ?? 1;
      const volts = 236;
      const hertz = nameplate.frequencyHz ?? 50;
      return { runA: (2 * Math.PI * hertz * volts * farad * 0.985).toFixed(2), runV: String(volts), runningA: (2 * Math.PI * hertz * farad * 395).toFixed(2), instrument: 'power analyser' };
    },
    startSwitch: () => ({ closedAtRest: 'yes', opens: '1130', leftA: '0', mainA: '4.1', protector: 'closed when cold', instrument: 'clamp meter' }),
    noLoadRun: () => idle('only'),
    noLoadLow: () => idle('low'),
    noLoadHigh: () => idle('high'),
    noLoadSingle: () => ({ volts: String(designed.lineVolts), amps: (designed.lineAmps * 0.71).toFixed(2), watts: (0.26 * ((nameplate.outputW ?? 1000) / ((nameplate.efficiencyPercent ?? 75) / 100))).toFixed(0), turns: 'clockwise', turnsWanted: 'clockwise', ...AFTER_AN_HOUR }),
  };
  const required = Object.entries(readings).flatMap(([id, read]) => {
    const kind = testKind(id);
    if (!kind || wantedAt(kind, stage, came, tested) !== 'required') return [];
    if (id === 'surge' && one.waves) return [{ kind: id, typed: { instrument: 'surge tester' }, waves: wavesOf(stage, one, record, context) }];
    const wet = id === 'insulationResistance' ? (one.drying?.[stage] ?? []) : [];
    return [
      ...wet.map((m) => ({ kind: id, typed: { ...read(), r1min: String(m), r30s: (m * 0.95).toPrecision(3), r10min: (m * 1.02).toPrecision(3) } })),
      { kind: id, typed: read() },
    ];
  });
  // the shop reads vibration at six positions of every motor that it assembles
  return stage === 'AA' ? [...required, { kind: 'assembledVibration', typed: SIX_POSITIONS }] : required;
}

/** What a surge tester writes of a motor: every step of the voltage, three waves each. */
function wavesOf(stage: TestStage, one: DemoJob, record: WindingRecord, context: JudgingContext): { fileName: string; csv: string } {
  const made = connectionOfRecord(record);
  if (!made.connection) throw new Error(`the demo motor ${one.serial} has no connection to simulate`);
  const streams = analyserRun(
    {
      job: one.serial, test: 'surge', stage, layout: made.layout, joints: jointsOf(made.connection), lineOhm: 1,
      volts: Number(testKind('surge')?.due?.(context).typed?.['testV'] ?? 1800), cured: stage !== 'AC',
    },
    one.waves?.[stage],
    seeded(stage.charCodeAt(0) + one.mass.length),
  );
  const columns = streams.flatMap((s) => s.channels.map((c, i) => ({ head: `${c.name} ${c.role}`, v: s.values[i] ?? [] })));
  const times = streams[0]?.times ?? [];
  const rows = times.map((t, k) => [(t * 1e6).toFixed(3), ...columns.map((c) => c.v[k])].join(';'));
  return { fileName: `${one.serial}-${stage}.csv`, csv: [`t (µs);${columns.map((c) => c.head).join(';')}`, ...rows].join('\n') };
}
