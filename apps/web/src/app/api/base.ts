import type { ProblemDetail } from '@norther/contracts';
import {
  createApi,
  type BaseQueryFn,
  type FetchArgs,
  fetchBaseQuery,
  type FetchBaseQueryError,
} from '@reduxjs/toolkit/query/react';

/** A key under which the server knows a repeated request; no secure context is needed for it. */
export function newKey(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  return [...bytes].map((b) => b.toString(16).padStart(2, '0')).join('');
}

const plain = fetchBaseQuery({ baseUrl: '/api/', credentials: 'same-origin', responseHandler: 'content-type' });

/** Writes carry an idempotency key, so that a retry after a lost connection stores once. */
const query: BaseQueryFn<string | FetchArgs, unknown, FetchBaseQueryError> = async (args, api, extra) => {
  const request: FetchArgs = typeof args === 'string' ? { url: args } : args;
  const writes = request.method !== undefined && request.method !== 'GET';
  const keyed: FetchArgs = writes
    ? {
        ...request,
        headers: { ...(request.headers as Record<string, string> | undefined), 'Idempotency-Key': newKey() },
      }
    : request;
  let answer = await plain(keyed, api, extra);
  for (let again = 0; again < 3 && answer.error?.status === 'FETCH_ERROR'; again++) {
    await new Promise((r) => setTimeout(r, 400 * 2 ** again));
    answer = await plain(keyed, api, extra);
  }
  return answer;
};

/** The server's problem as the screen needs it; a sentence even when nothing came back. */
export function problemOf(error: unknown): ProblemDetail {
  const e = error as FetchBaseQueryError | undefined;
  if (e && typeof e.status === 'number') {
    const data =
      typeof e.data === 'string'
        ? (safeParse(e.data) as ProblemDetail | undefined)
        : (e.data as ProblemDetail | undefined);
    if (data && typeof data.detail === 'string') return data;
    return {
      type: 'about:blank',
      title: 'Not taken',
      status: e.status,
      detail: 'The server refused this without saying why.',
    };
  }
  return {
    type: 'about:blank',
    title: 'Not reachable',
    status: 0,
    detail: 'The server cannot be reached. What you typed is kept on this device; try again when the network is back.',
  };
}

function safeParse(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}

/** What a change of one motor makes stale; its line on the floor is asked for by `floorChanges.ts`. */
export const ofJob = (number: string) => [{ type: 'Job' as const, id: number }];

/** The way to the server; what each feature asks there stands in the files beside this one. */
export const api = createApi({
  reducerPath: 'api',
  baseQuery: query,
  tagTypes: [
    'Session',
    'Setup',
    'People',
    'Shop',
    'Floor',
    'Job',
    'Archive',
    'Stock',
    'Trace',
    'Work',
    'Instruments',
    'Ovens',
  ],
  endpoints: () => ({}),
});
