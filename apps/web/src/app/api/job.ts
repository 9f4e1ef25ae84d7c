import type {
  AuditView,
  JobDetail,
  JobSummary,
  NewJob,
  SearchHit,
  Visit,
  changeJobBody,
  issueReportBody,
} from '@norther/contracts';
import type { z } from 'zod';
import { api, ofJob } from './base.ts';

export const jobApi = api.injectEndpoints({
  endpoints: (b) => ({
    floor: b.query<{ jobs: JobSummary[]; total: number }, { closed: boolean }>({
      query: ({ closed }) => `jobs${closed ? '?closed=yes' : ''}`,
      transformResponse: (jobs: JobSummary[], meta) => ({
        jobs,
        total: Number(
          (meta as { response?: Response } | undefined)?.response?.headers.get('x-total-count') ?? jobs.length,
        ),
      }),
      providesTags: ['Floor'],
    }),
    summary: b.query<JobSummary, string>({ query: (number) => `jobs/${encodeURIComponent(number)}/summary` }),
    job: b.query<JobDetail, string>({
      query: (number) => `jobs/${encodeURIComponent(number)}`,
      providesTags: (_r, _e, number) => [{ type: 'Job', id: number }],
    }),
    takeJob: b.mutation<{ number: string }, NewJob>({
      query: (body) => ({ url: 'jobs', method: 'POST', body }),
      invalidatesTags: ['Floor'],
    }),
    changeJob: b.mutation<JobDetail, { number: string; body: z.input<typeof changeJobBody> }>({
      query: ({ number, body }) => ({ url: `jobs/${number}`, method: 'PUT', body }),
      invalidatesTags: (_r, _e, { number }) => ofJob(number),
    }),
    visits: b.query<Visit[], string>({ query: (serial) => `visits?serial=${encodeURIComponent(serial)}` }),
    customers: b.query<{ id: string; name: string }[], string>({
      query: (q) => `customers?q=${encodeURIComponent(q)}`,
    }),
    addFile: b.mutation<{ id: string }, { number: string; name: string; content: Blob }>({
      query: ({ number, name, content }) => ({
        url: `jobs/${number}/attachments`,
        method: 'POST',
        body: content,
        headers: {
          'Content-Type': content.type || 'application/octet-stream',
          'X-File-Name': encodeURIComponent(name),
        },
      }),
      invalidatesTags: (_r, _e, { number }) => ofJob(number),
    }),
    history: b.query<AuditView[], string>({
      query: (number) => `jobs/${number}/history`,
      providesTags: (_r, _e, number) => [{ type: 'Job', id: number }],
    }),
    search: b.query<SearchHit[], string>({ query: (q) => `search?q=${encodeURIComponent(q)}`, keepUnusedDataFor: 5 }),
    bring: b.mutation<{ number: string }, unknown>({
      query: (body) => ({ url: 'import', method: 'POST', body }),
      invalidatesTags: ['Floor'],
    }),
    issueReport: b.mutation<{ id: string; revision: number }, { number: string } & z.input<typeof issueReportBody>>({
      query: ({ number, ...body }) => ({ url: `jobs/${number}/reports`, method: 'POST', body }),
      invalidatesTags: (_r, _e, { number }) => ofJob(number),
    }),
  }),
});

export const {
  useFloorQuery,
  useJobQuery,
  useTakeJobMutation,
  useChangeJobMutation,
  useVisitsQuery,
  useCustomersQuery,
  useAddFileMutation,
  useHistoryQuery,
  useSearchQuery,
  useBringMutation,
  useIssueReportMutation,
} = jobApi;
