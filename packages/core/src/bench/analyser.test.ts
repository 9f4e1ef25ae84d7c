import { describe, expect, it } from 'vitest';
import { seeded } from '../balance/stand.ts';
import { judgeSurge } from '../evaluate/surgeJudged.ts';
import { jointsOf } from '../network/joints.ts';
import { wavesOfTraces } from '../surge/surgeTrace.ts';
import { connect } from '../winding/connection.ts';
import { layoutOf } from '../winding/layout.ts';
import { ANALYSER_FAULTS, analyserRun, type AnalyserFault, type AnalyserOrder, type AnalyserTest } from './analyser.ts';
import { readingsOfRun, runsOfStreams } from './analyserReadings.ts';

const layout = layoutOf({
  slots: 36,
  poles: 4,
  layers: 2,
  form: 'lap',
  poleGroups: 'every-pole',
  spanSlots: 8,
  turns: [5],
});
const order = (test: AnalyserTest, more: Partial<AnalyserOrder> = {}): AnalyserOrder => ({
  job: 'motor 7',
  test,
  stage: 'VC',
  layout,
  joints: jointsOf(connect(layout, { connection: 'wye', circuits: 1, jumper: 'adjacent-pole', leads: 3 })),
  lineOhm: 2.4,
  volts: test === 'surge' ? 1800 : test === 'highPotential' ? 1800 : 500,
  cured: true,
  ...more,
});
const run = (test: AnalyserTest, fault?: AnalyserFault, more: Partial<AnalyserOrder> = {}) =>
  analyserRun(order(test, more), fault, seeded(5));
const typed = (test: AnalyserTest, fault?: AnalyserFault) => {
  const [stream] = run(test, fault);
  if (!stream) throw new Error('nothing sent');
  return readingsOfRun(test, { ...stream, x: stream.times });
};

describe('the simulated analyser', () => {
  const judged = (fault?: AnalyserFault) => {
    const waves = wavesOfTraces(
      run('surge', fault).map((s) => ({
        channels: s.channels,
        x: Float64Array.from(s.times),
        values: s.values.map((v) => Float64Array.from(v)),
      })),
    );
    return judgeSurge({
      waves: waves.map((w) => ({
        name: w.name ?? '',
        pulses: w.pulses.map((p) => ({ v: p.v, dtS: p.dtUs * 1e-6, appliedV: p.appliedV })),
      })),
      mode: 'lead to lead',
      connection: 'wye',
      winding: 'random-wound',
      windings: 'alike',
      rotor: 'out',
      requiredV: 1800,
      phasesOhm: fault === 'group bypassed' ? [0.9, 1.2, 1.2] : [1.2, 1.201, 1.199],
      insulation: fault === 'ground fault' ? 'low' : 'sound',
      limits: {},
    });
  };
  it.each<[AnalyserFault | undefined, string, string]>([
    [undefined, 'pass', 'healthy'],
    ['sound again', 'pass', 'healthy'],
    ['damp winding', 'pass', 'healthy'],
    ['turn short', 'fail', 'turn insulation'],
    ['group reversed', 'fail', 'reversed or exchanged groups, hard turn short'],
    ['group bypassed', 'fail', 'turns missing'],
    ['ground fault', 'fail', 'ground fault'],
    ['lead open', 'fail', 'open circuit'],
  ])('surge, %s: %s, told as %s', (fault, verdict, id) => {
    const out = judged(fault);
    expect(out.verdict).toBe(verdict);
    expect(out.diagnosis[0]?.id).toBe(id);
    expect(out.reachedV).toBe(1800);
  });
  it('a turn short shows only above three quarters of the crest', () => {
    expect(judged('turn short').breakdown).toMatchObject({ fromV: 1080, toV: 1440 });
  });
  it('resistance, by its own network: a bypassed group takes from two pairs', () => {
    const sound = typed('windingResistance');
    expect(Number(sound['ab']) / (2.4 * (256 / 255))).toBeCloseTo(1, 2);
    expect(sound['windingC']).toBe('21');
    const less = typed('windingResistance', 'group bypassed');
    const ratios = ['ab', 'bc', 'ca'].map((p) => Number(less[p]) / Number(sound[p]));
    expect(ratios.filter((r) => Math.abs(r - 7 / 8) < 0.002)).toHaveLength(2);
    expect(ratios.filter((r) => Math.abs(r - 1) < 0.002)).toHaveLength(1);
    expect(typed('windingResistance', 'lead open')).toMatchObject({ ab: '>1000000', ca: '>1000000' });
  });
  it('insulation: dry, damp and to ground', () => {
    const [dry, damp, fault] = [undefined, 'damp winding' as const, 'ground fault' as const].map((f) =>
      typed('insulationResistance', f),
    );
    expect(Number(dry?.['r10min']) / Number(dry?.['r1min'])).toBeGreaterThan(2);
    expect(Number(dry?.['r1min'])).toBeGreaterThan(900);
    expect(Number(damp?.['r10min']) / Number(damp?.['r1min'])).toBeLessThan(1.1);
    expect(Number(damp?.['r1min'])).toBeLessThan(5);
    expect(Number(fault?.['r1min'])).toBeLessThan(0.1);
    expect(dry?.['testV']).toBe('500');
  });
  it('high potential: held for a minute, or broken down on the ramp', () => {
    const held = typed('highPotential');
    expect(held).toMatchObject({ testV: '1800', outcome: 'pass', voltage: 'AC' });
    expect(Number(held['seconds'])).toBeGreaterThanOrEqual(60);
    expect(typed('highPotential', 'ground fault')).toMatchObject({ outcome: 'fail' });
  });
  it('streams of one run belong together, the newest run first as they come', () => {
    const streams = ['m, surge 2, WU', 'm, surge 2, VW', 'm, surge 1, UV', 'alone'].map((stream) => ({ stream }));
    expect(runsOfStreams(streams).map((r) => [r.name, r.sent.length])).toEqual([
      ['m, surge 2', 2],
      ['m, surge 1', 1],
      ['alone', 1],
    ]);
    expect(runsOfStreams([])).toEqual([]);
  });
  it('the same motor is the same again; every stream fits the instrument door', () => {
    expect(run('surge')).toEqual(run('surge'));
    expect(run('surge', undefined, { job: 'motor 8' })).not.toEqual(run('surge'));
    for (const fault of ANALYSER_FAULTS)
      for (const test of ['surge', 'windingResistance', 'insulationResistance', 'highPotential'] as const)
        for (const s of run(test, fault)) {
          expect(s.channels.length).toBeLessThanOrEqual(16);
          expect(s.values).toHaveLength(s.channels.length);
          for (const v of s.values) {
            expect(v).toHaveLength(s.times.length);
            expect(v.every(Number.isFinite)).toBe(true);
          }
          expect(s.times.every((t, i) => i === 0 || t > (s.times[i - 1] ?? 0))).toBe(true);
        }
  });
});
