import { SIZE_RANGES, type SizeLimitId } from './sizeRanges.ts';

/** A limit as data: what is published, where, and what the shop uses instead. */
export interface LimitEntry {
  id: string;
  title: string;
  unit: string;
  published: number;
  source: string;
  group:
    'winding' | 'sizes' | 'insulation resistance' | 'winding resistance' | 'no-load run' | 'cure' | 'balance' | 'route';
}

const CP = 'common practice';

/** Every shop-adjustable limit that the winding checks use. */
export const WINDING_LIMITS = [
  {
    id: 'stock.useVariancePercent',
    title: 'Material used beyond the bill, ask why above',
    unit: '%',
    published: 10,
    source: CP,
    group: 'winding',
  },
  {
    id: 'winding.leadDensity',
    title: 'Lead cable, current density it is sized for',
    unit: 'A/mm²',
    published: 4,
    source: 'common practice, 3.5 to 6; local wiring codes rule',
    group: 'winding',
  },
  {
    id: 'redesign.fluxWarnPercent',
    title: 'Changed rewind: flux error, warn above',
    unit: '%',
    published: 2.5,
    source: CP,
    group: 'winding',
  },
  {
    id: 'redesign.fluxErrorPercent',
    title: 'Changed rewind: flux error, refused above',
    unit: '%',
    published: 5,
    source: CP,
    group: 'winding',
  },
  {
    id: 'redesign.densityUpPercent',
    title: 'Changed rewind: current density up, warn above',
    unit: '%',
    published: 5,
    source: CP,
    group: 'winding',
  },
  {
    id: 'redesign.torqueHigh',
    title: 'Changed rewind: torque over as found, warn above',
    unit: '',
    published: 1.05,
    source: CP,
    group: 'winding',
  },
  {
    id: 'redesign.torqueLow',
    title: 'Changed rewind: torque over as found, starting doubted below',
    unit: '',
    published: 0.8,
    source: CP,
    group: 'winding',
  },
  {
    id: 'winding.linearLow',
    title: 'Linear loading, usual from',
    unit: 'kA/m',
    published: 8,
    source: CP,
    group: 'winding',
  },
  {
    id: 'winding.linearHigh',
    title: 'Linear loading, usual to',
    unit: 'kA/m',
    published: 50,
    source: CP,
    group: 'winding',
  },
  {
    id: 'winding.turnsRatioLow',
    title: 'Capacitor run: turns ratio, usual from',
    unit: '',
    published: 1,
    source: CP,
    group: 'winding',
  },
  {
    id: 'winding.turnsRatioHigh',
    title: 'Capacitor run: turns ratio, usual to',
    unit: '',
    published: 2,
    source: CP,
    group: 'winding',
  },
  {
    id: 'winding.spanUsualPercent',
    title: 'Coil span, usual from (per cent of the pole pitch)',
    unit: '%',
    published: 66.6667,
    source: CP,
    group: 'winding',
  },
  {
    id: 'winding.spanLowPercent',
    title: 'Coil span, only two-speed below (per cent)',
    unit: '%',
    published: 60,
    source: CP,
    group: 'winding',
  },
  {
    id: 'winding.ringVoltsPercent',
    title: 'Ring voltage against the plate, off by at most',
    unit: '%',
    published: 8,
    source: CP,
    group: 'winding',
  },
  {
    id: 'winding.airGapWarnT',
    title: 'Air-gap flux density, warn above',
    unit: 'T',
    published: 1.05,
    source: CP,
    group: 'winding',
  },
  {
    id: 'winding.airGapErrorT',
    title: 'Air-gap flux density, error above',
    unit: 'T',
    published: 1.3,
    source: CP,
    group: 'winding',
  },
  {
    id: 'winding.toothWarnT',
    title: 'Tooth flux density, warn above',
    unit: 'T',
    published: 1.9,
    source: CP,
    group: 'winding',
  },
  {
    id: 'winding.toothErrorT',
    title: 'Tooth flux density, error above',
    unit: 'T',
    published: 2.2,
    source: CP,
    group: 'winding',
  },
  {
    id: 'winding.backIronWarnT',
    title: 'Back-iron flux density, warn above',
    unit: 'T',
    published: 1.75,
    source: CP,
    group: 'winding',
  },
  {
    id: 'winding.backIronErrorT',
    title: 'Back-iron flux density, error above',
    unit: 'T',
    published: 2.1,
    source: CP,
    group: 'winding',
  },
  {
    id: 'winding.airGapLowT',
    title: 'Air-gap flux density, unusually low below',
    unit: 'T',
    published: 0.4,
    source: CP,
    group: 'winding',
  },
  {
    id: 'winding.densityLow',
    title: 'Current density, unusually low below',
    unit: 'A/mm²',
    published: 3,
    source: CP,
    group: 'winding',
  },
  {
    id: 'winding.densityHigh',
    title: 'Current density, warn above',
    unit: 'A/mm²',
    published: 7,
    source: CP,
    group: 'winding',
  },
  {
    id: 'winding.densityVeryHigh',
    title: 'Current density of open or small motors, warn above',
    unit: 'A/mm²',
    published: 9,
    source: CP,
    group: 'winding',
  },
  {
    id: 'winding.fillWarn',
    title: 'Slot fill (insulated squares / net), warn above',
    unit: '',
    published: 0.8,
    source: CP,
    group: 'winding',
  },
  {
    id: 'winding.fillError',
    title: 'Slot fill (insulated squares / net), error above',
    unit: '',
    published: 0.88,
    source: CP,
    group: 'winding',
  },
  {
    id: 'winding.copperAskPercent',
    title: 'Copper weighed against computed, ask above',
    unit: '%',
    published: 5,
    source: CP,
    group: 'winding',
  },
  {
    id: 'winding.copperWarnPercent',
    title: 'Copper weighed against computed, warn above',
    unit: '%',
    published: 10,
    source: CP,
    group: 'winding',
  },
  {
    id: 'winding.copperErrorPercent',
    title: 'Copper weighed against computed, error above',
    unit: '%',
    published: 20,
    source: CP,
    group: 'winding',
  },
] as const satisfies readonly LimitEntry[];

export const EVALUATION_LIMITS = [
  {
    id: 'ir.attentionFactor',
    title: 'Attention below this many times the minimum',
    unit: '×',
    published: 2,
    source: CP,
    group: 'insulation resistance',
  },
  {
    id: 'ir.freshRewindMegohm',
    title: 'Fresh, cured low-voltage rewind: attention below',
    unit: 'MΩ',
    published: 100,
    source: CP,
    group: 'insulation resistance',
  },
  {
    id: 'ir.dewPointMarginK',
    title: 'Winding above dew point, at least',
    unit: 'K',
    published: 3,
    source: CP,
    group: 'insulation resistance',
  },
  {
    id: 'resistance.randomPassPercent',
    title: 'Unbalance, random-wound, pass up to',
    unit: '%',
    published: 2,
    source: CP,
    group: 'winding resistance',
  },
  {
    id: 'resistance.randomFailPercent',
    title: 'Unbalance, random-wound, fail above',
    unit: '%',
    published: 5,
    source: CP,
    group: 'winding resistance',
  },
  {
    id: 'resistance.formPassPercent',
    title: 'Unbalance, form-wound, pass up to',
    unit: '%',
    published: 1,
    source: CP,
    group: 'winding resistance',
  },
  {
    id: 'resistance.formFailPercent',
    title: 'Unbalance, form-wound, fail above',
    unit: '%',
    published: 2,
    source: CP,
    group: 'winding resistance',
  },
  {
    id: 'resistance.planPassPercent',
    title: 'Against the plan, pass within',
    unit: '%',
    published: 3,
    source: CP,
    group: 'winding resistance',
  },
  {
    id: 'resistance.planFailPercent',
    title: 'Against the plan, fail above',
    unit: '%',
    published: 5,
    source: CP,
    group: 'winding resistance',
  },
  {
    id: 'noLoad.currentPassPercent',
    title: 'Current unbalance at no load, pass up to',
    unit: '%',
    published: 10,
    source: CP,
    group: 'no-load run',
  },
  {
    id: 'noLoad.currentFailPercent',
    title: 'Current unbalance at no load, fail above',
    unit: '%',
    published: 20,
    source: CP,
    group: 'no-load run',
  },
  {
    id: 'noLoad.voltageAttentionPercent',
    title: 'Voltage unbalance, attention above',
    unit: '%',
    published: 1,
    source: 'NEMA MG 1 (from memory)',
    group: 'no-load run',
  },
  {
    id: 'noLoad.voltageStopPercent',
    title: 'Voltage unbalance, do not run above',
    unit: '%',
    published: 5,
    source: 'NEMA MG 1 (from memory)',
    group: 'no-load run',
  },
  {
    id: 'noLoad.vibrationMmS',
    title: 'Vibration at no load, either bearing, up to',
    unit: 'mm/s',
    published: 1.5,
    source: CP,
    group: 'no-load run',
  },
  {
    id: 'noLoad.bearingRisePassK',
    title: 'Rolling bearing rise, pass up to',
    unit: 'K',
    published: 40,
    source: CP,
    group: 'no-load run',
  },
  {
    id: 'noLoad.bearingRiseAttentionK',
    title: 'Rolling bearing rise, attention up to',
    unit: 'K',
    published: 50,
    source: CP,
    group: 'no-load run',
  },
  {
    id: 'noLoad.bearingMaxC',
    title: 'Rolling bearing, never above',
    unit: '°C',
    published: 90,
    source: CP,
    group: 'no-load run',
  },
  {
    id: 'cure.overBakeDegree',
    title: 'Over-baked when the degree of cure passes',
    unit: '×',
    published: 3,
    source: CP,
    group: 'cure',
  },
  {
    id: 'cure.aboveRatedK',
    title: 'Highest part temperature above the rated one',
    unit: 'K',
    published: 20,
    source: CP,
    group: 'cure',
  },
  {
    id: 'balance.trialMinPercent',
    title: 'Trial mass must alter the amplitude by',
    unit: '%',
    published: 25,
    source: CP,
    group: 'balance',
  },
  { id: 'balance.trialMinDeg', title: 'or the phase by', unit: '°', published: 30, source: CP, group: 'balance' },
  {
    id: 'balance.discWidthShare',
    title: 'One plane is enough below this width / bearing span',
    unit: '',
    published: 0.2,
    source: CP,
    group: 'balance',
  },
  {
    id: 'route.coreLossRise',
    title: 'Core loss after against before burn-off, up to',
    unit: '×',
    published: 1.2,
    source: CP,
    group: 'route',
  },
  {
    id: 'route.burnOffOrganicC',
    title: 'Burn-off part limit, organic or unknown core plate',
    unit: '°C',
    published: 360,
    source: CP,
    group: 'route',
  },
  {
    id: 'route.burnOffInorganicC',
    title: 'Burn-off part limit, inorganic core plate',
    unit: '°C',
    published: 400,
    source: CP,
    group: 'route',
  },
  {
    id: 'route.journalTirMm',
    title: 'Bearing seat run-out, up to',
    unit: 'mm',
    published: 0.01,
    source: CP,
    group: 'route',
  },
  {
    id: 'route.groupMassPercent',
    title: 'Group mass from the mean, within',
    unit: '%',
    published: 1.5,
    source: CP,
    group: 'route',
  },
] as const satisfies readonly LimitEntry[];

/** Low and high of every usual size, as limits of their own. */
const SIZE_LIMITS: readonly LimitEntry[] = SIZE_RANGES.flatMap((r) =>
  (['low', 'high'] as const).map((end) => ({
    id: `range.${r.key}.${end}`,
    title: `${r.label}, usual ${end === 'low' ? 'from' : 'to'}`,
    unit: r.unit,
    published: r[end],
    source: CP,
    group: 'sizes' as const,
  })),
);

export const ALL_LIMITS: readonly LimitEntry[] = [...WINDING_LIMITS, ...EVALUATION_LIMITS, ...SIZE_LIMITS];
export type LimitId = (typeof WINDING_LIMITS)[number]['id'] | (typeof EVALUATION_LIMITS)[number]['id'] | SizeLimitId;

/** The shop's own values by limit id; what is absent is as published. */
export type ShopLimits = Readonly<Record<string, number>>;

const byId = new Map<string, LimitEntry>(ALL_LIMITS.map((l) => [l.id, l]));

/** The value in force: the shop's, else the published one. */
export function limit(id: LimitId, shop: ShopLimits = {}): number {
  const own = shop[id];
  if (own !== undefined) return own;
  const entry = byId.get(id);
  if (!entry) throw new RangeError(`unknown limit ${id}`);
  return entry.published;
}

/** How a limit is quoted in a reason: value, unit, and whose it is. */
export function quoteLimit(id: LimitId, shop: ShopLimits = {}): string {
  const entry = byId.get(id);
  if (!entry) throw new RangeError(`unknown limit ${id}`);
  const own = shop[id];
  const value = `${own ?? entry.published}${entry.unit === '' ? '' : ` ${entry.unit}`}`;
  return own !== undefined && own !== entry.published
    ? `${value} (this shop; published ${entry.published}, ${entry.source})`
    : `${value} (${entry.source})`;
}
