import { limit, quoteLimit } from '../limits/limits.ts';
import type { ShopLimits } from '../limits/limits.ts';
import { formatNumber } from '../quantity/format.ts';
import { notAbove } from '../verdict.ts';

/** Windings by how their withstand voltage is worked out. */
export const WITHSTAND_WINDINGS = [
  'armature or stator',
  'separately excited field',
  'synchronous field',
  'synchronous field, started shorted',
  'synchronous field, started open',
  'wound rotor',
  'wound rotor, reversed while running',
  'detectors and other parts',
] as const;
export type WithstandWinding = (typeof WITHSTAND_WINDINGS)[number];

/** What was done to the winding: decides the share of the full value. */
export const WITHSTAND_STATES = [
  'new',
  'repeat',
  'partly rewound',
  'overhauled',
  'reconditioned',
  'before resin',
] as const;
export type WithstandState = (typeof WITHSTAND_STATES)[number];

export const WITHSTAND_STANDARDS = ['IEC 60034-1', 'NEMA MG 1'] as const;
export type WithstandStandard = (typeof WITHSTAND_STANDARDS)[number];

export interface Withstand {
  /** rms at 50 or 60 Hz, V */
  fullV: number;
  testV: number;
  /** the same as direct voltage */
  dcV: number;
  formula: string;
  source: string;
  /** one second at 120 % may stand for a minute, V; undefined where it may not */
  productionV: number | undefined;
}

export interface WithstandQuestion {
  winding: WithstandWinding;
  state: WithstandState;
  standard: WithstandStandard;
  /** rated voltage, the highest of the plate; of a field its highest excitation voltage; of a wound rotor its standstill ring voltage */
  ratedV: number;
  /** rated output, kW or kVA */
  outputKW?: number | undefined;
  /** NEMA tells machines of direct current, and small universal ones, apart */
  machine?: 'alternating' | 'direct' | 'universal' | undefined;
}

/** 1.7 times the rms value. Source: IEC 60034-1, IEEE 95, NEMA MG 1 (from memory). */
export const DC_FACTOR = 1.7;
const FLOOR = 1500;
/** Half a horsepower, kW. */
const HALF_HP_KW = 0.5 * 0.7456998715822702;

interface Full {
  volts: number;
  formula: string;
}
const withFloor = (volts: number, formula: string, most?: number): Full =>
  most !== undefined && volts > most
    ? { volts: most, formula: `${formula}, at most ${most} V` }
    : volts < FLOOR
      ? { volts: FLOOR, formula: `${formula}, at least ${FLOOR} V` }
      : { volts, formula };

/** The full value for a new winding. Source: IEC 60034-1, table of withstand voltages (from memory). */
function fullIec({ winding, ratedV: U, outputKW }: WithstandQuestion): Full {
  const u = formatNumber(U);
  switch (winding) {
    case 'armature or stator': {
      if (outputKW !== undefined && outputKW < 1 && U < 100)
        return { volts: 2 * U + 500, formula: `2 · ${u} V + 500 V` };
      const plain = `2 · ${u} V + 1000 V`;
      return outputKW !== undefined && outputKW >= 10_000
        ? { volts: 2 * U + 1000, formula: plain }
        : withFloor(2 * U + 1000, plain);
    }
    case 'separately excited field':
      return withFloor(2 * U + 1000, `2 · ${u} V + 1000 V`);
    case 'synchronous field':
      return notAbove(U, 500)
        ? withFloor(10 * U, `10 · ${u} V`)
        : { volts: 2 * U + 4000, formula: `2 · ${u} V + 4000 V` };
    case 'synchronous field, started shorted':
      return withFloor(10 * U, `10 · ${u} V`, 3500);
    case 'synchronous field, started open':
      return withFloor(2 * U + 1000, `2 · ${u} V induced + 1000 V`);
    case 'wound rotor':
      return { volts: 2 * U + 1000, formula: `2 · ${u} V at the rings + 1000 V` };
    case 'wound rotor, reversed while running':
      return { volts: 4 * U + 1000, formula: `4 · ${u} V at the rings + 1000 V` };
    case 'detectors and other parts':
      return { volts: FLOOR, formula: `${FLOOR} V` };
  }
}

/** Source: NEMA MG 1 (from memory); what it does not name goes by the table of IEC 60034-1. */
function fullNema(q: WithstandQuestion): Full & { source: WithstandStandard } {
  const { winding, ratedV: U, outputKW, machine = 'alternating' } = q;
  if (winding !== 'armature or stator') return { ...fullIec(q), source: 'IEC 60034-1' };
  const small = outputKW !== undefined && notAbove(outputKW, HALF_HP_KW);
  const smallV = machine === 'direct' ? 240 : 250;
  if (small && notAbove(U, smallV))
    return { volts: FLOOR, formula: `${FLOOR} V (up to 0.5 hp and ${smallV} V)`, source: 'NEMA MG 1' };
  return { volts: 2 * U + 1000, formula: `2 · ${formatNumber(U)} V + 1000 V`, source: 'NEMA MG 1' };
}

/**
 * The voltage that proves the insulation to ground of a winding, by what was done to it. The floor of the full value comes before the
 * factor.
 */
export function withstand(q: WithstandQuestion, limits: ShopLimits = {}): Withstand {
  const full = q.standard === 'NEMA MG 1' ? fullNema(q) : { ...fullIec(q), source: q.standard };
  const share = shareOf(q, full, limits);
  const source = `${full.source} (from memory)${share.source === undefined ? '' : `; ${share.source}`}`;
  const production =
    q.standard === 'NEMA MG 1'
      ? notAbove(share.volts, 2500)
      : notAbove(q.ratedV, 1000) && q.outputKW !== undefined && notAbove(q.outputKW, 200);
  return {
    fullV: full.volts,
    testV: share.volts,
    dcV: DC_FACTOR * share.volts,
    formula: share.formula,
    source,
    productionV: production && q.state === 'new' ? 1.2 * share.volts : undefined,
  };
}

function shareOf(q: WithstandQuestion, full: Full, limits: ShopLimits): Full & { source?: string } {
  const of = (percent: number, source?: string) => ({
    volts: (full.volts * percent) / 100,
    formula: percent === 100 ? full.formula : `${formatNumber(percent)} % of (${full.formula})`,
    ...(source === undefined ? {} : { source }),
  });
  switch (q.state) {
    case 'new':
      return of(100);
    case 'repeat':
      return of(80);
    case 'partly rewound':
      return of(75);
    case 'before resin':
      return of(limit('hipot.beforeResinPercent', limits), quoteLimit('hipot.beforeResinPercent', limits));
    case 'reconditioned':
      return of(limit('hipot.reconditionedPercent', limits), quoteLimit('hipot.reconditionedPercent', limits));
    case 'overhauled': {
      if (q.winding !== 'armature or stator') return of(75);
      const least = q.ratedV < 100 ? 500 : 1000;
      const volts = 1.5 * q.ratedV;
      const formula = `1.5 · ${formatNumber(q.ratedV)} V`;
      return volts < least ? { volts: least, formula: `${formula}, at least ${least} V` } : { volts, formula };
    }
  }
}

/** A group of machines of which each was tested before: 80 % of the lowest single value. Source: IEC 60034-1 (from memory). */
export const groupV = (single: readonly number[]): number => 0.8 * Math.min(...single);

/** What an alternating test draws by charging the insulation, A. Source: I = 2π f C U. */
export const chargingA = (farad: number, volts: number, hz: number): number => 2 * Math.PI * hz * farad * volts;
