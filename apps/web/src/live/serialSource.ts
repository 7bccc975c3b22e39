import { AsciiGauge } from '@firm-needle/core/trace';
import type { LiveBlock, LiveSource } from './source.ts';

/** Bytes as they come from a cable; a port of Web Serial is one. */
export interface BytePort {
  readonly readable: ReadableStream<Uint8Array> | null;
  close(): Promise<void>;
}

interface Speaks {
  /** Unit of lines that do not name one. */
  readonly unit: string;
  /** Pa absolute. */
  readonly ambient: number;
  /** Its lines begin with their time, s; else they are as late as they arrive. */
  readonly timed?: boolean;
}

/** A gauge that sends its readings as lines of ASCII over a cable. */
export class SerialSource implements LiveSource {
  readonly slots: readonly string[];
  private readonly lines: AsciiGauge;
  private readonly takers = new Set<(block: LiveBlock) => void>();
  private readonly reader: ReadableStreamDefaultReader<Uint8Array> | undefined;
  private last = -Infinity;

  /** @param slot the place whose gauge it is */
  constructor(
    readonly title: string,
    private readonly port: BytePort,
    private readonly slot: string,
    speaks: Speaks,
    // Goes on over a reload, and does not jump when the wall clock is set.
    private readonly clock: () => number = () => (performance.timeOrigin + performance.now()) / 1000,
  ) {
    this.slots = [slot];
    this.lines = new AsciiGauge(speaks.unit, speaks.ambient, speaks.timed);
    this.reader = port.readable?.getReader();
    void this.listen();
  }

  /** Lines that held no pressure so far. */
  get skipped(): number {
    return this.lines.skipped;
  }

  onBlock(take: (block: LiveBlock) => void): () => void {
    this.takers.add(take);
    return () => this.takers.delete(take);
  }

  close(): void {
    void this.reader
      ?.cancel()
      .catch(() => undefined)
      .finally(() => void this.port.close().catch(() => undefined));
  }

  private async listen(): Promise<void> {
    const text = new TextDecoder('ascii');
    for (;;) {
      // A cable that was pulled out ends the stream; what was read stays.
      const part = await this.reader?.read().catch(() => undefined);
      if (!part || part.done) return;
      const sent = this.lines.push(text.decode(part.value, { stream: true }));
      if (sent.length === 0) continue;
      const now = this.clock();
      const t = Float64Array.from(sent, (s) => (this.last = Math.max(s.t ?? now, this.last + 1e-3)));
      const block = { t, gauges: { [this.slot]: Float64Array.from(sent, (s) => s.p) } };
      for (const take of this.takers) take(block);
    }
  }
}
