import type { balanceEntryBody, BalanceSessionView, beginBalanceBody } from '@norther/contracts';
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

export const { useBalanceSessionsQuery, useBeginBalanceMutation, useEnterBalanceMutation, useEndBalanceMutation } =
  balanceApi;
