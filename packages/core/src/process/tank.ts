import type { FieldSpec } from '../quantity/fields.ts';
import { formatAgainst, formatNumber } from '../quantity/format.ts';
import { combineVerdicts, notAbove, notBelow, type Verdict } from '../verdict.ts';
import { celsius, choice, count, millimetre, need, notes, quantity, text, yes } from './fieldKinds.ts';
import { cupAtReference } from './dip.ts';
import { processShelfTrend } from './shelfTrend.ts';

/** How a resin's thickness is told: seconds of a flow cup, or mPa·s of a viscometer. */
export const VISCOSITY_UNITS = ['s', 'mPa·s'] as const;
export type ViscosityUnit = (typeof VISCOSITY_UNITS)[number];

/** A resin tank, as it is entered once from the data sheet of its resin. */
export const TANK_FIELDS: readonly FieldSpec[] = [
  text('name', 'Name', need),
  text('resin', 'Resin, as its lots are called', need),
  choice('unit', 'Viscosity in', VISCOSITY_UNITS, need),
  celsius('reference', 'Reference temperature', need),
  quantity('least', 'Viscosity, at least', 'number', ''),
  quantity('most', 'Viscosity, at most', 'number', '', need),
  quantity('perK', 'Change per K', 'number', '', { hint: '0.03 to 0.05; fitted for each resin' }),
  celsius('coldest', 'Resin temperature, from', need),
  celsius('warmest', 'to', need),
  count('everyDays', 'Tested every … days', need),
];

/** A shelf test of what is in the tank. */
export const TANK_TEST_FIELDS: readonly FieldSpec[] = [
  quantity('viscosity', 'Viscosity', 'number', '', need),
  celsius('temperature', 'at', need),
  millimetre('level', 'Level'),
  quantity('gel', 'Gel time', 'time', 'min'),
  yes('clean', 'Clean to the eye: no water, no skin', need),
  { name: 'disc', label: 'Cured disc hard and clear', read: { kind: 'flag' } },
  notes(),
];

/** Change of a viscosity per K, where the sheet does not say (common practice). */
const PER_K = 0.04;

export interface TankSetUp {
  reference: number;
  least?: number | undefined;
  most: number;
  perK?: number | undefined;
  coldest: number;
  warmest: number;
  everyDays: number;
  unit: ViscosityUnit;
}
export interface TankReading {
  viscosity: number;
  temperature: number;
  clean: boolean;
  disc?: boolean | undefined;
}
export interface JudgedTank {
  verdict: Verdict;
  reason: string;
  /** at the reference temperature */
  atReference: number;
}

/** Judges a shelf test: viscosity at the reference temperature within its band, resin at its temperature, clean, hard when cured. */
export function judgeTankTest(tank: TankSetUp, test: TankReading): JudgedTank {
  const atReference = cupAtReference(test.viscosity, test.temperature, tank.reference, tank.perK ?? PER_K);
  const said: [Verdict, string][] = [];
  const v = (x: number) => `${formatNumber(x, 4)} ${tank.unit}`;
  if (!notAbove(atReference, tank.most)) {
    const [a, b] = formatAgainst(atReference, tank.most);
    said.push([
      'fail',
      `${a} ${tank.unit} at ${tank.reference} °C; at most ${b}: it has thickened, thin it or take it out.`,
    ]);
  }
  if (tank.least !== undefined && !notBelow(atReference, tank.least)) {
    const [a, b] = formatAgainst(atReference, tank.least);
    said.push(['attention', `${a} ${tank.unit} at ${tank.reference} °C; at least ${b}: too thin for its build.`]);
  }
  if (!test.clean) said.push(['fail', 'Water or skin in it: it is not used.']);
  if (test.disc === false) said.push(['fail', 'The cured disc is not hard and clear.']);
  if (!notBelow(test.temperature, tank.coldest) || !notAbove(test.temperature, tank.warmest))
    said.push([
      'attention',
      `The resin stands at ${formatNumber(test.temperature, 3)} °C; ${formatNumber(tank.coldest)} to ${formatNumber(tank.warmest)} °C is meant.`,
    ]);
  return {
    verdict: said.length === 0 ? 'pass' : combineVerdicts(said.map(([x]) => x)),
    reason: said.map(([, s]) => s).join(' ') || `${v(atReference)} at ${tank.reference} °C, clean.`,
    atReference,
  };
}

const DAY_MS = 86_400_000;
const days = (from: string, to: string): number => Math.floor((Date.parse(to) - Date.parse(from)) / DAY_MS);

export interface TankTested {
  day: string;
  verdict: Verdict;
  reason: string;
  atReference: number;
}
/** Why nothing may be impregnated from a tank today; empty: it may. @param tests the oldest first; days as year-month-day */
export function tankBlocks(
  tank: Pick<TankSetUp, 'everyDays'>,
  tests: readonly TankTested[],
  lot: { lot: string; expires: string | null; quarantined: boolean } | undefined,
  today: string,
): string[] {
  const out: string[] = [];
  if (!lot) return ['Nothing is in it: fill it from a lot first.'];
  if (lot.quarantined) out.push(`Lot ${lot.lot} is in quarantine.`);
  if (lot.expires !== null && lot.expires < today) out.push(`Lot ${lot.lot} ran out on ${lot.expires}.`);
  const last = tests.at(-1);
  if (!last) out.push('It has not been tested yet.');
  else {
    if (last.verdict === 'fail') out.push(`Its last test failed: ${last.reason}`);
    const age = days(last.day, today);
    if (age > tank.everyDays) out.push(`Its last test is ${age} days old; it is tested every ${tank.everyDays} days.`);
  }
  return out;
}

/** The day on which the viscosity reaches its limit, by the trend of the tests; undefined while it does not grow or too little is known. */
export function tankLimitDay(tests: readonly TankTested[], most: number): string | undefined {
  const first = tests[0];
  if (!first || new Set(tests.map((t) => t.day)).size < 2) return undefined;
  const { limitDay } = processShelfTrend.compute({
    readings: tests.map((t) => ({ day: days(first.day, t.day), viscosity: t.atReference })),
    limit: most,
  });
  // farther than this a trend says nothing
  return limitDay === undefined || limitDay < 0 || limitDay > FARTHEST_DAYS
    ? undefined
    : new Date(Date.parse(first.day) + Math.floor(limitDay) * DAY_MS).toISOString().slice(0, 10);
}
const FARTHEST_DAYS = 3650;
