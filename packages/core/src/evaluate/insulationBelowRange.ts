import { limit, type ShopLimits } from '../limits/limits.ts';
import { formatAgainst, formatNumber } from '../quantity/format.ts';
import { notAbove, notBelow, type Verdict } from '../verdict.ts';
import {
  CORRECTION_RANGE_C,
  dewPointC,
  insulationTemperatureFactor,
  minimumInsulationMegohm,
  type InsulationWindingKind,
} from './insulationCorrection.ts';

const NEXT_PLACE = ' Part the phases and find the place; if it is wet, dry and repeat.';

/** A reading below the instrument's range B: an upper bound, never a number. Source: derived and common practice (tests, rule 0). */
export function belowRange(x: {
  bound: number;
  kind?: InsulationWindingKind | undefined;
  system: 'thermosetting' | 'thermoplastic';
  ratedV?: number | undefined;
  windingC?: number | undefined;
  airC?: number | undefined;
  humidityPercent?: number | undefined;
  measured: string;
  limits: ShopLimits;
}) {
  const said = `R at 1 min below ${formatNumber(x.bound)} MΩ`;
  const make = (verdict: Verdict, reason: string, more: object = {}) => ({
    verdict,
    reason,
    mayTestHighVoltage: false,
    ...more,
  });
  const [low, high] = CORRECTION_RANGE_C[x.system];
  const inRange = x.windingC !== undefined && x.windingC >= low && x.windingC <= high;
  const factor = inRange ? insulationTemperatureFactor(x.windingC as number, x.system) : undefined;
  const hot =
    x.system === 'thermoplastic' && factor !== undefined && factor > 10
      ? ' The winding is hot: cool it below 60 °C and repeat before it is condemned.'
      : '';
  if (notAbove(x.bound, limit('ir.earthFaultMegohm', x.limits)))
    return make(
      'fail',
      `${said}, the lowest range: earth fault, or flooded, at any temperature. No higher voltage.${hot}${NEXT_PLACE}`,
      factor === undefined ? {} : { factor },
    );
  if (!x.kind) return make('cannot judge', 'The kind of winding decides the minimum; choose it.');
  if (x.ratedV === undefined) return make('cannot judge', 'The rated voltage decides test voltage and minimum.');
  if (factor === undefined)
    return make(
      'cannot judge',
      `${said}; with the winding ${x.windingC === undefined ? 'at an unknown temperature' : `at ${formatNumber(x.windingC)} °C`} it cannot be corrected (${low} to ${high} °C).`,
    );
  const divisor = x.measured === 'whole winding' ? 1 : x.measured === 'one phase, others earthed' ? 2 : 3;
  const most = (factor * x.bound) / divisor;
  const minimum = minimumInsulationMegohm(x.kind, x.ratedV);
  const figures = { factor, minimumMegohm: minimum.megohm };
  const [shown] = formatAgainst(most, minimum.megohm);
  const told = `${said}, below ${shown} MΩ at 40 °C (${x.system} rule, winding ${formatNumber(x.windingC as number)} °C); minimum ${minimum.rule}.`;
  if (notBelow(most, minimum.megohm))
    return make('cannot judge', `${told} The range of the instrument is too coarse: use a lower one.`, figures);
  const dew =
    x.airC !== undefined && x.humidityPercent !== undefined ? dewPointC(x.airC, x.humidityPercent) : undefined;
  if (dew !== undefined && !notBelow(x.windingC as number, dew + limit('ir.dewPointMarginK', x.limits)))
    return make(
      'cannot judge',
      `${told} Close to the dew point of ${formatNumber(dew, 3)} °C: surface moisture likely. Warm, dry, repeat. No high-voltage test.`,
      { ...figures, dewPointC: dew },
    );
  return make('fail', `${told} No higher voltage.${hot}${NEXT_PLACE}`, figures);
}
