import { notAbove } from '../verdict.ts';
import fc from 'fast-check';
import { draws } from '../../../../scripts/testing/draws.ts';
import { describe, expect, it } from 'vitest';
import { runCalculation } from '../calculation.ts';
import { EXAMPLE_PLATE, EXAMPLE_RECORD } from '../winding/exampleRecord.ts';
import { windingFigures } from '../winding/figures.ts';
import type { WindingRecord } from '../winding/record.ts';
import { redesignByBruteForce } from '../../../../scripts/testing/bruteForce.ts';
import { planChanges, plannedPlate, plannedRecord } from './planned.ts';
import { windingRedesign } from './redesign.ts';
import { judgeCandidate, redesign, redesignSteps } from './search.ts';
import { outputAndTorque } from './torque.ts';
import { redesignWishSchema, type Candidate, type RedesignWish } from './wish.ts';

const M1: WindingRecord = EXAMPLE_RECORD;
const plate = EXAMPLE_PLATE;
const stock = [0.5, 0.56, 0.6, 0.63, 0.67, 0.71, 0.75, 0.8, 0.85, 0.9, 0.95, 1, 1.06, 1.12].map((d) => ({
  bareM: d / 1000,
  label: String(d),
  massKg: 40,
  pricePerKg: 14,
}));
const wish = (x: Partial<RedesignWish>): RedesignWish => redesignWishSchema.parse(x);
const search = (x: Partial<RedesignWish>, record = M1) => redesign(record, plate, wish(x), stock, { many: 200 });

/** docs/derivations.md 9, table M1 → (derived there). */
describe('exact turns of a changed winding', () => {
  it.each([
    ['1 circuit', { circuits: 1, connection: 'delta', spanSlots: 8 }, 17, 17, 0],
    ['4 circuits', { circuits: 4, connection: 'delta', spanSlots: 8 }, 68, 68, 0],
    ['wye, 2 circuits', { circuits: 2, connection: 'wye', spanSlots: 8 }, 19.63, 20, -1.85],
    ['wye, 4 circuits', { circuits: 4, connection: 'wye', spanSlots: 8 }, 39.26, 39, 0.67],
    [
      '460 V 60 Hz',
      { lineVoltageV: 460, frequencyHz: 60, circuits: 2, connection: 'delta', spanSlots: 8 },
      32.58,
      33,
      -1.3,
    ],
    ['span 1-8', { circuits: 2, connection: 'delta', spanSlots: 7 }, 35.63, 36, -1.0],
    ['6 poles, 1-6', { poles: 6, circuits: 2, connection: 'delta', spanSlots: 5 }, 51.67, 52, -0.6],
  ] as [string, Partial<RedesignWish>, number, number, number][])('%s', (_, x, exact, turns, flux) => {
    const hit = search({ ...x, mostWires: 8, mostSizes: 2 }).candidates.find((c) => c.turns === turns);
    expect(hit, JSON.stringify(search(x).refusals)).toBeDefined();
    expect(hit?.exactTurns).toBeCloseTo(exact, 2);
    expect(hit?.fluxErrorPercent).toBeCloseTo(flux, 1);
  });
  it('M1 → wye: 19.630 exact, 20 turns −1.85 %; → 6 poles 51.667', () => {
    const wye = search({ circuits: 2, connection: 'wye', spanSlots: 8 }).candidates.find(
      (c) => c.turns === 20,
    ) as Candidate;
    expect(wye.exactTurns).toBeCloseTo(19.63, 3);
    expect(wye.fluxErrorPercent).toBeCloseTo(-1.85, 2);
    expect(wye.airGapT).toBeCloseTo(0.873, 3);
    expect(wye.backIronT).toBeCloseTo(1.378, 3);
    const six = search({ poles: 6, circuits: 2, connection: 'delta', spanSlots: 5 }).candidates.find(
      (c) => c.turns === 52,
    ) as Candidate;
    expect(six.exactTurns).toBeCloseTo(51.667, 2);
    expect(six.backIronT).toBeCloseTo(0.93, 2);
  });
  it('2 poles are refused: the back iron would carry 2.81 T', () => {
    const two = search({ poles: 2, connection: 'delta', circuits: 2 });
    expect(two.candidates).toEqual([]);
    expect(two.refusals.join(' ')).toMatch(/2\.81 T, above 2\.1 T/);
  });
});

/** docs/derivations.md 9 (derived there): torque, not output, decides the flux. */
describe('a wished output', () => {
  const was = { frequencyHz: 50, poles: 4 };
  it.each([
    ['380 V 50 Hz → 440 V 60 Hz, output × 1.2', { powerRatio: 1.2, frequencyHz: 60 }, 1.2, 1],
    ['4 → 6 poles, output × 2/3', { powerRatio: 2 / 3, poles: 6 }, 2 / 3, 1],
    ['4 → 6 poles, output kept', { powerRatio: 1, poles: 6 }, 1, 1.5],
    ['60 Hz, output kept', { powerRatio: 1, frequencyHz: 60 }, 1, 0.8333],
    ['output left out, 6 poles', { poles: 6 }, 2 / 3, 1],
    ['output left out, 60 Hz', { frequencyHz: 60 }, 1.2, 1],
    ['output left out, nothing of speed', {}, 1, 1],
    ['2 % more torque is the same torque', { powerRatio: 1.02 }, 1.02, 1],
    ['a little above is not', { powerRatio: 1.0201 }, 1.0201, 1.0201],
    ['2 % less likewise', { powerRatio: 0.98 }, 0.98, 1],
    ['and a little below', { powerRatio: 0.9799 }, 0.9799, 0.9799],
  ])('%s', (_, x, output, torque) => {
    const asked = outputAndTorque(wish(x), was);
    expect(asked.outputRatio).toBeCloseTo(output, 9);
    expect(asked.torqueRatio).toBeCloseTo(torque, 4);
    expect(asked.fluxRatio).toBeCloseTo(Math.sqrt(torque), 4);
    expect(outputAndTorque(wish({ ...x, flux: 'as found' }), was).fluxRatio).toBe(1);
  });
  const at = (x: Partial<RedesignWish>, turns: number) =>
    search({ circuits: 2, connection: 'delta', mostWires: 8, ...x }).candidates.find((c) => c.turns === turns);
  it('M1 to 6 poles: with output × 2/3 as left out (51.667 turns), kept 42.186 and 1.089 T in the gap', () => {
    expect(at({ poles: 6, spanSlots: 5, powerRatio: 2 / 3 }, 52)?.exactTurns).toBeCloseTo(51.667, 2);
    expect(at({ poles: 6, spanSlots: 5 }, 52)?.exactTurns).toBeCloseTo(51.667, 2);
    const kept = at({ poles: 6, spanSlots: 5, powerRatio: 1 }, 42);
    expect(kept?.exactTurns).toBeCloseTo(42.186, 2);
    expect((kept?.airGapT ?? 0) / (1 + (kept?.fluxErrorPercent ?? 0) / 100)).toBeCloseTo(1.089, 2);
    expect(kept?.warnings.join()).toMatch(/torque 1\.50 times as found/);
  });
  it('M1 to 460 V 60 Hz with its 11 kW: torque 0.833, 35.693 turns, with the flux kept 32.583', () => {
    const x = { lineVoltageV: 460, frequencyHz: 60, spanSlots: 8, powerRatio: 1 };
    const found = at(x, 36);
    expect(found?.exactTurns).toBeCloseTo(35.693, 2);
    expect(found?.keptFluxTurns).toBeCloseTo(32.583, 2);
    expect(found?.warnings.join()).toMatch(
      /starting and breakdown torque fall to 0\.83 of as found; with the flux kept 32\.58 turns/,
    );
    const kept = at({ ...x, flux: 'as found' }, 33);
    expect(kept?.exactTurns).toBeCloseTo(32.583, 2);
    expect(kept?.warnings.join()).not.toMatch(/torque fall/);
  });
  it('a torque below 0.8 asks whether the driven machine still starts; limits just inside and outside', () => {
    const said = (powerRatio: number) =>
      search({ powerRatio, circuits: 2 })
        .candidates.flatMap((c) => c.warnings)
        .join();
    expect(said(0.8)).not.toMatch(/still start/);
    expect(said(0.799)).toMatch(/still start/);
    expect(said(1.05)).not.toMatch(/driven machine/);
    expect(said(1.0501)).toMatch(/shaft and driven machine/);
  });
  it('15 kW 380 V 50 Hz to 440 V 60 Hz: turns × 0.96491, current × 1.0364, the output left out is said', () => {
    const one = at({ lineVoltageV: (400 * 440) / 380, frequencyHz: 60, spanSlots: 8, powerRatio: 1.2 }, 33);
    expect((one?.exactTurns ?? 0) / 34).toBeCloseTo(0.96491, 4);
    const blank = search({ lineVoltageV: (400 * 440) / 380, frequencyHz: 60 });
    expect(blank.assumed).toBe('Output not given: torque kept, it becomes 13.2 kW.');
    expect(search({ lineVoltageV: 440 }).assumed).toBe('');
    expect(search({ powerRatio: 1, frequencyHz: 60 }).assumed).toBe('');
    const plated = plannedPlate(plate, M1, wish({ frequencyHz: 60 }), 'delta');
    expect([plated.outputW, plated.currentsA?.[0]]).toEqual([13200, (plate.currentsA?.[0] ?? 0) * 1.2]);
  });
  it.each([{ powerRatio: 1, poles: 6 }, { frequencyHz: 60 }, { powerRatio: 0.7, frequencyHz: 40 }])(
    'the best ten of %j are those of working out every record for itself',
    (x) => {
      const w = wish({ ...x, mostWires: 3, mostSizes: 1 });
      const mine = redesign(
        M1,
        plate,
        w,
        stock.map(({ bareM, label }) => ({ bareM, label })),
        { many: 10 },
      );
      const theirs = redesignByBruteForce(
        M1,
        plate,
        w,
        stock.map(({ bareM, label }) => ({ bareM, label })),
        10,
      );
      expect(theirs.length).toBeGreaterThan(0);
      expect(mine.candidates.map((c) => c.score.toFixed(6))).toEqual(theirs.map((c) => c.score.toFixed(6)));
    },
  );
});

describe('the search', () => {
  it('as found comes back as one of the best', () => {
    const top = search({ circuits: 2, connection: 'delta' }).candidates.slice(0, 10);
    expect(top.some((c) => c.turns === 34 && c.spansSlots[0] === 8)).toBe(true);
    const same = top.find(
      (c) => c.turns === 34 && c.spansSlots[0] === 8 && c.strands.length === 1 && c.strands[0]?.bareM === 0.00085,
    );
    expect(same?.lossChangePercent ?? 0).toBeCloseTo(0, 6);
  });
  const wishes = fc.record({
    lineVoltageV: fc.constantFrom(undefined, 380, 440, 460, 500),
    frequencyHz: fc.constantFrom(undefined, 60),
    poles: fc.constantFrom(undefined, 4, 6),
    connection: fc.constantFrom(undefined, 'wye' as const, 'delta' as const),
    circuits: fc.constantFrom(undefined, 1, 2),
    form: fc.constantFrom(undefined, 'concentric' as const),
    powerRatio: fc.constantFrom(1, 0.9, 1.1),
    lossAtMostPercent: fc.constantFrom(undefined, 5),
    mostWires: fc.constantFrom(3, 4),
  });
  const clean = (x: object) => wish(Object.fromEntries(Object.entries(x).filter(([, v]) => v !== undefined)));
  const few = stock.filter((_, i) => i % 3 === 0).map(({ bareM, label }) => ({ bareM, label }));
  it('its best ten score as the best ten of working out every record for itself', () => {
    let compared = 0;
    fc.assert(
      fc.property(wishes, (x) => {
        const fast = redesign(M1, plate, clean(x), few, { many: 10 }).candidates;
        const slow = redesignByBruteForce(M1, plate, clean(x), few, 10);
        expect(fast.length).toBe(slow.length);
        fast.forEach((c, i) => expect(c.score).toBeCloseTo(slow[i]?.score ?? NaN, 9));
        compared += fast.length;
      }),
      { numRuns: draws(12) },
    );
    expect(compared).toBeGreaterThan(0);
  });
  it('no candidate breaks a limit it claims to keep', () => {
    fc.assert(
      fc.property(wishes, (x) => {
        const made = redesign(M1, plate, clean(x), stock, { many: 60 });
        for (const c of made.candidates) {
          // met by equality, also where the last bit was rounded
          expect(notAbove(Math.abs(c.fluxErrorPercent), 5)).toBe(true);
          expect(notAbove(c.fill ?? 0, 0.88)).toBe(true);
          expect(notAbove(c.airGapT, 1.3)).toBe(true);
          expect(notAbove(c.toothT ?? 0, 2.2)).toBe(true);
          expect(notAbove(c.backIronT ?? 0, 2.1)).toBe(true);
          expect(c.lossChangePercent).toBeLessThanOrEqual((x.lossAtMostPercent ?? Infinity) + 1e-6);
          expect(c.strands.reduce((n, s) => n + s.count, 0)).toBeLessThanOrEqual(x.mostWires);
          expect(c.strands.length).toBeLessThanOrEqual(2);
          if (x.connection) expect(c.connection).toBe(x.connection);
          if (x.circuits) expect(c.circuits).toBe(x.circuits);
          for (const s of c.strands) expect(stock.some((w) => w.bareM === s.bareM)).toBe(true);
        }
        expect(made.candidates.length + made.refusals.length).toBeGreaterThan(0);
      }),
      { numRuns: draws(60) },
    );
  });
  it('shows the best so far while it works, and may be left', () => {
    const steps = redesignSteps(M1, plate, wish({}), stock, { many: 5 });
    let seen = 0;
    for (let i = 0; i < 5; i++) {
      const step = steps.next();
      if (step.done) break;
      expect(step.value.done).toBe(i + 1);
      seen = step.value.best().length;
    }
    expect(seen).toBeGreaterThan(0);
    expect(seen).toBeLessThanOrEqual(5);
  });
  it('circuits that do not work and a record with holes are refused with a sentence', () => {
    expect(search({ circuits: 3 }).refusals.join(' ')).toMatch(/3 circuits would not be equal/);
    expect(() => runCalculation(windingRedesign, { record: { slots: 36, poles: 4 }, nameplate: {}, stock })).toThrow(
      /complete: span/i,
    );
  });
  it('says what was left out and why', () => {
    const made = search({ mostWires: 4 });
    expect(made.leftOut.map((l) => l.why).join(' ')).toMatch(/slot fill above 0.88/);
    expect(made.leftOut.every((l) => l.count > 0)).toBe(true);
  });
  it('where no whole turns will do, says what may be tried', () => {
    // few turns: one more or less is a step of many per cent
    const coarse = { ...M1, turns: [3], strands: [{ count: 12, bareM: 0.001, label: '1' }] };
    const made = redesign(
      coarse,
      plate,
      wish({ connection: 'delta', circuits: 2, lineVoltageV: 460, spanSlots: 8 }),
      stock,
    );
    expect(made.candidates).toEqual([]);
    expect(made.refusals.join(' ')).toMatch(/coils of T and T \+ 1 turns alternating alike/);
  });
  it('warns of tight stock', () => {
    const poor = redesign(
      M1,
      plate,
      wish({ circuits: 2, connection: 'delta' }),
      stock.map((s) => ({ ...s, massKg: 0.5 })),
      {},
    );
    expect(poor.candidates.every((c) => !c.enoughInStock && c.warnings.join().includes('stock'))).toBe(true);
  });
  it('warns of what 9.2 names', () => {
    const said = (x: Partial<RedesignWish>, record = M1) =>
      search(x, record)
        .candidates.flatMap((c) => c.warnings)
        .join('; ');
    expect(said({ spanSlots: 10, circuits: 2 })).toMatch(/over-pitch/);
    expect(said({ spanSlots: 5, circuits: 2 })).toMatch(/below two thirds/);
    expect(said({ lineVoltageV: 690, circuits: 2 })).toMatch(/slot and lead insulation/);
    expect(said({ poles: 6 })).toMatch(/lower speed: less ventilation/);
    expect(said({ frequencyHz: 60, lineVoltageV: 480 })).toMatch(/iron loss about 1\.3 times/);
    expect(said({ frequencyHz: 60, lineVoltageV: 480 })).toMatch(/higher speed: shaft/);
    expect(said({ converterFed: true })).toMatch(/surge voltage/);
    expect(said({ circuits: 4, connection: 'delta', mostWires: 2 })).not.toMatch(/twice the volts/);
    expect(
      said(
        { circuits: 4, connection: 'delta' },
        { ...M1, circuits: 1, turns: [17], strands: [{ count: 4, bareM: 0.00085, label: '' }] },
      ),
    ).toMatch(/twice the volts per coil/);
    expect(said({ poles: 6 }, { ...M1, rotorBars: 36 })).toMatch(/locks at standstill/);
  });
  it('a voltage above what random-wound insulation is for is refused with a sentence', () => {
    expect(() => runCalculation(windingRedesign, { ...windingRedesign.example, wish: { lineVoltageV: 3300 } })).toThrow(
      /up to 1000 V/,
    );
  });
});

describe('a candidate as the plan', () => {
  const to440 = wish({ lineVoltageV: 440, frequencyHz: 60, powerRatio: 1 });
  const best = (w: RedesignWish) => redesign(M1, plate, w, stock, { many: 1 }).candidates[0] as Candidate;
  it('is judged again before it is released, and refused when it breaks a limit', () => {
    const c = best(to440);
    expect(judgeCandidate(M1, plate, to440, c).candidate?.score).toBeCloseTo(c.score, 9);
    expect(judgeCandidate(M1, plate, to440, { ...c, turns: c.turns + 5 }).why).toMatch(/not next to the exact turns/);
    const fat = { ...c, strands: [{ count: 6, bareM: 0.00112, label: '' }] };
    expect(judgeCandidate(M1, plate, to440, fat).why).toMatch(/slot fill above/);
    expect(judgeCandidate({ ...M1, slotOpeningM: 0.0015 }, plate, to440, c).why).toMatch(/slot opening/);
    expect(judgeCandidate(M1, plate, to440, { ...c, circuits: 3 }).why).toMatch(/3 circuits would not be equal/);
  });
  it('says what is changed, on winding and nameplate', () => {
    const c = best(to440);
    const planned = plannedRecord(M1, c);
    const changes = planChanges(M1, planned, { was: plate, is: plannedPlate(plate, M1, to440, c.connection) });
    expect(changes.find((x) => x.field === 'voltagesV')).toMatchObject({ was: '400 V', is: '440 V' });
    expect(changes.find((x) => x.field === 'frequencyHz')).toMatchObject({ was: '50 Hz', is: '60 Hz' });
    expect(changes.find((x) => x.field === 'speedRpm')?.is).toBe('1746 r/min');
    expect(changes.find((x) => x.field === 'turns')).toMatchObject({ was: '34', is: String(c.turns) });
    expect(plannedPlate(plate, M1, wish({ circuits: 4 }), 'wye')).toEqual(plate);
    // the same power at a higher voltage takes the less current
    expect(plannedPlate(plate, M1, to440, 'delta').currentsA?.[0]).toBeCloseTo(20, 9);
  });
  it('the planned record computes to the figures of the candidate', () => {
    const w = wish({ circuits: 1, form: 'concentric' });
    const c = best(w);
    const f = windingFigures.compute(
      windingFigures.input.parse({ record: plannedRecord(M1, c), nameplate: plannedPlate(plate, M1, w, c.connection) }),
    );
    expect(f.airGapT).toBeCloseTo(c.airGapT, 6);
    expect(f.insulatedSquareFill).toBeCloseTo(c.fill ?? NaN, 9);
    expect(f.phaseResistance20Ohm).toBeCloseTo(c.phaseResistance20Ohm ?? NaN, 9);
    expect(f.bareMassKg).toBeCloseTo(c.copperKg ?? NaN, 6);
    expect(f.currentDensityAMm2).toBeCloseTo(c.currentDensityAMm2 ?? NaN, 9);
  });
  it('a plate of two voltages: wound in the other connection, only the voltage it is wound for is left', () => {
    const dual = { ...plate, voltagesV: [400, 690], currentsA: [22, 12.7] };
    const six = { ...M1, leads: '6' as const };
    const c = redesign(six, dual, wish({ connection: 'wye' }), stock, { many: 1 }).candidates[0] as Candidate;
    const is = plannedPlate(dual, six, wish({}), c.connection);
    expect(is.voltagesV).toEqual([400]);
    expect(is.currentsA?.[0]).toBeCloseTo(22, 9);
    const f = windingFigures.compute(windingFigures.input.parse({ record: plannedRecord(six, c), nameplate: is }));
    expect(f.airGapT).toBeCloseTo(c.airGapT, 6);
    expect(f.currentDensityAMm2).toBeCloseTo(c.currentDensityAMm2 ?? NaN, 9);
    // in the same connection both voltages stay
    expect(plannedPlate(dual, six, wish({}), 'delta').voltagesV).toEqual([400, 690]);
  });
  it('halves brought out on nine leads keep an even number of circuits', () => {
    const nine = { ...M1, leads: '9' as const, circuits: 1 };
    const all = redesign(nine, plate, wish({}), stock, { many: 50 }).candidates;
    expect(all.length).toBeGreaterThan(0);
    expect(all.every((c) => c.circuits % 2 === 0)).toBe(true);
    expect(plannedRecord(nine, all[0] as Candidate).circuits).toBe((all[0]?.circuits ?? 0) / 2);
  });
});
