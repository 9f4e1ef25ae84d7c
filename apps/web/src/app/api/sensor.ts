import type { fitSensorBody, readSensorBody, SensorView } from '@norther/contracts';
import type { Judged } from '@norther/core';
import type { z } from 'zod';
import { api, ofJob } from './base.ts';

export const sensorApi = api.injectEndpoints({
  endpoints: (b) => ({
    sensors: b.query<SensorView[], string>({
      query: (number) => `jobs/${number}/sensors`,
      providesTags: (_r, _e, number) => ofJob(number),
    }),
    fitSensor: b.mutation<{ id: string }, { number: string } & z.input<typeof fitSensorBody>>({
      query: ({ number, ...body }) => ({ url: `jobs/${number}/sensors`, method: 'POST', body }),
      invalidatesTags: (_r, e, { number }) => (e ? [] : ofJob(number)),
    }),
    readSensor: b.mutation<Judged, { number: string; id: string } & z.input<typeof readSensorBody>>({
      query: ({ number, id, ...body }) => ({ url: `jobs/${number}/sensors/${id}/readings`, method: 'POST', body }),
      invalidatesTags: (_r, e, { number }) => (e ? [] : ofJob(number)),
    }),
    removeSensor: b.mutation<object, { number: string; id: string; reason: string }>({
      query: ({ number, id, reason }) => ({
        url: `jobs/${number}/sensors/${id}/removal`,
        method: 'POST',
        body: { reason },
      }),
      invalidatesTags: (_r, e, { number }) => (e ? [] : ofJob(number)),
    }),
  }),
});

export const { useSensorsQuery, useFitSensorMutation, useReadSensorMutation, useRemoveSensorMutation } = sensorApi;
