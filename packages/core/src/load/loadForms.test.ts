import { describe, expect, it } from 'vitest';
import { liveFigures, loadChannelsLack, loadFrames } from './loadFrames.ts';
import { readLoadCsv } from './loadCsv.ts';
import { loadTestKind } from './loadTest.ts';

const READ = {
  torques: [40, 20],
  amps: [11, 8],
  watts: [6000, 3000],
  speeds: [1450, 1475],
  windingsC: [80, 75],
  volts: 400,
  coldOhm: 1.2,
  coldC: 24,
  riseK: 58,
  coolantC: 25,
  noLoadVolts: [400, 200],
  noLoadAmps: [5, 2],
  noLoadWatts: [260, 100],
  noLoadC: 46,
};
const COUPLED = { coupledWatts: 400, coupledAmps: 7, coupledRpm: 1499, coupledNm: 0.5, freeWatts: 310, freeAmps: 6.9 };
const PLATE = {
  voltagesV: [230, 400],
  frequencyHz: 50,
  poles: 4,
  outputW: 5500,
  efficiencyPercent: 88,
  powerFactor: 0.8,
};
const hand = (v: object, nameplate: object = PLATE, more: object = {}) =>
  loadTestKind.input?.({ ...READ, ...v } as never, { nameplate, ...more } as never) as Record<string, unknown>;

describe('the form of a load test', () => {
  it('hands over points, no-load curve and plate', () => {
    expect(hand({})).toMatchObject({
      poles: 4,
      ratedV: 400,
      outputW: 5500,
      coldOhm: 1.2,
      noLoad: [
        { volts: 400, amps: 5, watts: 260 },
        { volts: 200, amps: 2, watts: 100 },
      ],
      noLoadC: 46,
      load: [
        { volts: 400, amps: 11, watts: 6000, torqueNm: 40, rpm: 1450, frequencyHz: 50, windingC: 80 },
        { volts: 400, amps: 8, watts: 3000, torqueNm: 20, rpm: 1475, frequencyHz: 50, windingC: 75 },
      ],
      dynamometer: undefined,
      declaredEfficiency: 0.88,
      declaredPowerFactor: 0.8,
    });
  });
  it('the frequency that was read wins over the plate; without either nothing is reckoned', () => {
    expect((hand({ frequency: 60 })['load'] as { frequencyHz: number }[])[0]?.frequencyHz).toBe(60);
    expect(hand({}, { ...PLATE, frequencyHz: undefined })).toBeUndefined();
  });
  it('poles of the winding win; a plate that lacks a figure declares none', () => {
    expect(hand({}, PLATE, { record: { poles: 6 } })['poles']).toBe(6);
    expect(hand({}, PLATE, { record: {} })['poles']).toBe(4);
    expect(hand({}, { frequencyHz: 50 })).toMatchObject({ ratedV: undefined, declaredEfficiency: undefined });
  });
  it('the dynamometer is corrected where it was read', () => {
    expect(hand(COUPLED)['dynamometer']).toEqual({
      coupled: { watts: 400, amps: 7, rpm: 1499, torqueNm: 0.5, windingC: 46 },
      free: { watts: 310, amps: 6.9, windingC: 46 },
    });
  });
  it.each([
    [{}, undefined],
    [COUPLED, undefined],
    [{ amps: [1] }, 'amps'],
    [{ windingsC: [1, 2, 3] }, 'windingsC'],
    [{ noLoadWatts: [1] }, 'noLoadWatts'],
    [{ coupledWatts: 400 }, 'coupledAmps'],
    [{ ...COUPLED, coupledWatts: undefined }, 'coupledWatts'],
    [{ ...COUPLED, freeAmps: undefined }, 'freeAmps'],
  ])('what %j lacks: %s', (v, field) => {
    expect(loadTestKind.lacks?.({ ...READ, ...v } as never)?.field).toBe(field);
  });
  it('belongs to cage and slip-ring motors; says at what load', () => {
    const of = ['three-phase', 'slip-ring', 'single-phase', 'two-speed', 'permanent magnet'];
    expect(of.filter((machine) => loadTestKind.for?.({ machine } as never))).toEqual(['three-phase', 'slip-ring']);
    const says = (nameplate: object) => loadTestKind.due?.({ nameplate } as never)?.says ?? [];
    expect(says(PLATE)[0]).toContain('at rated load (5.5 kW) until');
    expect(says({})[0]).toContain('at rated load until');
    expect(says(PLATE)).toHaveLength(2);
  });
});

const ALL = ['U12', 'I1', 'P', 'T', 'n'].map((name, i) => ({ name, unit: ['V', 'A', 'W', 'N m', 'r/min'][i] ?? '' }));

describe('channels of a load run', () => {
  it('known by what they are called, with blanks about, in other units, whatever their order', () => {
    expect(loadChannelsLack(ALL)).toBeUndefined();
    expect(loadChannelsLack([...ALL].reverse())).toBeUndefined();
    expect(loadChannelsLack(ALL.map((c) => ({ name: ` ${c.name} `, unit: ` ${c.unit} ` })))).toBeUndefined();
    expect(loadChannelsLack(ALL.map((c) => ({ ...c, unit: '' })))).toBeUndefined();
    const spaced = [...ALL, { name: ' winding ', unit: ' °F ' }, { name: 'what else', unit: 'x' }];
    expect(loadFrames(spaced, [1], [[400], [10], [5000], [30], [1450], [212], [7]])[0]).toEqual({
      t: 1,
      lineV: [400, undefined, undefined],
      lineA: [10, undefined, undefined],
      watts: 5000,
      torqueNm: 30,
      rpm: 1450,
      windingC: expect.closeTo(100, 9),
    });
  });
  it('the first that stands twice is named', () => {
    expect(loadChannelsLack([...ALL, { name: 'torque', unit: 'N m' }])).toMatch(/^"torque" stands twice/);
    expect(loadChannelsLack([{ name: 'voltage', unit: 'V' }, ...ALL])).toMatch(/^"U12" stands twice/);
  });
  it('what is missing is named with what is there', () => {
    expect(loadChannelsLack([])).toMatch(
      /^A load run needs a current \(I1\), the power \(P\), the torque \(T\), the speed/,
    );
    expect(loadChannelsLack(ALL.slice(0, 3))).toBe(
      'A load run needs the torque (T), the speed (n); it has U12, I1, P.',
    );
    expect(loadChannelsLack([{ name: 'T', unit: 'kW' }])).toMatch(
      /^"T" is in "kW": a torque is wanted there, as in N m/,
    );
  });
  it('what was lost is left out', () => {
    const frames = loadFrames(
      ALL,
      [0, 1, 2],
      [
        [400, null, NaN],
        [10, 10, 10],
        [5000, 5000, 5000],
        [30, 30, null],
      ],
    );
    expect(frames.map((f) => f.lineV[0])).toEqual([400, undefined, undefined]);
    expect(frames.map((f) => f.torqueNm)).toEqual([30, 30, undefined]);
    expect(frames.every((f) => !('rpm' in f))).toBe(true);
    // a channel whose unit is none of its kind is not read
    expect(loadFrames([{ name: 'T', unit: 'kW' }], [0], [[3]])[0]).toEqual({
      t: 0,
      lineV: [undefined, undefined, undefined],
      lineA: [undefined, undefined, undefined],
    });
  });
  const FULL = { torqueNm: 30, rpm: 1450, watts: 5000, lineV: [400, 400, 400], lineA: [9, 9, 9], hz: 50 };
  it('live figures where each can be told', () => {
    expect(liveFigures(FULL, 4)).toEqual({
      outW: expect.closeTo((30 * 1450 * Math.PI) / 30, 9),
      slip: expect.closeTo(50 / 1500, 9),
      efficiency: expect.closeTo((30 * 1450 * Math.PI) / 30 / 5000, 9),
      powerFactor: expect.closeTo(5000 / (Math.sqrt(3) * 400 * 9), 9),
    });
  });
  const none: (undefined | number)[] = [undefined, undefined, undefined];
  it.each([
    [{ torqueNm: undefined }, 4, ['powerFactor', 'slip']],
    [{ rpm: undefined }, 4, ['powerFactor']],
    [{ watts: undefined }, 4, ['outW', 'slip']],
    [{ watts: 0 }, 4, ['outW', 'powerFactor', 'slip']],
    [{ torqueNm: 0 }, 4, ['outW', 'powerFactor', 'slip']],
    [{ torqueNm: -1 }, 4, ['outW', 'powerFactor', 'slip']],
    [{ hz: undefined }, 4, ['efficiency', 'outW', 'powerFactor']],
    [{ hz: 0 }, 4, ['efficiency', 'outW', 'powerFactor']],
    [{}, undefined, ['efficiency', 'outW', 'powerFactor']],
    [{ lineV: none }, 4, ['efficiency', 'outW', 'slip']],
    [{ lineA: none }, 4, ['efficiency', 'outW', 'slip']],
    [{ lineA: [0, 0, 0] }, 4, ['efficiency', 'outW', 'slip']],
  ])('of %j with %s poles: %j', (more, poles, names) => {
    expect(Object.keys(liveFigures({ ...FULL, ...more }, poles)).sort()).toEqual(names);
  });
});

describe('a load run from a file', () => {
  const HEAD = 'time [s];U12 [V];I1 [A];P [W];T [N m];n [r/min]';
  const ROW = ';400;10;5000;30;1450';
  const of = (...lines: string[]) => readLoadCsv(lines.join('\n'));
  it('headings with their units in brackets, behind a slash, a comma, or none', () => {
    for (const head of [
      HEAD,
      't;U12/V;I1/A;P/W;T/N m;n/r',
      ' time (s) ; U12 (V) ;I1 (A); P (kW) ;T;n',
      'TIME;U12;I1;P;T;n',
    ]) {
      const found = of(head.replace('n/r', 'n'), `0${ROW}`);
      expect(found.problem, head).toBeUndefined();
      expect(
        found.channels.map((c) => c.name),
        head,
      ).toEqual(['U12', 'I1', 'P', 'T', 'n']);
    }
    expect(of(' time (s) ; U12 (V) ;I1 (A); P (kW) ;T;n', `0${ROW}`).channels[2]).toEqual({ name: 'P', unit: 'kW' });
    expect(of(HEAD, `0${ROW}`).channels[3]).toEqual({ name: 'T', unit: 'N m' });
  });
  it('without a time lines are one after the other', () => {
    const head = 'U12;I1;P;T;n';
    const line = '400;10;5000;30;1450';
    expect(of(head, line, line, line).frames.map((f) => f.t)).toEqual([0, 1, 2]);
    expect(readLoadCsv([head, line, line].join('\n'), 0.5).frames.map((f) => f.t)).toEqual([0, 0.5]);
  });
  it('empty lines and cells are left out; decimals with a comma where fields are parted otherwise', () => {
    const found = of(HEAD, '', `0,5${ROW}`, '   ', '1;;10;5000;30;1450');
    expect(found.frames.map((f) => f.t)).toEqual([0.5, 1]);
    expect(found.columns[0]).toEqual([400, null]);
    expect(readLoadCsv(`${HEAD.replaceAll(';', ',')}\r\n0.5,400,10,5000,30,1450\r\n`).frames[0]?.t).toBe(0.5);
    expect(readLoadCsv(`${HEAD.replaceAll(';', '\t')}\n0,5\t400\t10\t5000\t30\t1450`).frames[0]?.t).toBe(0.5);
  });
  it.each([
    [[], 'The file is empty.'],
    [['', '  '], 'The file is empty.'],
    [[HEAD.replace('[s]', '[min]'), `0${ROW}`], 'The time is in "min"; seconds are wanted.'],
    [[HEAD, `0${ROW}`, 'x;400;10;5000;30;1450'], 'Line 3, column 1: "x" is no number.'],
    [
      [HEAD, '0;400;ten of them are too long a word;5000;30;1450'],
      'Line 2, column 3: "ten of them are too " is no number.',
    ],
    [[HEAD, `0${ROW}`, ROW], 'Line 3 has no time.'],
    [[HEAD, `0${ROW}`, `0${ROW}`], 'Line 3: the time 0 s does not come after 0 s.'],
    [[HEAD, `5${ROW}`, `4${ROW}`], 'Line 3: the time 4 s does not come after 5 s.'],
  ])('%j: %s', (lines, problem) => {
    const found = of(...lines);
    expect(found.problem).toBe(problem);
    expect([found.frames, found.channels, found.columns]).toEqual([[], [], []]);
  });
  it('at most a hundred thousand lines', () => {
    const lines = Array.from({ length: 100_000 }, () => '400;10;5000;30;1450');
    expect(of('U12;I1;P;T;n', ...lines).problem).toBeUndefined();
    expect(of('U12;I1;P;T;n', ...lines, lines[0] ?? '').problem).toMatch(
      /At most 100000 lines are read; this file has 100001/,
    );
  });
});
