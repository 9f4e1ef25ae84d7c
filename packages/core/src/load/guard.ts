import { limit } from '../limits/limits.ts';
import { formatAgainst, formatNumber } from '../quantity/format.ts';
import { notAbove } from '../verdict.ts';
import { largestA, type LoadFrame } from './loadFrames.ts';

/** What a load run is guarded by; kept with the run as it was when it began. */
export interface GuardSettings {
  ratedA: number;
  /** of the rated current, from which no more load is put on */
  loadFactor: number;
  /** so long over it, s */
  overS: number;
  /** times that, at which the load comes off at once */
  unloadFactor: number;
  /** current above the rated one for at most, s */
  overloadS: number;
  windingC?: number | undefined;
  bearingC?: number | undefined;
  vibrationMmS?: number | undefined;
  /** pulls out: the speed falls by more than this while the torque falls by more than that, % within a second */
  pullSpeedPercent?: number | undefined;
  pullTorquePercent?: number | undefined;
}

/** What the guard remembers from sample to sample. */
export interface GuardState {
  says: 'ok' | 'hold' | 'unload';
  why: string;
  /** s of the run when it last said something else than before */
  at: number;
  /** samples in a row that are beyond what the motor bears */
  bad: number;
  overSince: number | null;
  overloadSince: number | null;
  /** the last sample that had a current */
  readAt: number | null;
  /** speed and torque of a moment ago, for a motor that pulls out */
  past: { t: number; rpm: number; nm: number }[];
}

export const GUARD_BEGIN: GuardState = {
  says: 'ok',
  why: '',
  at: 0,
  bad: 0,
  overSince: null,
  overloadSince: null,
  readAt: null,
  past: [],
};

/** The second bad sample in a row unloads. Source: `tests.md` 9.5; two samples: common practice. */
const BAD_SAMPLES = 2;
/** No current read for so long: nobody knows what the motor takes, s. */
const BLIND_S = 2;
/** A motor pulls out: over so long the speed falls while the torque falls, each by its limit, s. */
const OUT_OVER_S = 1;
const REMEMBERED_S = 0.2;

/**
 * One sample on: more load is held, or the load is to come off. Once it says `unload` it stays so until somebody lets it go on.
 * Source: `tests.md` 9.5.
 */
export function guardStep(before: GuardState, f: LoadFrame, s: GuardSettings): GuardState {
  const amps = largestA(f);
  const held = s.loadFactor * s.ratedA;
  const most = s.unloadFactor * held;
  const readAt = amps === undefined ? before.readAt : f.t;
  const beyond = beyondOf(f, s, amps, most);
  const bad = beyond === undefined ? 0 : before.bad + 1;
  const over = amps !== undefined && !notAbove(amps, held);
  const overSince = amps === undefined ? before.overSince : over ? (before.overSince ?? f.t) : null;
  const isOverload = amps !== undefined && !notAbove(amps, s.ratedA);
  const overloadSince = amps === undefined ? before.overloadSince : isOverload ? (before.overloadSince ?? f.t) : null;
  const next = { ...before, bad, overSince, overloadSince, readAt, past: remembered(before.past, f) };
  const say = (says: GuardState['says'], why: string): GuardState =>
    says === before.says ? next : { ...next, says, why, at: f.t };
  if (before.says === 'unload') return next;
  if (beyond !== undefined && bad >= BAD_SAMPLES) return say('unload', beyond);
  if (s.loadFactor > 1 && overloadSince !== null && !notAbove(f.t - overloadSince, s.overloadS))
    return say(
      'unload',
      `the current was above the rated ${formatNumber(s.ratedA)} A for ${formatNumber(s.overloadS)} s`,
    );
  if (readAt !== null && f.t - readAt >= BLIND_S) return say('unload', `no current was read for ${BLIND_S} s`);
  const pulls = pullsOut(before.past, f, s);
  if (pulls !== undefined) return say('unload', pulls);
  if (overSince !== null && f.t - overSince >= s.overS)
    return say('hold', `the current is above ${formatNumber(held)} A: no more load`);
  return say('ok', '');
}

function beyondOf(f: LoadFrame, s: GuardSettings, amps: number | undefined, most: number): string | undefined {
  const above = (value: number | undefined, bound: number | undefined, says: string, unit: string) => {
    if (value === undefined || bound === undefined || notAbove(value, bound)) return undefined;
    const [shown, most] = formatAgainst(value, bound);
    return `${says} ${shown} ${unit}, at most ${most} ${unit}`;
  };
  return (
    above(amps, most, 'current', 'A') ??
    above(f.windingC, s.windingC, 'winding at', '°C') ??
    above(f.bearingC, s.bearingC, 'bearing at', '°C') ??
    above(f.vibrationMmS, s.vibrationMmS, 'vibration', 'mm/s')
  );
}

function remembered(past: GuardState['past'], f: LoadFrame): GuardState['past'] {
  const { t, rpm, torqueNm: nm } = f;
  if (rpm === undefined || nm === undefined) return past;
  const last = past.at(-1);
  if (last && t - last.t < REMEMBERED_S) return past;
  return [...past.filter((p) => t - p.t <= OUT_OVER_S + REMEMBERED_S), { t, rpm, nm }];
}

function pullsOut(past: GuardState['past'], f: LoadFrame, s: GuardSettings): string | undefined {
  const { t, rpm, torqueNm: nm } = f;
  const then = past.find((p) => t - p.t >= OUT_OVER_S - REMEMBERED_S / 2);
  if (rpm === undefined || nm === undefined || !then) return undefined;
  // a run that began before the shop could set them goes by the published ones
  const speed = (s.pullSpeedPercent ?? limit('guard.pullSpeedPercent')) / 100;
  const torque = (s.pullTorquePercent ?? limit('guard.pullTorquePercent')) / 100;
  return rpm < (1 - speed) * then.rpm && nm < (1 - torque) * then.nm
    ? 'the speed falls while the torque falls: the motor pulls out'
    : undefined;
}

/** Somebody lets it go on; what is wrong still stops it again. */
export const goneOn = (state: GuardState, t: number): GuardState => ({ ...GUARD_BEGIN, at: t, past: state.past });
