import type {
  balanceEntryBody,
  BalanceSessionView,
  beginBalanceBody,
  keepFamilyBody,
  RotorFamilyView,
  spinBody,
  StandRunView,
} from '@norther/contracts';
import type { Verdict } from '@norther/core';
import type { z } from 'zod';
import { api, ofJob } from './base.ts';

export const balanceApi = api.injectEndpoints({
  endpoints: (b) => ({
    balanceSessions: b.query<BalanceSessionView[], string>({
      query: (number) => `jobs/${number}/balance-sessions`,
      providesTags: (_r, _e, number) => ofJob(number),
    }),
    beginBalance: b.mutation<{ id: string }, { number: string } & z.input<typeof beginBalanceBody>>({
      query: ({ number, ...body }) => ({ url: `jobs/${number}/balance-sessions`, method: 'POST', body }),
      invalidatesTags: (_r, e, { number }) => (e ? [] : ofJob(number)),
    }),
    enterBalance: b.mutation<
      { ordinal: number; stage: string; verdict: Verdict; reason: string },
      { number: string; id: string } & z.input<typeof balanceEntryBody>
    >({
      query: ({ number, id, ...body }) => ({
        url: `jobs/${number}/balance-sessions/${id}/entries`,
        method: 'POST',
        body,
      }),
      invalidatesTags: (_r, e, { number }) => (e ? [] : ofJob(number)),
    }),
    standRuns: b.query<StandRunView[], { number: string; id: string }>({
      query: ({ number, id }) => `jobs/${number}/balance-sessions/${id}/stand-runs`,
      providesTags: (_r, _e, { number }) => ofJob(number),
    }),
    spinStand: b.mutation<{ stand: string }, { number: string; id: string } & z.input<typeof spinBody>>({
      query: ({ number, id, ...body }) => ({ url: `jobs/${number}/balance-sessions/${id}/spin`, method: 'POST', body }),
    }),
    rotorFamilies: b.query<RotorFamilyView[], void>({ query: () => 'rotor-families', providesTags: ['Shop'] }),
    keepFamily: b.mutation<{ id: string }, z.input<typeof keepFamilyBody>>({
      query: (body) => ({ url: 'rotor-families', method: 'POST', body }),
      invalidatesTags: (_r, e) => (e ? [] : ['Shop']),
    }),
    retireFamily: b.mutation<{ done: true }, { id: string; reason: string }>({
      query: ({ id, reason }) => ({ url: `rotor-families/${id}/retirement`, method: 'POST', body: { reason } }),
      invalidatesTags: (_r, e) => (e ? [] : ['Shop']),
    }),
    endBalance: b.mutation<{ verdict: Verdict; reason: string }, { number: string; id: string; reason: string }>({
      query: ({ number, id, reason }) => ({
        url: `jobs/${number}/balance-sessions/${id}/end`,
        method: 'POST',
        body: { reason },
      }),
      invalidatesTags: (_r, e, { number }) => (e ? [] : ofJob(number)),
    }),
  }),
});

export const {
  useBalanceSessionsQuery,
  useBeginBalanceMutation,
  useEnterBalanceMutation,
  useEndBalanceMutation,
  useStandRunsQuery,
  useSpinStandMutation,
  useRotorFamiliesQuery,
  useKeepFamilyMutation,
  useRetireFamilyMutation,
} = balanceApi;
