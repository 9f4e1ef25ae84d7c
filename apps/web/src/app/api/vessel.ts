import type {
  JobCycleView,
  VesselView,
  changeVesselBody,
  cycleNoteBody,
  newCycleBody,
  signalsBody,
  vesselBody,
} from '@norther/contracts';
import type { z } from 'zod';
import { api } from './base.ts';

const changed = (_r: unknown, e: unknown) => (e ? [] : (['Ovens'] as const));

export const vesselApi = api.injectEndpoints({
  endpoints: (b) => ({
    vessels: b.query<VesselView[], void>({ query: () => 'vessels', providesTags: ['Ovens'] }),
    jobCycles: b.query<JobCycleView[], string>({
      query: (number) => `jobs/${number}/cycles`,
      providesTags: ['Ovens'],
    }),
    addVessel: b.mutation<{ id: string }, z.input<typeof vesselBody>>({
      query: (body) => ({ url: 'vessels', method: 'POST', body }),
      invalidatesTags: changed,
    }),
    changeVessel: b.mutation<{ id: string }, { id: string } & z.input<typeof changeVesselBody>>({
      query: ({ id, ...body }) => ({ url: `vessels/${id}`, method: 'PUT', body }),
      invalidatesTags: changed,
    }),
    beginCycle: b.mutation<{ id: string; number: number }, { id: string } & z.input<typeof newCycleBody>>({
      query: ({ id, ...body }) => ({ url: `vessels/${id}/cycles`, method: 'POST', body }),
      invalidatesTags: changed,
    }),
    nextStage: b.mutation<{ stage: string }, { id: string; reason: string }>({
      query: ({ id, reason }) => ({ url: `vessels/cycles/${id}/next`, method: 'POST', body: { reason } }),
      invalidatesTags: changed,
    }),
    noteCycle: b.mutation<object, { id: string } & z.input<typeof cycleNoteBody>>({
      query: ({ id, ...body }) => ({ url: `vessels/cycles/${id}/notes`, method: 'POST', body }),
      invalidatesTags: changed,
    }),
    typeSignals: b.mutation<object, { id: string } & z.input<typeof signalsBody>>({
      query: ({ id, ...body }) => ({ url: `vessels/cycles/${id}/signals`, method: 'POST', body }),
      invalidatesTags: changed,
    }),
  }),
});

export const {
  useVesselsQuery,
  useJobCyclesQuery,
  useAddVesselMutation,
  useChangeVesselMutation,
  useBeginCycleMutation,
  useNextStageMutation,
  useNoteCycleMutation,
  useTypeSignalsMutation,
} = vesselApi;
