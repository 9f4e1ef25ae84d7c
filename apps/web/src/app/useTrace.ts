import type { TraceView } from '@norther/contracts';
import { skipToken } from '@reduxjs/toolkit/query';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { Window } from '../chart/chartModel.ts';
import { useTraceQuery } from './api/instrument.ts';
import type { SamplesCame } from './lineKeeper.ts';
import { watchTrace } from './line.ts';

/** Points a chart asks for, and how long a zoom rests before it is asked for. */
const POINTS = 800;
const RESTS_MS = 150;
/** So many samples that came live are drawn beside what was asked for; then it is asked for anew. */
const MOST_TAIL = 1500;

/** How x of a trace stands on the chart: `zero + scale · x`. */
interface Axis {
  zero: number;
  scale: number;
}

/** A trace as it is looked at: the whole of it, or the window that was zoomed to once the zoom rests. */
export function useTraceWindow(id: string | undefined, axisOf: (whole: TraceView | undefined) => Axis) {
  const [looked, setLooked] = useState<Window>();
  const [window, setWindow] = useState<Window>();
  useEffect(() => {
    const rest = setTimeout(() => setWindow(looked), RESTS_MS);
    return () => clearTimeout(rest);
  }, [looked]);
  const whole = useTraceQuery(id === undefined ? skipToken : { id, points: POINTS });
  const { zero, scale } = axisOf(whole.data);
  const near = useTraceQuery(
    id === undefined || window === undefined || whole.data?.exact === true
      ? skipToken
      : { id, points: POINTS, from: (window[0] - zero) / scale, to: (window[1] - zero) / scale },
  );
  const { data, refetch } = whole;
  const again = useAgain(refetch, whole.isFetching);
  const span = useMemo(
    (): Window | undefined =>
      data && data.from !== null && data.to !== null ? [zero + data.from * scale, zero + data.to * scale] : undefined,
    [data, zero, scale],
  );
  return {
    whole: data,
    view: (window === undefined ? undefined : near.data) ?? data,
    error: whole.error,
    again,
    span,
    isNear: window !== undefined && near.data !== undefined,
    setLooked,
    zero,
    scale,
  };
}

/**
 * Asks once more, and never loses a wish: what is wished while an answer is under way is asked for after it, for that answer may be
 * older than what made the wish.
 */
function useAgain(refetch: () => PromiseLike<unknown>, isFetching: boolean): () => void {
  const state = useRef({ underWay: isFetching, wished: false });
  const again = useCallback(() => {
    if (state.current.underWay) state.current.wished = true;
    else {
      state.current = { underWay: true, wished: false };
      void refetch();
    }
  }, [refetch]);
  useEffect(() => {
    const { wished } = state.current;
    state.current = { underWay: isFetching, wished: isFetching && wished };
    if (wished && !isFetching) again();
  }, [isFetching, again]);
  return again;
}

export interface Tail {
  x: number[];
  values: (number | null)[][];
}
const NONE: Tail = { x: [], values: [] };

/** Samples in their place by x; one that is there already stays. */
export function withSamples(tail: Tail, came: Tail): Tail {
  const all = new Map<number, (number | null)[]>();
  for (const { x, values } of [came, tail])
    x.forEach((at, i) =>
      all.set(
        at,
        values.map((channel) => channel[i] ?? null),
      ),
    );
  const x = [...all.keys()].sort((a, b) => a - b);
  const channels = Math.max(tail.values.length, came.values.length);
  return { x, values: Array.from({ length: channels }, (_, c) => x.map((at) => all.get(at)?.[c] ?? null)) };
}

/** The samples after an x. */
export function after(came: Tail, last: number): Tail {
  const kept = came.x.flatMap((x, i) => (x > last ? [i] : []));
  if (kept.length === came.x.length) return came;
  const at = <T>(list: readonly T[]): T[] => kept.map((i) => list[i] as T);
  return { x: at(came.x), values: came.values.map(at) };
}

/**
 * What has come to a trace since it was asked for: over the line, without asking again for what is here. What comes while an answer
 * is under way stays, for the answer may have been read before it came.
 */
export function useTail(id: string, whole: TraceView | undefined, again: () => void): Tail {
  const [kept, setKept] = useState({ id, tail: NONE });
  const to = whole?.to ?? -Infinity;
  const asked = useRef(to);
  useEffect(() => {
    asked.current = to;
  }, [to]);
  useEffect(
    () =>
      watchTrace(id, (came: SamplesCame | 'again') => {
        if (came === 'again') return again();
        // what has been asked for meanwhile need not be kept
        setKept((before) => ({
          id,
          tail: withSamples(before.id === id ? after(before.tail, asked.current) : NONE, came),
        }));
      }),
    [id, again],
  );
  const tooLong = kept.tail.x.length > MOST_TAIL;
  useEffect(() => {
    if (tooLong) again();
  }, [tooLong, again]);
  return useMemo(() => (kept.id === id ? after(kept.tail, to) : NONE), [kept, id, to]);
}
