import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { PLANT_CHANNELS, PLANT_TIMES, vesselPlant, type PlantRun } from '../bench/vesselPlant.ts';
import { VESSEL as setUp } from '../../../../scripts/testing/vessel.ts';
import { PLANT_ACTS, type PlantAct } from './interlocks.ts';
import {
  ACT_INTO,
  nextStage,
  PLANT_FIGURES,
  PLANT_FLAGS,
  STAGE_WORDS,
  VESSEL_STAGES,
  vesselNow,
  type PlantSample,
  type VesselCourse,
  type VesselStage,
} from './vesselCycle.ts';

const run: PlantRun = { seed: 5, partTopMm: 640, coverMm: 60 };
/** The simulated plant up to a minute, as samples. */
const plant = (to: number, more: Partial<PlantRun> = {}, step = 30): PlantSample[] => {
  const out: PlantSample[] = [];
  for (const { s, values } of vesselPlant({ ...run, ...more }, step)) {
    if (s / 60 > to) break;
    out.push({ t: s / 60, values: Object.fromEntries(PLANT_CHANNELS.map((c, i) => [c.name, values[i] ?? 0])) });
  }
  return out;
};
const T = PLANT_TIMES;
const STAGES: readonly { stage: VesselStage; t: number }[] = [
  { stage: 'load', t: 0 },
  { stage: 'warm', t: 10 },
  { stage: 'vacuum', t: T.vacuum },
  { stage: 'admit', t: T.admit },
  { stage: 'soak', t: T.soak },
  { stage: 'pressurise', t: T.pressurise },
  { stage: 'hold', t: T.hold },
  { stage: 'release', t: T.release },
  { stage: 'return', t: T.return },
  { stage: 'drip', t: T.drip },
];
const at = (nowMin: number, more: Partial<VesselCourse> = {}, of: Partial<PlantRun> = {}) =>
  vesselNow({
    setUp,
    partTopMm: 640,
    stages: STAGES.filter((s) => s.t < nowMin),
    leakT: nowMin > T.leak ? T.leak : undefined,
    samples: plant(nowMin, of),
    nowMin,
    resinPassed: true,
    today: '2026-11-28',
    ...more,
  });
const missing = (is: ReturnType<typeof at>) => is.lamps.filter((l) => !l.holds).map((l) => l.code);

describe('a vacuum-pressure cycle', () => {
  it('goes from stage to stage; every stage has its words, every act its stage', () => {
    expect(nextStage('load')).toBe('warm');
    expect(nextStage('out')).toBeUndefined();
    for (const s of VESSEL_STAGES) expect(STAGE_WORDS[s]).toMatch(/\w/);
    expect(new Set(Object.values(ACT_INTO))).toEqual(new Set(Object.keys(PLANT_ACTS)));
  });
  it.each([
    ['vacuum is pulled on a warm, shut vessel', T.vacuum - 1, []],
    ['resin waits for the vacuum to be held and the leak test', T.vacuum + 20, ['VAC_REACHED', 'VAC_HELD', 'LEAK_OK']],
    ['resin may come', T.admit - 1, ['VAC_HELD']],
    ['pressure may come after the soak', T.pressurise - 0.5, []],
    ['pressure waits for the soak', T.soak + 8, ['SOAKED']],
    ['pressure stays until the winding is full', T.hold + 50, ['MIN_HOLD', 'PLATEAU_OR_MAX']],
    ['resin goes back when the pressure is low', T.return - 1, []],
    ['lid is opened at the end', T.end - 3, []],
  ])('%s', (_, min, expected) => {
    const is = at(min);
    const codes = missing(is);
    for (const code of expected) if (code !== 'VAC_HELD' || min < T.leak) expect(codes).toContain(code);
    if (expected.length === 0) expect(codes).toEqual([]);
  });
  it('the capacitance finds the plateau live, and not before resin came', () => {
    expect(at(T.admit - 1).plateau).toBeUndefined();
    expect(at(T.hold + 20).plateau?.state).toBe('not_yet');
    const full = at(T.release - 1);
    expect(full.plateau?.state).toBe('plateau');
    expect(full.plateau?.stopMin).toBeGreaterThan(T.hold);
    expect(missing(full)).toEqual([]);
  });
  it('a leak shows in five minutes with the valve shut', () => {
    expect(at(T.leak + 3).leak).toBe('runs');
    expect(at(T.leak + 8).leak).toMatchObject({ passed: true });
    expect(at(T.leak + 8, {}, { faults: [{ what: 'vessel leaks', fromMin: T.leak }] }).leak).toMatchObject({
      passed: false,
    });
    // readings of a minute prove nothing of five
    expect(
      at(T.leak + 8, { samples: plant(T.leak + 8).filter((s) => s.t < T.leak || s.t > T.leak + 4.5) }).leak,
    ).toBeUndefined();
    expect(at(T.leak - 1).leak).toBeUndefined();
  });
  it('alarms while it holds: part not covered, signal lost, hold too long, pressure low', () => {
    const min = T.hold + 30;
    expect(at(min).alarms).toEqual([]);
    expect(at(min, {}, { faults: [{ what: 'level falls', fromMin: T.hold + 5 }] }).alarms[0]).toMatch(/not covered/);
    expect(at(min, {}, { faults: [{ what: 'lead comes off', fromMin: T.hold + 5 }] }).alarms[0]).toMatch(/fell/);
    expect(at(min, { setUp: { ...setUp, holdMostMin: 29 } }).alarms[0]).toMatch(/longest hold/);
    expect(at(min, { setUp: { ...setUp, pressureBar: 5 } }).alarms[0]).toMatch(/5 bar are meant/);
    expect(at(T.soak + 5, { setUp: { ...setUp, monomerMbar: 4 } }).alarms[0]).toMatch(/monomer/);
  });
  it('a relief valve is in date on its last day, not after; a resin that is not passed keeps it', () => {
    const before = T.pressurise - 0.5;
    expect(missing(at(before, { today: '2026-12-31' }))).toEqual([]);
    expect(missing(at(before, { today: '2027-01-01' }))).toEqual(['RELIEF_IN_DATE']);
    expect(missing(at(T.admit - 1, { resinPassed: false }))).toContain('RESIN_PASSED');
  });
  it('what is older than three minutes says nothing any more', () => {
    const samples = plant(T.pressurise - 4);
    const codes = (nowMin: number) =>
      missing(at(nowMin, { samples, stages: STAGES.filter((s) => s.t < T.pressurise) }));
    expect(codes(T.pressurise - 1)).toEqual([]);
    expect(codes(T.pressurise - 0.5)).toEqual(
      expect.arrayContaining(['LID_LOCKED', 'VAC_VALVE_SHUT', 'COVERED', 'VENT_SHUT', 'PUMP_OFF']),
    );
  });
  it('a missing signal never opens an interlock', () =>
    fc.assert(
      fc.property(
        fc.constantFrom(...STAGES.slice(1).map((s) => s.t + 4)),
        fc.subarray([...PLANT_FIGURES, ...PLANT_FLAGS]),
        (min, lost) => {
          const whole = at(min);
          const samples = plant(min, {}, 60).map(({ t, values }) => ({
            t,
            values: Object.fromEntries(Object.entries(values).filter(([n]) => !(lost as string[]).includes(n))),
          }));
          const less = at(min, { samples });
          const open = (is: ReturnType<typeof at>) => is.lamps.filter((l) => l.holds).map((l) => l.code);
          // what is open without some signals is open with them
          for (const code of open(less))
            expect(open({ ...whole, lamps: at(min, { samples: plant(min, {}, 60) }).lamps })).toContain(code);
        },
      ),
      { numRuns: 40 },
    ));
  it('the record: lowest vacuum, highest pressure, minutes held', () => {
    const is = at(T.return + 1);
    expect(is.lowestMbar).toBeLessThan(5);
    expect(is.highestBar).toBeCloseTo(4, 1);
    expect(is.heldMin).toBe(T.release - T.hold);
    expect((ACT_INTO[is.next as VesselStage] as PlantAct | undefined) ?? 'none').toBe('none');
  });
});
