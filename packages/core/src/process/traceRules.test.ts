import { describe, expect, it } from 'vitest';
import { worked } from '../../../../scripts/testing/worked.ts';
import { cureRate, degreeOfCure, floorOf, processCure } from './cure.ts';
import { processOvenLog } from './ovenLog.ts';
import { defaultMaxGapMin, pointsOf, rampRates, readTraceCsv, stuckChannel, thinTrace, timeAbove } from './trace.ts';

const points = (...list: [number, number][]) => list.map(([t, c]) => ({ t, c }));

describe('an oven log read line by line', () => {
  const read = (csv: string, options = {}) => readTraceCsv(csv, options);
  const values = (csv: string) => read(csv).trace.channels.map((c) => c.valuesC);
  it.each([
    ['0,20\n10,30', ',', [[20, 30]]],
    ['0;20,5\n10;30', ';', [[20.5, 30]]],
    ['0\t20\n10\t30', '\t', [[20, 30]]],
    ['min;part\n\n0;20\n\n10;30\n', ';', [[20, 30]]],
    [
      '\n\nmin;a;b\n0;20;40\n10;;50',
      ';',
      [
        [20, null],
        [40, 50],
      ],
    ],
    ['min;part\r0;20\r10;30', ';', [[20, 30]]],
  ])('%j', (csv, separator, wanted) => {
    expect(read(csv).separator).toBe(separator);
    expect(values(csv)).toEqual(wanted);
    expect(read(csv).badRows).toEqual([]);
  });
  it('names channels by the header, else by number', () => {
    const names = (csv: string) => read(csv).trace.channels.map((c) => c.name);
    expect(names('min;part;air\n0;20;30')).toEqual(['part', 'air']);
    expect(names('min;;air\n0;20;30')).toEqual(['Channel 1', 'air']);
    expect(names('0;20;30\n1;21;31')).toEqual(['Channel 1', 'Channel 2']);
    expect(names('"min";"part"\n0;20')).toEqual(['part']);
    expect(values('min;part\n0;20')).toEqual([[20]]);
  });
  it.each([
    ['min;part °F\n0;212', '°F', 100],
    ['min;part deg F\n0;32', '°F', 0],
    ['min;part (F)\n0;32', '°F', 0],
    ['min;part_f\n0;32', '°F', 0],
    ['min;part ° f\n0;32', '°F', 0],
    ['min;shelf\n0;32', '°C', 32],
    ['min;part °C\n0;32', '°C', 32],
    ['0;32', '°C', 32],
  ])('the unit of %j is %s', (csv, unit, celsius) => {
    expect(read(csv).unit).toBe(unit);
    expect(values(csv)[0]?.[0]).toBeCloseTo(celsius, 9);
  });
  it('a unit that is said wins', () => {
    expect(read('0;212', { unit: '°F' }).trace.channels[0]?.valuesC[0]).toBeCloseTo(100, 9);
    expect(read('min;part °F\n0;30', { unit: '°C' }).trace.channels[0]?.valuesC).toEqual([30]);
  });
  it.each([
    ['5', 'minutes', 0],
    ['5 min', 'minutes', 0],
    ['14:05', 'clock', 0],
    ['4:05:30', 'clock', 0],
    ['14:05:30,5', 'clock', 0],
    ['2026-11-20 14:05', 'date and clock', 0],
    ['2026-11-20T14:05:30', 'date and clock', 0],
  ])('%s is a time of %s', (cell, kind) => {
    const r = read(`t;a\n${cell};20\n`);
    expect([r.badRows, r.timeKind, r.trace.timesMin]).toEqual([[], kind, [0]]);
  });
  it.each(['24:00', '23:60', '23:59:60', '-5', 'noon', ''])('%j is no time, and its row is named', (cell) => {
    const r = read(`t;a\n0;20\n${cell};21\n1;22\n`);
    expect(r.badRows).toEqual([
      { line: 3, text: `${cell};21`, reason: `"${cell}" is not a time (minutes, or a clock as 14:05).` },
    ]);
    expect(r.trace.channels[0]?.valuesC).toEqual([20, 22]);
  });
  it('clocks pass midnight once for each night, and only by a jump of more than half a day', () => {
    expect(read('t;a\n23:50;1\n00:10;2\n12:21;3\n00:20;4').trace.timesMin).toEqual([0, 20, 751, 1470]);
    // twelve hours back is a row out of order, not a night
    expect(read('t;a\n12:00;2\n00:00;1').trace.timesMin).toEqual([0, 720]);
    expect(read('t;a\n12:01;1\n00:00;2').trace.timesMin).toEqual([0, 719]);
    expect(read('t;a\n00:00:30;1\n00:01:00;2').trace.timesMin).toEqual([0, 0.5]);
    expect(read('t;a\n01:30;1\n02:45;2').trace.timesMin).toEqual([0, 75]);
    expect(read('t;a\n2026-02-28 23:00;1\n2026-03-01 01:00;2').trace.timesMin).toEqual([0, 120]);
  });
  it('rows in order of time; of equal times the last; times from the first', () => {
    const r = read('t;a\n20;3\n5;1\n20;4\n10;2');
    expect(r.trace.timesMin).toEqual([0, 5, 15]);
    expect(r.trace.channels[0]?.valuesC).toEqual([1, 2, 4]);
    expect(read('t;a\n1;3\n1;4').trace.channels[0]?.valuesC).toEqual([4]);
  });
  it('a cell that is none loses its value, not the row; the borders of what is believed', () => {
    const r = read('t;a;b\n0;fault;20\n1;-50;600\n2;-50,1;20\n3;600,1;20\n4;20 °C;21C');
    expect(r.trace.timesMin).toEqual([0, 1, 2, 3, 4]);
    expect(r.trace.channels[0]?.valuesC).toEqual([null, -50, null, null, 20]);
    expect(r.trace.channels[1]?.valuesC).toEqual([20, 600, 20, 20, 21]);
    expect(r.badRows.map((b) => [b.line, b.reason])).toEqual([
      [2, 'a: "fault" is not a temperature.'],
      [4, 'a: -50,1 is outside -50 to 600 °C.'],
      [5, 'a: 600,1 is outside -50 to 600 °C.'],
    ]);
    // nothing readable in it: the row is named and left out; nothing in it at all: a loss of all channels
    expect(read('t;a\n0;20\n1;x\n2;22').trace.timesMin).toEqual([0, 2]);
    expect(read('t;a\n0;20\n1;\n2;22').trace.channels[0]?.valuesC).toEqual([20, null, 22]);
    expect(read('t;a;b\n0;x;y').badRows[0]?.reason).toBe('a: "x" is not a temperature; b: "y" is not a temperature.');
  });
  it('the calculation gives the same', () => {
    const x = worked(processOvenLog, { csv: 'min;part\n0;20\n1;x\n2;22' });
    expect(x.trace.channels[0]?.valuesC).toEqual([20, 22]);
    expect([x.badRows.length, x.separator, x.unit, x.timeKind]).toEqual([1, ';', '°C', 'minutes']);
    expect(worked(processOvenLog, { csv: '0;212', unit: '°F' }).trace.channels[0]?.valuesC[0]).toBeCloseTo(100, 9);
  });
});

describe('figures of a trace by hand', () => {
  it('points of a channel that hold a value', () => {
    const trace = { timesMin: [0, 1, 2], channels: [{ name: 'a', valuesC: [10, null, 12] }] };
    expect(pointsOf(trace, 0)).toEqual(points([0, 10], [2, 12]));
    expect(pointsOf(trace, 1)).toEqual([]);
    expect(pointsOf({ timesMin: [0, 1], channels: [{ name: 'a', valuesC: [1] }] }, 0)).toEqual(points([0, 1]));
  });
  it('three median steps make a gap; of an even number the mean of the middle two', () => {
    expect(defaultMaxGapMin([0, 1, 3, 6, 10])).toBe(7.5);
    expect(defaultMaxGapMin([0, 1, 3, 6])).toBe(6);
  });
  it('time above, longest run, crossings, gaps', () => {
    // up through 100 at 5, down through it at 25
    expect(timeAbove(points([0, 90], [10, 110], [20, 110], [30, 90]), 100, 60)).toEqual({
      totalMin: 20,
      longestMin: 20,
    });
    expect(timeAbove(points([0, 100], [10, 100]), 100, 60)).toEqual({ totalMin: 10, longestMin: 10 });
    expect(timeAbove(points([0, 99], [10, 99]), 100, 60)).toEqual({ totalMin: 0, longestMin: 0 });
    // two runs of 10 and 30 min
    const two = points([0, 110], [10, 110], [10.0001, 90], [20, 90], [20.0001, 110], [50, 110]);
    expect(timeAbove(two, 100, 60).longestMin).toBeCloseTo(30, 3);
    expect(timeAbove(two, 100, 60).totalMin).toBeCloseTo(40, 3);
    // a step of just the gap counts, a longer one not, and it breaks the run
    expect(timeAbove(points([0, 110], [15, 110], [30, 110]), 100, 15)).toEqual({ totalMin: 30, longestMin: 30 });
    expect(timeAbove(points([0, 110], [10, 110], [26, 110], [30, 110]), 100, 15)).toEqual({
      totalMin: 14,
      longestMin: 10,
    });
    // a quarter of a step above
    expect(timeAbove(points([0, 70], [40, 110]), 100, 60)).toEqual({ totalMin: 10, longestMin: 10 });
    expect(timeAbove(points([0, 110], [40, 70]), 100, 60)).toEqual({ totalMin: 10, longestMin: 10 });
    expect(timeAbove([], 100, 60)).toEqual({ totalMin: 0, longestMin: 0 });
  });
  it('rates over whole windows, none across a gap', () => {
    const ramp = points([0, 20], [30, 50], [60, 140], [90, 140], [120, 80]);
    // 0 to 60: 120 K; 60 to 120: −60 K
    expect(rampRates(ramp, 60, 60)).toEqual({ heatingKMin: 2, coolingKMin: 1 });
    expect(rampRates(ramp, 30, 60)).toEqual({ heatingKMin: 3, coolingKMin: 2 });
    expect(rampRates(ramp, 121, 60)).toEqual({ heatingKMin: 0, coolingKMin: 0 });
    expect(rampRates(ramp, 120, 60).heatingKMin).toBeCloseTo(0.5, 12);
    // the window ends at the first reading an hour away, also when that is 70 min
    expect(rampRates(points([0, 20], [70, 160]), 60, 100).heatingKMin).toBe(2);
    const gap = points([0, 20], [30, 30], [100, 300], [130, 310], [160, 340]);
    // over the gap of 70 min nothing is reckoned: 100 to 160 alone, 40 K
    expect(rampRates(gap, 60, 60).heatingKMin).toBeCloseTo(40 / 60, 12);
    expect(rampRates(gap, 60, 70).heatingKMin).toBeCloseTo(270 / 70, 12);
    expect(rampRates([], 60, 60)).toEqual({ heatingKMin: 0, coolingKMin: 0 });
  });
  it('a thinned trace keeps first, last, lowest and highest of every stretch', () => {
    const timesMin = Array.from({ length: 1000 }, (_, i) => i);
    const valuesC = timesMin.map((t) => (t === 333 ? 500 : t === 777 ? -40 : t % 100 === 5 ? null : 100));
    const trace = { timesMin, channels: [{ name: 'a', valuesC, role: 'part' }] };
    const thin = thinTrace(trace, 30);
    // ten stretches of three rows at most, and the last
    expect(thin.timesMin.length).toBeLessThanOrEqual(31);
    expect(thin.timesMin).toContain(333);
    expect(thin.timesMin).toContain(777);
    expect([thin.timesMin[0], thin.timesMin.at(-1)]).toEqual([0, 999]);
    expect(thin.channels[0]?.role).toBe('part');
    thin.timesMin.forEach((t, i) => expect(thin.channels[0]?.valuesC[i]).toBe(valuesC[t]));
    expect(thin.timesMin).toEqual([...thin.timesMin].sort((a, b) => a - b));
    expect(thinTrace(trace, 1000)).toBe(trace);
    expect(thinTrace(trace, 999)).not.toBe(trace);
    // of a stretch without a value its first row stays
    const lost = thinTrace({ timesMin, channels: [{ name: 'a', valuesC: timesMin.map(() => null) }] }, 30);
    expect(lost.timesMin).toEqual([0, 100, 200, 300, 400, 500, 600, 700, 800, 900, 999]);
  });
  const every10 = Array.from({ length: 10 }, (_, i) => i * 10);
  const stuck = (own: number[], other: (number | null)[] = every10.map(() => 100), eps?: number, least?: number) =>
    stuckChannel(
      {
        timesMin: every10,
        channels: [
          { name: 'a', valuesC: own },
          { name: 'b', valuesC: other },
        ],
      },
      0,
      eps,
      least,
    );
  const still = [20, 30, 40, 100, 100.05, 100, 100, 60, 50, 40];
  it('standing still: range, time, and what the others did meanwhile', () => {
    expect(stuck(still)).toEqual({ state: 'suspect', fromMin: 30, toMin: 60 });
    expect(stuck(still.map((c, i) => (i === 4 ? 100.051 : c)))).toMatchObject({ state: 'no' });
    expect(stuck(still, undefined, 0.05, 31)).toMatchObject({ state: 'no' });
    expect(
      stuck(
        still.map((c, i) => (i === 4 ? 101 : c)),
        undefined,
        1,
      ),
    ).toMatchObject({ state: 'suspect' });
    // 5 K of another while it stood is not enough, more is
    const moved = (by: number) => every10.map((_, i) => (i === 3 ? 80 : i === 6 ? 80 + by : 80));
    expect(stuck(still, moved(5)).state).toBe('suspect');
    expect(stuck(still, moved(5.1))).toEqual({ state: 'confirmed', fromMin: 30, toMin: 60 });
    // movement before or after says nothing
    expect(
      stuck(
        still,
        every10.map((_, i) => (i === 2 || i === 7 ? 200 : 80)),
      ).state,
    ).toBe('suspect');
    expect(
      stuck(
        still,
        every10.map((_, i) => (i === 4 ? 200 : null)),
      ).state,
    ).toBe('suspect');
    // of two stretches the first is told, a confirmed one wherever it lies
    const twice = [100, 100, 100, 100, 50, 60, 60, 60, 60, 90];
    expect(stuck(twice)).toEqual({ state: 'suspect', fromMin: 0, toMin: 30 });
    expect(
      stuck(
        twice,
        every10.map((_, i) => (i < 5 ? 80 : 80 + 2 * i)),
      ),
    ).toEqual({ state: 'confirmed', fromMin: 50, toMin: 80 });
    expect(stuckChannel({ timesMin: [], channels: [{ name: 'a', valuesC: [] }] }, 0).state).toBe('no');
  });
});

describe('cure by hand', () => {
  const resin = { name: 'r', ratedC: 130, ratedH: 2 };
  const doubling = { law: 'doubling', doublingK: 10 } as const;
  it('the rate: 1 at the rated temperature, doubled 10 K above, none below the floor, capped', () => {
    const rate = (c: number, floor: number | null = 115, cap = 150) => cureRate(c, 130, doubling, floor, cap);
    expect([rate(130), rate(140), rate(120), rate(115), rate(114.9), rate(150), rate(170)]).toEqual([
      1,
      2,
      0.5,
      2 ** -1.5,
      0,
      4,
      4,
    ]);
    expect(rate(100, null)).toBeCloseTo(1 / 8, 12);
    const arrhenius = (c: number) => cureRate(c, 130, { law: 'arrhenius', activationKJMol: 95 }, null, 150);
    expect(arrhenius(130)).toBe(1);
    expect(arrhenius(140)).toBeCloseTo(Math.exp((95000 / 8.314463) * (1 / 403.15 - 1 / 413.15)), 9);
    expect([
      floorOf({ ratedC: 130 }),
      floorOf({ ratedC: 130, floorC: null }),
      floorOf({ ratedC: 130, floorC: 100 }),
    ]).toEqual([115, null, 100]);
  });
  it('the degree: mean of the rates over each step; gaps earn nothing, or all', () => {
    const rate = (c: number) => c;
    expect(degreeOfCure(points([0, 1], [60, 3], [120, 1]), rate, 120, 60)).toEqual({ degree: 2, withGaps: 2 });
    expect(degreeOfCure(points([0, 1], [60, 3], [121, 1]), rate, 120, 60)).toEqual({
      degree: 1,
      withGaps: 1 + 122 / 120,
    });
    expect(degreeOfCure(points([0, 1]), rate, 120, 60)).toEqual({ degree: 0, withGaps: 0 });
  });
  const timesMin = Array.from({ length: 25 }, (_, i) => i * 10);
  const part = (f: (t: number) => number | null, name = 'part', role = 'part') => ({
    name,
    role,
    valuesC: timesMin.map(f),
  });
  const cure = (channels: object[], more: object = {}) => worked(processCure, { timesMin, channels, resin, ...more });
  // so many minutes at 130 °C, then too cool to count; a wobble, so that no sensor stands still
  const held = (min: number, warm = 130) => part((t) => (t <= min ? warm : 100 - t / 10));
  const wobbling = (min: number) => part((t) => (t <= min ? 130 + (t % 20) / 100 : 100 - t / 10));
  it.each([
    [
      [held(120)],
      {},
      'cured',
      'pass',
      /^The slowest part \(part\) reached 1\.04 times its rated cure of 2 h at 130 °C/,
    ],
    [
      [held(110)],
      {},
      'under_cured',
      'fail',
      /^The slowest part \(part\) has 0\.9\d* of its rated cure; 0\.\d+ h at 130 °C are missing/,
    ],
    [[held(240, 140)], {}, 'over_baked', 'attention', /^The warmest part had 4 times its rated cure, above 3 times/],
    [[held(240, 140)], { overBakeDegree: 4 }, 'cured', 'pass', /reached 4 times/],
    [[held(120, 150)], {}, 'over_baked', 'attention', /above 3 times/],
    [[held(30, 150)], {}, 'cured', 'pass', /reached 1/],
    [
      [held(30, 150.1)],
      {},
      'over_temperature',
      'attention',
      /^A part reached 150\.1 °C, above the highest allowed 150 °C: an engineer decides/,
    ],
    [[held(120)], { school: 'hold only' }, 'cured', 'pass', /reached 1\.04 times/],
    [
      [held(119, 140)],
      { school: 'hold only' },
      'under_cured',
      'fail',
      /^The longest unbroken time at 130 °C is 11\d(\.\d)? min of 120 min/,
    ],
    [[wobbling(120), wobbling(60)], {}, 'under_cured', 'fail', /^The slowest part/],
    [[part(() => 130, 'air', 'oven air')], {}, 'undetermined', 'cannot judge', /^No channel is assigned to the part/],
    [
      [part((t) => (t === 0 ? 130 : null))],
      {},
      'undetermined',
      'cannot judge',
      /^Channel part holds fewer than two samples/,
    ],
    [
      [part(() => 124)],
      {},
      'cured',
      'attention',
      /never came within 5 K of 130 °C: a long cool bake needs a named sign-off/,
    ],
    [[part(() => 125)], {}, 'cured', 'pass', /reached/],
    [
      [part(() => 130, 'stood'), part((t) => 125 + t / 20, 'moved')],
      {},
      'undetermined',
      'cannot judge',
      /^Channel stood stood still while others moved/,
    ],
  ] as const)('case %#: %s', (channels, more, processVerdict, verdict, reason) => {
    const x = cure([...channels], { resin: { ...resin, ratedH: 2 }, ...more });
    expect([x.processVerdict, x.verdict, x.reason]).toEqual([processVerdict, verdict, expect.stringMatching(reason)]);
  });
  it('a gap that would have cured it leaves it undetermined; one that would not, under-cured', () => {
    const gap = (to: number) => part((t) => (t > 50 && t < to ? null : t <= 120 ? 130 + (t % 20) / 100 : 90 - t / 10));
    const x = cure([gap(100)], { maxGapMin: 30 });
    expect([x.processVerdict, x.reason]).toEqual([
      'undetermined',
      expect.stringMatching(/^Proved cure 0\.\d+; 1(\.\d+)? if the gaps in the log are believed/),
    ]);
    expect(
      cure([part((t) => (t > 20 && t < 70 ? null : t <= 90 ? 130 : 90 - t / 10))], { maxGapMin: 30 }).processVerdict,
    ).toBe('under_cured');
    expect(cure([gap(100)], { maxGapMin: 60 }).processVerdict).toBe('cured');
  });
  it('figures of each channel, of the slowest part, and the course', () => {
    const x = cure([
      part((t) => (t <= 120 ? 130 : 110 - t / 10), 'a'),
      part((t) => (t <= 120 ? 140 : 110 - t / 10), 'b'),
      part((t) => 150 + t, 'air', 'oven air'),
      part(() => 20, 'spare', 'not used'),
    ]);
    expect(x.channels.map((c) => c.name)).toEqual(['a', 'b', 'air']);
    expect(x.channels[2]).toEqual({ name: 'air', role: 'oven air', samples: 25, maxC: 390 });
    expect(x.channels[0]).toMatchObject({
      samples: 25,
      maxC: 130,
      minutesAtRated: 120,
      longestAtRatedMin: 120,
      stuck: expect.any(String),
    });
    expect(x.channels[0]?.coolingKMin).toBeGreaterThan(0.5);
    expect(x.degree).toBeCloseTo(x.channels[0]?.degree ?? 0, 12);
    expect(x.equivalentHours).toBeCloseTo(2 * (x.degree ?? 0), 12);
    expect(x.channels[1]?.equivalentHours).toBeCloseTo(2 * (x.channels[1]?.degree ?? 0), 12);
    expect([x.hottestC, x.maxC, x.maxGapMin]).toEqual([140, 150, 30]);
    expect(x.schools).toEqual({ equivalentTime: true, holdOnly: true });
    expect(x.course).toHaveLength(25);
    expect(x.course.at(-1)?.degree).toBeCloseTo(x.degree ?? 0, 9);
    expect(x.course[0]).toEqual({ timeMin: 0, degree: 0 });
    expect(x.course[6]?.degree).toBeCloseTo(0.5, 9);
    const none = cure([part(() => 130, 'air', 'oven air')]);
    expect(none).not.toHaveProperty('degree');
    expect(none).not.toHaveProperty('hottestC');
  });
  it('the tolerance of the hold, the highest temperature, the length of a channel', () => {
    const below = part((t) => (t <= 120 ? 128 : 90 - t / 10));
    expect(cure([below], { school: 'hold only' }).processVerdict).toBe('under_cured');
    expect(cure([below], { school: 'hold only', holdToleranceK: 2 }).schools.holdOnly).toBe(true);
    expect(cure([held(120, 140)], { resin: { ...resin, maxC: 135 } }).processVerdict).toBe('over_temperature');
    expect(cure([held(120, 140)], { aboveRatedK: 9 }).maxC).toBe(139);
    expect(() => cure([{ name: 'a', role: 'part', valuesC: [1, 2] }])).toThrow(/Channel a has 2 values for 25 times/);
  });
});
