import { describe, expect, it } from 'vitest';
import { surgeWave } from '../surge/simulatedWave.ts';
import { waveNames } from '../surge/suspect.ts';
import { judgeSurge, type SurgeQuestion } from './surgeJudged.ts';

/** A wave of a winding that rings so fast (1: as its siblings), so large, damped so much, at a voltage. */
interface Shape {
  volts?: number;
  faster?: number;
  size?: number;
  damped?: number;
}
const pulse = ({ volts = 1000, faster = 1, size = 1, damped = 1 }: Shape = {}) => {
  const { v } = surgeWave({ ohm: 180 * damped, henry: 12e-3 / faster ** 2, farad: 0.1e-6 }, volts, 2e-6, 400);
  return { v: Array.from(v, (x) => x * size), dtS: 2e-6, appliedV: volts };
};
const judged = (waves: Shape[][], more: Partial<SurgeQuestion> = {}) =>
  judgeSurge({
    waves: waves.map((pulses, i) => ({ name: waveNames('lead to lead')[i] ?? `w${i}`, pulses: pulses.map(pulse) })),
    mode: 'lead to lead',
    connection: 'wye',
    winding: 'random-wound',
    windings: 'alike',
    rotor: 'out',
    phasesOhm: [1, 1, 1],
    insulation: 'sound',
    limits: {},
    ...more,
  });
const said = (out: ReturnType<typeof judged>, id: string) => {
  const found = out.diagnosis.find((d) => d.id === id);
  return found ? { rank: out.diagnosis.indexOf(found), for: found.speaksFor, against: found.speaksAgainst } : undefined;
};

describe('what a comparison tells the diagnosis', () => {
  const odd = (faster: number, more: Shape = {}): Shape[][] => [[{ faster, ...more }], [more], [{ faster, ...more }]];
  it('how far the ring frequencies are apart: highest over lowest', () => {
    const out = judged(odd(1.13));
    expect(out.verdict).toBe('fail');
    expect(said(out, 'reversed or exchanged groups, hard turn short')?.for).toEqual([
      'ring frequencies 12 % apart, out at the one voltage that was taken',
      'phase resistances are equal',
    ]);
    expect(out.suspect).toMatchObject({ odd: 1, oddIsHealthy: true, phase: 'U' });
    expect(out.reason).toMatch(/Suspect: phase U, or groups of V and W exchanged\.$/);
  });
  it('a frequency that one wave does not have is no shift', () => {
    const flat = judgeSurge({
      waves: ['UV', 'VW', 'WU'].map((name, i) => ({
        name,
        pulses: [i === 1 ? { ...pulse(), v: pulse().v.map((_, k) => 1000 * 0.995 ** k) } : pulse({ faster: 1.2 })],
      })),
      mode: 'lead to lead',
      connection: 'wye',
      winding: 'random-wound',
      windings: 'alike',
      rotor: 'out',
      limits: {},
    });
    expect(flat.diagnosis.flatMap((d) => d.speaksFor).join(' ')).not.toMatch(/apart/);
    expect(flat.waves.map((w) => w.frequencyHz === undefined)).toEqual([false, true, false]);
    expect(said(flat, 'open circuit')?.for).toEqual(['VW falls without ringing']);
  });
  it('resistances: equal up to the limit of the winding, else low or high in a phase', () => {
    const of = (phasesOhm: [number, number, number], more: Partial<SurgeQuestion> = {}) =>
      judged(odd(1.13), { phasesOhm, ...more });
    expect(said(of([0.94, 1, 1]), 'turns missing')?.for).toContain('resistance of phase U 6 % low');
    expect(said(of([1.06, 1, 1]), 'more turns or open circuit')?.for).toContain('resistance of phase U 6 % high');
    // random-wound 2 %, form-wound less: the shop's own limits
    const limits = { 'resistance.randomPassPercent': 8, 'resistance.formPassPercent': 1 };
    expect(said(of([0.94, 1, 1], { limits }), 'turns missing')?.for ?? []).not.toContain(
      'resistance of phase U 6 % low',
    );
    expect(said(of([0.98, 1, 1], { limits, winding: 'form-wound' }), 'turns missing')?.for).toContain(
      'resistance of phase U 2 % low',
    );
    const unknown = judged(odd(1.13), { phasesOhm: undefined });
    expect(unknown.reason).toMatch(/\(inductance taken as lost: the phase resistances are not known\)\.$/);
    expect(said(unknown, 'reversed or exchanged groups, hard turn short')?.for).toEqual([
      'ring frequencies 12 % apart, out at the one voltage that was taken',
    ]);
  });
  it('more inductance than the others: the odd wave is the highest, and it says so', () => {
    const out = judged(odd(0.88), { phasesOhm: [1.3, 1, 1] });
    expect(out.suspect).toMatchObject({ change: 'gained', phase: 'U' });
    expect(out.reason).toMatch(/Suspect: phase U, more inductance than the others\.$/);
    expect(said(out, 'more turns or open circuit')?.for[0]).toMatch(/^ring frequencies 1[34] % apart$/);
  });
  it('out only above a voltage is a breakdown; out at every voltage is none', () => {
    const levels = (low: number, high: number): Shape[][] =>
      [1, 0, 1].map((is) => [
        { volts: 500, faster: is ? low : 1 },
        { volts: 1000, faster: is ? high : 1 },
      ]);
    const above = judged(levels(1, 1.04), { limits: { 'surge.pulsePercent': 60 } });
    expect(above).toMatchObject({ verdict: 'fail', outFromV: 1000, breakdown: undefined });
    expect(above.reason).toMatch(/ Within limits below; from 1000 V up\. Suspect: phase U\.$/);
    expect(said(above, 'turn insulation')?.for).toEqual(['within limits below, out from 1000 V up']);
    const both = judged(levels(1.13, 1.13));
    expect(both).toMatchObject({ verdict: 'fail', outFromV: 500 });
    expect(both.reason).not.toMatch(/Within limits below/);
    expect(said(both, 'reversed or exchanged groups, hard turn short')?.for[0]).toBe(
      'ring frequencies 12 % apart, out at the lowest voltage too',
    );
    const never = judged(levels(1, 1));
    expect(never).toMatchObject({ verdict: 'pass', outFromV: undefined });
    expect(said(never, 'healthy')?.for).toEqual([
      'every comparison is within its limit',
      'phase resistances are equal',
    ]);
  });
  it('jumps while the voltage rises: where, in which wave, and whether the sound wave stays', () => {
    const jump = (of: number[]): Shape[][] =>
      [0, 1, 2].map((i) => [{ volts: 500 }, { volts: 1000 }, { volts: 1500, faster: of.includes(i) ? 1.13 : 1 }]);
    const out = judged(jump([0, 2]));
    expect(out.breakdown).toEqual({ wave: 'UV', fromV: 1000, toV: 1500 });
    expect(out.reason).toMatch(
      /^UV changes between 1000 and 1500 V by \d+(\.\d+)? % from pulse to pulse, more than 10 % \(common practice\): the turn insulation gives way there\. Suspect: phase U\. Do not raise the voltage\.$/,
    );
    const worst = Math.max(...out.waves.flatMap((w) => w.steps.filter((s) => s.out).map((s) => s.areaPercent)));
    expect(out.reason).toContain(`by ${Number(worst.toPrecision(3))} %`);
    expect(said(out, 'turn insulation')).toMatchObject({
      rank: 0,
      for: [
        'UV jumps between 1000 and 1500 V',
        'within limits below, out from 1500 V up',
        'the wave without that phase stays',
        'insulation resistance is sound',
      ],
    });
    // all three jump alike: no comparison is out, no phase is named
    const all = judged(jump([0, 1, 2]));
    expect(all.reason).toMatch(/gives way there\. Do not raise the voltage\.$/);
    expect(said(all, 'turn insulation')?.for).toEqual([
      'UV jumps between 1000 and 1500 V',
      'insulation resistance is sound',
    ]);
    // one wave alone jumps
    const one = judged(jump([1]));
    expect(one.breakdown?.wave).toBe('VW');
  });
  it('a change at one voltage is unsteady, not a breakdown', () => {
    const twice = (second: number): Shape[][] => [0, 1, 2].map((i) => [{}, { faster: i === 0 ? second : 1 }]);
    const out = judged(twice(1.13));
    expect(said(out, 'partial discharge or unsteady joint')?.for[0]).toBe('UV changes between pulses of one voltage');
    expect(said(out, 'turn insulation')?.for ?? []).toEqual([]);
    expect(judged(twice(1)).diagnosis[0]?.id).toBe('healthy');
    // 2 % more volts stand for the same voltage, more do not
    const nearly = (volts: number) => judged([0, 1, 2].map((i) => [{}, { volts, faster: i === 0 ? 1.13 : 1 }]));
    expect(said(nearly(1020), 'partial discharge or unsteady joint')?.for[0]).toMatch(/^UV changes/);
    expect(said(nearly(1021), 'turn insulation')?.for[0]).toBe('UV jumps between 1000 and 1021 V');
  });
  it('waves that are smaller, or keep less of their swing, are weak', () => {
    const weak = (shape: Shape, limits = {}) =>
      said(judged([[{}], [shape], [{}]], { limits, insulation: 'low' }), 'ground fault')?.for[0];
    expect(weak({ size: 0.69 })).toBe('VW smaller or much more damped than the others');
    expect(weak({ size: 0.71 })).not.toMatch(/VW/);
    expect(weak({ size: 1.5 })).toBe('UV, WU smaller or much more damped than the others');
    expect(weak({ damped: 2.5 })).toMatch(/^VW smaller/);
    expect(weak({ damped: 1.3 })).not.toMatch(/VW/);
    expect(weak({ damped: 2.5 }, { 'surge.weakSwingPercent': 1, 'surge.weakPercent': 1 })).not.toMatch(/VW/);
  });
  it('the figures of each wave are those at the highest common voltage', () => {
    const out = judged([
      [{ volts: 500 }, { volts: 1000 }, { volts: 1500 }],
      [{ volts: 500 }, { volts: 1000 }],
      [{ volts: 500 }, { volts: 1000 }],
    ]);
    expect(out.reachedV).toBe(1000);
    expect(out.waves.map((w) => w.appliedV)).toEqual([1000, 1000, 1000]);
    expect(out.waves[0]?.steps.map((s) => [s.fromV, s.toV])).toEqual([
      [500, 1000],
      [1000, 1500],
    ]);
    for (const w of out.waves) {
      expect(w.peakV).toBeCloseTo(Math.max(...pulse({ volts: 1000 }).v), 0);
      expect(w.frequencyHz).toBeGreaterThan(4000);
    }
    // one pair alone: its last pulse
    const single = judged([[{ volts: 500 }, { volts: 900 }]]);
    expect(single.waves[0]?.appliedV).toBe(900);
    expect(single.reason).toMatch(/^From pulse to pulse at most \d.*within 10 % \(common practice\)\.$/);
    expect(single.requiredV).toBeUndefined();
  });
  it('the required voltage: reached by 97 %, where it comes from', () => {
    const reached = (volts: number, more: Partial<SurgeQuestion> = {}) =>
      judged([[{ volts }], [{ volts }], [{ volts }]], { requiredV: 2000, ...more });
    expect(reached(1940).verdict).toBe('pass');
    expect(reached(1939)).toMatchObject({
      verdict: 'cannot judge',
      reason: expect.stringMatching(/ Reached 1939 V, less than 1940 V \(97 % of 2000 V\): not proved\.$/),
    });
    expect(reached(1939, { requiredFrom: '2 E + 1000 V' }).reason).toMatch(/\(97 % of 2000 V, 2 E \+ 1000 V\): not/);
    // what failed has failed at any voltage
    expect(judged([[{ faster: 1.13 }], [{}], [{ faster: 1.13 }]], { requiredV: 2000 }).verdict).toBe('fail');
  });
  it('two out with the rotor in, three with the rotor in, dead waves', () => {
    expect(judged(odd(1.13), { rotor: 'in' }).reason).toMatch(
      / The rotor is in: turn it and repeat before condemning\.$/,
    );
    const three: Shape[][] = [[{}], [{ faster: 1.1 }], [{ faster: 1.25 }]];
    expect(judged(three, { rotor: 'in', rotorSays: 'in, not turned' })).toMatchObject({
      verdict: 'cannot judge',
      reason: expect.stringMatching(
        /^At 1000 V, rotor in, not turned: UV against VW \d.*With the rotor in its position tells/,
      ),
    });
    expect(judged(three).reason).toMatch(/^At 1000 V, rotor out: .*Unequal windings, misconnection or two faults/);
    const dead = judged([[{}], [{ size: 0.01 }], [{ size: 0.01 }]]);
    expect(dead.reason).toMatch(/ VW, WU do not ring: open circuit, or a lead of the tester\.$/);
    expect(said(dead, 'open circuit')?.for[0]).toBe('VW, WU stays a line');
    expect(judged([[{}], [{ size: 0.01 }], [{}]]).reason).toMatch(/ VW does not ring: open circuit/);
  });
  it('the worst comparison is the one that is quoted', () => {
    const quoted = (sizes: number[]) =>
      /largest area (\S+) % \((\S+) against (\S+)\)/.exec(judged(sizes.map((size) => [{ size }])).reason)?.slice(1);
    expect(quoted([1, 1.05, 1.05])).toEqual(['5', 'UV', 'VW']);
    expect(quoted([1, 1, 1.06])).toEqual(['6', 'VW', 'WU']);
    expect(quoted([1.07, 1, 1])?.slice(1)).toEqual(['WU', 'UV']);
  });
});
