import { configureStore } from '@reduxjs/toolkit';
import { setupListeners } from '@reduxjs/toolkit/query';
import { api } from './api/base.ts';
import { floorMiddleware } from './floorChanges.ts';

export const store = configureStore({
  reducer: { [api.reducerPath]: api.reducer },
  middleware: (before) =>
    before({ serializableCheck: { ignoredActionPaths: ['meta.arg', 'meta.baseQueryMeta'] } }).concat(
      api.middleware,
      floorMiddleware,
    ),
});
setupListeners(store.dispatch);
