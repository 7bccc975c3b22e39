import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it, jest } from '@jest/globals';
import type { JobBody, JobEvent } from '@firm-needle/core/procedure';
import { openJob } from '../testing.tsx';
import { deviceDb, deviceId } from './db.ts';
import { JobSession } from './jobSession.ts';

const JOB = 'a-job';
let server: { seq: number; hash: string; event: JobEvent }[] | 'unreached';
let started: JobBody;

const event = (id: string, body: JobBody, device = 'elsewhere'): JobEvent => ({
  id,
  job: JOB,
  version: 1,
  after: null,
  device,
  author: 'u',
  wall: '2030-01-01T08:00:00.000Z',
  mono: 0,
  body,
});
const note = (text: string): JobBody => ({ kind: 'note', text });
const sequenced = (...events: JobEvent[]) => events.map((e, i) => ({ seq: i + 1, hash: '', event: e }));
const texts = (s: JobSession): string[] => s.log.state.notes.map((n) => n.body.text);

beforeEach(async () => {
  const db = await deviceDb();
  await db.clear('events');
  server = 'unreached';
  started ??= (await openJob()).view.started;
  Object.assign(AbortSignal, { timeout: () => new AbortController().signal });
  globalThis.fetch = jest.fn(async (url: unknown) => {
    if (server === 'unreached') throw new TypeError('no network');
    const after = Number(/after=(\d+)/.exec(String(url))?.[1] ?? 0);
    const items = server.filter((e) => e.seq > after);
    return {
      ok: true,
      status: 200,
      json: async () => ({ items, next: null, seq: server.length }),
    } as Response;
  }) as unknown as typeof fetch;
});

describe('a job on this device', () => {
  it('has an event on its own disk before anybody is told, server or none', async () => {
    const session = new JobSession(JOB, 'u');
    await session.open();
    const told: number[] = [];
    session.subscribe(() => told.push(session.log.events.length));
    await session.append(started);
    await session.append(note('kept'));
    expect(told).toEqual([1, 2]);
    expect((await (await deviceDb()).getAll('events')).map((e) => [e.sent, e.seq])).toEqual([
      [0, null],
      [0, null],
    ]);
    session.close();

    const again = new JobSession(JOB, 'u');
    await again.open();
    expect(texts(again)).toEqual(['kept']);
    again.close();
  });

  it('writes who, where, when, and what it knew of', async () => {
    const session = new JobSession(JOB, 'u');
    await session.open();
    const first = await session.append(started);
    const second = await session.append(note('x'));
    expect(first.after).toBeNull();
    expect(second).toMatchObject({ after: first.id, author: 'u', device: deviceId(), job: JOB, version: 1 });
    expect(second.id).toMatch(/^[\da-f]{8}-[\da-f]{4}-7/);
    session.close();
  });

  it('reads a job that was begun elsewhere', async () => {
    server = sequenced(event('e1', started), event('e2', note('from the tablet')));
    const session = new JobSession(JOB, 'u');
    await session.open();
    expect(texts(session)).toEqual(['from the tablet']);
    expect(session.log.state.holder).toBe('elsewhere');
    session.close();
  });

  it('puts the server’s sequence first and what is unsent after it, whatever the clocks say', async () => {
    const session = new JobSession(JOB, 'u');
    await session.open();
    await session.append(started);
    await session.append(note('mine, unsent'));
    const mine = session.log.events[0];
    if (!mine) throw new Error('nothing kept');
    server = sequenced(mine, event('late', note('theirs, sequenced'), mine.device));
    session.close();
    const again = new JobSession(JOB, 'u');
    await again.open();
    expect(texts(again)).toEqual(['theirs, sequenced', 'mine, unsent']);
    expect(
      (await (await deviceDb()).getAllFromIndex('events', 'job', JOB)).filter((e) => e.sent === 1),
    ).toHaveLength(2);
    again.close();
  });

  it('asks only for what it does not have', async () => {
    server = sequenced(event('e1', started), event('e2', note('one')));
    const session = new JobSession(JOB, 'u');
    await session.open();
    session.close();
    server = [...server, { seq: 3, hash: '', event: event('e3', note('two')) }];
    const again = new JobSession(JOB, 'u');
    await again.open();
    expect(texts(again)).toEqual(['one', 'two']);
    const asked = (globalThis.fetch as unknown as jest.Mock).mock.calls.map(([url]) => String(url));
    expect(asked.at(-1)).toContain('after=2');
    again.close();
  });
});
