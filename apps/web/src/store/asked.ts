// How the server is asked: one thing, a list to its end, and what was made here beside what it has.
import type { BaseQueryFn } from '@reduxjs/toolkit/query/react';
import { waiting, waitingControl, withWaiting, withWaitingPhotos } from '../sync/pending.ts';
import { request, type Answer } from './http.ts';
import type { Control, ControlPhoto, Page, Problem, Site } from '@firm-needle/contract';

interface Ask {
  readonly method?: string;
  readonly path: string;
  readonly body?: unknown;
}

/** No list of ours is longer; what is would be a mistake that must not go round for ever. */
const MOST_PAGES = 100;

/** A list to its end, however many pages it takes. */
export async function whole<T>(path: string, asking = ''): Promise<{ data: Page<T> } | { error: Problem }> {
  const items: T[] = [];
  let after: string | null = null;
  for (let i = 0; i < MOST_PAGES; i++) {
    const asked: string = `${path}?limit=200${asking}${after === null ? '' : `&after=${encodeURIComponent(after)}`}`;
    const answer: Answer<Page<T>> = await request<Page<T>>('GET', asked);
    if (!answer.ok) return { error: answer.problem };
    items.push(...answer.data.items);
    after = answer.data.next;
    if (after === null) break;
  }
  return { data: { items, next: null } };
}

/** Every site, with what was made on this device and waits to be sent. */
export async function allSites(): Promise<{ data: Page<Site> } | { error: Problem }> {
  const [answer, puts] = await Promise.all([whole<Site>('/sites'), waiting()]);
  if ('error' in answer) {
    const own = withWaiting([], puts);
    return own.length > 0 ? { data: { items: own, next: null } } : answer;
  }
  return { data: { ...answer.data, items: withWaiting(answer.data.items, puts) } };
}

/** A control as the server has it, or as it was made here where the server has not seen it. */
export async function oneControl(id: string): Promise<{ data: Control } | { error: Problem }> {
  const answer = await request<Control>('GET', `/controls/${id}`);
  // A copy that this device kept from an older server knows less.
  if (answer.ok) return { data: { ...FROM_OLDER, ...answer.data } };
  const puts = await waiting();
  const sites = await whole<Site>('/sites');
  const own = waitingControl(id, 'data' in sites ? sites.data.items : [], puts);
  return own ? { data: own } : { error: answer.problem };
}

/** A control's photos, with what was made of them on this device and waits to be sent. */
export async function photosOf(
  control: string,
): Promise<{ data: readonly ControlPhoto[] } | { error: Problem }> {
  const [answer, puts] = await Promise.all([
    request<readonly ControlPhoto[]>('GET', `/controls/${control}/photos`),
    waiting(),
  ]);
  const own = withWaitingPhotos(answer.ok ? answer.data : [], control, puts);
  return answer.ok || own.length > 0 ? { data: own } : { error: answer.problem };
}

const FROM_OLDER = {
  links: [],
  reasons: [],
  months: null,
  lawMonths: null,
  lawBy: null,
  customerDay: null,
  version: 1,
  retired: false,
} as const;

/** One request; what is wrong with it is said in a problem of the contract. */
export const base: BaseQueryFn<Ask, unknown, Problem> = async ({ method = 'GET', path, body }) => {
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
