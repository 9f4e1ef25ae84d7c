import type {
  JobOvenView,
  OvenCandidate,
  OvenLogAnswer,
  OvensView,
  PartOutAnswer,
  WallLoad,
  WallView,
  changeChamberBody,
  chamberBody,
  loadPartBody,
  newLoadBody,
  ovenEventBody,
  ovenLogBody,
  ovenReadingBody,
  probesBody,
} from '@norther/contracts';
import type { z } from 'zod';
import { api } from './base.ts';

export const ovenApi = api.injectEndpoints({
  endpoints: (b) => ({
    ovens: b.query<OvensView, void>({ query: () => 'ovens', providesTags: ['Ovens'] }),
    jobOvens: b.query<JobOvenView[], string>({
      query: (number) => `jobs/${number}/ovens`,
      providesTags: ['Ovens'],
    }),
    candidates: b.query<OvenCandidate[], string>({
      query: (id) => `ovens/loads/${id}/candidates`,
      providesTags: ['Ovens', 'Floor'],
    }),
    addChamber: b.mutation<{ id: string }, z.input<typeof chamberBody>>({
      query: (body) => ({ url: 'ovens/chambers', method: 'POST', body }),
      invalidatesTags: ['Ovens'],
    }),
    changeChamber: b.mutation<{ id: string }, { id: string } & z.input<typeof changeChamberBody>>({
      query: ({ id, ...body }) => ({ url: `ovens/chambers/${id}`, method: 'PUT', body }),
      invalidatesTags: ['Ovens'],
    }),
    beginLoad: b.mutation<{ id: string; number: number }, z.input<typeof newLoadBody>>({
      query: (body) => ({ url: 'ovens/loads', method: 'POST', body }),
      invalidatesTags: ['Ovens'],
    }),
    putIn: b.mutation<{ part: string }, { id: string } & z.input<typeof loadPartBody>>({
      query: ({ id, ...body }) => ({ url: `ovens/loads/${id}/parts`, method: 'POST', body }),
      invalidatesTags: ['Ovens'],
    }),
    takeOut: b.mutation<PartOutAnswer, { id: string; part: string; reason: string }>({
      query: ({ id, part, reason }) => ({
        url: `ovens/loads/${id}/parts/${part}/out`,
        method: 'POST',
        body: { reason },
      }),
      invalidatesTags: (_r, e) => (e ? [] : ['Ovens']),
    }),
    startLoad: b.mutation<object, string>({
      query: (id) => ({ url: `ovens/loads/${id}/start`, method: 'POST', body: {} }),
      invalidatesTags: ['Ovens'],
    }),
    setProbes: b.mutation<object, { id: string } & z.input<typeof probesBody>>({
      query: ({ id, ...body }) => ({ url: `ovens/loads/${id}/probes`, method: 'PUT', body }),
      invalidatesTags: (_r, e) => (e ? [] : ['Ovens']),
    }),
    addOvenReading: b.mutation<object, { id: string } & z.input<typeof ovenReadingBody>>({
      query: ({ id, ...body }) => ({ url: `ovens/loads/${id}/readings`, method: 'POST', body }),
      invalidatesTags: (_r, e) => (e ? [] : ['Ovens']),
    }),
    addOvenLog: b.mutation<OvenLogAnswer, { id: string } & z.input<typeof ovenLogBody>>({
      query: ({ id, ...body }) => ({ url: `ovens/loads/${id}/logs`, method: 'POST', body }),
      invalidatesTags: (_r, e) => (e ? [] : ['Ovens']),
    }),
    addOvenEvent: b.mutation<object, { id: string } & z.input<typeof ovenEventBody>>({
      query: ({ id, ...body }) => ({ url: `ovens/loads/${id}/events`, method: 'POST', body }),
      invalidatesTags: (_r, e) => (e ? [] : ['Ovens']),
    }),
    walls: b.query<WallView[], void>({ query: () => 'walls', providesTags: ['Ovens'] }),
    addWall: b.mutation<{ id: string; secret: string }, { name: string }>({
      query: (body) => ({ url: 'walls', method: 'POST', body }),
      invalidatesTags: ['Ovens'],
    }),
    revokeWall: b.mutation<object, string>({
      query: (id) => ({ url: `walls/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Ovens'],
    }),
    wall: b.query<WallLoad[], string>({ query: (secret) => `wall/${secret}` }),
  }),
});

export const {
  useOvensQuery,
  useJobOvensQuery,
  useCandidatesQuery,
  useAddChamberMutation,
  useChangeChamberMutation,
  useBeginLoadMutation,
  usePutInMutation,
  useTakeOutMutation,
  useStartLoadMutation,
  useSetProbesMutation,
  useAddOvenReadingMutation,
  useAddOvenEventMutation,
  useAddOvenLogMutation,
  useWallsQuery,
  useAddWallMutation,
  useRevokeWallMutation,
  useWallQuery,
} = ovenApi;
