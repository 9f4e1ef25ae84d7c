import type { Candidate, RedesignResult } from '@norther/core';
import { proxy } from 'comlink';
import { useEffect, useState } from 'react';
import { coreDoor } from '../../worker/door.ts';
import type { SearchShown } from '../../worker/worker.ts';

export interface RedesignState {
  /** undefined while nothing is under way */
  progress: { done: number; total: number } | undefined;
  candidates: Candidate[];
  result: RedesignResult | undefined;
  problem: string | undefined;
  stopped: boolean;
  stop: () => void;
}

/** Searches in the worker whenever the input changes; the newest search wins. */
export function useRedesign(input: object | undefined): RedesignState {
  const [state, setState] = useState<Omit<RedesignState, 'stop'>>({
    progress: undefined,
    candidates: [],
    result: undefined,
    problem: undefined,
    stopped: false,
  });
  useEffect(() => {
    if (!input) return;
    let gone = false;
    // words of progress may come in after the end: they have a line of their own
    let ended = false;
    const show = (p: SearchShown): void => {
      if (!gone && !ended)
        setState((s) => ({
          ...s,
          progress: { done: p.done, total: p.total },
          // the first word says only that the search has begun
          candidates: p.done === 0 ? s.candidates : p.best,
          problem: undefined,
          stopped: false,
        }));
    };
    coreDoor()
      .redesign(input, proxy(show))
      .then((result) => {
        ended = true;
        if (gone) return;
        if (result)
          setState({ progress: undefined, candidates: result.candidates, result, problem: undefined, stopped: false });
        else setState((s) => ({ ...s, progress: undefined, stopped: true }));
      })
      .catch((error: unknown) => {
        ended = true;
        if (!gone)
          setState({
            progress: undefined,
            candidates: [],
            result: undefined,
            problem:
              error instanceof Error ? error.message.replace(/^(record|nameplate)\.\w+: /, '') : 'The search failed.',
            stopped: false,
          });
      });
    return () => {
      gone = true;
    };
  }, [input]);
  return { ...state, stop: () => void coreDoor().stopSearch() };
}
