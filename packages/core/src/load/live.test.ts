import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  LOADED_PLATE as PLATE,
  loadFrame as frame,
  LOAD_ORDER as ORDER,
  loadRunOf as run,
} from '../../../../scripts/testing/onDynamometer.ts';
import { LOAD_CHANNELS } from '../bench/loadStand.ts';
import { limit } from '../limits/limits.ts';
import { atSlip } from './circuit.ts';
import { readLoadCsv } from './loadCsv.ts';
import { liveFigures, loadChannelsLack, loadFrames, type LoadFrame } from './loadFrames.ts';
import { loadReadings, saidOfPoints } from './loadReadings.ts';
import { plateMachine, type PlateMachine } from './plateCircuit.ts';
import { drift, LoadFollower, notSteady, pointsOfRun } from './steady.ts';

describe('channels of a load run', () => {
  it('are known by their names and brought to base units', () => {
    const [f] = loadFrames(
      [
        { name: 'U12', unit: 'kV' },
        { name: 'I1', unit: 'A' },
        { name: 'P', unit: 'kW' },
        { name: 'torque', unit: 'lbf·ft' },
        { name: 'n', unit: 'r/min' },
        { name: 'winding', unit: '°F' },
        { name: 'vibration', unit: 'in/s' },
      ],
      [0],
      [[0.4], [11], [6.2], [30], [1760], [212], [0.1]],
    );
    expect(f).toMatchObject({ lineV: [400, undefined, undefined], watts: 6200, rpm: 1760 });
    // tests.md 9.1: 30 lbf ft at 1760 r/min are 10.053 hp
    expect(liveFigures(f as LoadFrame, 4).outW).toBeCloseTo(10.053 * 745.7, -1);
    expect(f?.windingC).toBeCloseTo(100, 9);
    expect(f?.vibrationMmS).toBeCloseTo(2.54, 9);
  });
  it.each([
    [[{ name: 'I1', unit: 'A' }], /needs the power \(P\), the torque \(T\), the speed \(n\), a voltage \(U12\)/],
    [[...LOAD_CHANNELS, { name: 'torque', unit: 'N·m' }], /stands twice/],
    [[{ name: 'T', unit: 'kW' }], /"T" is in "kW": a torque is wanted/],
  ])('what is missing or of another unit is named', (channels, says) => {
    expect(loadChannelsLack(channels)).toMatch(says);
  });
  it('9.1: 49.46 N m at 1458.5 r/min are 7554.2 W; figures that were not read are left out', () => {
    const found = liveFigures(frame(0, { torqueNm: 49.46, rpm: 1458.5, watts: 8494.6, hz: 50 }), 4);
    expect(found.outW).toBeCloseTo(7554.2, 0);
    expect(found.slip).toBeCloseTo(0.02767, 5);
    expect(liveFigures({ lineV: [], lineA: [] }, 4)).toEqual({});
    expect(liveFigures(frame(0, { torqueNm: -1 }), 4)).not.toHaveProperty('efficiency');
  });
});

describe('steady', () => {
  const window = (make: (i: number) => Partial<LoadFrame>, n = 40) =>
    Array.from({ length: n }, (_, i) => frame(i / 4, make(i)));
  it('fewer than eight samples or a mean of nothing are not', () => {
    expect(drift([1, 1, 1, 1, 1, 1, 1])).toBeUndefined();
    expect(drift([1, 1, 1, 1, 1, 1, 1, 1])).toEqual({ drift: 0, spread: 0 });
    expect(drift([1, -1, 1, -1, 1, -1, 1, -1])).toBeUndefined();
  });
  it('drift is of the halves, spread that of a sample: 9.5', () => {
    // halves 10 and 10.1: 0.1/10.05; n − 1 in the spread
    const found = drift([10, 10, 10, 10, 10.1, 10.1, 10.1, 10.1]);
    expect(found?.drift).toBeCloseTo(0.1 / 10.05, 12);
    expect(found?.spread).toBeCloseTo(Math.sqrt((8 * 0.05 ** 2) / 7) / 10.05, 12);
  });
  // a step of one half against the other: just inside, at and just outside of each published figure
  const at = (share: number) => ({ low: 1 - share / 2, high: 1 + share / 2 });
  it.each([
    ['voltage', 'steady.voltsDrift', (k: number) => ({ lineV: [400 * k, 400 * k, 400 * k] })],
    ['current', 'steady.ampsDrift', (k: number) => ({ lineA: [10 * k, 10 * k, 10 * k] })],
    ['power', 'steady.wattsDrift', (k: number) => ({ watts: 6000 * k })],
    ['torque', 'steady.torqueDrift', (k: number) => ({ torqueNm: 36 * k })],
    ['speed', 'steady.speedDrift', (k: number) => ({ rpm: 1450 * k })],
  ] as const)('%s drifts up to its limit', (name, id, make) => {
    const published = limit(id) / 100;
    const of = (share: number) => {
      const { low, high } = at(share);
      return notSteady(window((i) => make(i < 20 ? low : high) as Partial<LoadFrame>));
    };
    expect(of(published * 0.98)).toEqual([]);
    expect(of(published)).toEqual([]);
    expect(of(published * 1.02)).toEqual([name]);
    expect(
      notSteady(
        window((i) => make(i < 20 ? 1 : 1 + published * 1.02) as Partial<LoadFrame>),
        { [id]: 1.5 },
      ),
    ).toEqual([]);
  });
  it.each([
    ['voltage', 'steady.voltsSpread', (k: number) => ({ lineV: [400 * k] })],
    ['current', 'steady.ampsSpread', (k: number) => ({ lineA: [10 * k] })],
    ['power', 'steady.wattsSpread', (k: number) => ({ watts: 6000 * k })],
    ['torque', 'steady.torqueSpread', (k: number) => ({ torqueNm: 36 * k })],
    ['speed', 'steady.speedSpread', (k: number) => ({ rpm: 1450 * k })],
  ] as const)('%s scatters up to its limit', (name, id, make) => {
    // up and down by turns: no drift between the halves, a deviation of share · √(n/(n − 1))
    const n = 40;
    const of = (spread: number) => {
      const share = spread / Math.sqrt(n / (n - 1));
      return notSteady(window((i) => make(i % 2 ? 1 + share : 1 - share) as Partial<LoadFrame>, n));
    };
    const published = limit(id) / 100;
    expect(of(published * 0.98)).toEqual([]);
    expect(of(published * 1.02)).toEqual([name]);
  });
});

describe('points by themselves', () => {
  const steps = [
    [1.15, 24],
    [1, 24],
    [0.75, 24],
    [0.5, 24],
    [0.25, 24],
  ] as const;
  it('one for each load that was held, none on the way; they are those of the machine', () => {
    const points = pointsOfRun(run(steps), ORDER.ratedNm);
    expect(points.map((p) => Math.round((100 * p.torqueNm) / ORDER.ratedNm))).toEqual([115, 100, 75, 50, 25]);
    for (const p of points) {
      expect(p.samples).toBeGreaterThan(180);
      const share = liveFigures({ ...p, lineV: [p.volts], lineA: [p.amps] }, 4);
      expect(share.efficiency).toBeGreaterThan(0.7);
      expect(share.efficiency).toBeLessThan(0.95);
    }
  });
  it('the same in whatever pieces the samples come, also when some come twice', () => {
    const frames = run(steps.slice(0, 3));
    const whole = pointsOfRun(frames, ORDER.ratedNm);
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 90 }), { minLength: 1, maxLength: 80 }), (sizes) => {
        const follower = new LoadFollower(ORDER.ratedNm);
        let at = 0;
        for (const size of sizes) {
          follower.push(frames.slice(Math.max(0, at - 3), at + size));
          at += size;
        }
        expect(follower.push(frames.slice(at)).points).toEqual(whole);
      }),
      { numRuns: 20 },
    );
  });
  it('units and scale change nothing: the same shares', () => {
    const frames = run(steps.slice(1, 3));
    const larger = frames.map((f) => ({ ...f, torqueNm: 10 * (f.torqueNm ?? 0) }));
    expect(pointsOfRun(larger, 10 * ORDER.ratedNm).map((p) => p.t)).toEqual(
      pointsOfRun(frames, ORDER.ratedNm).map((p) => p.t),
    );
  });
  it('fill the sheet from the highest load down, whatever the order they were taken in', () => {
    const points = pointsOfRun(run([...steps].reverse()), ORDER.ratedNm);
    const typed = loadReadings(points);
    const torques = (typed['torques'] ?? '').split('; ').map(Number);
    expect(torques).toEqual([...torques].sort((a, b) => b - a));
    expect(Object.keys(typed).sort()).toEqual([
      'amps',
      'frequency',
      'speeds',
      'torques',
      'volts',
      'watts',
      'windingsC',
    ]);
    expect(loadReadings([])).toEqual({});
    const said = saidOfPoints(points, { ratedNm: ORDER.ratedNm, hz: 60 });
    expect(said.join(' ')).toMatch(/from the lowest load up.*50 Hz, the plate 60 Hz/);
    expect(saidOfPoints(points.slice(0, 3), { ratedNm: ORDER.ratedNm }).join(' ')).toMatch(
      /Reduced load: the highest point is 75/,
    );
  });
  it.each([
    [99.5, undefined, false],
    [99.4, undefined, true],
    [90, 90, false],
    [89.9, 90, true],
  ] as const)('highest at %s %% of the rated torque, told below %s: %s', (percent, told, is) => {
    const p = { t: 0, volts: 400, amps: 9, watts: 9e3, rpm: 1450, hz: 50, samples: 9, torqueNm: percent };
    const said = saidOfPoints([p], { ratedNm: 100 }, told === undefined ? {} : { 'live.reducedPercent': told });
    expect(said.some((s) => s.startsWith('Reduced load'))).toBe(is);
  });
  it.each([
    [50.5, {}, false],
    [50.51, {}, true],
    [49.49, {}, true],
    [51, { 'live.frequencyPercent': 2 }, false],
  ] as const)('a supply of %s Hz for a plate of 50, %j: told %s', (hz, limits, is) => {
    const p = { t: 0, volts: 400, amps: 9, watts: 9e3, rpm: 1450, hz, samples: 9, torqueNm: 36 };
    expect(saidOfPoints([p], { hz: 50 }, limits).some((s) => s.startsWith('The supply has'))).toBe(is);
  });
  it('more out than in is told', () => {
    const [p] = pointsOfRun(run([[1, 20]]), ORDER.ratedNm);
    expect(saidOfPoints(p ? [{ ...p, torqueNm: 2 * p.torqueNm }] : [], {})).toEqual([
      expect.stringMatching(/more comes out than goes in/),
    ]);
  });
});

describe('a machine of its plate', () => {
  it('gives rated output at rated speed, whatever is known of its winding', () => {
    fc.assert(
      fc.property(
        fc.record({
          outputW: fc.double({ min: 800, max: 200_000, noNaN: true }),
          poles: fc.constantFrom(2, 4, 6, 8),
          slip: fc.double({ min: 0.012, max: 0.06, noNaN: true }),
          lineV: fc.constantFrom(230, 400, 690),
          pf: fc.double({ min: 0.72, max: 0.9, noNaN: true }),
        }),
        ({ outputW, poles, slip, lineV, pf }) => {
          const found = plateMachine({
            outputW,
            poles,
            voltagesV: [lineV],
            currentsA: [outputW / (0.87 * pf * Math.sqrt(3) * lineV)],
            frequencyHz: 50,
            speedRpm: (6000 / poles) * (1 - slip),
          });
          if (typeof found === 'string') throw new Error(found);
          expect(atSlip(found.circuit, found.supply, found.ratedSlip).shaftW / outputW).toBeCloseTo(1, 2);
          expect((found.ratedNm * (6000 / poles) * (1 - slip) * Math.PI) / 30).toBeCloseTo(outputW, 3);
        },
      ),
      { numRuns: 100 },
    );
  });
  it('names what the plate lacks, and a speed that is none', () => {
    expect(plateMachine({ outputW: 5500 })).toBe('The plate lacks voltage, current, frequency, speed, poles.');
    expect(plateMachine({ ...PLATE, speedRpm: 1500 })).toMatch(/no speed of a loaded motor/);
  });
  it('of two voltages the higher, with its own current', () => {
    const found = plateMachine({ ...PLATE, voltagesV: [230, 400], currentsA: [19.4, 11.2] }) as PlateMachine;
    expect([found.supply.lineV, found.ratedA]).toEqual([400, 11.2]);
  });
});

describe('a load run from a file', () => {
  const HEAD = 'time [s];U12 [V];I1 [A];P [kW];torque [N m];n [r/min]';
  it('is read with units in its heading and a decimal comma', () => {
    const read = readLoadCsv(`${HEAD}\r\n0;400,5;9,8;5,9;36;1450\r\n0,5;401;9,9;5,9;36,2;1449,5\r\n`);
    expect(read.problem).toBeUndefined();
    expect(read.frames[1]).toMatchObject({ t: 0.5, lineV: [401, undefined, undefined], watts: 5900, rpm: 1449.5 });
  });
  it('without a time its lines are a second apart', () => {
    const read = readLoadCsv('U12,I1,P,T,n\n400,9,5900,36,1450\n400,9,5900,36,1450');
    expect(read.frames.map((f) => f.t)).toEqual([0, 1]);
  });
  it.each([
    ['', /empty/],
    ['time,U12,I1,P,T\n0,1,1,1,1', /needs the speed/],
    [`${HEAD}\n0;400;9;5,9;36;1450\n0;400;9;5,9;36;1450`, /Line 3: the time 0 s does not come after 0 s/],
    [`${HEAD}\n0;400;nine;5,9;36;1450`, /Line 2, column 3: "nine" is no number/],
    ['time [min],U12,I1,P,T,n\n0,1,1,1,1,1', /time is in "min"/],
    ['time,U12,I1 [kW],P,T,n\n0,1,1,1,1,1', /"I1" is in "kW": a current is wanted/],
  ])('what is wrong is named (%#)', (csv, says) => {
    expect(readLoadCsv(csv).problem).toMatch(says);
  });
});
