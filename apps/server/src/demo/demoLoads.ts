import {
  atSlip, loadFrames, loadReadings, LOAD_CHANNELS, LoadStand, METRIC_DEFAULTS, plateMachine, slipAtOutput, type LoadPoint, type WindingFigures,
} from '@norther/core';
import { readNameplate } from '../job/jobs.ts';
import type { DemoJob } from './demoJobs.ts';
import type { DesignedMotor } from './design.ts';

type Typed = Record<string, string>;
const INSTRUMENT = 'power analyser';
const COLD_C = 21;
const SHARES = [1.25, 1.15, 1, 0.75, 0.5, 0.25];
const TAU_S = 850;
const shown = (n: number): string => String(Number(n.toPrecision(5)));

/** What a tester of the demo reads of a motor on the dynamometer: no load, locked, under load, cooling; invented from its plate. */
export function loadTestsOf(one: DemoJob, designed: DesignedMotor, figures: WindingFigures): { kind: string; typed: Typed }[] {
  const plate = readNameplate(designed.nameplate, METRIC_DEFAULTS);
  // what a careful rewind reads is a little better than its plate
  const machine = plateMachine({ ...plate, poles: plate.poles ?? one.motor.poles, efficiencyPercent: 100 * one.motor.efficiency + 1.1 }, { line20Ohm: figures.lineResistance20Ohm });
  if (typeof machine === 'string') throw new Error(machine);
  const { circuit, supply, ratedNm, ratedA } = machine;
  const cold = ((figures.lineResistance20Ohm ?? 2 * circuit.r1) * (234.5 + COLD_C)) / (234.5 + 20);
  const warm = (c: number) => (cold * (234.5 + c)) / (234.5 + COLD_C);
  const idleAt = (share: number) => {
    const at = { ...supply, lineV: share * supply.lineV };
    return { volts: at.lineV, ...atSlip(circuit, at, slipAtOutput(circuit, at, 0.01) ?? 0.001) };
  };
  const noLoad = [1.1, 1, 0.95, 0.9, 0.6, 0.5, 0.4, 0.3].map(idleAt);
  const list = <T>(of: readonly T[], figure: (t: T) => number) => of.map((t) => shown(figure(t))).join('; ');
  const lockedVolts = [0.16, 0.22, 0.3].map((share) => share * supply.lineV);
  const locked = lockedVolts.map((lineV) => ({ volts: lineV, ...atSlip(circuit, { ...supply, lineV }, 1) }));
  const points = pointsOf(one, machine, warm(20));
  const readings = loadReadings(points);
  // the torque of one point was read wrong: the line of stray losses leaves it out
  if (one.loaded === 'bad point')
    readings['torques'] = (readings['torques'] ?? '').split('; ').map((t, i) => (i === 3 ? shown(Number(t) * 1.035) : t)).join('; ');
  const riseK = one.loaded === 'hot' ? 121 : 74;
  const seconds = [25, 50, 75, 100, 125, 150];
  const turned = [0.06, -0.02, -0.04];
  return [
    { kind: 'leadRotation', typed: { ...Object.fromEntries([0, 1, 2].flatMap((p) => ['U', 'V', 'W'].map((lead, t) => [`run${p + 1}${lead}`, shown((noLoad[1]?.amps ?? 5) * (1 + (turned[(t + p) % 3] ?? 0)))]))), instrument: INSTRUMENT } },
    { kind: 'noLoadCurve', typed: { volts: list(noLoad, (p) => p.volts), amps: list(noLoad, (p) => p.amps), watts: list(noLoad, (p) => p.inW), lineOhm: shown(2 * circuit.r1), windingC: '42', instrument: INSTRUMENT } },
    { kind: 'lockedRotor', typed: { volts: list(locked, (p) => p.volts), amps: list(locked, (p) => p.amps), watts: list(locked, (p) => p.inW), lineOhm: shown(2 * circuit.r1), instrument: INSTRUMENT } },
    { kind: 'temperatureRise', typed: { coldOhm: shown(cold), coldC: String(COLD_C), coolantC: '24', seconds: seconds.join('; '), ohms: seconds.map((t) => shown(warm(24 + riseK * Math.exp(-t / TAU_S)))).join('; '), load: '100', thermalClass: 'F', instrument: 'four-wire bridge 2' } },
    {
      kind: 'loadTest',
      typed: {
        ...readings, coldOhm: shown(cold), coldC: String(COLD_C), riseK: String(riseK), coolantC: '24',
        noLoadVolts: list(noLoad, (p) => p.volts), noLoadAmps: list(noLoad, (p) => p.amps), noLoadWatts: list(noLoad, (p) => p.inW), noLoadC: '75', instrument: INSTRUMENT,
      },
    },
  ].filter(({ kind }) => kind !== 'leadRotation' || one.loaded === 'unbalanced');

  function pointsOf(of: DemoJob, m: typeof machine, line20Ohm: number): LoadPoint[] {
    if (typeof m === 'string') return [];
    const stand = new LoadStand({ job: of.serial, stream: of.serial, circuit: m.circuit, supply: m.supply, ratedNm, ratedA, mostNm: 2 * ratedNm, line20Ohm }, 11);
    stand.set(ratedNm);
    for (let i = 0; i < 400; i++) stand.advance(1, 30);
    return SHARES.map((share, n): LoadPoint => {
      stand.set(share * ratedNm);
      for (let i = 0; i < 30; i++) stand.advance(1);
      const rows = Array.from({ length: 60 }, () => stand.read());
      const values = LOAD_CHANNELS.map((_, k) => [rows.reduce((sum, row) => sum + (row[k] ?? 0), 0) / rows.length]);
      const [f] = loadFrames(LOAD_CHANNELS, [n], values);
      const mean = (v: readonly (number | undefined)[] = []) => v.reduce<number>((sum, x) => sum + (x ?? 0), 0) / 3;
      return { t: n, volts: mean(f?.lineV), amps: mean(f?.lineA), watts: f?.watts ?? 0, torqueNm: f?.torqueNm ?? 0, rpm: f?.rpm ?? 0, hz: f?.hz ?? 50, windingC: f?.windingC ?? 80, samples: rows.length };
    });
  }
}
