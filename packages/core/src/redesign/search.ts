import { limit, type ShopLimits } from '../limits/limits.ts';
import type { Nameplate } from '../machine/nameplate.ts';
import { formatNumber } from '../quantity/format.ts';
import type { WindingRecord } from '../winding/record.ts';
import { asFoundOf, type AsFound } from './asFound.ts';
import { askedOf, candidateOf, enough, judgeWinding, refusedMix, scoreOf, type Judged } from './judge.ts';
import type { OutputAndTorque } from './torque.ts';
import { allMixes, firstFrom, type Mix } from './substitute.ts';
import { windings } from './windings.ts';
import {
  redesignWeightsSchema,
  type Candidate,
  type CandidateKey,
  type RedesignResult,
  type RedesignWeights,
  type RedesignWish,
  type StockWire,
} from './wish.ts';

/** Share of the wanted conductor area that a mix may be off by and still be looked at. */
export const AREA_BAND = { below: 0.06, above: 0.12 } as const;

export interface SearchOptions {
  weights?: RedesignWeights;
  limits?: ShopLimits;
  many?: number;
}
export interface SearchProgress {
  done: number;
  total: number;
  /** the best so far */
  best: () => Candidate[];
}

interface Kept {
  judged: Judged;
  mix: Mix;
  score: number;
}

/** Order of two candidates: score, then what is easier, so that equal scores never change places. */
function before(a: Kept, b: Kept): number {
  const [x, y] = [a.judged.choice, b.judged.choice];
  return (
    a.score - b.score ||
    x.circuits - y.circuits ||
    x.layout.spanSlots - y.layout.spanSlots ||
    x.turns - y.turns ||
    (x.connection < y.connection ? -1 : x.connection > y.connection ? 1 : 0) ||
    a.mix.strands.length - b.mix.strands.length ||
    JSON.stringify(a.mix.strands).localeCompare(JSON.stringify(b.mix.strands))
  );
}

/** Largest bare wire that passes the slot opening with its liner and 0.3 mm to spare (common practice), by insulated diameter. */
export function widestWireM(record: WindingRecord): number {
  return record.slotOpeningM === undefined ? Infinity : record.slotOpeningM - 2 * (record.linerM ?? 0.00025) - 0.0003;
}

/**
 * Searches for a changed rewind, a step for each combination of connection, circuits, span and turns: circuits, connection,
 * span, whole turns and mixes of the shop's own wire, every one within the limits of the machine. Area aims at equal slot
 * copper. Source: docs/derivations.md 9; limits common practice.
 */
export function* redesignSteps(
  record: WindingRecord,
  nameplate: Nameplate,
  wish: RedesignWish,
  stock: readonly StockWire[],
  options: SearchOptions = {},
): Generator<SearchProgress, RedesignResult> {
  const found = asFoundOf(record, nameplate);
  const weights = options.weights ?? redesignWeightsSchema.parse({});
  const limits = options.limits ?? {};
  const many = options.many ?? 40;
  const refusals: string[] = [];
  const mixes = allMixes(stock, wish.mostWires, record.wireGrade === '1' ? 1 : 2, widestWireM(record)).filter(
    (m) => m.strands.length <= wish.mostSizes,
  );
  if (mixes.length === 0)
    refusals.push('No wire of the stock passes the slot opening; enter others or check the opening.');
  const bySize = new Map(stock.map((s) => [s.bareM, s]));
  const fillLimit = limit('winding.fillError', limits);
  const all = [...windings(found, wish, refusals)];
  const best: Kept[] = [];
  const finish = (): Candidate[] => best.map((k) => candidateOf(found, wish, k.judged, k.mix, weights, limits, bySize));
  const left = new Map<string, number>();
  const leave = (why: string, count = 1) => left.set(why, (left.get(why) ?? 0) + count);
  let kept = 0;
  for (const [at, choice] of all.entries()) {
    const judged = judgeWinding(found, wish, choice, limits);
    if (judged.refused) leave(judged.refused);
    else {
      const high = judged.targetM2 * (1 + AREA_BAND.above);
      for (let i = firstFrom(mixes, judged.targetM2 * (1 - AREA_BAND.below)); i < mixes.length; i++) {
        const mix = mixes[i] as Mix;
        if (mix.areaM2 > high) break;
        const refused = refusedMix(judged, mix, wish, fillLimit);
        if (refused) {
          leave(refused);
          continue;
        }
        kept += 1;
        const made = { judged, mix, score: scoreOf(judged, mix, weights, enough(judged, mix, bySize)) };
        const last = best[best.length - 1];
        if (best.length >= many && last && made.score > last.score) continue;
        if (best.length < many || before(made, last as Kept) < 0) {
          let place = best.length;
          while (place > 0 && before(made, best[place - 1] as Kept) < 0) place -= 1;
          best.splice(place, 0, made);
          if (best.length > many) best.pop();
        }
      }
    }
    yield { done: at + 1, total: all.length, best: finish };
  }
  if (best.length === 0 && refusals.length === 0)
    refusals.push(
      left.size > 0 && [...left.keys()].every((why) => why.startsWith('whole turns'))
        ? 'No whole number of turns comes near enough to the flux: try other circuits, spans or the other connection, or wind coils of T and T + 1 turns alternating alike in every group of every phase.'
        : emptyBecause(found, wish, limits),
    );
  const asked = askedOf(found, wish);
  return {
    assumed: assumedOutput(nameplate, asked),
    torqueRatio: asked.torqueRatio,
    candidates: finish(),
    tried: all.length,
    kept,
    leftOut: [...left].map(([why, count]) => ({ why, count })).sort((a, b) => b.count - a.count),
    refusals,
  };
}

/** What a blank output is taken for; nothing to say where nothing changes it. */
function assumedOutput(nameplate: Nameplate, asked: OutputAndTorque): string {
  if (!asked.assumed || asked.outputRatio === 1) return '';
  const becomes =
    nameplate.outputW === undefined
      ? `${asked.outputRatio.toFixed(3)} times as found`
      : `${formatNumber((nameplate.outputW * asked.outputRatio) / 1000, 3)} kW`;
  return `Output not given: torque kept, it becomes ${becomes}.`;
}

function emptyBecause(found: AsFound, wish: RedesignWish, limits: ShopLimits): string {
  const poles = wish.poles ?? found.layout.poles;
  const most = limit('winding.backIronErrorT', limits);
  const back = found.backIronT === undefined ? undefined : (found.backIronT * found.layout.poles) / poles;
  return poles < found.layout.poles && back !== undefined && back > most
    ? `With ${poles} poles at the same air gap density the back iron would carry ${back.toFixed(2)} T, above ${most} T: the core cannot carry it.`
    : 'Nothing keeps all limits: allow another connection, circuits or span, or more wires in hand and sizes.';
}

/** The whole search at once. */
export function redesign(
  record: WindingRecord,
  nameplate: Nameplate,
  wish: RedesignWish,
  stock: readonly StockWire[],
  options: SearchOptions = {},
): RedesignResult {
  const steps = redesignSteps(record, nameplate, wish, stock, options);
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}

/**
 * One named candidate, judged afresh: for a release, so that what is released keeps every limit.
 * @returns the candidate, or the sentence that says why it is none
 */
export function judgeCandidate(
  record: WindingRecord,
  nameplate: Nameplate,
  wish: RedesignWish,
  key: CandidateKey,
  options: { limits?: ShopLimits; stock?: readonly StockWire[]; weights?: RedesignWeights } = {},
): { candidate: Candidate; why?: undefined } | { candidate?: undefined; why: string } {
  const found = asFoundOf(record, nameplate);
  const limits = options.limits ?? {};
  const refusals: string[] = [];
  const narrowed = {
    ...wish,
    poles: key.poles,
    connection: key.connection,
    circuits: key.circuits,
    form: key.form,
    layers: key.layers,
    ...(key.form === 'lap' || key.layers === 'double'
      ? { spanSlots: Math.round(key.spansSlots.reduce((a, b) => a + b, 0) / key.spansSlots.length) }
      : {}),
  };
  const choice = [...windings(found, narrowed, refusals)].find((w) => w.turns === key.turns);
  if (!choice)
    return { why: refusals[0] ?? `${key.turns} turns are not next to the exact turns of this winding; search again.` };
  const judged = judgeWinding(found, wish, choice, limits);
  if (judged.refused) return { why: `This rewind is refused: ${judged.refused}.` };
  const grade = record.wireGrade === '1' ? 1 : 2;
  const count = key.strands.reduce((n, s) => n + s.count, 0);
  const mix = allMixes(key.strands, count, grade, widestWireM(record)).find(
    (m) =>
      m.count === count &&
      m.strands.length === key.strands.length &&
      m.strands.every((s) => key.strands.some((k) => k.bareM === s.bareM && k.count === s.count)),
  );
  if (!mix) return { why: 'The wires do not pass the slot opening, or their sizes are too far apart for one hand.' };
  const refused = refusedMix(judged, mix, wish, limit('winding.fillError', limits));
  if (refused) return { why: `This rewind is refused: ${refused}.` };
  const weights = options.weights ?? redesignWeightsSchema.parse({});
  const stock = new Map((options.stock ?? []).map((s) => [s.bareM, s]));
  return { candidate: candidateOf(found, wish, judged, mix, weights, limits, stock) };
}
