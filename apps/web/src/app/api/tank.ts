import type { TankView, changeTankBody, fillTankBody, tankBody, tankTestBody } from '@norther/contracts';
import type { z } from 'zod';
import { api } from './base.ts';

export const tankApi = api.injectEndpoints({
  endpoints: (b) => ({
    tanks: b.query<TankView[], void>({ query: () => 'tanks', providesTags: ['Ovens', 'Stock'] }),
    addTank: b.mutation<{ id: string }, z.input<typeof tankBody>>({
      query: (body) => ({ url: 'tanks', method: 'POST', body }),
      invalidatesTags: (_r, e) => (e ? [] : ['Ovens']),
    }),
    changeTank: b.mutation<{ id: string }, { id: string } & z.input<typeof changeTankBody>>({
      query: ({ id, ...body }) => ({ url: `tanks/${id}`, method: 'PUT', body }),
      invalidatesTags: (_r, e) => (e ? [] : ['Ovens']),
    }),
    testTank: b.mutation<{ verdict: string; reason: string }, { id: string } & z.input<typeof tankTestBody>>({
      query: ({ id, ...body }) => ({ url: `tanks/${id}/tests`, method: 'POST', body }),
      invalidatesTags: (_r, e) => (e ? [] : ['Ovens']),
    }),
    fillTank: b.mutation<{ lot: string }, { id: string } & z.input<typeof fillTankBody>>({
      query: ({ id, ...body }) => ({ url: `tanks/${id}/fill`, method: 'POST', body }),
      invalidatesTags: (_r, e) => (e ? [] : ['Ovens', 'Stock']),
    }),
  }),
});

export const { useTanksQuery, useAddTankMutation, useChangeTankMutation, useTestTankMutation, useFillTankMutation } =
  tankApi;
