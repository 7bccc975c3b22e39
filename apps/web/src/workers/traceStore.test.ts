/** @jest-environment node */
import { beforeEach, describe, expect, it } from '@jest/globals';
import { BLOCK_SAMPLES, blocksOf, type Samples } from '@firm-needle/core/trace';
import { fetchTrace, sendTrace, type KeptMeta } from './traceStore.ts';

const N = 2 * BLOCK_SAMPLES + 17;

/** A trace over three blocks, the last one short. */
const samples = (): Samples => ({
  t: Float64Array.from({ length: N }, (_, i) => i / 20),
  p: Float64Array.from({ length: N }, (_, i) => 300_000 + 50_000 * Math.sin(i / 900)),
  states: { pump: Float64Array.from({ length: N }, (_, i) => Number(i % 400 < 150)) },
});

/** A server's shelf for one trace; a line that breaks after so many blocks. */
class Shelf {
  readonly blocks = new Map<number, Uint8Array<ArrayBuffer>>();
  breaksAfter = Infinity;
  refuses: { status: number; body: string } | undefined;
  puts = 0;

  get meta(): KeptMeta {
    const all = Array.from({ length: blocksOf(N) }, (_, i) => i);
    return {
      id: 'a',
      name: 'trace',
      kind: 'cycles',
      unit: 'kPa',
      channels: ['pump'],
      samples: N,
      missing: all.filter((i) => !this.blocks.has(i)),
    };
  }

  answer = async (url: string, init: RequestInit = {}): Promise<Response> => {
    if (this.refuses) return new Response(this.refuses.body, { status: this.refuses.status });
    const block = /blocks\/(\d+)$/.exec(url)?.[1];
    if (block === undefined) return Response.json(this.meta);
    if (init.method !== 'PUT') return new Response(this.blocks.get(Number(block)));
    if (this.puts++ >= this.breaksAfter) throw new TypeError('the line broke');
    const body = await new Response(init.body as BodyInit).arrayBuffer();
    this.blocks.set(Number(block), new Uint8Array(body));
    return new Response(null, { status: 204 });
  };
}

let shelf: Shelf;
beforeEach(() => {
  shelf = new Shelf();
  globalThis.fetch = shelf.answer as unknown as typeof fetch;
});
const send = (progress: number[] = []): Promise<number> =>
  sendTrace('a', {}, samples(), (part) => progress.push(part));

describe('a trace that is kept', () => {
  it('comes back as it went, to the last sample', async () => {
    const progress: number[] = [];
    expect(await send(progress)).toBe(3);
    expect(progress.at(-1)).toBe(1);
    expect([...progress].sort((a, b) => a - b)).toEqual(progress);
    const given = samples();
    const back = await fetchTrace(shelf.meta, () => undefined);
    expect(back.t).toHaveLength(N);
    for (const i of [0, BLOCK_SAMPLES - 1, BLOCK_SAMPLES, N - 1]) {
      expect(back.t[i]).toBeCloseTo(given.t[i] ?? NaN, 3);
      expect(back.p[i]).toBeCloseTo(given.p[i] ?? NaN, 0);
      expect(back.states['pump']?.[i]).toBe(given.states['pump']?.[i]);
    }
  });

  it('goes packed: smaller than its samples', async () => {
    await send();
    const bytes = [...shelf.blocks.values()].reduce((sum, b) => sum + b.length, 0);
    expect(bytes).toBeLessThan(N * 16);
  });

  it('goes on where the line broke, and sends nothing twice', async () => {
    shelf.breaksAfter = 1;
    await expect(send()).rejects.toThrow('the line broke');
    expect(shelf.meta.missing).toEqual([1, 2]);
    shelf.breaksAfter = Infinity;
    expect(await send()).toBe(2);
    expect(await send()).toBe(0);
    expect(shelf.meta.missing).toEqual([]);
  });

  it('says what the server says against it, or else what it answered', async () => {
    shelf.refuses = { status: 413, body: '{"detail":"The trace is longer than a day."}' };
    await expect(send()).rejects.toThrow('The trace is longer than a day.');
    shelf.refuses = { status: 502, body: 'Bad gateway' };
    await expect(send()).rejects.toThrow('The server answered 502.');
  });

  it('is not drawn from a block that was damaged', async () => {
    await send();
    const packed = shelf.blocks.get(1) as Uint8Array<ArrayBuffer>;
    shelf.blocks.set(1, packed.slice(0, packed.length - 40));
    await expect(fetchTrace(shelf.meta, () => undefined)).rejects.toThrow();
  });
});
