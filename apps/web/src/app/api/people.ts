import type {
  PersonView,
  SessionView,
  SetupView,
  changePersonBody,
  newPersonBody,
  setupBody,
} from '@norther/contracts';
import type { z } from 'zod';
import { api } from './base.ts';

export const peopleApi = api.injectEndpoints({
  endpoints: (b) => ({
    setup: b.query<SetupView, void>({ query: () => 'setup', providesTags: ['Setup'] }),
    session: b.query<SessionView, void>({ query: () => 'session', providesTags: ['Session'] }),
    draftKeys: b.query<string[], void>({ query: () => 'drafts', providesTags: ['Session'] }),
    known: b.query<SessionView['known'], void>({ query: () => 'session/known', providesTags: ['Session'] }),
    signIn: b.mutation<SessionView, { signIn: string; password: string }>({
      query: (body) => ({ url: 'session', method: 'POST', body }),
      invalidatesTags: (r) => (r ? ['Session', 'Floor', 'Job', 'Shop', 'People'] : []),
    }),
    firstAdmin: b.mutation<SessionView, z.input<typeof setupBody>>({
      query: (body) => ({ url: 'setup', method: 'POST', body }),
      invalidatesTags: (r) => (r ? ['Session', 'Setup'] : []),
    }),
    switchPerson: b.mutation<SessionView, { personId: string; pin: string }>({
      query: (body) => ({ url: 'session/pin', method: 'POST', body }),
      invalidatesTags: (r) => (r ? ['Session', 'Floor', 'Job', 'Shop', 'People'] : []),
    }),
    signOut: b.mutation<void, void>({ query: () => ({ url: 'session', method: 'DELETE' }) }),
    setPin: b.mutation<void, { pin: string }>({
      query: (body) => ({ url: 'session/pin', method: 'PUT', body }),
      invalidatesTags: ['Session'],
    }),
    changePassword: b.mutation<void, { current: string; password: string }>({
      query: (body) => ({ url: 'session/password', method: 'PUT', body }),
      invalidatesTags: ['Session', 'People'],
    }),
    signOutEverywhere: b.mutation<void, void>({
      query: () => ({ url: 'session/everywhere', method: 'DELETE' }),
      invalidatesTags: ['Session'],
    }),
    signOutPerson: b.mutation<void, string>({ query: (id) => ({ url: `people/${id}/sessions`, method: 'DELETE' }) }),
    people: b.query<PersonView[], void>({ query: () => 'people', providesTags: ['People'] }),
    addPerson: b.mutation<PersonView, z.input<typeof newPersonBody>>({
      query: (body) => ({ url: 'people', method: 'POST', body }),
      invalidatesTags: ['People'],
    }),
    changePerson: b.mutation<PersonView, { id: string } & z.input<typeof changePersonBody>>({
      query: ({ id, ...body }) => ({ url: `people/${id}`, method: 'PUT', body }),
      invalidatesTags: ['People'],
    }),
  }),
});

export const {
  useSetupQuery,
  useSessionQuery,
  useDraftKeysQuery,
  useKnownQuery,
  useSignInMutation,
  useFirstAdminMutation,
  useSwitchPersonMutation,
  useSignOutMutation,
  useSetPinMutation,
  useChangePasswordMutation,
  useSignOutEverywhereMutation,
  useSignOutPersonMutation,
  usePeopleQuery,
  useAddPersonMutation,
  useChangePersonMutation,
} = peopleApi;
