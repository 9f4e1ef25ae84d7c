import type {
  CoolingView,
  endLoadRunBody,
  loadCommandBody,
  loadFileBody,
  loadRunBody,
  LoadRunView,
} from '@norther/contracts';
import type { z } from 'zod';
import { api, ofJob } from './base.ts';

type Of = { number: string; id: string };

export const loadApi = api.injectEndpoints({
  endpoints: (b) => ({
    loadRuns: b.query<LoadRunView[], string>({
      query: (number) => `jobs/${number}/load-runs`,
      providesTags: (_r, _e, number) => [{ type: 'Job', id: number }],
    }),
    coolings: b.query<CoolingView[], string>({
      query: (number) => `jobs/${number}/load-runs/coolings`,
      providesTags: (_r, _e, number) => [{ type: 'Job', id: number }],
    }),
    beginLoadRun: b.mutation<{ id: string }, { number: string } & z.input<typeof loadRunBody>>({
      query: ({ number, ...body }) => ({ url: `jobs/${number}/load-runs`, method: 'POST', body }),
      invalidatesTags: (_r, _e, { number }) => ofJob(number),
    }),
    loadRunFile: b.mutation<{ id: string }, { number: string } & z.input<typeof loadFileBody>>({
      query: ({ number, ...body }) => ({ url: `jobs/${number}/load-runs/file`, method: 'POST', body }),
      invalidatesTags: (_r, _e, { number }) => ofJob(number),
    }),
    loadCommand: b.mutation<object, Of & z.input<typeof loadCommandBody>>({
      query: ({ number, id, ...body }) => ({ url: `jobs/${number}/load-runs/${id}/commands`, method: 'POST', body }),
      invalidatesTags: ['Instruments'],
    }),
    endLoadRun: b.mutation<object, Of & z.input<typeof endLoadRunBody>>({
      query: ({ number, id, ...body }) => ({ url: `jobs/${number}/load-runs/${id}/end`, method: 'POST', body }),
      invalidatesTags: (_r, _e, { number }) => ofJob(number),
    }),
  }),
});

export const {
  useCoolingsQuery,
  useLoadRunsQuery,
  useBeginLoadRunMutation,
  useLoadRunFileMutation,
  useLoadCommandMutation,
  useEndLoadRunMutation,
} = loadApi;
