import { describe, expect, it } from 'vitest';
import { appliedOf, tracesOfWaves, wavesOfTraces } from './surgeTrace.ts';

const pulse = (appliedV: number, dtUs = 10) => ({ appliedV, dtUs, v: [appliedV, 60, -40, -20, 10, 5] });

describe('waves as traces', () => {
  it('come back as they were', () => {
    const waves = [
      { name: 'UV', pulses: [pulse(600), pulse(1200)] },
      { name: 'VW', pulses: [pulse(600)] },
      { name: 'WU', pulses: [pulse(600), pulse(1200, 5)] },
    ];
    const traces = tracesOfWaves(waves);
    expect(traces.map((t) => t.channels.map((c) => `${c.name} ${c.role}`))).toEqual([
      ['UV 600 V', 'UV 1200 V'],
      ['VW 600 V'],
      ['WU 600 V'],
      ['WU 1200 V'],
    ]);
    const back = wavesOfTraces(traces);
    expect(back.map((w) => w.name)).toEqual(['UV', 'VW', 'WU']);
    back.forEach((w, i) =>
      w.pulses.forEach((p, k) => {
        expect(p).toMatchObject({ appliedV: waves[i]?.pulses[k]?.appliedV, v: waves[i]?.pulses[k]?.v });
        expect(p.dtUs).toBeCloseTo(waves[i]?.pulses[k]?.dtUs ?? 0, 9);
      }),
    );
  });

  it('the role says what was applied, else the peak; pulses stand by rising voltage', () => {
    expect([appliedOf('1500 V'), appliedOf('1.5kV'), appliedOf('part'), appliedOf('')]).toEqual([
      1500,
      1500,
      undefined,
      undefined,
    ]);
    const x = Float64Array.from([0, 1e-6, 2e-6, 3e-6, 4e-6]);
    const values = [
      [2, 1, -1, 0.5, 0],
      [0.6, 0.2, -0.2, 0.1, 0],
    ].map((v) => Float64Array.from(v));
    const channel = (role: string) => ({ name: 'UV', unit: 'kV', role });
    const [wave] = wavesOfTraces([{ channels: [channel(''), channel('0.6 kV')], x, values }]);
    expect(wave?.pulses.map((p) => p.appliedV)).toEqual([600, 2000]);
    expect(wave?.pulses[1]?.v[2]).toBe(-1000);
  });

  it.each([
    ['amperes', 'A', [1, 2, 3, 4, 5], /is in A/],
    ['lost samples', 'V', [100, NaN, 3, 4, 5], /lost samples/],
    ['too few', 'V', [100, 2], /fewer than five/],
    ['nothing', 'V', [0, 0, 0, 0, 0], /at least 1 V/],
  ] as const)('%s: refused in words', (_, unit, v, says) => {
    const values = [Float64Array.from(v)];
    const x = Float64Array.from(v, (__, i) => i * 1e-6);
    expect(() => wavesOfTraces([{ channels: [{ name: 'U', unit, role: '' }], x, values }])).toThrow(says);
  });

  it('four waves are none, nor times that stand', () => {
    const x = Float64Array.from([0, 1, 2, 3, 4]);
    const values = [Float64Array.from([100, 1, 1, 1, 1])];
    const one = (name: string) => ({ channels: [{ name, unit: 'V', role: '' }], x, values });
    expect(() => wavesOfTraces(['a', 'b', 'c', 'd'].map(one))).toThrow(/4 waves/);
    expect(() => wavesOfTraces([{ ...one('a'), x: new Float64Array(5) }])).toThrow(/do not rise/);
  });
});
