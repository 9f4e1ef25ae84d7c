import type {
  InstrumentView,
  TraceListed,
  TraceView,
  changeInstrumentBody,
  commandBody,
  newInstrumentBody,
} from '@norther/contracts';
import type { z } from 'zod';
import { api } from './base.ts';

export const instrumentApi = api.injectEndpoints({
  endpoints: (b) => ({
    instruments: b.query<InstrumentView[], void>({ query: () => 'instruments', providesTags: ['Instruments'] }),
    addInstrument: b.mutation<{ id: string; key: string }, z.input<typeof newInstrumentBody>>({
      query: (body) => ({ url: 'instruments', method: 'POST', body }),
      invalidatesTags: ['Instruments'],
    }),
    changeInstrument: b.mutation<InstrumentView, { id: string } & z.input<typeof changeInstrumentBody>>({
      query: ({ id, ...body }) => ({ url: `instruments/${id}`, method: 'PUT', body }),
      invalidatesTags: ['Instruments'],
    }),
    renewKey: b.mutation<{ id: string; key: string }, string>({
      query: (id) => ({ url: `instruments/${id}/key`, method: 'POST' }),
      invalidatesTags: ['Instruments'],
    }),
    giveCommand: b.mutation<{ id: number }, { id: string } & z.input<typeof commandBody>>({
      query: ({ id, ...body }) => ({ url: `instruments/${id}/commands`, method: 'POST', body }),
      invalidatesTags: ['Instruments'],
    }),
    sentTraces: b.query<TraceListed[], { what: string; job?: string }>({
      query: (params) => ({ url: 'traces', params }),
      providesTags: ['Instruments'],
    }),
    trace: b.query<TraceView, { id: string; points: number; from?: number | undefined; to?: number | undefined }>({
      query: ({ id, ...params }) => ({ url: `traces/${id}`, params }),
      providesTags: (_r, _e, { id }) => [{ type: 'Trace', id }],
    }),
  }),
});

export const {
  useInstrumentsQuery,
  useAddInstrumentMutation,
  useChangeInstrumentMutation,
  useRenewKeyMutation,
  useGiveCommandMutation,
  useSentTracesQuery,
  useTraceQuery,
  useLazyTraceQuery,
} = instrumentApi;
