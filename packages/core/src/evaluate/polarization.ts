import type { z } from 'zod';
import { limit, type ShopLimits } from '../limits/limits.ts';
import { formatNumber } from '../quantity/format.ts';
import { notAbove, notBelow, type Verdict } from '../verdict.ts';
import type { InsulationWindingKind, insulationReading } from './insulationCorrection.ts';

interface PolarizationInput {
  limits?: ShopLimits | undefined;
  /** thermoplastic: varnished cloth, asphalt, shellac-mica */
  system?: string | undefined;
  kind?: InsulationWindingKind | undefined;
  insulationClass?: string | undefined;
  ratedV?: number | undefined;
  ratedKVA?: number | undefined;
  r30s?: z.output<typeof insulationReading> | undefined;
  r1min?: z.output<typeof insulationReading> | undefined;
  r10min?: z.output<typeof insulationReading> | undefined;
}

/** Polarization index and absorption ratio (IEEE 43-2013). */
export function polarization(x: PolarizationInput, r40: number) {
  const values: { polarizationIndex?: number; polarizationIndexIsBound?: boolean; absorptionRatio?: number } = {};
  const { r30s, r1min, r10min } = x;
  if (r30s && r1min && !r30s.overRange && !r30s.underRange && !r1min.overRange && r30s.megohm > 0)
    values.absorptionRatio = r1min.megohm / r30s.megohm;
  const none = (text: string, verdict: Verdict = 'pass', met?: boolean) => ({ values, text, verdict, met });
  if (!r10min || !r1min || r1min.overRange || r10min.underRange || !(r10min.megohm > 0)) return none('');
  const pi = r10min.megohm / r1min.megohm;
  values.polarizationIndex = pi;
  values.polarizationIndexIsBound = r10min.overRange;
  const wanted = x.insulationClass === 'A' ? 1.5 : x.insulationClass === 'E' ? undefined : 2;
  const say = ` PI ${r10min.overRange ? 'above ' : ''}${formatNumber(pi, 3)}`;
  if (x.kind === 'field') return none(`${say}, not judged for fields.`);
  const most = limit('ir.noIndexAboveMegohm', x.limits);
  if (!notAbove(r40, most)) return none(`${say}, not judged: R above ${most} MΩ (IEEE 43).`);
  if (pi < 1 && !r10min.overRange)
    return none(`${say}: falling resistance, wet, dirty, or reading unsteady.`, 'attention', false);
  const random = x.kind === 'random-wound' && (x.ratedV ?? 0) < 1000;
  const enough = limit('ir.randomNoIndexMegohm', x.limits);
  if (random && notBelow(r40, enough))
    return none(`${say}, not judged: random-wound with R at 40 °C of ${enough} MΩ or more.`);
  if (wanted === undefined) return none(`${say}, recorded; class E has no agreed figure.`);
  if (r10min.overRange && !notBelow(pi, wanted))
    return none(`${say}: the bound is below the wanted ${wanted}; PI cannot be judged.`);
  const dry = limit('ir.oldIndexHigh', x.limits);
  if (x.system === 'thermoplastic' && !notAbove(pi, dry))
    return none(`${say}, above ${dry} on old insulation: possibly dried out and brittle.`, 'attention', true);
  if (notBelow(pi, wanted)) return none(`${say}, at least ${wanted} wanted.`, 'pass', true);
  return none(`${say}, below ${wanted} (IEEE 43).`, (x.ratedKVA ?? 0) > 10_000 ? 'fail' : 'attention', false);
}
