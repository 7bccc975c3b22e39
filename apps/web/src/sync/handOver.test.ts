import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it } from '@jest/globals';
import type { JobEvent } from '@firm-needle/core/procedure';
import { refusal, serverThat } from '../testingServer.ts';
import { deviceDb } from './db.ts';
import { handedOver } from './handOver.ts';
import { Outbox } from './outbox.ts';

const event = (id: string, job: string): JobEvent => ({
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
const keep = async (job: string, ...ids: string[]): Promise<void> => {
  const db = await deviceDb();
  for (const id of ids)
    await db.add('events', { id, job, user: 'u', seq: null, sent: 0, event: event(id, job) });
};
const taken = (body: unknown) => ({
  data: { accepted: (body as { events: JobEvent[] }).events.map((e, i) => ({ id: e.id, seq: i + 1 })) },
});
/** An outbox of `u`, with nothing under way. */
const outbox = async (): Promise<Outbox> => {
  const box = new Outbox();
  await new Promise<void>((resolve) => {
    const stop = box.onState((s) => {
      if (s.status === 'sending') return;
      stop();
      resolve();
    });
    box.use('u');
  });
  return box;
};

beforeEach(async () => {
  const db = await deviceDb();
  await db.clear('events');
  Object.assign(AbortSignal, { timeout: () => new AbortController().signal });
});

describe('what the server must have first', () => {
  it('is there at once where nothing is kept, and nothing is sent for it', async () => {
    const asked = serverThat((_m, _p, body) => taken(body));
    expect(await handedOver(await outbox(), 'u', 'j')).toBe(true);
    expect(asked).toEqual([]);
  });

  it('is sent, and waited for until the server has it', async () => {
    const asked = serverThat((_m, _p, body) => taken(body));
    const box = await outbox();
    await keep('j', 'e1', 'e2');
    expect(await handedOver(box, 'u', 'j')).toBe(true);
    expect(asked.map(([method, path]) => `${method} ${path}`)).toEqual(['POST /jobs/j/events']);
  });

  it('waits for its own job alone', async () => {
    serverThat((_m, path, body) => (path === '/jobs/j/events' ? taken(body) : undefined));
    const box = await outbox();
    await keep('j', 'e1');
    await keep('other', 'e2');
    expect(await handedOver(box, 'u', 'j')).toBe(true);
  });

  it('is not there without a signal: that is known at once, not after the longest wait', async () => {
    serverThat(() => undefined);
    const box = await outbox();
    await keep('j', 'e1');
    const from = Date.now();
    expect(await handedOver(box, 'u', 'j', 60_000)).toBe(false);
    expect(Date.now() - from).toBeLessThan(20_000);
  });

  it('is not there where the server refuses an entry of it', async () => {
    serverThat(() => refusal(422, 'This is no reading.'));
    const box = await outbox();
    await keep('j', 'e1');
    expect(await handedOver(box, 'u', 'j')).toBe(false);
  });

  it('is not waited for longer than said where the server does not answer', async () => {
    globalThis.fetch = (() => new Promise(() => undefined)) as unknown as typeof fetch;
    const box = await outbox();
    await keep('j', 'e1');
    expect(await handedOver(box, 'u', 'j', 150)).toBe(false);
  });

  it('sees what was kept while it was sending', async () => {
    let late = false;
    serverThat((_m, _p, body) => {
      if (!late) void keep('j', 'e2');
      late = true;
      return taken(body);
    });
    const box = await outbox();
    await keep('j', 'e1');
    expect(await handedOver(box, 'u', 'j')).toBe(true);
    const left = await (await deviceDb()).getAllFromIndex('events', 'sent', ['u', 0]);
    expect(left).toEqual([]);
  });
});
