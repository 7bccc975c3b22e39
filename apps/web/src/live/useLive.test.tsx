import { afterEach, describe, expect, it, jest } from '@jest/globals';
import { act, cleanup, renderHook } from '@testing-library/react';
import type { LiveNow, LiveSession } from './liveSession.ts';
import { useLive } from './useLive.ts';

/** A session that says what it is told to say. */
function session() {
  const listeners = new Set<() => void>();
  let p = 0;
  const fake = {
    subscribe: (l: () => void) => {
      listeners.add(l);
      return () => listeners.delete(l);
    },
    now: () => ({ p }) as LiveNow,
  };
  return {
    live: fake as unknown as LiveSession,
    listeners,
    say(value: number) {
      p = value;
      for (const l of listeners) l();
    },
  };
}

const EVERY = 80;
const later = (ms: number): void => act(() => jest.advanceTimersByTime(ms));

afterEach(() => {
  cleanup();
  jest.useRealTimers();
});

describe('the live reading', () => {
  it('is drawn anew only where what is shown of it changed', () => {
    jest.useFakeTimers();
    const s = session();
    let drawn = 0;
    renderHook(() => {
      drawn++;
      return useLive(s.live, EVERY, (now) => (now?.p ?? 0).toFixed(0));
    });
    expect(drawn).toBe(1);
    for (let i = 1; i <= 20; i++) {
      s.say(i / 100);
      later(50);
    }
    expect(drawn).toBe(1);
    s.say(0.7);
    later(EVERY);
    expect(drawn).toBe(2);
  });

  it('is drawn at most once in a while, and then as it is by then', () => {
    jest.useFakeTimers();
    const s = session();
    let drawn = 0;
    const { result } = renderHook(() => {
      drawn++;
      return useLive(s.live, EVERY);
    });
    for (let i = 1; i <= 10; i++) s.say(i);
    later(EVERY - 1);
    expect(result.current?.p).toBe(0);
    later(1);
    expect(result.current?.p).toBe(10);
    expect(drawn).toBe(2);
  });

  it('shows what its newest caller asks for, and not what the first one did', () => {
    jest.useFakeTimers();
    const s = session();
    let drawn = 0;
    const hook = renderHook(
      ({ digits }: { digits: number }) => {
        drawn++;
        return useLive(s.live, EVERY, (now) => (now?.p ?? 0).toFixed(digits));
      },
      { initialProps: { digits: 0 } },
    );
    hook.rerender({ digits: 2 });
    expect(drawn).toBe(2);
    s.say(0.01);
    later(EVERY);
    expect(drawn).toBe(3);
  });

  it('is left alone once nobody looks', () => {
    jest.useFakeTimers();
    const s = session();
    const hook = renderHook(() => useLive(s.live, EVERY));
    s.say(1);
    hook.unmount();
    expect(s.listeners.size).toBe(0);
    expect(jest.getTimerCount()).toBe(0);
  });

  it('is nothing without a source', () => {
    expect(renderHook(() => useLive(undefined)).result.current).toBeUndefined();
  });
});
