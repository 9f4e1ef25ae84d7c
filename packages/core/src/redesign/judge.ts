import { limit, type ShopLimits } from '../limits/limits.ts';
import { CONDUCTORS, geometricMeanTurn, leadToLeadOhm } from '../winding/copper.ts';
import { DEFAULT_END_TURN } from '../winding/endTurn.ts';
import type { Layout } from '../winding/layoutTypes.ts';
import { rotorSlotRules } from '../winding/spectrum.ts';
import { phaseVolts, type AsFound } from './asFound.ts';
import type { Mix } from './substitute.ts';
import type { WindingChoice } from './windings.ts';
import { outputAndTorque, type OutputAndTorque } from './torque.ts';
import type { Candidate, RedesignWeights, RedesignWish, StockWire } from './wish.ts';
import { notAbove, notBelow } from '../verdict.ts';
import { roundAreaM2 } from '../wire/strands.ts';
import { ironDensities } from '../machine/flux.ts';

/** Wire drawn for a winding beyond its bare mass: enamel and waste (common practice). */
const DRAWN_SHARE = 1.08;
/** Above this insulated-square fill a slot begins to cost points (common practice). */
const EASY_FILL = 0.72;

function geometry(found: AsFound, layout: Layout): number | undefined {
  const { record } = found;
  return geometricMeanTurn({
    form: layout.form,
    coreLengthM: record.coreLengthM,
    boreM: record.boreM,
    slotDepthM: record.slotDepthM,
    slots: layout.slots,
    spansSlots: layout.coils.map((c) => c.spanSlots),
    ...DEFAULT_END_TURN,
    copperState: 'burned clean',
    wireGrade: 2,
    material: 'copper',
  })?.metres;
}

/** Mean turn of a changed layout: as found, and the difference that geometry makes. */
export function changedMeanTurnM(found: AsFound, layout: Layout): number | undefined {
  const is = geometry(found, layout);
  if (found.meanTurnM === undefined) return is;
  const was = geometry(found, found.layout);
  return was !== undefined && is !== undefined ? found.meanTurnM + is - was : found.meanTurnM;
}

/** Everything of a candidate that does not depend on the wire, worked out once for many mixes. */
export interface Judged {
  choice: WindingChoice;
  airGapT: number;
  toothT: number | undefined;
  backIronT: number | undefined;
  meanTurnM: number | undefined;
  /** fill for each m² of Σ d_o² in the hand */
  fillPerSquare: number | undefined;
  /** loss ratio times area */
  lossArea: number;
  /** kg for each m² of conductor */
  kgPerArea: number | undefined;
  /** Ω·m² of a phase at 20 °C */
  phaseOhmArea: number | undefined;
  circuitA: number | undefined;
  voltsPerCoil: number;
  /** conductor area for the slot copper as found */
  targetM2: number;
  /** the limit that this combination breaks, whatever the wire */
  refused: string | undefined;
}

/** Output and torque that a wish asks of a machine as found. */
export const askedOf = (found: AsFound, wish: RedesignWish): OutputAndTorque =>
  outputAndTorque(wish, { frequencyHz: found.frequencyHz, poles: found.layout.poles });

/** Densities, mean turn and currents of a combination. Source: flux equation (Say); docs/derivations.md 9. */
export function judgeWinding(found: AsFound, wish: RedesignWish, w: WindingChoice, limits: ShopLimits): Judged {
  const { record } = found;
  const { layout } = w;
  const asked = askedOf(found, wish);
  const volts = wish.lineVoltageV ?? found.voltageV;
  const coils = layout.coils.length;
  const airGapT = found.airGapT * asked.fluxRatio * (1 + w.fluxErrorPercent / 100);
  const { boreM = NaN, coreLengthM = NaN } = record;
  const { poles, slots } = layout;
  const { toothT, backIronT } = ironDensities({ ...record, boreM, coreLengthM, poles, slots }, airGapT);
  const above = (name: string, value: number | undefined, id: Parameters<typeof limit>[0]) =>
    value !== undefined && !notAbove(value, limit(id, limits)) ? `${name} above ${limit(id, limits)} T` : undefined;
  const fluxLimit = limit('redesign.fluxErrorPercent', limits);
  const refused = !notAbove(Math.abs(w.fluxErrorPercent), fluxLimit)
    ? `whole turns miss the flux by more than ${fluxLimit} %`
    : (above('air gap', airGapT, 'winding.airGapErrorT') ??
      above('tooth', toothT, 'winding.toothErrorT') ??
      above('back iron', backIronT, 'winding.backIronErrorT'));
  const meanTurnM = changedMeanTurnM(found, layout);
  const material = CONDUCTORS[record.material ?? 'copper'];
  const turnsAll = coils * w.turns;
  const series = turnsAll / (3 * w.circuits);
  const lineA =
    found.currentA === undefined ? undefined : (found.currentA * asked.outputRatio * found.voltageV) / volts;
  const phaseA = lineA === undefined ? undefined : w.connection === 'wye' ? lineA : lineA / Math.sqrt(3);
  const isPhase = phaseVolts(w.connection, volts);
  const wasSeries = (found.layout.coils.length * found.turns) / (3 * found.circuits);
  const currentRatio = (asked.outputRatio * phaseVolts(found.connection, found.voltageV)) / isPhase;
  // loss ∝ I²·N·MLT/(A·c), whatever the connection
  const lossArea =
    (currentRatio ** 2 * ((series / wasSeries) * (meanTurnM ?? 1) * found.areaM2 * found.circuits)) /
    ((found.meanTurnM ?? meanTurnM ?? 1) * w.circuits);
  return {
    choice: w,
    airGapT,
    toothT,
    backIronT,
    meanTurnM,
    fillPerSquare: record.slotNetAreaM2 === undefined ? undefined : (layout.layers * w.turns) / record.slotNetAreaM2,
    lossArea,
    kgPerArea: meanTurnM === undefined ? undefined : material.densityKgM3 * meanTurnM * turnsAll,
    phaseOhmArea: meanTurnM === undefined ? undefined : (material.resistivityOhmM * series * meanTurnM) / w.circuits,
    circuitA: phaseA === undefined ? undefined : phaseA / w.circuits,
    voltsPerCoil: (isPhase * 3 * w.circuits) / coils,
    targetM2: (found.areaM2 * found.turns * found.layout.coils.length) / turnsAll,
    refused,
  };
}

/** Whether the stock has enough of every size of a mix. */
export function enough(j: Judged, mix: Mix, stock: ReadonlyMap<number, StockWire>): boolean {
  if (j.kgPerArea === undefined) return true;
  for (const s of mix.strands) {
    const left = stock.get(s.bareM)?.massKg;
    if (left !== undefined && left < j.kgPerArea * s.count * roundAreaM2(s.bareM) * DRAWN_SHARE) return false;
  }
  return true;
}

/** The limit that this wire breaks in this winding, or undefined. */
export function refusedMix(j: Judged, mix: Mix, wish: RedesignWish, fillLimit: number): string | undefined {
  if (j.fillPerSquare !== undefined && !notAbove(j.fillPerSquare * mix.squaresM2, fillLimit))
    return `slot fill above ${fillLimit}`;
  if (wish.lossAtMostPercent !== undefined && (j.lossArea / mix.areaM2 - 1) * 100 > wish.lossAtMostPercent + 1e-9)
    return `copper loss more than ${wish.lossAtMostPercent} % up`;
  return undefined;
}

/** Rank of a candidate, lower is better: flux error, then copper loss, then fill, then ease. */
export function scoreOf(j: Judged, mix: Mix, weights: RedesignWeights, inStock: boolean): number {
  const loss = (j.lossArea / mix.areaM2 - 1) * 100;
  const fill = j.fillPerSquare === undefined ? 0 : j.fillPerSquare * mix.squaresM2;
  return (
    weights.flux * Math.abs(j.choice.fluxErrorPercent) +
    weights.loss * (loss > 0 ? loss * 0.2 : loss * 0.05) +
    weights.fill * (fill > EASY_FILL ? (fill - EASY_FILL) * 40 : 0) +
    weights.ease * ((mix.strands.length - 1) * 1.5 + mix.count * 0.15 + (inStock ? 0 : 5)) +
    // a span outside the usual comes after the usual ones
    (j.choice.pitchWarning ? weights.ease * 2 : 0)
  );
}

/** A candidate with all its figures and what to be careful of. */
export function candidateOf(
  found: AsFound,
  wish: RedesignWish,
  j: Judged,
  mix: Mix,
  weights: RedesignWeights,
  limits: ShopLimits,
  stock: ReadonlyMap<number, StockWire>,
): Candidate {
  const w = j.choice;
  const { layout } = w;
  const asked = askedOf(found, wish);
  const inStock = enough(j, mix, stock);
  const fill = j.fillPerSquare === undefined ? undefined : j.fillPerSquare * mix.squaresM2;
  const density = j.circuitA === undefined ? undefined : j.circuitA / (mix.areaM2 * 1e6);
  const copperKg = j.kgPerArea === undefined ? undefined : j.kgPerArea * mix.areaM2;
  let cost: number | undefined = copperKg === undefined ? undefined : 0;
  for (const s of mix.strands) {
    const price = stock.get(s.bareM)?.pricePerKg;
    const kg = (j.kgPerArea ?? 0) * s.count * roundAreaM2(s.bareM);
    if (cost !== undefined) cost = price === undefined ? undefined : cost + kg * price;
  }
  const ohm = j.phaseOhmArea === undefined ? undefined : j.phaseOhmArea / mix.areaM2;
  const warnings = warningsOf(found, wish, j, limits, { fill, density, inStock });
  return {
    poles: layout.poles,
    connection: w.connection,
    circuits: w.circuits,
    form: layout.form,
    layers: layout.layers === 1 ? 'single' : 'double',
    spansSlots: w.spansSlots,
    turns: w.turns,
    exactTurns: w.exact,
    keptFluxTurns: asked.fluxRatio === 1 ? undefined : w.exact * asked.fluxRatio,
    targetAreaMm2: j.targetM2 * 1e6,
    strands: mix.strands,
    fluxErrorPercent: w.fluxErrorPercent,
    airGapT: j.airGapT,
    toothT: j.toothT,
    backIronT: j.backIronT,
    currentDensityAMm2: density,
    fill,
    voltsPerCoil: j.voltsPerCoil,
    lossChangePercent: (j.lossArea / mix.areaM2 - 1) * 100,
    phaseResistance20Ohm: ohm,
    lineResistance20Ohm: ohm === undefined ? undefined : leadToLeadOhm(ohm, w.connection),
    meanTurnM: j.meanTurnM,
    windingFactor: w.kw,
    fifth: w.fifth,
    seventh: w.seventh,
    copperKg,
    cost,
    enoughInStock: inStock,
    warnings,
    score: scoreOf(j, mix, weights, inStock),
  };
}

/** docs/derivations.md 10: what is allowed but must be thought about. */
function warningsOf(
  found: AsFound,
  wish: RedesignWish,
  j: Judged,
  limits: ShopLimits,
  own: { fill: number | undefined; density: number | undefined; inStock: boolean },
): string[] {
  const out: string[] = [];
  const { record } = found;
  const w = j.choice;
  const over = (value: number | undefined, id: Parameters<typeof limit>[0], say: (v: number) => string) => {
    if (value !== undefined && !notAbove(value, limit(id, limits))) out.push(say(value));
  };
  over(
    Math.abs(w.fluxErrorPercent),
    'redesign.fluxWarnPercent',
    () => `flux ${w.fluxErrorPercent.toFixed(1)} %: above ${limit('redesign.fluxWarnPercent', limits)} %`,
  );
  if (w.pitchWarning) out.push(w.pitchWarning);
  if (own.density !== undefined && found.density !== undefined)
    over(
      (own.density / found.density - 1) * 100,
      'redesign.densityUpPercent',
      (v) => `current density ${v.toFixed(0)} % up`,
    );
  if (j.voltsPerCoil > 2 * found.voltsPerCoil * (1 + 1e-9))
    out.push('more than twice the volts per coil: turn insulation');
  over(own.fill, 'winding.fillWarn', () => 'tight slot');
  over(j.backIronT, 'winding.backIronWarnT', (v) => `back iron ${v.toFixed(2)} T`);
  over(j.toothT, 'winding.toothWarnT', (v) => `tooth ${v.toFixed(2)} T`);
  over(j.airGapT, 'winding.airGapWarnT', (v) => `air gap ${v.toFixed(2)} T`);
  if ((wish.lineVoltageV ?? found.voltageV) > found.voltageV * 1.001)
    out.push('higher voltage: slot and lead insulation');
  const hertz = wish.frequencyHz ?? found.frequencyHz;
  const speed = hertz / w.layout.poles / (found.frequencyHz / found.layout.poles);
  if (speed < 0.999) out.push('lower speed: less ventilation; new nameplate');
  if (speed > 1.001) out.push('higher speed: shaft, bearings, fan, balance; new nameplate');
  if (hertz > found.frequencyHz * 1.001)
    out.push(`iron loss about ${((hertz / found.frequencyHz) ** 1.44).toFixed(1)} times at the same flux`);
  const { torqueRatio, fluxRatio } = askedOf(found, wish);
  const times = torqueRatio.toFixed(2);
  if (torqueRatio > limit('redesign.torqueHigh', limits))
    out.push(`torque ${times} times as found: shaft and driven machine; current and loss up`);
  if (torqueRatio < 1 && fluxRatio !== 1)
    out.push(
      !notBelow(torqueRatio, limit('redesign.torqueLow', limits))
        ? `starting and breakdown torque fall to ${times} of as found: does the driven machine still start?`
        : `starting and breakdown torque fall to ${times} of as found; with the flux kept ${(w.exact * fluxRatio).toFixed(2)} turns`,
    );
  if (wish.converterFed) out.push('converter-fed: turn and phase insulation to the surge voltage');
  if (record.rotorBars && w.layout.poles !== found.layout.poles)
    for (const rule of rotorSlotRules(w.layout.slots, record.rotorBars, w.layout.poles, record.skewSlots))
      out.push(rule.message);
  if (!own.inStock) out.push('not enough of this wire in stock');
  return out;
}
