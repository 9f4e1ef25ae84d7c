import type {
  finishStepBody,
  markPiecesBody,
  PiecesDone,
  routeEditBody,
  RouteTemplateView,
  startStepBody,
} from '@norther/contracts';
import type { Verdict } from '@norther/core';
import type { z } from 'zod';
import { api, ofJob } from './base.ts';

export const processApi = api.injectEndpoints({
  endpoints: (b) => ({
    startStep: b.mutation<object, { number: string; code: string } & z.input<typeof startStepBody>>({
      query: ({ number, code, ...body }) => ({ url: `jobs/${number}/steps/${code}/start`, method: 'POST', body }),
      invalidatesTags: (_r, _e, { number }) => ofJob(number),
    }),
    finishStep: b.mutation<
      { verdict: Verdict; reason: string },
      { number: string; code: string } & z.input<typeof finishStepBody>
    >({
      query: ({ number, code, typed }) => ({
        url: `jobs/${number}/steps/${code}/finish`,
        method: 'POST',
        body: { typed },
      }),
      invalidatesTags: (_r, _e, { number }) => ofJob(number),
    }),
    markPieces: b.mutation<PiecesDone, { number: string; code: string } & z.input<typeof markPiecesBody>>({
      query: ({ number, code, ...body }) => ({ url: `jobs/${number}/steps/${code}/pieces`, method: 'POST', body }),
      invalidatesTags: (_r, e, { number }) => (e ? [] : ofJob(number)),
    }),
    editRoute: b.mutation<object, { number: string } & z.input<typeof routeEditBody>>({
      query: ({ number, ...body }) => ({ url: `jobs/${number}/route/edits`, method: 'POST', body }),
      invalidatesTags: (_r, e, { number }) => (e ? [] : ofJob(number)),
    }),
    toRewind: b.mutation<object, { number: string; reason: string }>({
      query: ({ number, reason }) => ({ url: `jobs/${number}/route/rewind`, method: 'POST', body: { reason } }),
      invalidatesTags: (_r, e, { number }) => (e ? [] : ofJob(number)),
    }),
    routeTemplates: b.query<RouteTemplateView[], void>({ query: () => 'route-templates', providesTags: ['Shop'] }),
    keepRoute: b.mutation<{ id: string }, { number: string; name: string }>({
      query: ({ number, name }) => ({ url: `jobs/${number}/route/template`, method: 'POST', body: { name } }),
      invalidatesTags: (_r, e) => (e ? [] : ['Shop']),
    }),
    retireRoute: b.mutation<object, { id: string; reason: string }>({
      query: ({ id, reason }) => ({ url: `route-templates/${id}/retirement`, method: 'POST', body: { reason } }),
      invalidatesTags: (_r, e) => (e ? [] : ['Shop']),
    }),
    mendStep: b.mutation<object, { number: string; code: string; what: 'reopen' | 'waive' | 'sign'; reason: string }>({
      query: ({ number, code, what, reason }) => ({
        url: `jobs/${number}/steps/${code}/${what}`,
        method: 'POST',
        body: { reason },
      }),
      invalidatesTags: (_r, _e, { number }) => ofJob(number),
    }),
  }),
});

export const {
  useEditRouteMutation,
  useKeepRouteMutation,
  useRetireRouteMutation,
  useRouteTemplatesQuery,
  useToRewindMutation,
  useStartStepMutation,
  useFinishStepMutation,
  useMarkPiecesMutation,
  useMendStepMutation,
} = processApi;
