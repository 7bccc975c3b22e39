// What a reading that was ended had still to say is not heard: its worker's words may be on their way when it goes.
import { afterEach, beforeAll, beforeEach, describe, expect, it, jest } from '@jest/globals';
import { act, renderHook } from '@testing-library/react';
import { refuse, type Result } from '@firm-needle/core/result';
import type { TraceHost, TraceRead } from '../workers/trace.worker.ts';
import type { useTrace as Hook } from './useTrace.ts';

type Tell = (part: number) => void;
/** A reading as its worker has it: nothing comes of it until it is said. */
interface Reading {
  readonly rows: (found: readonly (readonly string[])[]) => Promise<void>;
  readonly told: Tell[];
  readonly end: (result: Result<TraceRead>) => Promise<void>;
}
const readings: Reading[] = [];
const workers: { onerror: (() => void) | null; terminated: boolean }[] = [];

/** Deferred by hand. */
function later<T>(): { promise: Promise<T>; say: (x: T) => Promise<void> } {
  let resolve: (x: T) => void = () => undefined;
  const promise = new Promise<T>((r) => (resolve = r));
  return {
    promise,
    say: (x) =>
      act(async () => {
        resolve(x);
        await new Promise((r) => setTimeout(r, 0));
      }),
  };
}

jest.mock('comlink', () => ({
  proxy: <T,>(f: T): T => f,
  wrap: (): Partial<TraceHost> => {
    const rows = later<readonly (readonly string[])[]>();
    const result = later<Result<TraceRead>>();
    const told: Tell[] = [];
    readings.push({ rows: rows.say, told, end: result.say });
    return {
      rows: () => rows.promise,
      read: (...given: unknown[]) => {
        told.push(given[3] as Tell);
        return result.promise;
      },
    } as unknown as Partial<TraceHost>;
  },
}));

let useTrace: typeof Hook;
beforeAll(async () => {
  ({ useTrace } = await import('./useTrace.ts'));
});

const had = globalThis.Worker;
beforeEach(() => {
  readings.length = 0;
  workers.length = 0;
  globalThis.Worker = class {
    onerror: (() => void) | null = null;
    terminated = false;
    constructor() {
      workers.push(this);
    }
    terminate(): void {
      this.terminated = true;
    }
  } as unknown as typeof Worker;
});
afterEach(() => {
  globalThis.Worker = had;
});

const file = (name: string): File => new File(['x'], name);
const HEAD = [['t_s', 'p_psi']];
const wrong = refuse('rows', 'Nothing in it is a reading.');

describe('a trace that is read', () => {
  it('is stopped for good: what its worker had still to say of how far it was, or found, is not heard', async () => {
    const { result } = renderHook(() => useTrace('cycles'));
    act(() => result.current.open([file('long.csv')]));
    await readings[0]?.rows(HEAD);
    act(() => readings[0]?.told[0]?.(0.25));
    expect(result.current.progress).toBe(0.25);
    act(() => result.current.cancel());
    expect(workers[0]?.terminated).toBe(true);
    expect(result.current.progress).toBeUndefined();
    act(() => readings[0]?.told[0]?.(0.5));
    expect(result.current.progress).toBeUndefined();
    await readings[0]?.end(wrong);
    expect(result.current.refusal).toBeUndefined();
  });

  it('is told by its own worker alone, where another file was chosen meanwhile', async () => {
    const { result } = renderHook(() => useTrace('cycles'));
    act(() => result.current.open([file('first.csv')]));
    act(() => result.current.open([file('second.csv')]));
    await readings[1]?.rows([['second']]);
    await readings[0]?.rows([['first']]);
    expect([result.current.name, result.current.rows]).toEqual(['second.csv', [['second']]]);
    act(() => readings[0]?.told[0]?.(0.9));
    expect(result.current.progress).toBe(0);
    await readings[1]?.end(wrong);
    expect(result.current.refusal?.code).toBe('rows');
    // A word of how far it was that comes after what it found.
    act(() => readings[1]?.told[0]?.(0.99));
    expect(result.current.progress).toBeUndefined();
  });

  it('says so where its worker could not be had, or went', async () => {
    const { result } = renderHook(() => useTrace('cycles'));
    act(() => result.current.open([file('day.csv')]));
    act(() => workers[0]?.onerror?.());
    expect(result.current).toMatchObject({ progress: undefined, refusal: { code: 'reading-ended' } });
    expect(result.current.refusal?.remedy).toContain('choose it again');
  });
});
