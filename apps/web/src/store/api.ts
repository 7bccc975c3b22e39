import type { EventCorrection } from '@firm-needle/core/trace';
import { createApi, type BaseQueryFn } from '@reduxjs/toolkit/query/react';
import { request, type Answer } from './http.ts';
import type {
  Control,
  FirmGauge,
  GaugeForm,
  GaugeHistory,
  JobInfo,
  KeptTrace,
  Me,
  Page,
  Problem,
  Saved,
  Seal,
  SignInForm,
  Site,
  Visit,
} from '@firm-needle/contract';

interface Ask {
  readonly method?: string;
  readonly path: string;
  readonly body?: unknown;
}

/** No list of ours is longer; what is would be a mistake that must not go round for ever. */
const MOST_PAGES = 100;

/** A list to its end, however many pages it takes. */
async function whole<T>(path: string): Promise<{ data: Page<T> } | { error: Problem }> {
  const items: T[] = [];
  let after: string | null = null;
  for (let i = 0; i < MOST_PAGES; i++) {
    const asked: string = `${path}?limit=200${after === null ? '' : `&after=${encodeURIComponent(after)}`}`;
    const answer: Answer<Page<T>> = await request<Page<T>>('GET', asked);
    if (!answer.ok) return { error: answer.problem };
    items.push(...answer.data.items);
    after = answer.data.next;
    if (after === null) break;
  }
  return { data: { items, next: null } };
}

const base: BaseQueryFn<Ask, unknown, Problem> = async ({ method = 'GET', path, body }) => {
  const answer = await request<unknown>(method, path, body);
  if (answer.ok) return { data: answer.data ?? null };
  const { problem } = answer;
  // What goes by the outbox is kept on this device; what is asked here is not.
  return method === 'GET' || problem.status !== 0
    ? { error: problem }
    : { error: { ...problem, detail: NOT_SENT } };
};

const NOT_SENT =
  'No connection to the server: this was not sent, and is not kept. Try again when there is one.';

export const api = createApi({
  reducerPath: 'api',
  baseQuery: base,
  tagTypes: ['Gauge', 'Me', 'Visit', 'Control', 'Job', 'Trace'],
  endpoints: (build) => ({
    me: build.query<Me, void>({ query: () => ({ path: '/auth/me' }), providesTags: ['Me'] }),
    signIn: build.mutation<Me, SignInForm>({
      query: (body) => ({ method: 'POST', path: '/auth/sign-in', body }),
    }),
    visits: build.query<Page<Visit>, void>({
      queryFn: () => whole<Visit>('/visits'),
      providesTags: ['Visit'],
    }),
    visit: build.query<Visit, string>({
      query: (id) => ({ path: `/visits/${id}` }),
      providesTags: ['Visit'],
    }),
    sites: build.query<Page<Site>, void>({ queryFn: () => whole<Site>('/sites') }),
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
    control: build.query<Control, string>({
      query: (id) => ({ path: `/controls/${id}` }),
      // A copy that this device kept from an older server knows no links.
      transformResponse: (c: Omit<Control, 'links'> & Partial<Pick<Control, 'links'>>) => ({
        ...c,
        links: c.links ?? [],
      }),
      providesTags: ['Control'],
    }),
    linkControl: build.mutation<null, { control: string; role: string; to: string | null }>({
      query: ({ control, role, to }) => ({
        method: 'PUT',
        path: `/controls/${control}/links/${role}`,
        body: { to },
      }),
      invalidatesTags: ['Control'],
    }),
    traces: build.query<Page<KeptTrace>, void>({
      queryFn: () => whole<KeptTrace>('/traces'),
      providesTags: ['Trace'],
    }),
    trace: build.query<KeptTrace, string>({ query: (id) => ({ path: `/traces/${id}` }) }),
    /** The worker sent a trace. */
    traceKept: build.mutation<null, void>({ queryFn: () => ({ data: null }), invalidatesTags: ['Trace'] }),
    correctTrace: build.mutation<KeptTrace, { id: string; said: string; body: EventCorrection }>({
      query: ({ id, said, body }) => ({ method: 'PUT', path: `/traces/${id}/corrections/${said}`, body }),
    }),
    job: build.query<JobInfo, string>({ query: (id) => ({ path: `/jobs/${id}` }), providesTags: ['Job'] }),
    seal: build.query<Seal, string>({ query: (id) => ({ path: `/jobs/${id}/seal` }), providesTags: ['Job'] }),
  }),
});

export const {
  useMeQuery,
  useSignInMutation,
  useVisitsQuery,
  useVisitQuery,
  useSitesQuery,
  useGaugesQuery,
  useGaugeQuery,
  useSaveGaugeMutation,
  useGaugeControlMutation,
  useControlQuery,
  useLinkControlMutation,
  useTracesQuery,
  useLazyTraceQuery,
  useTraceKeptMutation,
  useCorrectTraceMutation,
  useJobQuery,
  useSealQuery,
} = api;
