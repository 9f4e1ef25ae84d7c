import type {
  FailureView,
  failureBody,
  JointSheet,
  WindingView,
  jointSheetBody,
  releasePlanBody,
  tickBody,
  windingBody,
} from '@norther/contracts';
import type { WindingPart } from '@norther/core';
import type { z } from 'zod';
import { api, ofJob } from './base.ts';

export const windingApi = api.injectEndpoints({
  endpoints: (b) => ({
    saveWinding: b.mutation<WindingView, { number: string } & z.input<typeof windingBody>>({
      query: ({ number, ...body }) => ({ url: `jobs/${number}/winding`, method: 'PUT', body }),
      invalidatesTags: (_r, e, { number }) => (e ? [] : ofJob(number)),
    }),
    releasePlan: b.mutation<WindingView, { number: string } & z.input<typeof releasePlanBody>>({
      query: ({ number, ...body }) => ({ url: `jobs/${number}/winding/release`, method: 'POST', body }),
      invalidatesTags: (_r, _e, { number }) => [...ofJob(number), 'Archive'],
    }),
    saveFailure: b.mutation<FailureView, { number: string } & z.input<typeof failureBody>>({
      query: ({ number, ...body }) => ({ url: `jobs/${number}/failure`, method: 'PUT', body }),
      invalidatesTags: (_r, e, { number }) => (e ? [] : ofJob(number)),
    }),
    joints: b.query<JointSheet, { number: string; part: WindingPart }>({
      query: ({ number, part }) => `jobs/${number}/joints/${part}`,
      providesTags: (_r, _e, { number }) => [{ type: 'Job', id: number }],
    }),
    tickJoint: b.mutation<JointSheet, { number: string; part: WindingPart } & z.input<typeof tickBody>>({
      query: ({ number, part, ...body }) => ({ url: `jobs/${number}/joints/${part}/ticks`, method: 'POST', body }),
      invalidatesTags: (_r, _e, { number }) => ofJob(number),
    }),
    saveJoints: b.mutation<JointSheet, { number: string; part: WindingPart } & z.input<typeof jointSheetBody>>({
      query: ({ number, part, ...body }) => ({ url: `jobs/${number}/joints/${part}`, method: 'PUT', body }),
      invalidatesTags: (_r, _e, { number }) => ofJob(number),
    }),
  }),
});

export const {
  useSaveWindingMutation,
  useReleasePlanMutation,
  useSaveFailureMutation,
  useJointsQuery,
  useTickJointMutation,
  useSaveJointsMutation,
} = windingApi;
