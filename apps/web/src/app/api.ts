import type {
  archiveImportBody,
  changeLotBody,
  lotBody,
  releasePlanBody,
  stockEntryBody,
  useMaterialBody,
  ArchiveEntry,
  AuditView,
  JobDetail,
  JobSummary,
  JointSheet,
  MaterialSheet,
  NewJob,
  PersonView,
  ProblemDetail,
  Role,
  SearchHit,
  SessionView,
  SetupView,
  ShopSettings,
  ShopView,
  StockEntryView,
  StockLotView,
  Visit,
  WindingView,
  BackgroundView,
  TraceListed,
  traceCureBody,
  changeInstrumentBody,
  InstrumentView,
  newInstrumentBody,
  WorkView,
  TraceView,
  Trend,
} from '@norther/contracts';
import type { JointKind, JointOrder, Verdict, WindingPart } from '@norther/core';
import type { z } from 'zod';
import {
  createApi,
  type BaseQueryFn,
  type FetchArgs,
  fetchBaseQuery,
  type FetchBaseQueryError,
} from '@reduxjs/toolkit/query/react';

/** A key under which the server knows a repeated request; no secure context is needed for it. */
export function newKey(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  return [...bytes].map((b) => b.toString(16).padStart(2, '0')).join('');
}

const plain = fetchBaseQuery({ baseUrl: '/api/', credentials: 'same-origin', responseHandler: 'content-type' });

/** Writes carry an idempotency key, so that a retry after a lost connection stores once. */
const query: BaseQueryFn<string | FetchArgs, unknown, FetchBaseQueryError> = async (args, api, extra) => {
  const request: FetchArgs = typeof args === 'string' ? { url: args } : args;
  const writes = request.method !== undefined && request.method !== 'GET';
  const keyed: FetchArgs = writes
    ? {
        ...request,
        headers: { ...(request.headers as Record<string, string> | undefined), 'Idempotency-Key': newKey() },
      }
    : request;
  let answer = await plain(keyed, api, extra);
  for (let again = 0; again < 3 && answer.error?.status === 'FETCH_ERROR'; again++) {
    await new Promise((r) => setTimeout(r, 400 * 2 ** again));
    answer = await plain(keyed, api, extra);
  }
  return answer;
};

/** The server's problem as the screen needs it; a sentence even when nothing came back. */
export function problemOf(error: unknown): ProblemDetail {
  const e = error as FetchBaseQueryError | undefined;
  if (e && typeof e.status === 'number') {
    const data =
      typeof e.data === 'string'
        ? (safeParse(e.data) as ProblemDetail | undefined)
        : (e.data as ProblemDetail | undefined);
    if (data && typeof data.detail === 'string') return data;
    return {
      type: 'about:blank',
      title: 'Not taken',
      status: e.status,
      detail: 'The server refused this without saying why.',
    };
  }
  return {
    type: 'about:blank',
    title: 'Not reachable',
    status: 0,
    detail: 'The server cannot be reached. What you typed is kept on this device; try again when the network is back.',
  };
}

function safeParse(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}

type Judged = { id: string; verdict: Verdict; reason: string };
/** What a change of one motor makes stale; its line on the floor is asked for by `floorChanges.ts`. */
const ofJob = (number: string) => [{ type: 'Job' as const, id: number }];

export const api = createApi({
  reducerPath: 'api',
  baseQuery: query,
  tagTypes: ['Session', 'Setup', 'People', 'Shop', 'Floor', 'Job', 'Archive', 'Stock', 'Trace', 'Work', 'Instruments'],
  endpoints: (b) => ({
    setup: b.query<SetupView, void>({ query: () => 'setup', providesTags: ['Setup'] }),
    session: b.query<SessionView, void>({ query: () => 'session', providesTags: ['Session'] }),
    known: b.query<SessionView['known'], void>({ query: () => 'session/known', providesTags: ['Session'] }),
    signIn: b.mutation<SessionView, { signIn: string; password: string }>({
      query: (body) => ({ url: 'session', method: 'POST', body }),
      invalidatesTags: (r) => (r ? ['Session', 'Floor', 'Job', 'Shop', 'People'] : []),
    }),
    firstAdmin: b.mutation<SessionView, { name: string; signIn: string; password: string; shopName: string }>({
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
    addPerson: b.mutation<PersonView, { name: string; signIn: string; role: Role; password: string }>({
      query: (body) => ({ url: 'people', method: 'POST', body }),
      invalidatesTags: ['People'],
    }),
    changePerson: b.mutation<
      PersonView,
      { id: string; version: number; name: string; role: Role; active: boolean; password?: string }
    >({ query: ({ id, ...body }) => ({ url: `people/${id}`, method: 'PUT', body }), invalidatesTags: ['People'] }),
    shop: b.query<ShopView, void>({ query: () => 'shop', providesTags: ['Shop'] }),
    changeShop: b.mutation<ShopView, { version: number; settings: ShopSettings }>({
      query: (body) => ({ url: 'shop', method: 'PUT', body }),
      invalidatesTags: ['Shop', 'Setup'],
    }),
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
    changeJob: b.mutation<JobDetail, { number: string; body: Omit<NewJob, 'customerId'> & { version: number } }>({
      query: ({ number, body }) => ({ url: `jobs/${number}`, method: 'PUT', body }),
      invalidatesTags: (_r, _e, { number }) => ofJob(number),
    }),
    visits: b.query<Visit[], string>({ query: (serial) => `visits?serial=${encodeURIComponent(serial)}` }),
    customers: b.query<{ id: string; name: string }[], string>({
      query: (q) => `customers?q=${encodeURIComponent(q)}`,
    }),
    saveWinding: b.mutation<
      WindingView,
      { number: string; part: WindingPart; revision: number; typed: Record<string, string>; reason?: string }
    >({
      query: ({ number, ...body }) => ({ url: `jobs/${number}/winding`, method: 'PUT', body }),
      invalidatesTags: (_r, e, { number }) => (e ? [] : ofJob(number)),
    }),
    releasePlan: b.mutation<WindingView, { number: string } & z.input<typeof releasePlanBody>>({
      query: ({ number, ...body }) => ({ url: `jobs/${number}/winding/release`, method: 'POST', body }),
      invalidatesTags: (_r, _e, { number }) => [...ofJob(number), 'Archive'],
    }),
    archive: b.query<ArchiveEntry[], string>({
      query: (q) => `archive?q=${encodeURIComponent(q)}`,
      providesTags: ['Archive'],
    }),
    similar: b.query<
      ArchiveEntry[],
      { key: string } | { number: string; part: WindingPart; typed: Record<string, string> }
    >({
      query: (body) => ({ url: 'archive/similar', method: 'POST', body }),
      providesTags: ['Archive'],
    }),
    bringArchive: b.mutation<{ kept: number }, z.input<typeof archiveImportBody>>({
      query: (body) => ({ url: 'archive', method: 'POST', body }),
      invalidatesTags: ['Archive'],
    }),
    joints: b.query<JointSheet, { number: string; part: WindingPart }>({
      query: ({ number, part }) => `jobs/${number}/joints/${part}`,
      providesTags: (_r, _e, { number }) => [{ type: 'Job', id: number }],
    }),
    tickJoint: b.mutation<
      JointSheet,
      { number: string; part: WindingPart; joint: string; kind?: JointKind; what: 'made' | 'not made' | 'checked' }
    >({
      query: ({ number, part, ...body }) => ({ url: `jobs/${number}/joints/${part}/ticks`, method: 'POST', body }),
      invalidatesTags: (_r, _e, { number }) => ofJob(number),
    }),
    saveJoints: b.mutation<
      JointSheet,
      { number: string; part: WindingPart; version: number; order: JointOrder; asMade: string }
    >({
      query: ({ number, part, ...body }) => ({ url: `jobs/${number}/joints/${part}`, method: 'PUT', body }),
      invalidatesTags: (_r, _e, { number }) => ofJob(number),
    }),
    stock: b.query<StockLotView[], void>({ query: () => 'stock', providesTags: ['Stock'] }),
    stockEntries: b.query<StockEntryView[], string>({
      query: (id) => `stock/${id}/entries`,
      providesTags: ['Stock'],
    }),
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
    sentTraces: b.query<TraceListed[], string>({
      query: (what) => ({ url: 'traces', params: { what } }),
      providesTags: ['Instruments'],
    }),
    recordTraceCure: b.mutation<object, { number: string } & z.input<typeof traceCureBody>>({
      query: ({ number, ...body }) => ({ url: `jobs/${number}/cures/from-trace`, method: 'POST', body }),
      invalidatesTags: (_r, e, { number }) => (e ? [] : ofJob(number)),
    }),
    background: b.query<BackgroundView, void>({ query: () => 'work', providesTags: ['Work'] }),
    backUp: b.mutation<{ id: string }, void>({
      query: () => ({ url: 'work/backup', method: 'POST' }),
      invalidatesTags: ['Work'],
    }),
    cancelWork: b.mutation<WorkView, string>({
      query: (id) => ({ url: `work/${id}/cancel`, method: 'POST' }),
      invalidatesTags: ['Work'],
    }),
    trace: b.query<TraceView, { id: string; points: number; from?: number | undefined; to?: number | undefined }>({
      query: ({ id, ...params }) => ({ url: `traces/${id}`, params }),
      providesTags: (_r, _e, { id }) => [{ type: 'Trace', id }],
    }),
    trend: b.query<Trend, { number: string; what: string }>({
      query: ({ number, what }) => ({ url: `jobs/${number}/trend`, params: { what } }),
      providesTags: (_r, _e, { number }) => [{ type: 'Job', id: number }],
    }),
    saveMaterial: b.mutation<
      MaterialSheet,
      { number: string; part: WindingPart; version: number; typed: Record<string, string> }
    >({
      query: ({ number, part, ...body }) => ({ url: `jobs/${number}/material/${part}`, method: 'PUT', body }),
      invalidatesTags: (_r, e, { number }) => (e ? [] : [...ofJob(number), 'Stock']),
    }),
    makeLists: b.mutation<MaterialSheet, { number: string; part: WindingPart; version: number }>({
      query: ({ number, part, ...body }) => ({ url: `jobs/${number}/material/${part}/lists`, method: 'POST', body }),
      invalidatesTags: (_r, e, { number }) => (e ? [] : [...ofJob(number), 'Stock']),
    }),
    useMaterial: b.mutation<MaterialSheet, { number: string; part: WindingPart } & z.input<typeof useMaterialBody>>({
      query: ({ number, part, ...body }) => ({ url: `jobs/${number}/material/${part}/uses`, method: 'POST', body }),
      invalidatesTags: (_r, e, { number }) => (e ? [] : [...ofJob(number), 'Stock']),
    }),
    startStep: b.mutation<object, { number: string; code: string; override?: { reason: string } }>({
      query: ({ number, code, ...body }) => ({ url: `jobs/${number}/steps/${code}/start`, method: 'POST', body }),
      invalidatesTags: (_r, _e, { number }) => ofJob(number),
    }),
    finishStep: b.mutation<
      { verdict: Verdict; reason: string },
      { number: string; code: string; typed: Record<string, string> }
    >({
      query: ({ number, code, typed }) => ({
        url: `jobs/${number}/steps/${code}/finish`,
        method: 'POST',
        body: { typed },
      }),
      invalidatesTags: (_r, _e, { number }) => ofJob(number),
    }),
    mendStep: b.mutation<object, { number: string; code: string; what: 'reopen' | 'waive' | 'sign'; reason: string }>({
      query: ({ number, code, what, reason }) => ({
        url: `jobs/${number}/steps/${code}/${what}`,
        method: 'POST',
        body: { reason },
      }),
      invalidatesTags: (_r, _e, { number }) => ofJob(number),
    }),
    recordTest: b.mutation<
      Judged,
      {
        number: string;
        stage: string;
        kind: string;
        typed: Record<string, string>;
        calibratedUntil?: string;
        supersedes?: string;
        reason?: string;
      }
    >({
      query: ({ number, ...body }) => ({ url: `jobs/${number}/tests`, method: 'POST', body }),
      invalidatesTags: (_r, _e, { number }) => ofJob(number),
    }),
    signTest: b.mutation<object, { number: string; id: string; reason: string }>({
      query: ({ number, id, reason }) => ({ url: `jobs/${number}/tests/${id}/sign`, method: 'POST', body: { reason } }),
      invalidatesTags: (_r, _e, { number }) => ofJob(number),
    }),
    recordCure: b.mutation<
      Judged,
      {
        number: string;
        fileName: string;
        csv: string;
        unit?: '°C' | '°F';
        roles: string[];
        resin: string;
        reason?: string;
      }
    >({
      query: ({ number, ...body }) => ({ url: `jobs/${number}/cures`, method: 'POST', body }),
      invalidatesTags: (_r, _e, { number }) => ofJob(number),
    }),
    recordBalance: b.mutation<Judged, { number: string; typed: Record<string, string> }>({
      query: ({ number, typed }) => ({ url: `jobs/${number}/balances`, method: 'POST', body: { typed } }),
      invalidatesTags: (_r, _e, { number }) => ofJob(number),
    }),
    issueReport: b.mutation<{ id: string; revision: number }, string>({
      query: (number) => ({ url: `jobs/${number}/reports`, method: 'POST', body: {} }),
      invalidatesTags: (_r, _e, number) => ofJob(number),
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
  }),
});

export const {
  useSetupQuery,
  useSessionQuery,
  useKnownQuery,
  useSignInMutation,
  useFirstAdminMutation,
  useSwitchPersonMutation,
  useSignOutMutation,
  useSetPinMutation,
  usePeopleQuery,
  useAddPersonMutation,
  useChangePersonMutation,
  useShopQuery,
  useChangeShopMutation,
  useFloorQuery,
  useChangePasswordMutation,
  useSignOutEverywhereMutation,
  useSignOutPersonMutation,
  useJobQuery,
  useTakeJobMutation,
  useChangeJobMutation,
  useVisitsQuery,
  useCustomersQuery,
  useSaveWindingMutation,
  useReleasePlanMutation,
  useArchiveQuery,
  useSimilarQuery,
  useBringArchiveMutation,
  useJointsQuery,
  useTickJointMutation,
  useSaveJointsMutation,
  useStockQuery,
  useStockEntriesQuery,
  useReceiveLotMutation,
  useChangeLotMutation,
  useEnterStockMutation,
  useMaterialQuery,
  useSaveMaterialMutation,
  useMakeListsMutation,
  useUseMaterialMutation,
  useStartStepMutation,
  useFinishStepMutation,
  useMendStepMutation,
  useRecordTestMutation,
  useInstrumentsQuery,
  useAddInstrumentMutation,
  useChangeInstrumentMutation,
  useRenewKeyMutation,
  useSentTracesQuery,
  useRecordTraceCureMutation,
  useBackgroundQuery,
  useBackUpMutation,
  useCancelWorkMutation,
  useTraceQuery,
  useTrendQuery,
  useSignTestMutation,
  useRecordCureMutation,
  useRecordBalanceMutation,
  useIssueReportMutation,
  useAddFileMutation,
  useHistoryQuery,
  useSearchQuery,
  useBringMutation,
} = api;
