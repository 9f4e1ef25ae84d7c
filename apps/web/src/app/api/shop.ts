import type { BackgroundView, ShopSettings, ShopView, WorkView } from '@norther/contracts';
import { api } from './base.ts';

export const shopApi = api.injectEndpoints({
  endpoints: (b) => ({
    shop: b.query<ShopView, void>({ query: () => 'shop', providesTags: ['Shop'] }),
    changeShop: b.mutation<ShopView, { version: number; settings: ShopSettings }>({
      query: (body) => ({ url: 'shop', method: 'PUT', body }),
      invalidatesTags: ['Shop', 'Setup'],
    }),
    background: b.query<BackgroundView, void>({ query: () => 'work', providesTags: ['Work'] }),
    work: b.query<WorkView, string>({ query: (id) => `work/${id}`, providesTags: ['Work'] }),
    backUp: b.mutation<{ id: string }, void>({
      query: () => ({ url: 'work/backup', method: 'POST' }),
      invalidatesTags: ['Work'],
    }),
    cancelWork: b.mutation<WorkView, string>({
      query: (id) => ({ url: `work/${id}/cancel`, method: 'POST' }),
      invalidatesTags: ['Work'],
    }),
  }),
});

export const {
  useShopQuery,
  useChangeShopMutation,
  useBackgroundQuery,
  useWorkQuery,
  useBackUpMutation,
  useCancelWorkMutation,
} = shopApi;
