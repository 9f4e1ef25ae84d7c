import { isFulfilled, type Middleware, type ThunkDispatch, type UnknownAction } from '@reduxjs/toolkit';
import { api } from './api/base.ts';
import { jobApi } from './api/job.ts';
import { withMotor } from './floorLists.ts';

/** Changes that come within so short a time are asked for together. */
const TOGETHER_MS = 150;

type State = { [api.reducerPath]: ReturnType<typeof api.reducer> };
interface Store {
  dispatch: ThunkDispatch<State, unknown, UnknownAction>;
  getState: () => State;
}

const waiting = new Set<string>();
let timer: ReturnType<typeof setTimeout> | undefined;

/** A motor has changed: its line is asked for and put into the lists that are open; the floor itself is not loaded again. */
export function changedOnFloor(store: Store, number: string): void {
  waiting.add(number);
  timer ??= setTimeout(() => {
    timer = undefined;
    const numbers = [...waiting];
    waiting.clear();
    // many at once (a line that came back, a demo that loads): the whole list is less
    if (numbers.length > 20) store.dispatch(api.util.invalidateTags(['Floor']));
    else for (const n of numbers) void ask(store, n);
  }, TOGETHER_MS);
}

async function ask({ dispatch, getState }: Store, number: string): Promise<void> {
  const open = [false, true].filter(
    (closed) => jobApi.endpoints.floor.select({ closed })(getState()).data !== undefined,
  );
  if (open.length === 0) return;
  const { data } = await dispatch(jobApi.endpoints.summary.initiate(number, { subscribe: false, forceRefetch: true }));
  if (!data) return;
  for (const closed of open)
    dispatch(jobApi.util.updateQueryData('floor', { closed }, (list) => withMotor(list, data, closed)));
}

/** What one has changed oneself is on the floor too when the live line is down. */
export const floorMiddleware: Middleware = (own) => (next) => (action) => {
  const done = next(action);
  if (isFulfilled(action)) {
    const { type, originalArgs } =
      (action.meta as { arg?: { type?: string; originalArgs?: { number?: unknown } } }).arg ?? {};
    const number = originalArgs?.number;
    if (type === 'mutation' && typeof number === 'string') changedOnFloor(own as unknown as Store, number);
  }
  return done;
};
