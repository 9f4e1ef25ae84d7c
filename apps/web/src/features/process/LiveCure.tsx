import {
  cureNow,
  defaultMaxGapMin,
  followCure,
  formatNumber,
  highestC,
  limit,
  liveBegun,
  TOUCH_C,
  type LiveNow,
  type LiveSetUp,
  type Resin,
} from '@norther/core';
import type { ChannelRole, TraceView } from '@norther/contracts';
import { useEffect, useMemo, useState } from 'react';
import { now } from '../../app/clock.ts';
import { useTraceQuery } from '../../app/api/instrument.ts';
import { useSettings } from '../../app/shop.ts';
import { useTail, type Tail } from '../../app/useTrace.ts';
import { Alarms, AlarmSound } from '../oven/AlarmSound.tsx';
import { sayMinutes } from '../oven/sayMinutes.ts';

/** Readings that are followed one by one; a longer load comes thinned, and is judged whole when it is recorded. */
const POINTS = 4000;

/** How a load stands: cure of each part by its own temperature, what is left, alarms. */
export function LiveCure({ id, roles, resin }: { id: string; roles: readonly ChannelRole[]; resin: Resin }) {
  const settings = useSettings();
  const { data: whole, refetch } = useTraceQuery({ id, points: POINTS });
  const tail = useTail(id, whole, refetch);
  const [at, setAt] = useState(() => now().getTime());
  useEffect(() => {
    const tick = setInterval(() => setAt(now().getTime()), 10_000);
    return () => clearInterval(tick);
  }, []);
  const is = useMemo(
    () => (whole && settings ? standing(whole, tail, roles, resin, settings, at) : undefined),
    [whole, tail, roles, resin, settings, at],
  );
  if (!is || !whole) return null;
  const running = !whole.ended;
  return (
    <section aria-label="Cure so far" className="border border-line bg-sheet p-3 space-y-2">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h3 className="font-semibold">Cure so far</h3>
        {is.coldest && running ? (
          <p className="text-bench tabular-nums" role="status">
            {is.verdict === 'cured'
              ? 'cured'
              : is.left.forecastMin !== undefined
                ? `about ${sayMinutes(is.left.forecastMin)} left`
                : is.left.simpleMin !== undefined
                  ? `${sayMinutes(is.left.simpleMin)} left at this temperature`
                  : is.left.why}
          </p>
        ) : null}
        <AlarmSound on={is.alarms.length > 0 && running} />
      </div>
      <Alarms alarms={is.alarms} />
      <ul className="space-y-1">
        {is.parts.map((p) => (
          <li
            key={p.name}
            className="grid grid-cols-[minmax(6rem,1fr)_5.5rem_minmax(6rem,2fr)_4rem] gap-x-3 items-center"
          >
            <span className="font-semibold truncate" title={p.name}>
              {p.name}
              {p === is.coldest && is.parts.length > 1 ? <span className="font-normal text-soft"> slowest</span> : ''}
            </span>
            <span className="tabular-nums text-right">{p.c === undefined ? '' : `${formatNumber(p.c, 4)} °C`}</span>
            <span className="h-4 bg-sunk border border-line" aria-hidden="true">
              <span
                className={`block h-full ${p.degree >= 1 ? 'bg-pass' : 'bg-accent'}`}
                style={{ width: `${Math.min(100, 100 * p.degree)}%` }}
              />
            </span>
            <span className="tabular-nums text-right">{Math.floor(100 * p.degree)} %</span>
          </li>
        ))}
      </ul>
      {is.coldest ? (
        <p className="text-small text-soft">
          By the part&apos;s own temperature, judged on the slowest.
          {is.left.forecastMin !== undefined && is.left.simpleMin !== undefined && is.verdict !== 'cured'
            ? ` At the temperature of now it would be ${sayMinutes(is.left.simpleMin)}.`
            : ''}
          {is.coldest.lag ? ` The part lags ${formatNumber(is.coldest.lag.lagMin, 2)} min behind the air.` : ''}{' '}
          Equivalent time {is.schools.equivalentTime ? 'met' : 'not met yet'}, unbroken hold{' '}
          {is.schools.holdOnly
            ? 'met'
            : `not met yet (${Math.floor(is.coldest.heldMin)} of ${formatNumber(60 * resin.ratedH)} min)`}
          .{whole.exact ? '' : ' A long load is shown thinned; it is judged whole when it is recorded.'}
        </p>
      ) : null}
      {is.hotC !== undefined ? (
        <p className="text-small">
          <strong>Too hot to touch</strong> at {formatNumber(is.hotC, 3)} °C
          {is.touchMin === undefined ? '' : `; once out, about ${sayMinutes(is.touchMin)} to ${TOUCH_C} °C`}. Measure
          before you touch.
        </p>
      ) : null}
    </section>
  );
}

function standing(
  whole: TraceView,
  tail: Tail,
  roles: readonly ChannelRole[],
  resin: Resin,
  settings: { limits: Readonly<Record<string, number>>; cureSchool: LiveSetUp['school'] },
  at: number,
): LiveNow {
  const scale = whole.xUnit === 's' ? 1 / 60 : 1;
  const times = [...whole.x, ...tail.x].map((x) => x * scale);
  const gap = defaultMaxGapMin(times);
  const setUp: LiveSetUp = {
    channels: whole.channels.map((c, i) => ({ name: c.name, role: roles[i] ?? 'not used' })),
    resin,
    maxC: highestC(resin, limit('cure.aboveRatedK', settings.limits)),
    maxGapMin: Number.isFinite(gap) && gap > 0 ? gap : Infinity,
    overBakeDegree: limit('cure.overBakeDegree', settings.limits),
    school: settings.cureSchool,
    holdToleranceK: 0,
  };
  const state = liveBegun(setUp);
  times.forEach((t, i) =>
    followCure(
      state,
      setUp,
      t,
      whole.channels.map((_, c) =>
        i < whole.x.length ? (whole.values[c]?.[i] ?? null) : (tail.values[c]?.[i - whole.x.length] ?? null),
      ),
    ),
  );
  const begun = whole.startAt ? Date.parse(whole.startAt) : undefined;
  return cureNow(state, setUp, whole.ended || begun === undefined ? undefined : (at - begun) / 60_000);
}
