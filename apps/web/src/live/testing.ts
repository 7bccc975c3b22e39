import type { LiveBlock, LiveSource } from './source.ts';

/** A live source that says what a test lets it say. */
export class FakeSource implements LiveSource {
  readonly title = 'a fake';
  closed = false;
  private take: ((b: LiveBlock) => void) | undefined;
  private t = 0;

  onBlock(take: (b: LiveBlock) => void): () => void {
    this.take = take;
    return () => (this.take = undefined);
  }

  close(): void {
    this.closed = true;
  }

  /** Seconds of a shape of pressure at 20 Hz, in one block; `'untold'` where the source knows a gauge and nothing else. */
  give(seconds: number, p: (t: number) => number, running: boolean | 'untold' = false): void {
    const n = Math.round(seconds * 20);
    const t = Float64Array.from({ length: n }, (_, i) => this.t + (i + 1) / 20);
    const system = Float64Array.from({ length: n }, (_, i) => p((i + 1) / 20));
    this.t += seconds;
    this.take?.({
      t,
      gauges: { system, air: system.map((x) => x / 2) },
      ...(running === 'untold'
        ? {}
        : { running: new Uint8Array(n).fill(running ? 1 : 0), channels: { pump: running ? 1 : 0 } }),
    });
  }
}
