import 'fake-indexeddb/auto';
import { afterEach, beforeEach, describe, expect, it, jest } from '@jest/globals';
import { act, cleanup, renderHook, waitFor } from '@testing-library/react';
import { openJob } from '../testing.tsx';
import { deviceDb } from './db.ts';
import { JobSession } from './jobSession.ts';
import { LONGEST_ASK_MS, useJob } from './useJob.ts';

/** What the server is asked for, and answered by hand. */
let asked: { path: string; answer: (body: unknown) => void }[] = [];
const page = { seq: 0, items: [], next: null };
const job = (): string => `job-${Math.trunc(performance.now() * 1000)}`;

beforeEach(async () => {
  await (await deviceDb()).clear('events');
  asked = [];
  Object.assign(AbortSignal, { timeout: () => new AbortController().signal });
  globalThis.fetch = jest.fn(
    (path: unknown) =>
      new Promise((done) => {
        const answer = (body: unknown): void =>
          done({ ok: true, status: 200, redirected: false, json: async () => body } as unknown as Response);
        asked.push({ path: String(path), answer });
      }),
  ) as unknown as typeof fetch;
});
afterEach(() => {
  cleanup();
  jest.useRealTimers();
});

/** A job that this device has, opened, with all the server had to say of it. */
async function opened(id: string) {
  const first = new JobSession(id, 'u');
  await first.append((await openJob()).view.started);
  const hook = renderHook(() => useJob(id, 'u'));
  await waitFor(() => expect(asked.length).toBeGreaterThan(0));
  await act(async () => asked.splice(0).forEach((a) => a.answer(page)));
  await waitFor(() => expect(hook.result.current.job).toBeDefined());
  return hook;
}
const events = (): typeof asked => asked.filter((a) => a.path.includes('/events'));

describe('who holds the job', () => {
  it('is asked when the page is looked at again, and known once the server has answered', async () => {
    const { result } = await opened(job());
    expect(result.current.holderKnown()).toBeUndefined();
    act(() => void dispatchEvent(new Event('focus')));
    // At once: the press that brought the page back comes in the same moment.
    const known = result.current.holderKnown();
    expect(known).toBeDefined();
    await waitFor(() => expect(events()).toHaveLength(1));
    await act(async () => events()[0]?.answer(page));
    await known;
    await waitFor(() => expect(result.current.holderKnown()).toBeUndefined());
  });

  it('is waited for no longer than three seconds: without an answer the work goes on', async () => {
    const { result } = await opened(job());
    jest.useFakeTimers({ doNotFake: ['setImmediate', 'queueMicrotask'] });
    act(() => void dispatchEvent(new Event('focus')));
    let over = false;
    void result.current.holderKnown()?.then(() => (over = true));
    await act(() => jest.advanceTimersByTimeAsync(LONGEST_ASK_MS - 1));
    expect(over).toBe(false);
    await act(() => jest.advanceTimersByTimeAsync(1));
    expect(over).toBe(true);
    expect(result.current.holderKnown()).toBeUndefined();
  });

  it('is not asked on a page that nobody looks at', async () => {
    const { result } = await opened(job());
    const hidden = jest.spyOn(document, 'hidden', 'get').mockReturnValue(true);
    act(() => void dispatchEvent(new Event('focus')));
    expect(result.current.holderKnown()).toBeUndefined();
    hidden.mockRestore();
  });
});

describe('a job that is nowhere', () => {
  it('is said to be missing once device and server were asked', async () => {
    const id = job();
    const { result } = renderHook(() => useJob(id, 'u'));
    expect(result.current.missing).toBe(false);
    await waitFor(() => expect(asked.length).toBeGreaterThan(0));
    await act(async () => asked[0]?.answer(page));
    await waitFor(() => expect(result.current.missing).toBe(true));
    expect(result.current.job).toBeUndefined();
  });
});
