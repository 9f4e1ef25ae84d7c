import { describe, expect, it } from 'vitest';
import { singlePhaseContext as context } from '../../../../scripts/testing/singlePhase.ts';
import { worked } from '../../../../scripts/testing/worked.ts';
import { noLoadSingle, noLoadSingleTest, ratedInputW } from './noLoadSingle.ts';
import { startSwitch, startSwitchTest } from './startSwitch.ts';

describe('start switch and protector: each rule just inside, at and just outside', () => {
  const run = (more: object = {}) =>
    worked(startSwitch, { closedAtRest: true, opensRpm: 1125, synchronousRpm: 1500, leftA: 0, mainA: 4, ...more });
  it.each([
    [{}, 'pass', /^The auxiliary is closed at rest\. Switch opens at 75 % of synchronous speed; 70 to 85 % is usual/],
    [{ closedAtRest: false }, 'fail', /^The auxiliary is open at rest/],
    [{ closedAtRest: undefined }, 'cannot judge', /^Is the auxiliary closed at rest\?/],
    [{ opensRpm: 1050 }, 'pass', /opens at 70 %/],
    [{ opensRpm: 1049 }, 'attention', /opens at 69\.9 %/],
    [{ opensRpm: 1275 }, 'pass', /opens at 85 %/],
    [{ opensRpm: 1276 }, 'attention', /opens at 85\.1 %/],
    [{ opensRpm: 1000, limits: { 'switch.opensLowPercent': 65 } }, 'pass', /65 to 85 %/],
    [{ opensRpm: 1300, limits: { 'switch.opensHighPercent': 90 } }, 'pass', /70 to 90 %/],
    [{ opensRpm: undefined }, 'pass', /^(?!.*opens at)/],
    [{ synchronousRpm: undefined }, 'pass', /^(?!.*opens at)/],
    [{ leftA: 0.2 }, 'pass', /takes 5 % of the main's current, at most 5 % \(common practice\)\.$/],
    [{ leftA: 0.201 }, 'fail', /takes 5\.03 % of the main's current, above 5 % .*: the switch has not opened/],
    [{ leftA: 0.3, limits: { 'switch.leftPercent': 8 } }, 'pass', /at most 8 %/],
    [{ leftA: undefined }, 'cannot judge', /^Main current and current of the switched branch/],
    [{ mainA: undefined }, 'cannot judge', /^Main current and current of the switched branch/],
    [{ protector: 'open when cold' }, 'fail', /^The protector is open when cold/],
    [{ protector: 'closed when cold' }, 'pass', /The protector is closed when cold\.$/],
    [{ protector: 'none' }, 'pass', /^(?!.*protector)/],
    [{ calibrationExpired: true }, 'attention', /out of calibration/],
  ] as const)('%j: %s', (more, verdict, reason) => {
    const x = run(more);
    expect([x.verdict, x.reason]).toEqual([verdict, expect.stringMatching(reason)]);
  });
  it('keeps the shares it found', () => {
    expect(run({ leftA: 0.1 })).toMatchObject({ opensPercent: 75, leftPercent: 2.5 });
    expect(run({ opensRpm: undefined, leftA: undefined })).not.toHaveProperty('opensPercent');
  });
  it('hands over readings and the synchronous speed of record or plate', () => {
    const of = (values: object, c = context()) => startSwitchTest.input?.(values as never, c);
    expect(of({ closedAtRest: 'yes', opens: 1100, leftA: 1, mainA: 2, protector: 'none' })).toEqual({
      closedAtRest: true,
      opensRpm: 1100,
      synchronousRpm: 1500,
      leftA: 1,
      mainA: 2,
      protector: 'none',
    });
    expect(of({ closedAtRest: 'no' })).toMatchObject({ closedAtRest: false });
    expect(of({})).toMatchObject({ closedAtRest: undefined });
    const plate = (nameplate: object) => of({}, context({ record: undefined, nameplate }));
    expect(plate({ poles: 2, frequencyHz: 60 })).toMatchObject({ synchronousRpm: 3600 });
    expect(plate({ poles: 2 })).toMatchObject({ synchronousRpm: undefined });
    expect(plate({ frequencyHz: 50 })).toMatchObject({ synchronousRpm: undefined });
    expect(of({}, context({ record: { poles: 6 } }))).toMatchObject({ synchronousRpm: 1000 });
    const is = (machine: string, auxKind?: string) =>
      startSwitchTest.for?.({ machine: machine as never, record: auxKind ? ({ auxKind } as never) : undefined });
    expect([is('single-phase'), is('single-phase', 'capacitor run'), is('three-phase')]).toEqual([true, false, false]);
  });
});

describe('single-phase no-load run: each rule just inside, at and just outside', () => {
  const run = (more: object = {}) =>
    worked(noLoadSingle, {
      voltsV: 230,
      ampsA: 4.2,
      ratedV: 230,
      ratedA: 6,
      turns: 'clockwise',
      turnsWanted: 'clockwise',
      ...more,
    });
  it.each([
    [
      {},
      'pass',
      /^Current 4\.2 A, 0\.7 of rated; 0\.3 to 0\.9 is usual, above 1 it fails \(common practice\)\. Turns clockwise, as wanted\.$/,
    ],
    [{ ampsA: 1.8 }, 'pass', /0\.3 of rated/],
    [{ ampsA: 1.79 }, 'attention', /0\.298 of rated/],
    [{ ampsA: 5.4 }, 'pass', /0\.9 of rated/],
    [{ ampsA: 5.41 }, 'attention', /0\.902 of rated/],
    [{ ampsA: 6 }, 'attention', /1 of rated/],
    [{ ampsA: 6.01 }, 'fail', /above 1 it fails/],
    [{ ampsA: 6.6, runCapacitor: true }, 'attention', /above 1\.1 it fails/],
    [{ ampsA: 6.61, runCapacitor: true }, 'fail', /above 1\.1 it fails/],
    [{ ampsA: 1.5, limits: { 'single.noLoadLowShare': 0.25 } }, 'pass', /0\.25 to 0\.9/],
    [{ ampsA: 5.7, limits: { 'single.noLoadPassShare': 0.95 } }, 'pass', /0\.3 to 0\.95/],
    [{ ampsA: 6.1, limits: { 'single.noLoadFailShare': 1.05 } }, 'attention', /above 1\.05/],
    [{ ampsA: 6.9, runCapacitor: true, limits: { 'single.noLoadFailShareRun': 1.2 } }, 'attention', /above 1\.2/],
    [{ powerW: 450, ratedInputW: 1000 }, 'pass', /450 W, 0\.45 of the rated input, at most 0\.45/],
    [{ powerW: 451, ratedInputW: 1000 }, 'attention', /451 W, 0\.451 of the rated input, above 0\.45/],
    [{ powerW: 600, ratedInputW: 1000 }, 'attention', /above 0\.45/],
    [{ powerW: 601, ratedInputW: 1000 }, 'fail', /601 W, 0\.601 of the rated input, above 0\.6/],
    [{ powerW: 900 }, 'pass', /^(?!.* W,)/],
    [{ ratedInputW: 1000 }, 'pass', /^(?!.* W,)/],
    [{ powerW: 500, ratedInputW: 1000, limits: { 'single.wattsPassShare': 0.5 } }, 'pass', /at most 0\.5/],
    [{ powerW: 650, ratedInputW: 1000, limits: { 'single.wattsFailShare': 0.7 } }, 'attention', /above 0\.45/],
    // at another voltage neither current nor watts say anything
    [{ voltsV: 241.5 }, 'pass', /0\.7 of rated/],
    [{ voltsV: 242, powerW: 900, ratedInputW: 1000 }, 'cannot judge', /^Run at 242 V; within 5 % of 230 V is needed/],
    [{ voltsV: 218.5 }, 'pass', /0\.7 of rated/],
    [{ voltsV: 218 }, 'cannot judge', /^Run at 218 V/],
    [{ voltsV: 150, ratedV: undefined }, 'pass', /0\.7 of rated/],
    [{ voltsV: 250, limits: { 'noLoad.voltageOffPercent': 10 } }, 'pass', /0\.7 of rated/],
    [{ ratedA: undefined }, 'cannot judge', /^The plate names no current/],
    [{ voltsV: undefined }, 'cannot judge', /^The voltage and the current of the run are needed\.$/],
    [{ ampsA: undefined }, 'cannot judge', /^The voltage and the current of the run are needed\.$/],
    // at rated load
    [{ loadA: 6 }, 'pass', /6 A at rated load, rated 6 A\./],
    [{ loadA: 6.01 }, 'attention', /6\.01 A at rated load/],
    [{ loadA: 6.3 }, 'attention', /6\.3 A at rated load/],
    [{ loadA: 6.31 }, 'fail', /6\.31 A at rated load/],
    [{ loadA: 6.9, serviceFactor: 1.15 }, 'pass', /rated 6\.9 A with the service factor/],
    [{ loadA: 7.24, serviceFactor: 1.15 }, 'attention', /with the service factor/],
    [{ loadA: 7.25, serviceFactor: 1.15 }, 'fail', /with the service factor/],
    [{ loadA: 5.9, serviceFactor: 0.9 }, 'pass', /rated 6 A\./],
    [{ loadA: 6.5, limits: { 'single.loadFailShare': 1.1 } }, 'attention', /6\.5 A at rated load/],
    [{ loadA: 9, ratedA: undefined }, 'cannot judge', /^(?!.*rated load)/],
    // direction
    [{ turns: 'anticlockwise' }, 'fail', /^Turns anticlockwise, wanted clockwise: exchange the auxiliary's ends/],
    [{ turns: undefined }, 'cannot judge', /^Say how it turns/],
    [{ turnsWanted: undefined }, 'cannot judge', /^Say how it turns/],
    [{ vibrationMmS: 1.4, shaftHeightMm: 90, mounting: 'rigid' }, 'attention', /Vibration/],
    [{ calibrationExpired: true }, 'attention', /out of calibration/],
  ] as const)('%j: %s', (more, verdict, reason) => {
    const x = run(more);
    expect([x.verdict, x.reason]).toEqual([verdict, expect.stringMatching(reason)]);
  });
  it('keeps its shares', () => {
    expect(run({ powerW: 300, ratedInputW: 1000 })).toMatchObject({
      currentShare: expect.closeTo(0.7, 9),
      wattsShare: expect.closeTo(0.3, 9),
    });
    expect(run()).not.toHaveProperty('wattsShare');
    expect(run({ ratedA: undefined })).not.toHaveProperty('currentShare');
  });
  it('rated input from efficiency, else from volts, amperes and power factor', () => {
    const x = { voltageV: 230, currentA: 6 };
    expect(ratedInputW({ outputW: 750, efficiencyPercent: 75, powerFactor: 0.5 }, x)).toBeCloseTo(1000, 9);
    expect(ratedInputW({ outputW: 750, powerFactor: 0.9 }, x)).toBeCloseTo(1242, 9);
    expect(ratedInputW({ efficiencyPercent: 75, powerFactor: 0.9 }, x)).toBeCloseTo(1242, 9);
    expect(ratedInputW({ outputW: 750 }, x)).toBeUndefined();
    expect(ratedInputW({ powerFactor: 0.9 }, { voltageV: undefined, currentA: 6 })).toBeUndefined();
    expect(ratedInputW({ powerFactor: 0.9 }, { voltageV: 230, currentA: undefined })).toBeUndefined();
  });
  it('hands over readings and plate', () => {
    const of = (values: object, c = context()) => noLoadSingleTest.input?.(values as never, c);
    const values = { volts: 231, amps: 4, watts: 200, loadA: 6, turns: 'clockwise', turnsWanted: 'anticlockwise' };
    expect(of(values)).toMatchObject({
      voltsV: 231,
      ampsA: 4,
      powerW: 200,
      loadA: 6,
      ratedV: 230,
      ratedA: 6.2,
      runCapacitor: true,
      turns: 'clockwise',
      turnsWanted: 'anticlockwise',
      shaftHeightMm: 80,
    });
    const run = (auxKind: string) =>
      (of({}, context({ record: { kind: 'single-phase', auxKind } })) as { runCapacitor: boolean }).runCapacitor;
    expect([run('capacitor run'), run('capacitor start and run'), run('capacitor start'), run('split phase')]).toEqual([
      true,
      true,
      false,
      false,
    ]);
    expect(of({}, context({ record: undefined }))).toMatchObject({ runCapacitor: false, ratedV: 230 });
    expect([
      noLoadSingleTest.for?.({ machine: 'single-phase', record: undefined }),
      noLoadSingleTest.for?.({ machine: 'three-phase', record: undefined }),
    ]).toEqual([true, false]);
  });
});
