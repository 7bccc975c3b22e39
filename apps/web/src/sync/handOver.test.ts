import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it } from '@jest/globals';
import type { JobBody } from '@firm-needle/core/procedure';
import { eventOf, took } from '../testingOutbox.ts';
import { refusal, serverThat } from '../testingServer.ts';
import { deviceDb } from './db.ts';
import { handedOver } from './handOver.ts';
import { Outbox } from './outbox.ts';

const keep = async (job: string, ...ids: string[]): Promise<void> => {
  const db = await deviceDb();
  for (const id of ids)
    await db.add('events', { id, job, user: 'u', seq: null, sent: 0, event: eventOf(id, job) });
};
const taken = (body: unknown) => ({ data: took(body) });
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
    expect(await handedOver(await outbox(), 'u', 'j')).toBeUndefined();
    expect(asked).toEqual([]);
  });

  it('is sent, and waited for until the server has it', async () => {
    const asked = serverThat((_m, _p, body) => taken(body));
    const box = await outbox();
    await keep('j', 'e1', 'e2');
    expect(await handedOver(box, 'u', 'j')).toBeUndefined();
    expect(asked.map(([method, path]) => `${method} ${path}`)).toEqual(['POST /jobs/j/events']);
  });

  it('waits for its own job alone', async () => {
    serverThat((_m, path, body) => (path === '/jobs/j/events' ? taken(body) : undefined));
    const box = await outbox();
    await keep('j', 'e1');
    await keep('other', 'e2');
    expect(await handedOver(box, 'u', 'j')).toBeUndefined();
  });

  it('is not there without a signal: that is known at once, not after the longest wait', async () => {
    serverThat(() => undefined);
    const box = await outbox();
    await keep('j', 'e1');
    const from = Date.now();
    expect(await handedOver(box, 'u', 'j', 60_000)).toMatchObject({ code: 'not-sent' });
    expect(Date.now() - from).toBeLessThan(20_000);
  });

  it('is not held up by what the server refused after it: that is never sent by waiting', async () => {
    serverThat(() => refusal(422, 'This is no note.'));
    const box = await outbox();
    await keep('j', 'e1');
    expect(await handedOver(box, 'u', 'j')).toBeUndefined();
    expect(await handedOver(box, 'u', 'j')).toBeUndefined();
  });

  it('is not there where a signature waits behind what the server refused: that is said, and no signal asked for', async () => {
    serverThat(() => refusal(422, 'This is no reading.'));
    const box = await outbox();
    await keep('j', 'e1');
    const sign: JobBody = { kind: 'sign', outcome: 'set', by: 'u', coreVersion: '1', result: null };
    const db = await deviceDb();
    const kept = { id: 'e2', job: 'j', user: 'u', seq: null, sent: 0 } as const;
    await db.add('events', { ...kept, event: eventOf('e2', 'j', sign) });
    expect(await handedOver(box, 'u', 'j')).toMatchObject({ code: 'held' });
  });

  it('is not waited for longer than said where the server does not answer', async () => {
    globalThis.fetch = (() => new Promise(() => undefined)) as unknown as typeof fetch;
    const box = await outbox();
    await keep('j', 'e1');
    expect(await handedOver(box, 'u', 'j', 150)).toMatchObject({ code: 'not-sent' });
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
    expect(await handedOver(box, 'u', 'j')).toBeUndefined();
    const left = await (await deviceDb()).getAllFromIndex('events', 'sent', ['u', 0]);
    expect(left).toEqual([]);
  });
});
