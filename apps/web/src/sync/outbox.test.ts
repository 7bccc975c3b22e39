import 'fake-indexeddb/auto';
import { afterEach, beforeEach, describe, expect, it, jest } from '@jest/globals';
import type { JobEvent } from '@firm-needle/core/procedure';
import { eventOf as event } from '../testingOutbox.ts';
import { deviceDb } from './db.ts';
import { Outbox, type OutboxState } from './outbox.ts';

type Answer = { status: number; body: unknown } | 'unreached';
const calls: { method: string; path: string; body: { events?: JobEvent[] } }[] = [];
let answers: (path: string) => Answer;

const ours = (status: number, code: string) => ({
  type: `urn:firm-needle:${code}`,
  status,
  code,
  detail: code,
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
  await db.clear('blobs');
  globalThis.fetch = jest.fn(async (url: unknown, init: { method?: string; body?: string } = {}) => {
    const path = String(url);
    calls.push({
      method: init.method ?? 'GET',
      path,
      body: (typeof init.body === 'string' ? JSON.parse(init.body) : {}) as { events?: JobEvent[] },
    });
    const answer = answers(path);
    if (answer === 'unreached') throw new TypeError('no network');
    return {
      ok: answer.status < 400,
      status: answer.status,
      json: async () => {
        if (typeof answer.body === 'string') throw new SyntaxError('no JSON');
        return answer.body;
      },
    } as Response;
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

  it('sends records in the order they were made, whatever their paths: a site before what stands on it', async () => {
    const outbox = new Outbox();
    answers = () => 'unreached';
    await settled(outbox);
    await outbox.keep([{ path: '/sites/s', body: { n: 1 } }]);
    await outbox.keep([{ path: '/equipment/e', body: { n: 2 } }]);
    await outbox.keep([
      { path: '/controls/c', body: { n: 3 } },
      { path: '/controls/c/plans/p', body: { n: 4 } },
      { path: '/jobs/j', body: { n: 5 } },
    ]);
    await keep('a');
    outbox.use(undefined);
    // What it had begun is over.
    await new Promise((r) => setTimeout(r, 60));
    calls.length = 0;
    answers = accepted;
    expect(await settled(new Outbox())).toMatchObject({ kept: 0, sent: 1 });
    expect(calls.map((c) => c.path.replace('/api/v1', ''))).toEqual([
      '/sites/s',
      '/equipment/e',
      '/controls/c',
      '/controls/c/plans/p',
      '/jobs/j',
      '/jobs/j/events',
    ]);
  });

  it('sends nothing past a record that the server cannot be reached for', async () => {
    const outbox = new Outbox();
    answers = () => 'unreached';
    await settled(outbox);
    await outbox.keep([
      { path: '/sites/s', body: {} },
      { path: '/equipment/e', body: {} },
    ]);
    expect(await outbox.waits()).toBe(true);
    outbox.use(undefined);
    // What it had begun is over.
    await new Promise((r) => setTimeout(r, 60));
    calls.length = 0;
    answers = (path) => (path.endsWith('/sites/s') ? 'unreached' : accepted(path));
    expect(await settled(new Outbox())).toMatchObject({ status: 'waiting' });
    expect(calls.map((c) => c.path)).toEqual(['/api/v1/sites/s']);
    expect(await (await deviceDb()).count('puts')).toBe(2);
  });

  it('sends photos after every entry, once, keeps the bytes, and holds a refused one without holding the rest', async () => {
    const outbox = new Outbox();
    answers = () => 'unreached';
    await settled(outbox);
    await keep('a');
    await outbox.keepBlob('1f', new Blob(['one']));
    await outbox.keepBlob('1f', new Blob(['one']));
    await outbox.keepBlob('2f', new Blob(['two']));
    expect(await settled(outbox)).toMatchObject({ kept: 3 });
    outbox.use(undefined);
    await new Promise((r) => setTimeout(r, 60));
    calls.length = 0;
    answers = (path) =>
      path.endsWith('/photos/1f')
        ? {
            status: 422,
            body: { type: 'urn:firm-needle:not-valid', code: 'not-valid', detail: 'no picture', status: 422 },
          }
        : accepted(path);
    const state = await settled(new Outbox());
    expect(state).toMatchObject({ status: 'refused', kept: 1, held: [{ what: 'photo' }] });
    expect(calls.map((c) => c.path.replace('/api/v1', ''))).toEqual([
      '/jobs/j/events',
      '/photos/1f',
      '/photos/2f',
    ]);
    const kept = await (await deviceDb()).getAll('blobs');
    expect(kept.map((b) => [b.hash, b.sent])).toEqual([
      ['1f', 0],
      ['2f', 1],
    ]);
  });

  it('says when what it sent changes what the server answers: a record, a sign-off, not every reading', async () => {
    const outbox = new Outbox();
    let news = 0;
    outbox.onNews(() => void news++);
    await keep('a');
    await settled(outbox);
    expect(news).toBe(0);
    const signed: JobEvent = {
      ...event('s'),
      body: { kind: 'sign', outcome: 'set', by: 'x', coreVersion: '1' } as JobEvent['body'],
    };
    await (
      await deviceDb()
    ).add('events', { id: 's', job: 'j', user: 'u', seq: null, sent: 0, event: signed });
    await settled(outbox);
    expect(news).toBe(1);
    await outbox.keep([{ path: '/sites/s', body: {} }]);
    for (let i = 0; i < 50 && news < 2; i++) await new Promise((r) => setTimeout(r, 10));
    expect(news).toBe(2);
  });

  it.each([
    ['no network', 'unreached' as const, 'waiting'],
    ['a store that is down', { status: 503, body: ours(503, 'store-down') }, 'waiting'],
    ['being signed out', { status: 401, body: ours(401, 'signed-out') }, 'signed-out'],
  ])('keeps everything through %s, and sends it later', async (_, trouble, status) => {
    await keep('a');
    answers = () => trouble;
    const outbox = new Outbox();
    expect(await settled(outbox)).toMatchObject({ kept: 1, status });
    answers = accepted;
    outbox.use(undefined);
    expect(await settled(new Outbox())).toMatchObject({ kept: 0, sent: 1 });
  });

  it('holds a job at its first refused entry: what came before is sent, what came after waits and is not lost', async () => {
    await keep('a', 'b', 'bad', 'c', 'd');
    answers = (path) =>
      calls.at(-1)?.body.events?.some((e) => e.id === 'bad')
        ? { status: 422, body: ours(422, 'too-odd') }
        : accepted(path);
    const state = await settled(new Outbox());
    expect(state).toMatchObject({ kept: 3, sent: 2, status: 'refused', problem: { code: 'too-odd' } });
    expect(state.held).toEqual([
      { job: 'j', waiting: 2, what: 'note', problem: expect.objectContaining({ code: 'too-odd' }) },
    ]);
    const sent = calls.flatMap((c) => c.body.events?.map((e) => e.id) ?? []);
    expect(sent.filter((id) => id === 'c' || id === 'd').length).toBeLessThanOrEqual(2);
    // Another round sends nothing past it.
    calls.length = 0;
    expect(await settled(new Outbox())).toMatchObject({ kept: 3, status: 'refused' });
    expect(calls).toEqual([]);
    // What was wrong is mended: tried again, all of it goes, in its order.
    answers = accepted;
    const outbox = new Outbox();
    await settled(outbox);
    await outbox.tryAgain();
    for (let i = 0; i < 50 && (await (await deviceDb()).countFromIndex('events', 'sent', ['u', 0])) > 0; i++)
      await new Promise((r) => setTimeout(r, 10));
    expect(calls.flatMap((c) => c.body.events?.map((e) => e.id) ?? [])).toEqual(['bad', 'c', 'd']);
  });

  it.each([
    ['a sign-in page of the house', { status: 200, body: '<html>' }],
    ['a proxy that forbids', { status: 403, body: '<html>' }],
    ['a proxy that finds nothing', { status: 404, body: { error: 'no route' } }],
    ['something that looks like ours', { status: 422, body: { status: 422, code: 'x', detail: 'y' } }],
  ])('lets %s condemn nothing', async (_, answer) => {
    await keep('a');
    answers = () => answer;
    expect(await settled(new Outbox())).toMatchObject({ kept: 1, status: 'waiting' });
    expect((await (await deviceDb()).getAll('events'))[0]?.refused).toBeUndefined();
  });

  it.each(['version-newer', 'gap'])(
    'waits where the server says %s, and holds nothing for good',
    async (code) => {
      await keep('a');
      answers = () => ({ status: 409, body: ours(409, code) });
      expect(await settled(new Outbox())).toMatchObject({ kept: 1, status: 'waiting', problem: { code } });
      expect((await (await deviceDb()).getAll('events'))[0]?.refused).toBeUndefined();
    },
  );

  it('keeps what the server says of an entry: who wrote it, by the session', async () => {
    await keep('a');
    answers = () => ({
      status: 200,
      body: {
        accepted: [{ id: 'a', seq: 1, event: { ...event('a'), body: { kind: 'note', text: 'stamped' } } }],
      },
    });
    await settled(new Outbox());
    expect((await (await deviceDb()).getAll('events'))[0]?.event.body).toMatchObject({ text: 'stamped' });
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
