import { notAbove } from '../verdict.ts';
import { cureLeft, type Countdown } from './countdown.ts';
import { cureRate, floorOf, type CureVerdict, type Resin } from './cure.ts';
import { lostReading, othersMoved, stoodStill, type StillRun } from './stillSensor.ts';
import { fitLag, minutesTo, type FittedLag, type LagReading } from './lag.ts';

/** What a load is judged by while it runs; the same stays with it afterwards. */
export interface LiveSetUp {
  channels: readonly { name: string; role: 'part' | 'oven air' | 'not used' }[];
  resin: Resin;
  maxC: number;
  /** longer steps between readings earn nothing; a load has it from its logger, not from what has come so far */
  maxGapMin: number;
  /** the same for a step to or from readings that a person typed */
  typedGapMin?: number;
  overBakeDegree: number;
  school: 'equivalent time' | 'hold only';
  holdToleranceK: number;
}

interface PartKept {
  channel: number;
  n: number;
  last: { t: number; c: number; typed: boolean; rate: number } | undefined;
  before: { t: number; c: number } | undefined;
  degree: number;
  withGaps: number;
  hottest: number;
  held: { total: number; run: number; longest: number };
  run: StillRun | undefined;
  stuck: boolean;
  /** readings for the lag, thinned as they grow */
  lag: LagReading[];
  lagEvery: number;
  lagSkip: number;
}
/** A load followed reading by reading. What is kept does not grow with it; it is plain data. */
export interface LiveState {
  parts: PartKept[];
  t: number | undefined;
  air: { t: number; c: number }[];
  rows: number;
  /** readings that came with a time not after the last: left out */
  late: number;
}

export const liveBegun = (setUp: LiveSetUp): LiveState => ({
  parts: setUp.channels.flatMap((c, channel) =>
    c.role === 'part'
      ? [
          {
            channel,
            n: 0,
            last: undefined,
            before: undefined,
            degree: 0,
            withGaps: 0,
            hottest: Number.NEGATIVE_INFINITY,
            held: { total: 0, run: 0, longest: 0 },
            run: undefined,
            stuck: false,
            lag: [],
            lagEvery: 1,
            lagSkip: 0,
          },
        ]
      : [],
  ),
  t: undefined,
  air: [],
  rows: 0,
  late: 0,
});

/** Readings kept for the lag of a part, and minutes of air kept to see a door. */
const LAG_KEPT = 64;
const AIR_MIN = 10;

/**
 * Takes one row: a time, min, and a value of each channel, °C. The state is changed in place.
 * @param typed a person typed it, where no logger was
 */
export function followCure(
  state: LiveState,
  setUp: LiveSetUp,
  t: number,
  values: readonly (number | null)[],
  typed = false,
): void {
  if (state.t !== undefined && t <= state.t) {
    state.late += 1;
    return;
  }
  state.t = t;
  state.rows += 1;
  const { resin, maxC, maxGapMin } = setUp;
  const floorC = floorOf(resin);
  const rate = (c: number): number => cureRate(c, resin.ratedC, resin.rate, floorC, maxC);
  const ratedMin = resin.ratedH * 60;
  const heldC = resin.ratedC - setUp.holdToleranceK;
  let airC: number | undefined;
  for (let i = 0; i < setUp.channels.length; i++) {
    const v = values[i];
    if (setUp.channels[i]?.role === 'oven air' && v !== null && v !== undefined && !(v <= (airC ?? -Infinity)))
      airC = v;
  }
  if (airC !== undefined) {
    state.air.push({ t, c: airC });
    while ((state.air[0]?.t ?? t) < t - AIR_MIN) state.air.shift();
  }
  for (const part of state.parts) {
    const c = values[part.channel];
    if (c === null || c === undefined) {
      if (part.run) lostReading(part.run, values, part.channel);
      continue;
    }
    const before = part.last;
    const now = { t, c, typed, rate: rate(c) };
    if (before) {
      const dt = t - before.t;
      const earned = (((before.rate + now.rate) / 2) * dt) / ratedMin;
      part.withGaps += earned;
      const most = typed || before.typed ? Math.max(maxGapMin, setUp.typedGapMin ?? maxGapMin) : maxGapMin;
      if (dt <= most) part.degree += earned;
      hold(part.held, before, now, heldC, dt > most);
    }
    part.before = before;
    part.last = now;
    part.n += 1;
    part.hottest = Math.max(part.hottest, c);
    if (stoodStill(part, t, c, values)) part.stuck = true;
    if (airC !== undefined) keepForLag(part, t, c, airC);
  }
}

/** Unbroken time at or above a temperature, straight lines between readings. */
function hold(
  held: PartKept['held'],
  a: { t: number; c: number },
  b: { t: number; c: number },
  heldC: number,
  isGap: boolean,
): void {
  if (isGap) {
    held.run = 0;
    return;
  }
  const step = b.t - a.t;
  const up = a.c >= heldC;
  const down = b.c >= heldC;
  if (up && down) {
    held.total += step;
    held.run += step;
    if (held.run > held.longest) held.longest = held.run;
    return;
  }
  if (up === down) {
    held.run = 0;
    return;
  }
  const share = (step * Math.abs((up ? a.c : b.c) - heldC)) / Math.abs(b.c - a.c);
  held.total += share;
  held.longest = Math.max(held.longest, up ? held.run + share : share);
  held.run = down ? share : 0;
}

function keepForLag(part: PartKept, t: number, partC: number, airC: number): void {
  part.lagSkip += 1;
  if (part.lagSkip < part.lagEvery) return;
  part.lagSkip = 0;
  part.lag.push({ t, partC, airC });
  if (part.lag.length <= LAG_KEPT) return;
  part.lag = part.lag.filter((_, i) => i % 2 === 0);
  part.lagEvery *= 2;
}

export const ALARMS = [
  'over_temperature',
  'air_only',
  'stuck',
  'fell_off',
  'door_opened',
  'gap',
  'too_slow',
  'cools_too_fast',
] as const;
export type AlarmCode = (typeof ALARMS)[number];
export interface Alarm {
  code: AlarmCode;
  says: string;
}
export interface PartNow {
  name: string;
  c: number | undefined;
  degree: number;
  hottest: number;
  /** longest unbroken time at the rated temperature, and all of it */
  heldMin: number;
  totalMin: number;
  /** how fast it rises or falls, K/h, over the last half hour or so */
  rateKH: number | undefined;
  lag: FittedLag | undefined;
}
export interface LiveNow {
  parts: PartNow[];
  /** the part that has least of its cure */
  coldest: PartNow | undefined;
  left: Countdown;
  verdict: CureVerdict;
  /** what the other school says of it now */
  schools: { equivalentTime: boolean; holdOnly: boolean };
  alarms: Alarm[];
  /** °C, while it is too hot to touch; with the minutes until it may not be, where the lag says */
  hotC: number | undefined;
  touchMin: number | undefined;
}

/** Bare hands, °C; the workshop that a part cools in, °C; a door shows by this fall of the air, K in ten minutes (common practice). */
export const TOUCH_C = 45;
const WORKSHOP_C = 25;
const DOOR_K = 12;
const FELL_K_MIN = 0.2;
const SLOW_MIN = 240;
const SLOW_K_H = 5;

/** How a load stands. @param nowMin the time of now on the load's own axis, where it runs */
export function cureNow(state: LiveState, setUp: LiveSetUp, nowMin?: number): LiveNow {
  const { resin, maxC } = setUp;
  const ratedMin = resin.ratedH * 60;
  const name = (p: PartKept) => setUp.channels[p.channel]?.name ?? '';
  const air = state.air.at(-1);
  const parts = state.parts.map((p): PartNow => ({
    name: name(p),
    c: p.last?.c,
    degree: p.degree,
    hottest: p.hottest,
    heldMin: p.held.longest,
    totalMin: p.held.total,
    rateKH: rateOf(p),
    lag: fitLag(p.lag),
  }));
  const coldest = parts.reduce<PartNow | undefined>(
    (m, x) => (m === undefined || x.degree < m.degree ? x : m),
    undefined,
  );
  const hottest = Math.max(Number.NEGATIVE_INFINITY, ...parts.map((p) => p.hottest));
  const stuck = state.parts.filter((p) => p.stuck || (p.run !== undefined && othersMoved(p.run)));
  const schools = {
    equivalentTime: coldest !== undefined && coldest.degree >= 1 - 1e-9,
    holdOnly: parts.length > 0 && parts.every((p) => p.heldMin >= ratedMin),
  };
  const enough = setUp.school === 'hold only' ? schools.holdOnly : schools.equivalentTime;
  const slowest = state.parts.find((p) => p.degree === coldest?.degree);
  const verdict: CureVerdict =
    parts.length === 0
      ? 'undetermined'
      : hottest > maxC
        ? 'over_temperature'
        : state.parts.some((p) => p.n < 2) || stuck.length > 0
          ? 'undetermined'
          : enough
            ? notAbove(Math.max(...parts.map((p) => p.degree)), setUp.overBakeDegree)
              ? 'cured'
              : 'over_baked'
            : slowest !== undefined && slowest.withGaps >= 1 - 1e-9 && slowest.withGaps > slowest.degree
              ? 'undetermined'
              : 'under_cured';
  const alarms: Alarm[] = [];
  if (parts.length === 0)
    alarms.push({ code: 'air_only', says: 'No sensor is on a part: the air says nothing of the cure.' });
  for (const p of parts)
    if (p.hottest > maxC)
      alarms.push({
        code: 'over_temperature',
        says: `${p.name} reached ${Math.round(10 * p.hottest) / 10} °C; never above ${maxC} °C: cool the oven and call an engineer.`,
      });
  for (const p of stuck)
    alarms.push({ code: 'stuck', says: `${name(p)} stands still while others move: the sensor is not believed.` });
  for (const p of state.parts) {
    const [a, b] = [p.before, p.last];
    if (a && b && air && b.t > a.t && (a.c - b.c) / (b.t - a.t) > FELL_K_MIN && air.c > b.c + 15 && !doorOpen(state))
      alarms.push({
        code: 'fell_off',
        says: `${name(p)} falls while the air is hotter than it: look whether the sensor fell off.`,
      });
  }
  if (doorOpen(state))
    alarms.push({ code: 'door_opened', says: 'The air fell at once: the door was opened, or the burner is out.' });
  if (nowMin !== undefined && state.t !== undefined && nowMin - state.t > setUp.maxGapMin)
    alarms.push({
      code: 'gap',
      says: `Nothing has come for ${Math.floor(nowMin - state.t)} min: what is not read earns nothing. Type readings meanwhile.`,
    });
  const slow = state.parts.find(
    (p) =>
      p.last &&
      p.before &&
      p.last.t - (p.lag[0]?.t ?? p.last.t) > SLOW_MIN &&
      p.last.c < resin.ratedC - 5 &&
      p.hottest < resin.ratedC - 5 &&
      (60 * (p.last.c - p.before.c)) / (p.last.t - p.before.t) < SLOW_K_H,
  );
  if (slow)
    alarms.push({
      code: 'too_slow',
      says: `${name(slow)} is at ${Math.round(slow.last?.c ?? 0)} °C and hardly rises; it is to come to ${resin.ratedC} °C: look at the set point, the fan and what stands before it.`,
    });
  const left: Countdown =
    coldest?.c === undefined
      ? { simpleMin: undefined, forecastMin: undefined, why: 'No part is read yet.' }
      : nowMin !== undefined && state.t !== undefined && nowMin - state.t > setUp.maxGapMin
        ? { simpleMin: undefined, forecastMin: undefined, why: 'Nothing comes: the figure stands still.' }
        : cureLeft(resin, maxC, { degree: coldest.degree, partC: coldest.c, airC: air?.c, lag: coldest.lag });
  const hot = parts.reduce<PartNow | undefined>(
    (m, x) => (x.c !== undefined && x.c > (m?.c ?? TOUCH_C) ? x : m),
    undefined,
  );
  return {
    parts,
    coldest,
    left,
    verdict,
    schools,
    alarms,
    hotC: hot?.c,
    touchMin: touchMinutes(parts),
  };
}

/** Over so many minutes at least a rise or fall is told. */
const RATE_MIN = 30;
function rateOf({ last, lag }: PartKept): number | undefined {
  const from = last && lag.findLast((r) => last.t - r.t >= RATE_MIN);
  return from && (60 * (last.c - from.partC)) / (last.t - from.t);
}

/** Until the last of the parts may be touched; undefined while the lag of one that is hot is not known. */
function touchMinutes(parts: readonly PartNow[]): number | undefined {
  const hot = parts.filter((p) => p.c !== undefined && p.c > TOUCH_C);
  const each = hot.map((p) => (p.lag ? minutesTo(p.c ?? 0, WORKSHOP_C, TOUCH_C, p.lag.lagMin) : undefined));
  return each.length === 0 || each.includes(undefined) ? undefined : Math.max(...(each as number[]));
}

const doorOpen = (state: LiveState): boolean => {
  const last = state.air.at(-1);
  return last !== undefined && Math.max(...state.air.map((a) => a.c)) - last.c > DOOR_K;
};

/** How one part of a load stands: the same judgement, on the channels that are its own. */
export const cureNowOf = (state: LiveState, setUp: LiveSetUp, channels: readonly number[], nowMin?: number): LiveNow =>
  cureNow({ ...state, parts: state.parts.filter((p) => channels.includes(p.channel)) }, setUp, nowMin);
