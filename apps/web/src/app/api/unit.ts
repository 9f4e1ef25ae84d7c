import type { newUnitsBody, unitBody, UnitDetail, UnitsView } from '@norther/contracts';
import type { z } from 'zod';
import { api, ofJob } from './base.ts';

export const unitApi = api.injectEndpoints({
  endpoints: (b) => ({
    units: b.query<UnitsView, { number: string; after: number; q: string }>({
      query: ({ number, ...params }) => ({ url: `jobs/${number}/units`, params }),
      providesTags: (_r, _e, { number }) => [{ type: 'Job', id: number }],
    }),
    unit: b.query<UnitDetail, { number: string; ordinal: number }>({
      query: ({ number, ordinal }) => `jobs/${number}/units/${ordinal}`,
      providesTags: (_r, _e, { number }) => [{ type: 'Job', id: number }],
    }),
    addUnits: b.mutation<UnitsView, { number: string } & z.input<typeof newUnitsBody>>({
      query: ({ number, ...body }) => ({ url: `jobs/${number}/units`, method: 'POST', body }),
      invalidatesTags: (_r, e, { number }) => (e ? [] : ofJob(number)),
    }),
    nameUnit: b.mutation<null, { number: string; ordinal: number } & z.input<typeof unitBody>>({
      query: ({ number, ordinal, ...body }) => ({ url: `jobs/${number}/units/${ordinal}`, method: 'PUT', body }),
      invalidatesTags: (_r, e, { number }) => (e ? [] : ofJob(number)),
    }),
  }),
});

export const { useUnitsQuery, useUnitQuery, useAddUnitsMutation, useNameUnitMutation } = unitApi;
