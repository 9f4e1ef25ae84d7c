import { limit } from '../limits/limits.ts';
import { formatNumber } from '../quantity/format.ts';
import { highestC, type Resin } from './cure.ts';
import { BURN_C, WATCHED_COOLING_C } from './burnOff.ts';
import type { Alarm, PartNow } from './liveCure.ts';
import { baseOf } from './operations.ts';
import type { CorePlate } from './burnFlags.ts';

/** What a chamber is used for. Burn-off never meets bake. */
export const OVEN_USES = ['bake', 'dry', 'burn-off'] as const;
export type OvenUse = (typeof OVEN_USES)[number];

/** The operations that stand in an oven, and what they are there for. */
const OVEN_STEPS: Readonly<Record<string, OvenUse>> = {
  PRE: 'dry',
  WSH: 'dry',
  ODR: 'dry',
  CUR: 'bake',
  BRN: 'burn-off',
  COL: 'burn-off',
};
/** Whether the name of a sensor says that it hangs in the air of the oven. */
export const isAirByName = (name: string): boolean => /air|luft|oven|chamber/i.test(name);
/** What an operation, or a further run of it, stands in an oven for; undefined when it does not. */
export const ovenUseOf = (code: string): OvenUse | undefined => OVEN_STEPS[baseOf(code)];
/** The operations that stand in an oven for this, without their further runs. */
export const ovenStepsFor = (use: OvenUse): string[] =>
  Object.entries(OVEN_STEPS).flatMap(([code, of]) => (of === use ? [code] : []));

export interface Chamber {
  name: string;
  uses: readonly OvenUse[];
  doorWidthMm: number;
  doorHeightMm: number;
  mostKg: number;
  highestC: number;
}
export interface PlannedLoad {
  use: OvenUse;
  /** name of the resin that is baked */
  resin?: string | undefined;
  setPointC: number;
  items: readonly { job: string; massKg: number }[];
}
export interface OvenPartAsked {
  job: string;
  use: OvenUse;
  resin?: string | undefined;
  massKg?: number | undefined;
  widthMm?: number | undefined;
  heightMm?: number | undefined;
}
/** What stands against a part in a load, or a load in a chamber. */
export interface OvenFault {
  field: string;
  says: string;
}

/** What stands against a load of this kind in this chamber. */
export function whyNotSo(
  chamber: Chamber,
  load: Pick<PlannedLoad, 'use' | 'resin' | 'setPointC'>,
  resin?: Pick<Resin, 'ratedC' | 'maxC'>,
): OvenFault[] {
  const out: OvenFault[] = [];
  const say = (field: string, says: string) => out.push({ field, says });
  if (!chamber.uses.includes(load.use))
    say('use', `${chamber.name} is for ${chamber.uses.join(' and ')}, not for ${load.use}.`);
  if (load.use === 'bake' && load.resin === undefined) say('resin', 'Say which resin is baked.');
  if (load.setPointC > chamber.highestC)
    say(
      'setPoint',
      `${chamber.name} goes to ${formatNumber(chamber.highestC)} °C, not to ${formatNumber(load.setPointC)} °C.`,
    );
  if (resin && load.setPointC < resin.ratedC)
    say(
      'setPoint',
      `This resin cures at ${formatNumber(resin.ratedC)} °C of the part; air at ${formatNumber(load.setPointC)} °C never brings it there.`,
    );
  const asF = fahrenheitLikely(load);
  if (asF !== undefined)
    say(
      'setPoint',
      `${formatNumber(load.setPointC)} °C is too hot for this; if it was meant in °F, it is ${formatNumber(asF, 3)} °C.`,
    );
  return out;
}

/** Above these a set point in °C is likely one in °F (common practice). */
const BAKE_SURELY_C = 220;
const BURN_SURELY_C = 400;
/** @returns the same figure read as °F, where it is likely one */
export function fahrenheitLikely(load: Pick<PlannedLoad, 'use' | 'setPointC'>): number | undefined {
  const most = load.use === 'burn-off' ? BURN_SURELY_C : BAKE_SURELY_C;
  return load.setPointC > most ? (load.setPointC - 32) / 1.8 : undefined;
}

/** What stands against a part beside what is in already: door, mass, resin, use. Nothing: it may go in. */
export function whyNotIn(chamber: Chamber, load: PlannedLoad, part: OvenPartAsked): OvenFault[] {
  const out: OvenFault[] = [];
  const say = (field: string, says: string) => out.push({ field, says });
  if (part.use !== load.use)
    say(
      'job',
      part.use === 'burn-off' || load.use === 'burn-off'
        ? `${part.job} is to ${sayUse(part.use)}, this load is to ${sayUse(load.use)}: the two never share an oven.`
        : `${part.job} is to ${sayUse(part.use)}, this load is to ${sayUse(load.use)}.`,
    );
  else if (load.use === 'bake' && part.resin !== undefined && part.resin !== load.resin)
    say('job', `${part.job} has ${part.resin}, this load bakes ${load.resin ?? ''}: another resin, another load.`);
  if (load.items.some((i) => i.job === part.job)) say('job', `${part.job} is in this load already.`);
  if (part.massKg === undefined || part.massKg <= 0) say('mass', `Say what ${part.job} weighs.`);
  else {
    const total = part.massKg + load.items.reduce((n, i) => n + i.massKg, 0);
    if (total > chamber.mostKg + 1e-9)
      say(
        'mass',
        `With ${part.job} the load is ${formatNumber(total, 4)} kg; ${chamber.name} takes ${formatNumber(chamber.mostKg)} kg.`,
      );
  }
  for (const [field, what, size, door] of [
    ['width', 'wide', part.widthMm, chamber.doorWidthMm],
    ['height', 'high', part.heightMm, chamber.doorHeightMm],
  ] as const)
    if (size === undefined || size <= 0) say(field, `Say how ${what} ${part.job} stands.`);
    else if (size > door)
      say(
        field,
        `${part.job} is ${formatNumber(size)} mm ${what}; the door of ${chamber.name} is ${formatNumber(door)} mm ${what}.`,
      );
  return out;
}

export const sayUse = (use: OvenUse): string => ({ bake: 'bake', dry: 'dry', 'burn-off': 'burn off' })[use];

/** Warmed through for drying from here on, °C of the part (common practice). */
export const DRY_C = 90;
const DRY_ABOVE_K = 20;

/**
 * What a load is to come to, in the words of a cure: a temperature of the part and hours at it. A burn-off and a drying count every
 * minute at temperature as one.
 */
export function targetOf(
  use: OvenUse,
  resin: Resin | undefined,
  setPointC: number,
  limits: Readonly<Record<string, number>>,
): Resin {
  if (use === 'bake' && resin) return resin;
  const [ratedC, needMin] =
    use === 'burn-off' ? [BURN_C, limit('route.burnOffMin', limits)] : [DRY_C, limit('route.preheatMin', limits)];
  return {
    name: use,
    ratedC,
    ratedH: needMin / 60,
    // so flat that every minute counts as one
    rate: { law: 'doubling', doublingK: 1e9 },
    floorC: ratedC,
    ...(use === 'dry' ? { maxC: Math.max(ratedC + 5, setPointC + DRY_ABOVE_K) } : {}),
  };
}

/** The highest that a part may come to, °C. */
export function mostC(
  use: OvenUse,
  target: Resin,
  corePlate: CorePlate | undefined,
  limits: Readonly<Record<string, number>>,
): number {
  return use === 'burn-off'
    ? limit(corePlate === 'inorganic' ? 'route.burnOffInorganicC' : 'route.burnOffOrganicC', limits)
    : highestC(target, limit('cure.aboveRatedK', limits));
}

/** How a burn-off goes on: it burns, it cools with the door shut, or it may be opened. */
export interface BurnNow {
  state: 'heating' | 'burning' | 'cooling' | 'may be opened';
  /** until it may be opened, min, at the rate of now */
  openMin: number | undefined;
  openC: number;
  alarm: Alarm | undefined;
}
/** @param parts the sensors of one part */
export function burnNow(parts: readonly PartNow[], degree: number, limits: Readonly<Record<string, number>>): BurnNow {
  const openC = limit('route.openingC', limits);
  const fastest = limit('route.coolingKH', limits);
  const read = parts.filter((p) => p.c !== undefined);
  const hottest = read.reduce<PartNow | undefined>((m, p) => ((p.c ?? 0) > (m?.c ?? -Infinity) ? p : m), undefined);
  const c = hottest?.c;
  if (c === undefined) return { state: 'heating', openMin: undefined, openC, alarm: undefined };
  const falls = -(hottest?.rateKH ?? 0);
  const quick = read.find((p) => (p.c ?? 0) >= WATCHED_COOLING_C && -(p.rateKH ?? 0) > fastest);
  return {
    state:
      degree < 1
        ? c < BURN_C
          ? 'heating'
          : 'burning'
        : c <= openC
          ? 'may be opened'
          : c < BURN_C
            ? 'cooling'
            : 'burning',
    openMin: degree >= 1 && c > openC && falls > 0 ? (60 * (c - openC)) / falls : undefined,
    openC,
    alarm: quick && {
      code: 'cools_too_fast',
      says: `${quick.name} falls by ${formatNumber(-(quick.rateKH ?? 0), 3)} K/h; above ${WATCHED_COOLING_C} °C at most ${formatNumber(fastest)} K/h: keep the door shut.`,
    },
  };
}
