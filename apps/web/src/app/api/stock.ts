import type {
  LotTrace,
  MaterialSheet,
  MotorLot,
  OrderAgain,
  StockEntryView,
  StockLotView,
  changeLotBody,
  lotBody,
  makeListsBody,
  materialBody,
  stockEntryBody,
  useMaterialBody,
} from '@norther/contracts';
import type { WindingPart } from '@norther/core';
import type { z } from 'zod';
import { api, ofJob } from './base.ts';

export const stockApi = api.injectEndpoints({
  endpoints: (b) => ({
    stock: b.query<StockLotView[], void>({ query: () => 'stock', providesTags: ['Stock'] }),
    stockEntries: b.query<StockEntryView[], string>({
      query: (id) => `stock/${id}/entries`,
      providesTags: ['Stock'],
    }),
    lotTrace: b.query<LotTrace, string>({ query: (id) => `stock/${id}/trace`, providesTags: ['Stock'] }),
    motorLots: b.query<MotorLot[], string>({ query: (number) => `jobs/${number}/lots`, providesTags: ['Stock'] }),
    orderAgain: b.query<OrderAgain[], void>({ query: () => 'stock/order-again', providesTags: ['Stock'] }),
    receiveLot: b.mutation<StockLotView, z.input<typeof lotBody>>({
      query: (body) => ({ url: 'stock', method: 'POST', body }),
      invalidatesTags: ['Stock'],
    }),
    changeLot: b.mutation<StockLotView, { id: string } & z.input<typeof changeLotBody>>({
      query: ({ id, ...body }) => ({ url: `stock/${id}`, method: 'PUT', body }),
      invalidatesTags: ['Stock'],
    }),
    enterStock: b.mutation<StockLotView, { id: string } & z.input<typeof stockEntryBody>>({
      query: ({ id, ...body }) => ({ url: `stock/${id}/entries`, method: 'POST', body }),
      invalidatesTags: ['Stock'],
    }),
    material: b.query<MaterialSheet, { number: string; part: WindingPart }>({
      query: ({ number, part }) => `jobs/${number}/material/${part}`,
      providesTags: (_r, _e, { number }) => [{ type: 'Job', id: number }],
    }),
    saveMaterial: b.mutation<MaterialSheet, { number: string; part: WindingPart } & z.input<typeof materialBody>>({
      query: ({ number, part, ...body }) => ({ url: `jobs/${number}/material/${part}`, method: 'PUT', body }),
      invalidatesTags: (_r, e, { number }) => (e ? [] : [...ofJob(number), 'Stock']),
    }),
    makeLists: b.mutation<MaterialSheet, { number: string; part: WindingPart } & z.input<typeof makeListsBody>>({
      query: ({ number, part, ...body }) => ({ url: `jobs/${number}/material/${part}/lists`, method: 'POST', body }),
      invalidatesTags: (_r, e, { number }) => (e ? [] : [...ofJob(number), 'Stock']),
    }),
    useMaterial: b.mutation<MaterialSheet, { number: string; part: WindingPart } & z.input<typeof useMaterialBody>>({
      query: ({ number, part, ...body }) => ({ url: `jobs/${number}/material/${part}/uses`, method: 'POST', body }),
      invalidatesTags: (_r, e, { number }) => (e ? [] : [...ofJob(number), 'Stock']),
    }),
  }),
});

export const {
  useStockQuery,
  useStockEntriesQuery,
  useLotTraceQuery,
  useMotorLotsQuery,
  useOrderAgainQuery,
  useReceiveLotMutation,
  useChangeLotMutation,
  useEnterStockMutation,
  useMaterialQuery,
  useSaveMaterialMutation,
  useMakeListsMutation,
  useUseMaterialMutation,
} = stockApi;
