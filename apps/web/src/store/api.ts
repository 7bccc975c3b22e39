import type { Plan } from '@firm-needle/core/procedure';
import type { EventCorrection } from '@firm-needle/core/trace';
import { createApi } from '@reduxjs/toolkit/query/react';
import { allSites, base, oneControl, photosOf, whole } from './asked.ts';
import type {
  Control,
  ControlForm,
  ControlPhoto,
  CopyForm,
  DeviceForm,
  DueItem,
  EquipmentForm,
  FirmGauge,
  GaugeForm,
  GaugeHistory,
  JobInfo,
  KeptTrace,
  ListedTrace,
  Hit,
  Life,
  Me,
  NewCalendar,
  NewLink,
  OpenCalendar,
  OpenSession,
  Page,
  PasswordForm,
  Person,
  PersonForm,
  PracticeOverview,
  PracticeRun,
  PracticeTest,
  PracticeTestForm,
  RecordSaved,
  Saved,
  Seal,
  SetupForm,
  SharedLink,
  SharedSheet,
  SetupState,
  SignInForm,
  Site,
  SiteForm,
  Visit,
  VisitForm,
  Week,
  WholePracticeRun,
} from '@firm-needle/contract';

export const api = createApi({
  reducerPath: 'api',
  baseQuery: base,
  tagTypes: [
    'Gauge',
    'Me',
    'Visit',
    'Control',
    'Job',
    'Trace',
    'Site',
    'Due',
    'Person',
    'Session',
    'Photo',
    'Link',
    'Calendar',
    'Practice',
  ],
  endpoints: (build) => ({
    me: build.query<Me, void>({ query: () => ({ path: '/auth/me' }), providesTags: ['Me'] }),
    signIn: build.mutation<Me, SignInForm>({
      query: (body) => ({ method: 'POST', path: '/auth/sign-in', body }),
    }),
    practiceRuns: build.query<Page<PracticeRun>, void>({
      query: () => ({ path: '/practice/runs' }),
      providesTags: ['Practice'],
    }),
    sharedPracticeRuns: build.query<Page<PracticeRun>, void>({
      query: () => ({ path: '/practice/runs?shown=true' }),
      providesTags: ['Practice'],
    }),
    practiceRun: build.query<WholePracticeRun, string>({
      query: (id) => ({ path: `/practice/runs/${id}` }),
      providesTags: ['Practice'],
    }),
    sharePracticeRun: build.mutation<PracticeRun, string>({
      query: (id) => ({ method: 'POST', path: `/practice/runs/${id}/share` }),
      invalidatesTags: ['Practice'],
    }),
    unfairPracticeRun: build.mutation<PracticeRun, { id: string; reason: string }>({
      query: ({ id, reason }) => ({ method: 'POST', path: `/practice/runs/${id}/unfair`, body: { reason } }),
      invalidatesTags: ['Practice'],
    }),
    practiceTests: build.query<Page<PracticeTest>, void>({
      query: () => ({ path: '/practice/tests' }),
      providesTags: ['Practice'],
    }),
    savePracticeTest: build.mutation<PracticeTest, { id: string; body: PracticeTestForm }>({
      query: ({ id, body }) => ({ method: 'PUT', path: `/practice/tests/${id}`, body }),
      invalidatesTags: ['Practice'],
    }),
    startPracticeTest: build.mutation<PracticeTest, { id: string; run: string }>({
      query: ({ id, run }) => ({ method: 'POST', path: `/practice/tests/${id}/start`, body: { run } }),
      invalidatesTags: ['Practice'],
    }),
    practiceOverview: build.query<PracticeOverview, void>({
      query: () => ({ path: '/practice/overview' }),
      providesTags: ['Practice'],
    }),
    visits: build.query<Page<Visit>, void>({
      queryFn: () => whole<Visit>('/visits'),
      providesTags: ['Visit'],
    }),
    visit: build.query<Visit, string>({
      query: (id) => ({ path: `/visits/${id}` }),
      providesTags: ['Visit'],
    }),
    sites: build.query<Page<Site>, void>({ queryFn: allSites, providesTags: ['Site'] }),
    retiredSites: build.query<Page<Site>, void>({
      queryFn: () => whole<Site>('/sites', '&retired=true'),
      providesTags: ['Site'],
    }),
    saveSite: build.mutation<RecordSaved, { id: string; body: SiteForm }>({
      query: ({ id, body }) => ({ method: 'PUT', path: `/sites/${id}`, body }),
      invalidatesTags: ['Site', 'Control', 'Due', 'Visit'],
    }),
    copySite: build.mutation<RecordSaved, { id: string; body: CopyForm }>({
      query: ({ id, body }) => ({ method: 'PUT', path: `/sites/${id}/copy`, body }),
      invalidatesTags: ['Site', 'Due'],
    }),
    saveEquipment: build.mutation<RecordSaved, { id: string; body: EquipmentForm }>({
      query: ({ id, body }) => ({ method: 'PUT', path: `/equipment/${id}`, body }),
      invalidatesTags: ['Site', 'Control', 'Due'],
    }),
    saveControl: build.mutation<RecordSaved, { id: string; body: ControlForm }>({
      query: ({ id, body }) => ({ method: 'PUT', path: `/controls/${id}`, body }),
      invalidatesTags: ['Site', 'Control', 'Due', 'Visit'],
    }),
    copyControl: build.mutation<RecordSaved, { id: string; body: CopyForm }>({
      query: ({ id, body }) => ({ method: 'PUT', path: `/controls/${id}/copy`, body }),
      invalidatesTags: ['Site', 'Due'],
    }),
    fitDevice: build.mutation<Saved, { control: string; id: string; body: DeviceForm }>({
      query: ({ control, id, body }) => ({ method: 'PUT', path: `/controls/${control}/devices/${id}`, body }),
      invalidatesTags: ['Control', 'Due'],
    }),
    life: build.query<Life, string>({
      query: (id) => ({ path: `/controls/${id}/life` }),
      providesTags: ['Control', 'Job'],
    }),
    due: build.query<Page<DueItem>, string>({
      queryFn: (until) => whole<DueItem>('/due', `&until=${until}`),
      providesTags: ['Due'],
    }),
    week: build.query<Week, string>({
      query: (from) => ({ path: `/visits/week?from=${from}` }),
      providesTags: ['Visit'],
    }),
    saveVisit: build.mutation<RecordSaved, { id: string; body: VisitForm }>({
      query: ({ id, body }) => ({ method: 'PUT', path: `/visits/${id}`, body }),
      invalidatesTags: ['Visit', 'Due'],
    }),
    packVisit: build.mutation<Saved, { id: string; items: readonly string[] }>({
      query: ({ id, items }) => ({ method: 'PUT', path: `/visits/${id}/packed`, body: { items } }),
      invalidatesTags: ['Visit'],
    }),
    people: build.query<Page<Person>, void>({
      queryFn: () => whole<Person>('/people'),
      providesTags: ['Person'],
    }),
    savePerson: build.mutation<RecordSaved, { id: string; body: PersonForm }>({
      query: ({ id, body }) => ({ method: 'PUT', path: `/people/${id}`, body }),
      invalidatesTags: ['Person', 'Visit'],
    }),
    sessions: build.query<readonly OpenSession[], void>({
      query: () => ({ path: '/auth/sessions' }),
      providesTags: ['Session'],
    }),
    endSession: build.mutation<null, string>({
      query: (id) => ({ method: 'DELETE', path: `/auth/sessions/${id}` }),
      invalidatesTags: ['Session'],
    }),
    changePassword: build.mutation<null, PasswordForm>({
      query: (body) => ({ method: 'POST', path: '/auth/password', body }),
      invalidatesTags: ['Session'],
    }),
    setup: build.query<SetupState, void>({ query: () => ({ path: '/setup' }) }),
    begin: build.mutation<Me, SetupForm>({ query: (body) => ({ method: 'POST', path: '/setup', body }) }),
    search: build.query<readonly Hit[], string>({
      query: (q) => ({ path: `/search?q=${encodeURIComponent(q)}` }),
      keepUnusedDataFor: 10,
    }),
    gauges: build.query<Page<FirmGauge>, void>({
      queryFn: () => whole<FirmGauge>('/gauges'),
      providesTags: ['Gauge'],
    }),
    gauge: build.query<GaugeHistory, string>({
      query: (id) => ({ path: `/gauges/${id}` }),
      providesTags: ['Gauge'],
    }),
    saveGauge: build.mutation<Saved, { id: string; body: GaugeForm }>({
      query: ({ id, body }) => ({ method: 'PUT', path: `/gauges/${id}`, body }),
      invalidatesTags: ['Gauge'],
    }),
    gaugeControl: build.mutation<Saved, string>({
      query: (id) => ({ method: 'POST', path: `/gauges/${id}/control` }),
      invalidatesTags: ['Gauge'],
    }),
    control: build.query<Control, string>({ queryFn: oneControl, providesTags: ['Control'] }),
    /** The plan of a control under an id made here. */
    savePlan: build.mutation<Saved, { path: string; body: { version: number; plan: Plan } }>({
      query: ({ path, body }) => ({ method: 'PUT', path, body }),
    }),
    linkControl: build.mutation<null, { control: string; role: string; to: string | null }>({
      query: ({ control, role, to }) => ({
        method: 'PUT',
        path: `/controls/${control}/links/${role}`,
        body: { to },
      }),
      invalidatesTags: ['Control'],
    }),
    /** Kept traces, the newest first; `q` are letters of their names or of where they were recorded. */
    traces: build.query<Page<ListedTrace>, { q: string; limit: number }>({
      query: ({ q, limit }) => ({
        path: `/traces?limit=${limit}${q === '' ? '' : `&q=${encodeURIComponent(q)}`}`,
      }),
      providesTags: ['Trace'],
    }),
    trace: build.query<KeptTrace, string>({
      query: (id) => ({ path: `/traces/${id}` }),
      providesTags: ['Trace'],
    }),
    /** The worker sent a trace. */
    traceKept: build.mutation<null, void>({ queryFn: () => ({ data: null }), invalidatesTags: ['Trace'] }),
    correctTrace: build.mutation<KeptTrace, { id: string; said: string; body: EventCorrection }>({
      query: ({ id, said, body }) => ({ method: 'PUT', path: `/traces/${id}/corrections/${said}`, body }),
      invalidatesTags: ['Trace'],
    }),
    job: build.query<JobInfo, string>({ query: (id) => ({ path: `/jobs/${id}` }), providesTags: ['Job'] }),
    photos: build.query<readonly ControlPhoto[], string>({
      queryFn: photosOf,
      providesTags: ['Photo', 'Job'],
    }),
    shared: build.query<SharedSheet, string>({
      query: (token) => ({ path: `/shared/${encodeURIComponent(token)}` }),
    }),
    links: build.query<readonly SharedLink[], string>({
      query: (job) => ({ path: `/jobs/${job}/shares` }),
      providesTags: ['Link'],
    }),
    makeLink: build.mutation<NewLink, { job: string; days: number; zone: string }>({
      query: ({ job, ...body }) => ({ method: 'POST', path: `/jobs/${job}/shares`, body }),
      invalidatesTags: ['Link'],
    }),
    withdrawLink: build.mutation<null, string>({
      query: (id) => ({ method: 'DELETE', path: `/shares/${id}` }),
      invalidatesTags: ['Link'],
    }),
    calendars: build.query<readonly OpenCalendar[], void>({
      query: () => ({ path: '/calendars' }),
      providesTags: ['Calendar'],
    }),
    makeCalendar: build.mutation<NewCalendar, boolean>({
      query: (own) => ({ method: 'POST', path: '/calendars', body: { own } }),
      invalidatesTags: ['Calendar'],
    }),
    withdrawCalendar: build.mutation<null, string>({
      query: (id) => ({ method: 'DELETE', path: `/calendars/${id}` }),
      invalidatesTags: ['Calendar'],
    }),
    seal: build.query<Seal, string>({ query: (id) => ({ path: `/jobs/${id}/seal` }), providesTags: ['Job'] }),
  }),
});

export const {
  usePracticeRunsQuery,
  useSharedPracticeRunsQuery,
  usePracticeRunQuery,
  useSharePracticeRunMutation,
  useUnfairPracticeRunMutation,
  usePracticeTestsQuery,
  useSavePracticeTestMutation,
  useStartPracticeTestMutation,
  usePracticeOverviewQuery,
  useMeQuery,
  useSignInMutation,
  useVisitsQuery,
  useVisitQuery,
  useSitesQuery,
  useRetiredSitesQuery,
  useSaveSiteMutation,
  useCopySiteMutation,
  useSaveEquipmentMutation,
  useSaveControlMutation,
  useCopyControlMutation,
  useFitDeviceMutation,
  useLifeQuery,
  useDueQuery,
  useWeekQuery,
  useSaveVisitMutation,
  usePackVisitMutation,
  usePeopleQuery,
  useSavePersonMutation,
  useSessionsQuery,
  useEndSessionMutation,
  useChangePasswordMutation,
  useSetupQuery,
  useBeginMutation,
  useSearchQuery,
  useGaugesQuery,
  useGaugeQuery,
  useSaveGaugeMutation,
  useGaugeControlMutation,
  useControlQuery,
  useLinkControlMutation,
  useSavePlanMutation,
  useTracesQuery,
  useTraceQuery,
  useTraceKeptMutation,
  useCorrectTraceMutation,
  useJobQuery,
  useSealQuery,
  usePhotosQuery,
  useSharedQuery,
  useLinksQuery,
  useMakeLinkMutation,
  useWithdrawLinkMutation,
  useCalendarsQuery,
  useMakeCalendarMutation,
  useWithdrawCalendarMutation,
} = api;
