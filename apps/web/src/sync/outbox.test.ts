import 'fake-indexeddb/auto';
import { afterEach, beforeEach, describe, expect, it, jest } from '@jest/globals';
import type { JobEvent } from '@firm-needle/core/procedure';
import { deviceDb } from './db.ts';
import { Outbox, type OutboxState } from './outbox.ts';

type Answer = { status: number; body: unknown } | 'unreached';
const calls: { method: string; path: string; body: { events?: JobEvent[] } }[] = [];
let answers: (path: string) => Answer;

const event = (id: string, job = 'j'): JobEvent => ({
  id,
  job,
  version: 1,
  after: null,
  device: 'd',
  author: 'u',
  wall: '2030-01-01T08:00:00Z',
  mono: 0,
  body: { kind: 'note', text: id },
});
const keep = async (...ids: string[]): Promise<void> => {
  const db = await deviceDb();
  for (const id of ids)
    await db.add('events', { id, job: 'j', user: 'u', seq: null, sent: 0, event: event(id) });
};
const accepted = (path: string): Answer => {
  const sent = calls.at(-1)?.body.events ?? [];
  return path.endsWith('/events')
    ? { status: 200, body: { accepted: sent.map((e, i) => ({ id: e.id, seq: i + 1 })) } }
    : { status: 200, body: {} };
};

/** Starts an outbox and waits until it says that it has nothing to do or has to wait. */
async function settled(outbox: Outbox): Promise<OutboxState> {
  return new Promise((resolve) => {
    const stop = outbox.onState((s) => {
      if (s.status === 'sending') return;
      stop();
      resolve(s);
    });
    outbox.use('u');
  });
}

beforeEach(async () => {
  calls.length = 0;
  answers = accepted;
  const db = await deviceDb();
  await db.clear('events');
  await db.clear('puts');
  globalThis.fetch = jest.fn(async (url: unknown, init: { method?: string; body?: string } = {}) => {
    const path = String(url);
    calls.push({
      method: init.method ?? 'GET',
      path,
      body: JSON.parse(init.body ?? '{}') as { events?: JobEvent[] },
    });
    const answer = answers(path);
    if (answer === 'unreached') throw new TypeError('no network');
    return { ok: answer.status < 400, status: answer.status, json: async () => answer.body } as Response;
  }) as unknown as typeof fetch;
  Object.assign(AbortSignal, { timeout: () => new AbortController().signal });
});
afterEach(() => void jest.useRealTimers());

describe('outbox', () => {
  it('sends what must be created first, then the events in their order, once', async () => {
    await (await deviceDb()).put('puts', { path: '/jobs/j', user: 'u', body: { controlId: 'c' } });
    await keep('a', 'b', 'c');
    expect(await settled(new Outbox())).toMatchObject({ kept: 0, sent: 3, status: 'idle' });
    expect(calls.map((c) => `${c.method} ${c.path}`)).toEqual([
      'PUT /api/v1/jobs/j',
      'POST /api/v1/jobs/j/events',
    ]);
    expect(calls[1]?.body.events?.map((e) => e.id)).toEqual(['a', 'b', 'c']);
    await settled(new Outbox());
    expect(calls).toHaveLength(2);
  });

  it.each([
    ['no network', 'unreached' as const, 'waiting'],
    [
      'a store that is down',
      { status: 503, body: { status: 503, code: 'store-down', detail: 'down' } },
      'waiting',
    ],
    [
      'being signed out',
      { status: 401, body: { status: 401, code: 'signed-out', detail: 'out' } },
      'signed-out',
    ],
  ])('keeps everything through %s, and sends it later', async (_, trouble, status) => {
    await keep('a');
    answers = () => trouble;
    const outbox = new Outbox();
    expect(await settled(outbox)).toMatchObject({ kept: 1, status });
    answers = accepted;
    outbox.use(undefined);
    expect(await settled(new Outbox())).toMatchObject({ kept: 0, sent: 1 });
  });

  it('keeps and shows what the server refuses, and goes on with the rest', async () => {
    await keep('a');
    answers = () => ({
      status: 409,
      body: { status: 409, code: 'version-newer', detail: 'newer than the server' },
    });
    expect(await settled(new Outbox())).toMatchObject({
      kept: 1,
      status: 'refused',
      problem: { code: 'version-newer' },
    });
    expect(await (await deviceDb()).count('events')).toBe(1);
  });

  it('leaves another account’s entries alone', async () => {
    const db = await deviceDb();
    await db.add('events', {
      id: 'theirs',
      job: 'j',
      user: 'someone',
      seq: null,
      sent: 0,
      event: event('theirs'),
    });
    expect(await settled(new Outbox())).toMatchObject({ kept: 0, status: 'idle' });
    expect(calls).toEqual([]);
  });
});
