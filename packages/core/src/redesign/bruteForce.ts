import type { Nameplate } from '../machine/nameplate.ts';
import { windingFigures } from '../winding/figures.ts';
import type { WindingRecord } from '../winding/record.ts';
import { asFoundOf } from './asFound.ts';
import { judgeWinding } from './judge.ts';
import { plannedRecord } from './planned.ts';
import { AREA_BAND, widestWireM } from './search.ts';
import { allMixes } from './substitute.ts';
import { windings } from './windings.ts';
import { redesignWeightsSchema, type Candidate, type RedesignWish, type StockWire } from './wish.ts';

/**
 * The same search without any of its short cuts, for tests and the benchmark: every mix of every combination becomes a
 * record of its own, and its figures are worked out from that record alone, as those of any winding are. Stock is not counted.
 * @returns scores of the best, lowest first
 */
export function redesignByBruteForce(
  record: WindingRecord,
  nameplate: Nameplate,
  wish: RedesignWish,
  stock: readonly StockWire[],
  many: number,
): { score: number; say: string }[] {
  const found = asFoundOf(record, nameplate);
  const was = windingFigures.compute(windingFigures.input.parse({ record, nameplate }));
  const grade = record.wireGrade === '1' ? 1 : 2;
  const weights = redesignWeightsSchema.parse({});
  const out: { score: number; say: string }[] = [];
  const plate = (c: number) => ({
    ...nameplate,
    voltagesV: [wish.lineVoltageV ?? found.voltageV],
    frequencyHz: wish.frequencyHz ?? found.frequencyHz,
    currentsA: [c],
  });
  // by itself: an induction motor turns with f/p, torque is output over speed, torques go with the square of the flux
  const speedWas = found.frequencyHz / (record.poles ?? 4);
  const speedIs = (wish.frequencyHz ?? found.frequencyHz) / (wish.poles ?? record.poles ?? 4);
  const outputRatio = wish.powerRatio ?? speedIs / speedWas;
  const asked = outputRatio / (speedIs / speedWas);
  const torque = wish.flux === 'as found' || Math.abs(asked - 1) < 0.02 ? 1 : asked;
  const lineA = ((found.currentA ?? 1) * outputRatio * found.voltageV) / (wish.lineVoltageV ?? found.voltageV);
  for (const w of windings(found, wish, []))
    for (const mix of allMixes(stock, wish.mostWires, grade, widestWireM(record))) {
      if (mix.strands.length > wish.mostSizes) continue;
      const { meanTurnM } = judgeWinding(found, wish, w, {});
      const changed = plannedRecord(record, {
        poles: w.layout.poles,
        connection: w.connection,
        circuits: w.circuits,
        form: w.layout.form,
        layers: w.layout.layers === 1 ? 'single' : 'double',
        spansSlots: w.spansSlots,
        turns: w.turns,
        strands: mix.strands,
        meanTurnM,
      } as Candidate);
      const is = windingFigures.compute(windingFigures.input.parse({ record: changed, nameplate: plate(lineA) }));
      // copper of a slot: the band in which mixes are looked at
      const slot = (is.wiresPerSlot ?? 0) / mix.count;
      const copper = (slot * mix.areaM2) / (((was.wiresPerSlot ?? 0) / (was.wiresInHand ?? 1)) * found.areaM2);
      if (copper < 1 - AREA_BAND.below || copper > 1 + AREA_BAND.above) continue;
      const wantedT = found.airGapT * Math.sqrt(torque);
      const flux = ((is.airGapT ?? 0) / wantedT - 1) * 100;
      if (Math.abs(flux) > 5 || (is.airGapT ?? 0) > 1.3 || (is.toothT ?? 0) > 2.2 || (is.backIronT ?? 0) > 2.1)
        continue;
      const fill = is.insulatedSquareFill ?? 0;
      if (fill > 0.88) continue;
      const ohms = (x: typeof is, amps: number, wye: boolean) =>
        3 * (x.phaseResistance20Ohm ?? 0) * (wye ? amps : amps / Math.sqrt(3)) ** 2;
      const loss =
        (ohms(is, lineA, w.connection === 'wye') / ohms(was, found.currentA ?? 1, found.connection === 'wye') - 1) *
        100;
      if (wish.lossAtMostPercent !== undefined && loss > wish.lossAtMostPercent + 1e-9) continue;
      const score =
        weights.flux * Math.abs(flux) +
        weights.loss * (loss > 0 ? 0.2 * loss : 0.05 * loss) +
        weights.fill * Math.max(0, fill - 0.72) * 40 +
        weights.ease * ((mix.strands.length - 1) * 1.5 + mix.count * 0.15) +
        (w.pitchWarning ? weights.ease * 2 : 0);
      const last = out[out.length - 1];
      if (out.length >= many && last && score > last.score) continue;
      out.push({
        score,
        say: `${w.connection} ${w.circuits} ${w.spansSlots.join('-')} ${w.turns} ${mix.strands.map((s) => `${s.count}x${s.label}`).join('+')}`,
      });
      out.sort((a, b) => a.score - b.score);
      if (out.length > many) out.pop();
    }
  return out;
}
