import { describe, expect, it } from 'vitest';
import type { Nameplate } from '../machine/nameplate.ts';
import { EXAMPLE_PLATE, EXAMPLE_RECORD } from '../winding/exampleRecord.ts';
import type { WindingRecord } from '../winding/record.ts';
import { insulatedDiameterM } from '../wire/insulatedDiameter.ts';
import { asFoundOf } from './asFound.ts';
import { candidateOf, changedMeanTurnM, enough, judgeWinding, refusedMix, scoreOf } from './judge.ts';
import type { Mix } from './substitute.ts';
import { windings } from './windings.ts';
import { redesignWeightsSchema, redesignWishSchema, type RedesignWish } from './wish.ts';

/** M1: 36/4, span 8, 34 turns of 2 × 0.85, two circuits in delta; 400 V, 50 Hz. */
const found = asFoundOf(EXAMPLE_RECORD, EXAMPLE_PLATE);
const wish = (x: Partial<RedesignWish> = {}) =>
  redesignWishSchema.parse({ spanSlots: 8, circuits: 2, connection: 'delta', ...x });
const choiceOf = (x: Partial<RedesignWish> = {}, turns = 34, of = found) => {
  const hit = [...windings(of, wish(x), [])].find((w) => w.turns === turns);
  if (!hit) throw new Error(`no choice of ${turns} turns`);
  return hit;
};
const mix = (count: number, bareMm: number, more: [number, number][] = []): Mix => {
  const strands = [[count, bareMm] as const, ...more].map(([n, d]) => ({
    count: n,
    bareM: d / 1000,
    label: String(d),
  }));
  return {
    strands,
    count: strands.reduce((n, s) => n + s.count, 0),
    areaM2: strands.reduce((a, s) => a + (s.count * Math.PI * s.bareM ** 2) / 4, 0),
    squaresM2: strands.reduce((a, s) => a + s.count * insulatedDiameterM(s.bareM, 2) ** 2, 0),
  };
};
const SAME = mix(2, 0.85);
const judged = (x: Partial<RedesignWish> = {}, turns = 34, limits = {}, of = found) =>
  judgeWinding(of, wish(x), choiceOf(x, turns, of), limits);
const candidate = (
  x: Partial<RedesignWish> = {},
  turns = 34,
  of = SAME,
  limits = {},
  stock: [number, object][] = [],
  start = found,
) =>
  candidateOf(
    start,
    wish(x),
    judged(x, turns, limits, start),
    of,
    redesignWeightsSchema.parse({}),
    limits,
    new Map(stock) as never,
  );
const weights = redesignWeightsSchema.parse({});

describe('a candidate by hand', () => {
  it('as found comes back as it was', () => {
    const c = candidate();
    expect(c).toMatchObject({
      poles: 4,
      connection: 'delta',
      circuits: 2,
      form: 'lap',
      layers: 'double',
      spansSlots: [8],
      turns: 34,
    });
    expect(c.fluxErrorPercent).toBeCloseTo(0, 9);
    expect(c.airGapT).toBeCloseTo(found.airGapT, 9);
    expect(c.lossChangePercent).toBeCloseTo(0, 9);
    expect(c.targetAreaMm2).toBeCloseTo(SAME.areaM2 * 1e6, 9);
    expect(c.keptFluxTurns).toBeUndefined();
    // 400 V a phase over 12 coils in series of 36 coils in 2 circuits: 400 · 3 · 2 / 36
    expect(c.voltsPerCoil).toBeCloseTo(400 / 6, 9);
    // fill: 2 layers · 34 turns · Σ d² over the net area
    expect(c.fill).toBeCloseTo((2 * 34 * SAME.squaresM2) / 158e-6, 9);
    // a circuit carries the line over √3 and two
    expect(c.currentDensityAMm2).toBeCloseTo(
      (EXAMPLE_PLATE.currentsA?.[0] ?? 0) / Math.sqrt(3) / 2 / (SAME.areaM2 * 1e6),
      6,
    );
    const metres = 36 * 34 * (c.meanTurnM ?? 0);
    expect(c.copperKg).toBeCloseTo(8890 * metres * SAME.areaM2, 6);
    expect(c.phaseResistance20Ohm).toBeCloseTo(((1 / 58e6) * (metres / 3 / 2)) / SAME.areaM2 / 2, 6);
    expect(c.lineResistance20Ohm).toBeCloseTo(((c.phaseResistance20Ohm ?? 0) * 2) / 3, 12);
    expect(c.meanTurnM).toBeCloseTo(found.meanTurnM ?? 0, 12);
    expect(c.warnings).toEqual([]);
  });
  it('other wire: loss and resistance with the area, fill with the squares, copper with both', () => {
    const thin = mix(2, 0.8);
    const [a, b] = [candidate(), candidate({}, 34, thin)];
    const ratio = SAME.areaM2 / thin.areaM2;
    expect(b.lossChangePercent).toBeCloseTo(100 * (ratio - 1), 9);
    expect((b.phaseResistance20Ohm ?? 0) / (a.phaseResistance20Ohm ?? 1)).toBeCloseTo(ratio, 9);
    expect((b.currentDensityAMm2 ?? 0) / (a.currentDensityAMm2 ?? 1)).toBeCloseTo(ratio, 9);
    expect((b.copperKg ?? 0) / (a.copperKg ?? 1)).toBeCloseTo(1 / ratio, 9);
    expect((b.fill ?? 0) / (a.fill ?? 1)).toBeCloseTo(thin.squaresM2 / SAME.squaresM2, 9);
  });
  it('wye for delta: √3 fewer turns, the line current in each circuit, the same watts', () => {
    const c = candidate({ connection: 'wye' }, 20, mix(3, 0.9));
    expect(c.exactTurns).toBeCloseTo(34 / Math.sqrt(3), 6);
    expect(c.fluxErrorPercent).toBeCloseTo(100 * (34 / Math.sqrt(3) / 20 - 1), 6);
    expect(c.airGapT).toBeCloseTo(found.airGapT * (34 / Math.sqrt(3) / 20), 9);
    expect(c.currentDensityAMm2).toBeCloseTo((EXAMPLE_PLATE.currentsA?.[0] ?? 0) / 2 / (mix(3, 0.9).areaM2 * 1e6), 6);
    expect(c.voltsPerCoil).toBeCloseTo(400 / Math.sqrt(3) / 6, 9);
    expect(c.lineResistance20Ohm).toBeCloseTo(2 * (c.phaseResistance20Ohm ?? 0), 12);
    // equal slot copper: 34 · 2 · 0.85² over 20 turns
    expect(c.targetAreaMm2).toBeCloseTo((SAME.areaM2 * 1e6 * 34) / 20, 9);
    // I² R: √3² the current squared, 20/34 of the turns, and the wire's area
    expect(c.lossChangePercent).toBeCloseTo(100 * ((3 * (20 / 34) * SAME.areaM2) / mix(3, 0.9).areaM2 - 1), 6);
  });
  it('price by the lots of its sizes, unknown where one has none; stock by what is drawn', () => {
    const kg = candidate().copperKg ?? 0;
    expect(candidate({}, 34, SAME, {}, [[0.00085, { pricePerKg: 10, massKg: 99 }]]).cost).toBeCloseTo(10 * kg, 6);
    expect(candidate({}, 34, mix(1, 0.85, [[1, 0.9]]), {}, [[0.00085, { pricePerKg: 10 }]]).cost).toBeUndefined();
    expect(candidate().cost).toBeUndefined();
    // enamel and waste: 8 % more is drawn
    const has = (massKg: number) => enough(judged(), SAME, new Map([[0.00085, { bareM: 0.00085, label: '', massKg }]]));
    expect([has(kg * 1.081), has(kg * 1.079)]).toEqual([true, false]);
    expect(enough(judged(), SAME, new Map())).toBe(true);
    expect(candidate({}, 34, SAME, {}, [[0.00085, { massKg: 0.1 }]]).warnings).toEqual([
      'not enough of this wire in stock',
    ]);
  });
  it('the mean turn moves with the span by geometry, from what was measured', () => {
    const shorter = choiceOf({ spanSlots: 7 }, 36).layout;
    const geometry = changedMeanTurnM(found, shorter) ?? 0;
    expect(geometry).toBeLessThan(found.meanTurnM ?? 0);
    const measured = asFoundOf({ ...EXAMPLE_RECORD, sampleCoilM: 0.9 } as WindingRecord, EXAMPLE_PLATE);
    expect(changedMeanTurnM(measured, shorter)).toBeCloseTo(0.9 + geometry - (found.meanTurnM ?? 0), 9);
    expect(changedMeanTurnM(measured, measured.layout)).toBeCloseTo(0.9, 12);
    const bare = asFoundOf({ ...EXAMPLE_RECORD, slotDepthM: undefined } as WindingRecord, EXAMPLE_PLATE);
    expect(changedMeanTurnM(bare, shorter)).toBeUndefined();
    const only = asFoundOf(
      { ...EXAMPLE_RECORD, slotDepthM: undefined, sampleCoilM: 0.9 } as WindingRecord,
      EXAMPLE_PLATE,
    );
    expect(changedMeanTurnM(only, shorter)).toBe(0.9);
  });
});

describe('what is refused, whatever the wire or for it', () => {
  it('flux missed by whole turns, and densities', () => {
    expect(judged().refused).toBeUndefined();
    // one circuit: 17 turns exactly; at 440 V 18.7: 18 is 3.9 % off, and with the shop’s 3 % refused
    expect(judged({ circuits: 1, lineVoltageV: 440 }, 18).refused).toBeUndefined();
    expect(judged({ circuits: 1, lineVoltageV: 440 }, 18, { 'redesign.fluxErrorPercent': 3 }).refused).toBe(
      'whole turns miss the flux by more than 3 %',
    );
    expect(judged({}, 34, { 'winding.airGapErrorT': 0.8 }).refused).toBe('air gap above 0.8 T');
    expect(judged({}, 34, { 'winding.airGapErrorT': found.airGapT }).refused).toBeUndefined();
    expect(judged({}, 34, { 'winding.toothErrorT': 1.7 }).refused).toBe('tooth above 1.7 T');
    expect(judged({}, 34, { 'winding.backIronErrorT': 1.3 }).refused).toBe('back iron above 1.3 T');
  });
  it('fill and loss', () => {
    const fill = 2 * 34 * (SAME.squaresM2 / 158e-6);
    expect(refusedMix(judged(), SAME, wish(), fill)).toBeUndefined();
    expect(refusedMix(judged(), SAME, wish(), fill - 0.001)).toBe(`slot fill above ${fill - 0.001}`);
    const thin = mix(2, 0.8);
    const more = 100 * (SAME.areaM2 / thin.areaM2 - 1);
    expect(refusedMix(judged(), thin, wish({ lossAtMostPercent: more }), 1)).toBeUndefined();
    expect(refusedMix(judged(), thin, wish({ lossAtMostPercent: more - 0.01 }), 1)).toMatch(
      /^copper loss more than 12\.\d+ % up$/,
    );
    expect(refusedMix(judged(), thin, wish(), 1)).toBeUndefined();
    const open = asFoundOf({ ...EXAMPLE_RECORD, slotNetAreaM2: undefined } as WindingRecord, EXAMPLE_PLATE);
    expect(refusedMix(judged({}, 34, {}, open), SAME, wish(), 0.1)).toBeUndefined();
  });
  it('the score: flux, loss, fill beyond 0.72, sizes and wires, stock, pitch', () => {
    const score = (m = SAME, inStock = true, w = weights, x: Partial<RedesignWish> = {}, turns = 34) =>
      scoreOf(judged(x, turns), m, w, inStock);
    const fill = 2 * 34 * (SAME.squaresM2 / 158e-6);
    const base = 40 * Math.max(0, fill - 0.72) + 2 * 0.15;
    expect(score()).toBeCloseTo(base, 9);
    expect(score(SAME, false)).toBeCloseTo(base + 5, 9);
    const thin = mix(2, 0.8);
    const fillThin = 2 * 34 * (thin.squaresM2 / 158e-6);
    expect(score(thin)).toBeCloseTo(
      2 * 0.2 * 100 * (SAME.areaM2 / thin.areaM2 - 1) + 40 * Math.max(0, fillThin - 0.72) + 0.3,
      9,
    );
    const thick = mix(2, 0.9);
    const fillThick = 2 * 34 * (thick.squaresM2 / 158e-6);
    expect(score(thick)).toBeCloseTo(
      2 * 0.05 * 100 * (SAME.areaM2 / thick.areaM2 - 1) + 40 * (fillThick - 0.72) + 0.3,
      9,
    );
    const two = mix(1, 0.8, [[1, 0.85]]);
    expect(score(two) - score({ ...two, strands: [two.strands[0] as never] })).toBeCloseTo(1.5, 9);
    expect(score(SAME, true, { flux: 0, loss: 0, fill: 0, ease: 0 })).toBe(0);
    expect(score(SAME, true, { ...weights, flux: 10 }, { circuits: 1, lineVoltageV: 440 }, 18)).toBeGreaterThan(
      10 * 3.8,
    );
    const pitched = scoreOf(
      { ...judged(), choice: { ...judged().choice, pitchWarning: 'over-pitch' } },
      SAME,
      weights,
      true,
    );
    expect(pitched - score()).toBeCloseTo(2, 9);
  });
});

describe('what must be thought about: just inside and just outside', () => {
  const warnings = (x: Partial<RedesignWish>, turns: number, m = SAME, limits = {}) =>
    candidate(x, turns, m, limits).warnings.join(' | ');
  it('flux, density, densities', () => {
    const off = { circuits: 1, lineVoltageV: 440 } as const;
    expect(warnings(off, 18)).toMatch(/flux 3\.9 %: above 2\.5 %/);
    expect(warnings(off, 18, SAME, { 'redesign.fluxWarnPercent': 4 })).not.toMatch(/flux 3/);
    const up = (share: number) => warnings({}, 34, { ...SAME, areaM2: SAME.areaM2 / share });
    expect(up(1.05)).not.toMatch(/current density/);
    expect(up(1.051)).toMatch(/current density 5 % up/);
    expect(warnings({}, 34, { ...SAME, areaM2: SAME.areaM2 / 1.09 }, { 'redesign.densityUpPercent': 10 })).not.toMatch(
      /current density/,
    );
    const fill = 2 * 34 * (SAME.squaresM2 / 158e-6);
    expect(warnings({}, 34, SAME, { 'winding.fillWarn': fill })).not.toMatch(/tight/);
    expect(warnings({}, 34, SAME, { 'winding.fillWarn': fill - 0.001 })).toMatch(/tight slot/);
    expect(warnings({}, 34, SAME, { 'winding.backIronWarnT': 1.4 })).toMatch(/back iron 1\.40 T/);
    expect(warnings({}, 34, SAME, { 'winding.toothWarnT': 1.7 })).toMatch(/tooth 1\.75 T/);
    expect(warnings({}, 34, SAME, { 'winding.airGapWarnT': 0.8 })).toMatch(/air gap 0\.89 T/);
  });
  it('voltage, frequency, speed, converter', () => {
    expect(warnings({ lineVoltageV: 400.3 }, 34)).not.toMatch(/higher voltage/);
    expect(warnings({ lineVoltageV: 412 }, 35)).toMatch(/higher voltage: slot and lead insulation/);
    expect(warnings({ lineVoltageV: 388 }, 33)).not.toMatch(/higher voltage/);
    expect(warnings({ frequencyHz: 60, lineVoltageV: 480 }, 34)).toMatch(
      /higher speed: shaft, bearings.*iron loss about 1\.3 times at the same flux/,
    );
    expect(warnings({ frequencyHz: 40, lineVoltageV: 320 }, 34)).toMatch(/lower speed: less ventilation/);
    expect(warnings({ frequencyHz: 40, lineVoltageV: 320 }, 34)).not.toMatch(/iron loss/);
    expect(warnings({}, 34)).toBe('');
    expect(warnings({ converterFed: true }, 34)).toMatch(/converter-fed/);
    // four circuits: twice the volts of a coil of two, and twice is allowed
    expect(warnings({ circuits: 4 }, 68)).not.toMatch(/volts per coil/);
    expect(warnings({ circuits: 4, lineVoltageV: 412 }, 70)).toMatch(/more than twice the volts per coil/);
  });
  it('torque', () => {
    expect(warnings({ powerRatio: 1.05 }, 33)).not.toMatch(/driven machine/);
    expect(warnings({ powerRatio: 1.06 }, 33)).toMatch(/torque 1\.06 times as found: shaft and driven machine/);
    expect(warnings({ powerRatio: 1.06 }, 33, SAME, { 'redesign.torqueHigh': 1.1 })).not.toMatch(/driven machine/);
    expect(warnings({ powerRatio: 0.8 }, 38)).toMatch(/fall to 0\.80 of as found; with the flux kept 34\.00 turns/);
    expect(warnings({ powerRatio: 0.79 }, 38)).toMatch(
      /fall to 0\.79 of as found: does the driven machine still start\?/,
    );
    expect(warnings({ powerRatio: 0.79, flux: 'as found' }, 34)).not.toMatch(/fall to/);
    expect(candidate({ powerRatio: 0.8 }, 38).keptFluxTurns).toBeCloseTo(34, 9);
  });
  it('bars of the rotor with other poles', () => {
    const barred = asFoundOf({ ...EXAMPLE_RECORD, rotorBars: 36 } as WindingRecord, EXAMPLE_PLATE);
    const six: Partial<RedesignWish> = { poles: 6, spanSlots: 5 };
    const turns = [...windings(barred, wish(six), [])][0]?.turns ?? 0;
    expect(candidate(six, turns, SAME, {}, [], barred).warnings.length).toBeGreaterThan(
      candidate(six, turns).warnings.length,
    );
    expect(candidate({}, 34, SAME, {}, [], barred).warnings).toEqual([]);
  });
  it('a plate without a current gives no density', () => {
    const { currentsA: _, ...plate } = EXAMPLE_PLATE as Nameplate;
    const bare = asFoundOf(EXAMPLE_RECORD, plate);
    expect(candidate({}, 34, SAME, {}, [], bare).currentDensityAMm2).toBeUndefined();
  });
});
