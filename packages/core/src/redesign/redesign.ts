import { z } from 'zod';
import { defineCalculation, refuse } from '../calculation.ts';
import { limit, type ShopLimits } from '../limits/limits.ts';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import { nameplateSchema, type Nameplate } from '../machine/nameplate.ts';
import { CONDUCTORS, diamondMeanTurnM, DEFAULT_END_TURN } from '../winding/copper.ts';
import { possibleCircuits } from '../winding/connection.ts';
import { windingFactors } from '../winding/factors.ts';
import { layoutInputOf, ratingOf, runningConnection, windingFigures } from '../winding/figures.ts';
import { layoutOf, type Layout } from '../winding/layout.ts';
import { windingRecordSchema, type WindingRecord } from '../winding/record.ts';
import { allMixes, firstFrom, type Mix, type WireSize } from './substitute.ts';

export const redesignWishSchema = z.strictObject({
  lineVoltageV: z.number().positive().max(1000).optional().describe('left out = as found'),
  frequencyHz: z.number().positive().max(400).optional(),
  powerRatio: z.number().min(0.2).max(3).default(1).describe('wanted output over rated output'),
  poles: z.int().min(2).max(48).multipleOf(2).optional(),
  connection: z.enum(['wye', 'delta']).optional().describe('left out = either'),
  circuits: z.int().min(1).max(48).optional().describe('left out = every number that works'),
  spanSlots: z.int().min(1).max(72).optional().describe('left out = from two thirds of the pole pitch up'),
  mostWires: z.int().min(1).max(12).default(6),
  mostSizes: z.int().min(1).max(3).default(2),
});
export type RedesignWish = z.output<typeof redesignWishSchema>;

export const redesignWeightsSchema = z.strictObject({
  flux: z.number().min(0).default(4),
  loss: z.number().min(0).default(2),
  fill: z.number().min(0).default(1),
  ease: z.number().min(0).default(1),
});
export type RedesignWeights = z.output<typeof redesignWeightsSchema>;

export interface StockWire extends WireSize {
  /** kg left; undefined = not counted */
  massKg?: number | undefined;
  pricePerKg?: number | undefined;
}

export interface Candidate {
  poles: number;
  connection: 'wye' | 'delta';
  circuits: number;
  spanSlots: number;
  turns: number;
  exactTurns: number;
  strands: Mix['strands'];
  /** turns rounded: flux against the wanted flux, per cent */
  fluxErrorPercent: number;
  airGapT: number;
  toothT: number | undefined;
  backIronT: number | undefined;
  currentDensityAMm2: number | undefined;
  fill: number | undefined;
  voltsPerCoil: number;
  /** copper loss against as found, per cent, at the wanted output */
  lossChangePercent: number;
  phaseResistance20Ohm: number | undefined;
  windingFactor: number;
  fifth: number;
  seventh: number;
  copperKg: number | undefined;
  cost: number | undefined;
  enoughInStock: boolean;
  warnings: string[];
  /** lower is better */
  score: number;
}

export interface RedesignResult {
  candidates: Candidate[];
  /** how many combinations of connection, span and turns were looked at, and how many kept all limits */
  tried: number;
  kept: number;
  refusals: string[];
}

interface AsFound {
  record: WindingRecord;
  layout: Layout;
  turns: number;
  circuits: number;
  connection: 'wye' | 'delta';
  voltageV: number;
  frequencyHz: number;
  currentA: number | undefined;
  windingFactor: number;
  areaM2: number;
  airGapT: number;
  meanTurnM: number | undefined;
  density: number | undefined;
  voltsPerCoil: number;
}

/** What a redesign starts from; refuses with the field that is missing. */
function asFoundOf(record: WindingRecord, nameplate: Nameplate): AsFound {
  if ((record.kind ?? 'three-phase') !== 'three-phase')
    refuse('record.kind', 'The search is for three-phase windings of one speed.');
  const input = layoutInputOf(record);
  const figures = windingFigures.compute(windingFigures.input.parse({ record, nameplate }));
  const { voltageV, currentA } = ratingOf(nameplate, record);
  const connection = runningConnection(record);
  const f = nameplate.frequencyHz;
  const missing = (
    [
      ['record.spansSlots', input],
      ['record.turns', figures.seriesTurns],
      ['record.strands', figures.conductorAreaM2],
      ['record.boreM', record.boreM],
      ['record.coreLengthM', record.coreLengthM],
      ['nameplate.voltagesV', voltageV],
      ['nameplate.frequencyHz', f],
      ['record.connection', connection],
    ] as const
  ).filter(([, v]) => v === undefined);
  if (missing.length > 0)
    refuse(
      missing[0]?.[0] ?? 'record',
      `The search needs the winding as found complete: ${missing.map(([k]) => k.split('.')[1]).join(', ')} missing.`,
    );
  const turns = record.turns ?? [];
  if (new Set(turns).size > 1) refuse('record.turns', 'The search is for coils of equal turns.');
  const layout = layoutOf({ ...(input as NonNullable<typeof input>), turns: [1] });
  return {
    record,
    layout,
    turns: turns[0] as number,
    circuits: (figures.totalTurns as number) / (3 * (figures.seriesTurns as number)),
    connection: connection as 'wye' | 'delta',
    voltageV: voltageV as number,
    frequencyHz: f as number,
    currentA,
    windingFactor: figures.windingFactor as number,
    areaM2: figures.conductorAreaM2 as number,
    airGapT: figures.airGapT as number,
    meanTurnM: figures.meanTurnM,
    density: figures.currentDensityAMm2,
    voltsPerCoil: figures.voltsPerCoil as number,
  };
}

const emf = (connection: 'wye' | 'delta', volts: number) => (connection === 'wye' ? volts / Math.sqrt(3) : volts);

/**
 * Exact turns of a coil for a changed winding: T₂ = T₁ (E₂/E₁)(f₁/f₂)(k_w1/k_w2)(c₂/c₁)(n_c1/n_c2)(Φ₁/Φ₂).
 * Source: flux equation (Say); winding reference 9.1.
 */
export function redesignTurns(x: {
  turns: number;
  emfRatio: number;
  frequencyRatio: number;
  factorRatio: number;
  circuitRatio: number;
  coilRatio: number;
  fluxRatio: number;
}): number {
  return (x.turns * x.emfRatio * x.circuitRatio) / (x.frequencyRatio * x.factorRatio * x.coilRatio * x.fluxRatio);
}

/** Combinations of poles, connection, circuits, span and whole turns, with what they do to the flux. */
function* windings(found: AsFound, wish: RedesignWish, refusals: string[]) {
  const S = found.layout.slots;
  const poles = wish.poles ?? found.layout.poles;
  const volts = wish.lineVoltageV ?? found.voltageV;
  const hertz = wish.frequencyHz ?? found.frequencyHz;
  const pitch = S / poles;
  const low = Math.ceil((2 / 3) * pitch - 1e-9);
  const spans =
    wish.spanSlots !== undefined
      ? [wish.spanSlots]
      : Array.from({ length: Math.max(0, Math.floor(pitch) - low + 1) }, (_, i) => low + i);
  if (wish.spanSlots !== undefined && wish.spanSlots > pitch)
    refusals.push(
      `A span of ${wish.spanSlots} slots is longer than the pole pitch of ${pitch.toFixed(2)}: copper for nothing.`,
    );
  const fluxRatio = (found.layout.poles / poles) * Math.sqrt(wish.powerRatio);
  for (const span of spans) {
    let layout: Layout;
    try {
      layout = layoutOf({
        slots: S,
        poles,
        layers: 2,
        form: 'lap',
        poleGroups: 'every-pole',
        spanSlots: span,
        turns: [1],
      });
    } catch {
      continue;
    }
    if (!layout.balance.balanced) {
      refusals.push(`${S} slots and ${poles} poles do not make three equal phases.`);
      return;
    }
    const factors = windingFactors(layout, 7);
    const kw = factors[0]?.size ?? 0;
    if (kw < 0.5) continue;
    const possible = possibleCircuits(layout).map((p) => p.circuits);
    const circuitsWanted = wish.circuits !== undefined ? possible.filter((c) => c === wish.circuits) : possible;
    if (circuitsWanted.length === 0)
      refusals.push(`${wish.circuits} circuits would not be equal with ${poles} poles; ${possible.join(', ')} would.`);
    for (const connection of wish.connection ? [wish.connection] : (['wye', 'delta'] as const))
      for (const circuits of circuitsWanted) {
        const exact = redesignTurns({
          turns: found.turns,
          emfRatio: emf(connection, volts) / emf(found.connection, found.voltageV),
          frequencyRatio: hertz / found.frequencyHz,
          factorRatio: kw / found.windingFactor,
          circuitRatio: circuits / found.circuits,
          coilRatio: layout.coils.length / found.layout.coils.length,
          fluxRatio,
        });
        for (const turns of new Set([Math.floor(exact), Math.ceil(exact)]))
          if (turns >= 1)
            yield {
              poles,
              connection,
              circuits,
              span,
              turns,
              exact,
              layout,
              kw,
              fifth: factors[4]?.size ?? 0,
              seventh: factors[6]?.size ?? 0,
              fluxErrorPercent: (exact / turns - 1) * 100,
            };
      }
  }
}

type Winding = ReturnType<typeof windings> extends Generator<infer W> ? W : never;

function judge(
  found: AsFound,
  wish: RedesignWish,
  w: Winding,
  mix: Mix,
  weights: RedesignWeights,
  limits: ShopLimits,
  stock: ReadonlyMap<number, StockWire>,
): Candidate | undefined {
  const { record } = found;
  const volts = wish.lineVoltageV ?? found.voltageV;
  const coils = w.layout.coils.length;
  const airGapT = found.airGapT * Math.sqrt(wish.powerRatio) * (1 + w.fluxErrorPercent / 100);
  const D = record.boreM as number;
  const L = record.coreLengthM as number;
  const iron = 0.95 * (L - (record.ductCount ?? 0) * (record.ductWidthM ?? 0));
  const flux = (2 * airGapT * D * L) / w.poles;
  const toothT =
    record.toothWidthM === undefined
      ? undefined
      : (airGapT * ((Math.PI * D) / w.layout.slots) * L) / (record.toothWidthM * iron);
  const backIronT = record.backIronM === undefined ? undefined : flux / (2 * record.backIronM * iron);
  if (airGapT > limit('winding.airGapErrorT', limits)) return undefined;
  if (toothT !== undefined && toothT > limit('winding.toothErrorT', limits)) return undefined;
  if (backIronT !== undefined && backIronT > limit('winding.backIronErrorT', limits)) return undefined;
  const fill =
    record.slotNetAreaM2 === undefined ? undefined : (w.layout.layers * w.turns * mix.squaresM2) / record.slotNetAreaM2;
  if (fill !== undefined && fill > limit('winding.fillError', limits)) return undefined;
  const geometry = (span: number) =>
    record.slotDepthM === undefined
      ? undefined
      : diamondMeanTurnM({
          coreLengthM: L,
          boreM: D,
          slotDepthM: record.slotDepthM,
          slots: w.layout.slots,
          spanSlots: span,
          ...DEFAULT_END_TURN,
        });
  const [was, is] = [geometry(found.layout.spanSlots), geometry(w.span)];
  const meanTurnM =
    found.meanTurnM === undefined
      ? is
      : was !== undefined && is !== undefined
        ? found.meanTurnM + is - was
        : found.meanTurnM;
  const material = CONDUCTORS[record.material ?? 'copper'];
  const series = (coils * w.turns) / (3 * w.circuits);
  const phaseResistance20Ohm =
    meanTurnM === undefined ? undefined : (material.resistivityOhmM * series * meanTurnM) / (mix.areaM2 * w.circuits);
  const lineA = found.currentA === undefined ? undefined : (found.currentA * wish.powerRatio * found.voltageV) / volts;
  const phaseA = lineA === undefined ? undefined : w.connection === 'wye' ? lineA : lineA / Math.sqrt(3);
  const density = phaseA === undefined ? undefined : phaseA / w.circuits / (mix.areaM2 * 1e6);
  // loss ∝ slot ampere-turns² · mean turn / slot copper, whatever the connection
  const turnsAll = coils * w.turns;
  const wasPhase = emf(found.connection, found.voltageV);
  const isPhase = emf(w.connection, volts);
  const currentRatio = (wish.powerRatio * wasPhase) / isPhase;
  const wasSeries = (found.layout.coils.length * found.turns) / (3 * found.circuits);
  const resistanceRatio =
    ((series / wasSeries) * (meanTurnM ?? 1) * found.areaM2 * found.circuits) /
    ((found.meanTurnM ?? meanTurnM ?? 1) * mix.areaM2 * w.circuits);
  const lossChangePercent = (currentRatio ** 2 * resistanceRatio - 1) * 100;
  const copperKg = meanTurnM === undefined ? undefined : material.densityKgM3 * mix.areaM2 * meanTurnM * turnsAll;
  let cost: number | undefined = copperKg === undefined ? undefined : 0;
  let enoughInStock = true;
  for (const s of mix.strands) {
    const wire = stock.get(s.bareM);
    const share = (s.count * s.bareM ** 2) / mix.strands.reduce((a, x) => a + x.count * x.bareM ** 2, 0);
    const kg = (copperKg ?? 0) * share;
    if (wire?.massKg !== undefined && copperKg !== undefined && wire.massKg < kg * 1.08) enoughInStock = false;
    if (cost !== undefined) cost = wire?.pricePerKg === undefined ? undefined : cost + kg * wire.pricePerKg;
  }
  const voltsPerCoil = (isPhase * 3 * w.circuits) / coils;
  const warnings: string[] = [];
  const fluxWarn = limit('redesign.fluxWarnPercent', limits);
  if (Math.abs(w.fluxErrorPercent) > fluxWarn)
    warnings.push(`flux ${w.fluxErrorPercent.toFixed(1)} %: above ${fluxWarn} %`);
  if (
    found.density !== undefined &&
    density !== undefined &&
    density > (1 + limit('redesign.densityUpPercent', limits) / 100) * found.density
  )
    warnings.push(`current density ${((density / found.density - 1) * 100).toFixed(0)} % up`);
  if (voltsPerCoil > 2 * found.voltsPerCoil * (1 + 1e-9))
    warnings.push('more than twice the volts per coil: turn insulation');
  if (fill !== undefined && fill > limit('winding.fillWarn', limits)) warnings.push('tight slot');
  if (backIronT !== undefined && backIronT > limit('winding.backIronWarnT', limits))
    warnings.push(`back iron ${backIronT.toFixed(2)} T`);
  if (toothT !== undefined && toothT > limit('winding.toothWarnT', limits))
    warnings.push(`tooth ${toothT.toFixed(2)} T`);
  if (airGapT > limit('winding.airGapWarnT', limits)) warnings.push(`air gap ${airGapT.toFixed(2)} T`);
  if (w.poles !== found.layout.poles) warnings.push('another speed: ventilation, shaft, bearings, new nameplate');
  if (!enoughInStock) warnings.push('not enough of this wire in stock');
  const score =
    weights.flux * Math.abs(w.fluxErrorPercent) +
    weights.loss * Math.max(0, lossChangePercent) * 0.2 +
    weights.loss * Math.min(0, lossChangePercent) * 0.05 +
    weights.fill * (fill === undefined ? 0 : Math.max(0, fill - 0.72) * 40) +
    weights.ease * ((mix.strands.length - 1) * 1.5 + mix.count * 0.15 + (enoughInStock ? 0 : 5));
  return {
    poles: w.poles,
    connection: w.connection,
    circuits: w.circuits,
    spanSlots: w.span,
    turns: w.turns,
    exactTurns: w.exact,
    strands: mix.strands,
    fluxErrorPercent: w.fluxErrorPercent,
    airGapT,
    toothT,
    backIronT,
    currentDensityAMm2: density,
    fill,
    voltsPerCoil,
    lossChangePercent,
    phaseResistance20Ohm,
    windingFactor: w.kw,
    fifth: w.fifth,
    seventh: w.seventh,
    copperKg,
    cost,
    enoughInStock,
    warnings,
    score,
  };
}

/** Order of two candidates: score, then what is easier, so that equal scores never change places. */
const before = (a: Candidate, b: Candidate): number =>
  a.score - b.score ||
  a.circuits - b.circuits ||
  a.spanSlots - b.spanSlots ||
  a.turns - b.turns ||
  (a.connection < b.connection ? -1 : a.connection > b.connection ? 1 : 0) ||
  a.strands.length - b.strands.length ||
  JSON.stringify(a.strands).localeCompare(JSON.stringify(b.strands));

/** Share of the wanted conductor area that a mix may be off by and still be looked at. */
export const AREA_BAND = { below: 0.06, above: 0.12 } as const;

/**
 * Candidates for a changed rewind: circuits, connection, span, whole turns and mixes of the shop's own wire, every one
 * within the limits of the machine. Area aims at equal slot copper. Source: winding reference 9; limits common practice.
 * @param plain look at every mix of every winding instead of those near the wanted area: the same answer, slowly
 */
export function redesign(
  record: WindingRecord,
  nameplate: Nameplate,
  wish: RedesignWish,
  stock: readonly StockWire[],
  options: { weights?: RedesignWeights; limits?: ShopLimits; many?: number; plain?: boolean } = {},
): RedesignResult {
  const found = asFoundOf(record, nameplate);
  const weights = options.weights ?? redesignWeightsSchema.parse({});
  const limits = options.limits ?? {};
  const grade = record.wireGrade === '1' ? 1 : 2;
  const widest =
    record.slotOpeningM === undefined ? Infinity : record.slotOpeningM - 2 * (record.linerM ?? 0.00025) - 0.0003;
  const mixes = allMixes(stock, wish.mostWires, grade, widest).filter((m) => m.strands.length <= wish.mostSizes);
  const prices = new Map(stock.map((s) => [s.bareM, s]));
  const refusals: string[] = [];
  if (mixes.length === 0)
    refusals.push('No wire of the stock passes the slot opening; enter others or check the opening.');
  const best: Candidate[] = [];
  const many = options.many ?? 40;
  let tried = 0;
  let kept = 0;
  for (const w of windings(found, wish, refusals)) {
    tried += 1;
    if (Math.abs(w.fluxErrorPercent) > limit('redesign.fluxErrorPercent', limits)) continue;
    const target = (found.areaM2 * found.turns * found.layout.coils.length) / (w.turns * w.layout.coils.length);
    const [low, high] = [target * (1 - AREA_BAND.below), target * (1 + AREA_BAND.above)];
    const from = options.plain ? 0 : firstFrom(mixes, low);
    for (let i = from; i < mixes.length; i++) {
      const mix = mixes[i] as Mix;
      if (mix.areaM2 > high) {
        if (options.plain) continue;
        break;
      }
      if (mix.areaM2 < low) continue;
      const made = judge(found, wish, w, mix, weights, limits, prices);
      if (!made) continue;
      kept += 1;
      if (best.length < many || before(made, best[best.length - 1] as Candidate) < 0) {
        let at = best.length;
        while (at > 0 && before(made, best[at - 1] as Candidate) < 0) at -= 1;
        best.splice(at, 0, made);
        if (best.length > many) best.pop();
      }
    }
  }
  if (best.length === 0 && refusals.length === 0) {
    const poles = wish.poles ?? found.layout.poles;
    const back = windingFigures.compute(windingFigures.input.parse({ record, nameplate })).backIronT;
    refusals.push(
      poles < found.layout.poles &&
        back !== undefined &&
        (back * found.layout.poles) / poles > limit('winding.backIronErrorT', limits)
        ? `With ${poles} poles at the same air gap density the back iron would carry ${((back * found.layout.poles) / poles).toFixed(2)} T, above ${limit('winding.backIronErrorT', limits)} T: the core cannot carry it.`
        : 'Nothing keeps all limits: allow another connection, circuits or span, or more wires in hand and sizes.',
    );
  }
  return { candidates: best, tried, kept, refusals };
}

export const stockWireSchema = z.strictObject({
  bareM: z.number().positive().max(0.02),
  label: z.string().min(1).max(24),
  massKg: z.number().min(0).optional(),
  pricePerKg: z.number().min(0).optional(),
});

/** Calculation `winding.redesign`. */
export const windingRedesign = defineCalculation({
  id: 'winding.redesign',
  version: 1,
  title:
    'Changed rewind: candidates of circuits, connection, span, turns and wire from stock, within the machine’s limits',
  sources: ['flux equation (Say)', 'limits of flux error, density and fill: common practice, the shop’s own'],
  input: z.strictObject({
    record: windingRecordSchema,
    nameplate: nameplateSchema,
    wish: redesignWishSchema.prefault({}),
    stock: z.array(stockWireSchema).min(1).max(60),
    weights: redesignWeightsSchema.prefault({}),
    limits: shopLimitsSchema.default({}),
    many: z.int().min(1).max(200).default(40),
  }),
  output: z.object({
    candidates: z.array(z.unknown()),
    tried: z.number(),
    kept: z.number(),
    refusals: z.array(z.string()),
  }),
  example: {
    record: {
      slots: 36,
      poles: 4,
      layers: 'double',
      form: 'lap',
      spansSlots: [8],
      turns: [34],
      strands: [{ count: 2, bareM: 0.00085 }],
      wireGrade: '2',
      circuits: 2,
      connection: 'delta',
      boreM: 0.15,
      coreLengthM: 0.14,
      toothWidthM: 0.007,
      backIronM: 0.025,
      slotDepthM: 0.024,
      slotAreaM2: 185e-6,
      slotNetAreaM2: 158e-6,
    },
    nameplate: { outputW: 11000, voltagesV: [400], currentsA: [22], frequencyHz: 50, speedRpm: 1455 },
    wish: { connection: 'wye' },
    stock: [0.6, 0.63, 0.67, 0.71, 0.75, 0.8, 0.85, 0.9, 0.95, 1, 1.06, 1.12].map((d) => ({
      bareM: d / 1000,
      label: String(d),
    })),
  },
  compute: (x, note) => {
    const made = redesign(x.record, x.nameplate, x.wish, x.stock, {
      weights: x.weights,
      limits: x.limits,
      many: x.many,
    });
    const [first] = made.candidates;
    if (first)
      note?.({
        name: 'Turns of the first candidate',
        symbol: 'T₂',
        formula: 'T₁ (E₂/E₁)(f₁/f₂)(k_w1/k_w2)(c₂/c₁)(n_c1/n_c2)(Φ₁/Φ₂)',
        numbers: `exact ${first.exactTurns.toFixed(3)}`,
        value: first.turns,
        unit: '',
        source: 'Say, flux equation',
      });
    return made;
  },
});
