import type { Nameplate } from '../../packages/core/src/machine/nameplate.ts';
import { connectionOfRecord } from '../../packages/core/src/winding/connectionOfRecord.ts';
import { windingFigures } from '../../packages/core/src/winding/figures.ts';
import type { WindingRecord } from '../../packages/core/src/winding/record.ts';
import { insulatedDiameterM } from '../../packages/core/src/wire/insulatedDiameter.ts';
import type { RedesignWish } from '../../packages/core/src/redesign/wish.ts';

interface Wire {
  bareM: number;
  label: string;
}
type Hand = { count: number; bareM: number; label: string }[];
type Record3 = Extract<WindingRecord, { kind: 'three-phase' }>;

/** Every hand of up to `most` wires of up to `sizes` sizes; the thickest at most 1.6 times the thinnest (common practice). */
function hands(stock: readonly Wire[], most: number, sizes: number): Hand[] {
  const sorted = [...stock].sort((a, b) => a.bareM - b.bareM);
  let made: Hand[] = [[]];
  for (const wire of sorted)
    made = made.flatMap((hand) => [
      hand,
      ...Array.from({ length: most }, (_, i) => [...hand, { count: i + 1, ...wire }]).filter(
        (next) =>
          next.length <= sizes &&
          next.reduce((n, s) => n + s.count, 0) <= most &&
          wire.bareM <= 1.6 * (next[0]?.bareM ?? 0),
      ),
    ]);
  return made.filter((hand) => hand.length > 0);
}

const areaM2 = (hand: Hand): number => hand.reduce((sum, s) => sum + (s.count * Math.PI * s.bareM ** 2) / 4, 0);

/**
 * The search for a changed rewind without any of its parts: every span, circuit count, connection, the whole turns next to the flux,
 * every hand of wires becomes a record of its own and is judged by the figures of that record alone, as those of any winding are.
 * It shares with the search what a winding is, and the wish; neither its turns, limits, mixes nor score. Stock is not counted.
 * @returns scores of the best, lowest first
 */
export function redesignByBruteForce(
  record: WindingRecord,
  nameplate: Nameplate,
  wish: RedesignWish,
  stock: readonly Wire[],
  many: number,
): { score: number; say: string }[] {
  const as = record as Record3;
  const figures = (r: WindingRecord, plate: Nameplate) =>
    windingFigures.compute(windingFigures.input.parse({ record: r, nameplate: plate }));
  const was = figures(record, nameplate);
  const [voltsWas, hertzWas, ampsWas] = [
    nameplate.voltagesV?.[0] ?? 0,
    nameplate.frequencyHz ?? 0,
    nameplate.currentsA?.[0] ?? 0,
  ];
  const [volts, hertz] = [wish.lineVoltageV ?? voltsWas, wish.frequencyHz ?? hertzWas];
  const slots = as.slots ?? 0;
  const poles = wish.poles ?? as.poles ?? 0;
  // an induction motor turns with f/p, torque is output over speed, torques go with the square of the flux
  const speedRatio = hertz / poles / (hertzWas / (as.poles ?? 0));
  const outputRatio = wish.powerRatio ?? speedRatio;
  const asked = outputRatio / speedRatio;
  const wantedT = (was.airGapT ?? 0) * Math.sqrt(wish.flux === 'as found' || Math.abs(asked - 1) < 0.02 ? 1 : asked);
  const lineA = (ampsWas * outputRatio * voltsWas) / volts;
  const plate: Nameplate = { ...nameplate, voltagesV: [volts], frequencyHz: hertz, currentsA: [lineA], poles };
  const byGeometry = (r: WindingRecord) =>
    figures({ ...r, copperKg: undefined, sampleCoilM: undefined } as WindingRecord, plate).meanTurnM ?? 0;
  const layers = wish.layers ?? as.layers ?? 'double';
  const form = wish.form ?? as.form ?? 'lap';
  const sides = layers === 'single' ? 1 : 2;
  const copperWas = (as.layers === 'single' ? 1 : 2) * (as.turns?.[0] ?? 0) * areaM2(as.strands as Hand);
  const opening = as.slotOpeningM;
  const widest = opening === undefined ? Infinity : opening - 2 * (as.linerM ?? 0.00025) - 0.0003;
  const pitch = slots / poles;
  const spans =
    wish.spanSlots !== undefined
      ? [wish.spanSlots]
      : Array.from({ length: slots }, (_, y) => y).filter((y) => y >= (2 * pitch) / 3 - 1e-9 && y <= pitch + 1e-9);
  const out: { score: number; say: string }[] = [];
  const grade = as.wireGrade === '1' ? 1 : 2;
  const fits = stock.filter((wire) => insulatedDiameterM(wire.bareM, grade) <= widest);
  const all = hands(fits, wish.mostWires, wish.mostSizes);
  for (const connection of wish.connection ? [wish.connection] : (['wye', 'delta'] as const))
    for (let circuits = 1; circuits <= poles; circuits++)
      for (const span of layers === 'single' && form === 'concentric' ? [undefined] : spans) {
        if (wish.circuits !== undefined && circuits !== wish.circuits) continue;
        const make = (turns: number, more: object = {}): WindingRecord => {
          const {
            copperKg: _c,
            turnsSecondCount: _t,
            endsPerLead: _e,
            starPoints: _s,
            endsPerStar: _p,
            jumper: _j,
            coilCount: _n,
            groupCount: _g,
            ...kept
          } = as;
          return {
            ...kept,
            poles,
            connection,
            circuits,
            layers,
            form,
            ...(layers === (as.layers ?? 'double') ? {} : { poleGroups: 'every-pole' }),
            spansSlots: span === undefined ? undefined : form === 'lap' ? [span] : concentricSpans(slots, poles, span),
            turns: [turns],
            ...more,
          } as WindingRecord;
        };
        const made = connectionOfRecord(make(100));
        if (!made.connection) continue;
        // the density goes with one over the turns: at 100 turns it tells the exact ones
        const exact = (100 * (figures(make(100), plate).airGapT ?? 0)) / wantedT;
        for (const turns of new Set([Math.floor(exact + 1e-9), Math.ceil(exact - 1e-9)])) {
          if (turns < 1) continue;
          const meanTurnM = (was.meanTurnM ?? 0) + byGeometry(make(turns)) - byGeometry(record);
          for (const strands of all) {
            const copper = (sides * turns * areaM2(strands)) / copperWas;
            if (copper < 0.94 || copper > 1.12) continue;
            const is = figures(make(turns, { strands, sampleCoilM: meanTurnM }), plate);
            const flux = ((is.airGapT ?? 0) / wantedT - 1) * 100;
            if (Math.abs(flux) > 5 || (is.airGapT ?? 0) > 1.3 || (is.toothT ?? 0) > 2.2 || (is.backIronT ?? 0) > 2.1)
              continue;
            const fill = is.insulatedSquareFill ?? 0;
            if (fill > 0.88) continue;
            const watts = (x: typeof is, amps: number, wye: boolean) =>
              3 * (x.phaseResistance20Ohm ?? 0) * (wye ? amps : amps / Math.sqrt(3)) ** 2;
            const loss =
              100 * (watts(is, lineA, connection === 'wye') / watts(was, ampsWas, as.connection === 'wye') - 1);
            if (wish.lossAtMostPercent !== undefined && loss > wish.lossAtMostPercent + 1e-9) continue;
            const count = strands.reduce((n, s) => n + s.count, 0);
            // flux counts four, copper loss 0.4 (saved: a tenth), fill beyond 0.72, sizes and wires in hand
            out.push({
              score:
                4 * Math.abs(flux) +
                (loss > 0 ? 0.4 * loss : 0.1 * loss) +
                40 * Math.max(0, fill - 0.72) +
                1.5 * (strands.length - 1) +
                0.15 * count,
              say: `${connection} ${circuits} ${span} ${turns} ${strands.map((s) => `${s.count}x${s.label}`).join('+')}`,
            });
          }
        }
      }
  return out.sort((a, b) => a.score - b.score).slice(0, many);
}

/** Spans of a concentric group about a mean span, outermost first. */
function concentricSpans(slots: number, poles: number, mean: number): number[] {
  const q = slots / poles / 3;
  return Array.from({ length: q }, (_, i) => mean + q - 1 - 2 * i);
}
