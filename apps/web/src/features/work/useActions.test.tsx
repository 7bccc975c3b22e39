import 'fake-indexeddb/auto';
import { afterEach, beforeEach, describe, expect, it, jest } from '@jest/globals';
import type { JobBody, WalkItem } from '@firm-needle/core/procedure';
import { act, cleanup, renderHook } from '@testing-library/react';
import type { ReactNode } from 'react';
import { MeContext } from '../../store/me.ts';
import { deviceDb, deviceId } from '../../sync/db.ts';
import { JobSession } from '../../sync/jobSession.ts';
import { MOST_EVENT_BYTES } from '../../sync/logSession.ts';
import { jobNow, type HolderKnown, type OpenJob } from '../../sync/useJob.ts';
import { ME, openJob } from '../../testing.tsx';
import { SETTLE_MS, useActions } from './useActions.ts';

let session: JobSession;
let family: OpenJob['family'];
let started: JobBody;
let clock = 0;

const now = (): OpenJob => {
  const job = jobNow(session, family);
  if (!job) throw new Error('not started');
  return job;
};
const item = (): WalkItem => now().offered.now as WalkItem;
const wrapper = ({ children }: { children: ReactNode }) => <MeContext value={ME}>{children}</MeContext>;
/** The hands of a person on the job as it is drawn now; a moment passes before they press. */
function hands(holderKnown?: HolderKnown) {
  const hook = renderHook(({ job }: { job: OpenJob }) => useActions(job, undefined, holderKnown), {
    wrapper,
    initialProps: { job: now() },
  });
  clock += SETTLE_MS + 1;
  return hook;
}
const kinds = (): string[] => session.log.events.map((e) => e.body.kind);

beforeEach(async () => {
  await (await deviceDb()).clear('events');
  Object.assign(AbortSignal, { timeout: () => new AbortController().signal });
  globalThis.fetch = jest.fn(async () => {
    throw new TypeError('no network');
  }) as unknown as typeof fetch;
  const base = await openJob();
  ({ family } = base);
  started = base.view.started;
  session = new JobSession(`job-${Math.trunc(performance.now() * 1000)}`, 'u');
  await session.open();
  await session.append(started);
  clock = 0;
  jest.spyOn(performance, 'now').mockImplementation(() => clock);
});
afterEach(() => {
  cleanup();
  session.close();
  jest.restoreAllMocks();
});

describe('a press', () => {
  it('is one entry, however often it is pressed while that is being kept', async () => {
    const { result } = hands();
    const at = item();
    const kept = await act(() => Promise.all([1, 2, 3].map(() => result.current.done(at))));
    expect(kept).toEqual([true, false, false]);
    expect(kinds()).toEqual(['started', 'done']);
  });

  it('on a face that has just appeared does not count', async () => {
    const { result, rerender } = hands();
    await act(() => result.current.done(item()));
    const next = item();
    rerender({ job: now() });
    expect(await act(() => result.current.zero(next, 'system', ZERO, undefined))).toBe(false);
    clock += SETTLE_MS + 1;
    expect(await act(() => result.current.zero(next, 'system', ZERO, undefined))).toBe(true);
  });

  it('does not count for another face than it was made on: the job went on in another tab', async () => {
    const { result } = hands();
    const at = item();
    await session.append({
      kind: 'done',
      at: { key: at.step.key, pass: at.pass },
      sets: { cautions: 'read' },
    });
    expect(await act(() => result.current.done(at))).toBe(false);
    expect(result.current.trouble).toMatchObject({
      kind: 'moved-on',
      text: expect.stringContaining('Nothing was entered'),
    });
    expect(kinds()).toEqual(['started', 'done']);
  });

  it('does not count once what it rests on has lapsed, and says what comes first', async () => {
    await session.append({ kind: 'done', at: { key: 'cautions', pass: '1' }, sets: { cautions: 'read' } });
    const { result } = hands();
    const at = item();
    expect(at.step.kind).toBe('zero');
    jest.useFakeTimers({
      now: Date.now() + 3 * 3600e3,
      doNotFake: ['setTimeout', 'performance', 'setImmediate', 'queueMicrotask'],
    });
    try {
      expect(await act(() => result.current.zero(at, 'system', ZERO, undefined))).toBe(false);
    } finally {
      jest.useRealTimers();
    }
    expect(result.current.trouble?.text).toMatch(
      /too long has passed, or the clock was set.*First: cautions read/,
    );
    expect(session.log.state.zeros.size).toBe(0);
  });

  it('does not count once another device has the job', async () => {
    const { result } = hands();
    const at = item();
    const theirs = {
      ...(await session.append({ kind: 'note', text: 'x' })),
      id: 't',
      device: 'their-tablet',
    };
    session.log.append({ ...theirs, body: { kind: 'take', by: 'B', permits: [] } });
    expect(await act(() => result.current.done(at))).toBe(false);
    expect(result.current.trouble?.text).toContain('Another device has taken the job');
  });
});

/** The press that brings a page back is asked about: who holds the job meanwhile. */
describe('a press while it is asked who holds the job', () => {
  let answer: () => void;
  let known: Promise<void>;
  beforeEach(() => {
    known = new Promise((r) => (answer = r));
  });
  const takenByAnother = async (): Promise<void> => {
    const mine = await session.append({ kind: 'note', text: 'x' });
    session.log.append({
      ...mine,
      id: 't',
      device: 'their-tablet',
      body: { kind: 'take', by: 'B', permits: [] },
    });
  };

  it('is kept once that is known, and shows until then that it was taken', async () => {
    const { result } = hands(() => known);
    let press: Promise<boolean> | undefined;
    await act(async () => {
      press = result.current.done(item());
    });
    expect(result.current.settling).toBe(true);
    expect(await result.current.done(item())).toBe(false);
    expect(kinds()).toEqual(['started']);
    answer();
    expect(await act(() => press)).toBe(true);
    expect(kinds()).toEqual(['started', 'done']);
  });

  it('enters nothing where another device has it by then, and says so', async () => {
    const { result } = hands(() => known);
    let press: Promise<boolean> | undefined;
    await act(async () => {
      press = result.current.done(item());
    });
    await takenByAnother();
    answer();
    expect(await act(() => press)).toBe(false);
    expect(result.current.trouble?.text).toContain('Another device has taken the job');
    expect(kinds()).not.toContain('done');
  });

  it('enters nothing on a page that was left meanwhile', async () => {
    const { result, unmount } = hands(() => known);
    let press: Promise<boolean> | undefined;
    await act(async () => {
      press = result.current.done(item());
    });
    unmount();
    answer();
    expect(await press).toBe(false);
    expect(kinds()).toEqual(['started']);
  });

  it('does not hold up a remark, which belongs to no face', async () => {
    const { result } = hands(() => known);
    expect(await act(() => result.current.note('drips'))).toBe(true);
  });
});

describe('a step that is skipped', () => {
  it('is the one that its dialog was opened for, and no later one', async () => {
    const { result, rerender } = hands();
    const at = item();
    await session.append({
      kind: 'done',
      at: { key: at.step.key, pass: at.pass },
      sets: { cautions: 'read' },
    });
    rerender({ job: now() });
    clock += SETTLE_MS + 1;
    const next = item();
    expect(await act(() => result.current.skip(at, 'no ladder'))).toBe(false);
    expect(result.current.trouble?.text).toContain('Nothing was skipped');
    expect(kinds()).toEqual(['started', 'done']);
    expect(await act(() => result.current.skip(next, 'no ladder'))).toBe(true);
    expect(kinds()).toEqual(['started', 'done', 'skip']);
  });
});

const ZERO = { text: '0', unit: 'psi', value: 0 };

describe('one press for several steps', () => {
  const pair = (): readonly WalkItem[] => {
    const one = item();
    return [one, { ...one, step: { ...one.step, key: 'mark', sets: undefined } }];
  };

  it('is an entry a step, chained in their order', async () => {
    const { result } = hands();
    expect(await act(() => result.current.allDone(pair()))).toBe(true);
    const [, first, second] = session.log.events;
    expect([first, second].map((e) => e && 'at' in e.body && e.body.at?.key)).toEqual(['cautions', 'mark']);
    expect(second?.after).toBe(first?.id);
    expect(session.log.state.aside).toEqual([]);
  });

  it('keeps all of them or none', async () => {
    const { result } = hands();
    let adds = 0;
    const real = IDBObjectStore.prototype.add;
    const spoil = jest.spyOn(IDBObjectStore.prototype, 'add').mockImplementation(function (
      this: IDBObjectStore,
      v,
    ) {
      if (++adds === 2) throw new DOMException('full', 'QuotaExceededError');
      return real.call(this, v);
    });
    expect(await act(() => result.current.allDone(pair()))).toBe(false);
    expect(result.current.trouble?.kind).toBe('not-kept');
    spoil.mockRestore();
    expect(kinds()).toEqual(['started']);
    expect(await (await deviceDb()).count('events')).toBe(1);
    expect(await act(() => result.current.allDone(pair()))).toBe(true);
    expect(kinds()).toEqual(['started', 'done', 'done']);
  });
});

describe('what cannot be kept', () => {
  it('is said, entered nowhere, and entered once there is room', async () => {
    const { result } = hands();
    const spoil = jest.spyOn(IDBDatabase.prototype, 'transaction').mockImplementation(() => {
      throw new DOMException('full', 'QuotaExceededError');
    });
    expect(await act(() => result.current.note('a long remark'))).toBe(false);
    expect(result.current.trouble).toMatchObject({
      kind: 'not-kept',
      text: expect.stringContaining('no room left'),
    });
    expect(kinds()).toEqual(['started']);
    spoil.mockRestore();
    expect(await act(() => result.current.note('a long remark'))).toBe(true);
    expect(result.current.trouble).toBeUndefined();
  });

  it('is refused before it is kept where the server would never take it', async () => {
    const { result } = hands();
    expect(await act(() => result.current.note('é'.repeat(MOST_EVENT_BYTES)))).toBe(false);
    expect(result.current.trouble?.text).toMatch(/kB; an entry holds at most/);
    expect(await (await deviceDb()).count('events')).toBe(1);
  });
});

describe('entries of another device', () => {
  it('count from when they are let count, one by one', async () => {
    const base = await session.append({ kind: 'note', text: 'mine' });
    for (const text of ['first', 'second'])
      session.log.append({ ...base, id: text, device: 'their-tablet', body: { kind: 'note', text } });
    expect(now().view.state.aside).toHaveLength(2);
    const { result } = hands();
    expect(await act(() => result.current.adopt('second'))).toBe(true);
    expect(now().view.state.notes.map((n) => n.body.text)).toEqual(['mine', 'second']);
    expect(now().view.state.aside.map((a) => a.event.id)).toEqual(['first']);
  });

  it('are those of this device once it takes the job, with its own permits', async () => {
    const { result } = hands();
    await act(() => result.current.take());
    expect(session.log.state).toMatchObject({ holder: deviceId(), permits: ME.permits });
  });
});
