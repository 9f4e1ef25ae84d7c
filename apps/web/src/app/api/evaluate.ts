import type {
  CuredAnswer,
  EarlierTestView,
  EarlierWaves,
  KindReading,
  Trend,
  YieldBy,
  YieldGroup,
  balanceBody,
  cureBody,
  measureBody,
  testBody,
  traceCureBody,
} from '@norther/contracts';
import type { Rejudged, Verdict, WorkingStep } from '@norther/core';
import type { z } from 'zod';
import { api, ofJob } from './base.ts';

type Judged = { id: string; verdict: Verdict; reason: string };

export const evaluateApi = api.injectEndpoints({
  endpoints: (b) => ({
    working: b.query<WorkingStep[], { number: string; id: string }>({
      query: ({ number, id }) => `jobs/${number}/workings/${id}`,
    }),
    recordTest: b.mutation<Judged, { number: string } & z.input<typeof testBody>>({
      query: ({ number, ...body }) => ({ url: `jobs/${number}/tests`, method: 'POST', body }),
      invalidatesTags: (_r, _e, { number }) => ofJob(number),
    }),
    earlierTests: b.query<EarlierTestView[], string>({
      query: (number) => `jobs/${number}/tests/earlier-visits`,
      providesTags: (_r, _e, number) => [{ type: 'Job', id: number }],
    }),
    testsOfItsKind: b.query<KindReading[], { number: string; kind: string }>({
      query: ({ number, kind }) => ({ url: `jobs/${number}/tests/of-its-kind`, params: { kind } }),
      providesTags: (_r, _e, { number }) => [{ type: 'Job', id: number }],
    }),
    earlierWaves: b.query<
      { waves: EarlierWaves },
      { number: string; stage: string; part: string; rotor: string; supersedes?: string | undefined }
    >({
      query: ({ number, ...params }) => ({ url: `jobs/${number}/tests/earlier-waves`, params }),
      providesTags: (_r, _e, { number }) => [{ type: 'Job', id: number }],
    }),
    measure: b.mutation<{ analyser: string }, { number: string } & z.input<typeof measureBody>>({
      query: ({ number, ...body }) => ({ url: `jobs/${number}/measure`, method: 'POST', body }),
      invalidatesTags: ['Instruments'],
    }),
    firstPass: b.query<YieldGroup[], { by: YieldBy; from?: string; to?: string }>({
      query: (params) => ({ url: 'tests/yield', params }),
      providesTags: ['Floor'],
    }),
    otherwise: b.query<Rejudged, void>({ query: () => 'tests/otherwise', providesTags: ['Shop', 'Floor'] }),
    signTest: b.mutation<object, { number: string; id: string; reason: string }>({
      query: ({ number, id, reason }) => ({ url: `jobs/${number}/tests/${id}/sign`, method: 'POST', body: { reason } }),
      invalidatesTags: (_r, _e, { number }) => ofJob(number),
    }),
    recordCure: b.mutation<CuredAnswer, { number: string } & z.input<typeof cureBody>>({
      query: ({ number, ...body }) => ({ url: `jobs/${number}/cures`, method: 'POST', body }),
      invalidatesTags: (_r, _e, { number }) => ofJob(number),
    }),
    recordTraceCure: b.mutation<object, { number: string } & z.input<typeof traceCureBody>>({
      query: ({ number, ...body }) => ({ url: `jobs/${number}/cures/from-trace`, method: 'POST', body }),
      invalidatesTags: (_r, e, { number }) => (e ? [] : ofJob(number)),
    }),
    recordBalance: b.mutation<Judged, { number: string } & z.input<typeof balanceBody>>({
      query: ({ number, ...body }) => ({ url: `jobs/${number}/balances`, method: 'POST', body }),
      invalidatesTags: (_r, _e, { number }) => ofJob(number),
    }),
    trend: b.query<Trend, { number: string; what: string }>({
      query: ({ number, what }) => ({ url: `jobs/${number}/trend`, params: { what } }),
      providesTags: (_r, _e, { number }) => [{ type: 'Job', id: number }],
    }),
  }),
});

export const {
  useFirstPassQuery,
  useWorkingQuery,
  useRecordTestMutation,
  useLazyOtherwiseQuery,
  useMeasureMutation,
  useEarlierTestsQuery,
  useTestsOfItsKindQuery,
  useEarlierWavesQuery,
  useSignTestMutation,
  useRecordCureMutation,
  useRecordTraceCureMutation,
  useRecordBalanceMutation,
  useTrendQuery,
} = evaluateApi;
