import type { Family } from '@firm-needle/core/family';
import { asRead, shownStep } from '@firm-needle/core/gauge';
import { slotsOf, type JobView } from '@firm-needle/core/procedure';
import { decimalsFor } from '@firm-needle/core/quantity';
import type { BytePort } from './serialSource.ts';
import type { LiveSource } from './source.ts';

/** Every so many of the rig's samples becomes a line: ten a second. */
const EVERY = 2;

/** The simulated serial gauge: what a gauge on the rig shows, sent as a real one sends it, `12.40 43.2 psi` and a line end. */
export class SimulatedGauge implements BytePort {
  readonly readable: ReadableStream<Uint8Array>;
  private stop: (() => void) | undefined;

  constructor(
    private readonly rig: LiveSource,
    family: Family,
    job: JobView,
  ) {
    const slot = slotsOf(family, job.plan)[0]?.id ?? '';
    const gauge = job.gauge(slot);
    const text = new TextEncoder();
    this.readable = new ReadableStream({
      start: (out) => {
        this.stop = rig.onBlock((block) => {
          const column = block.gauges[slot];
          if (!gauge || !column) return;
          let lines = '';
          for (let i = 0; i < column.length; i += EVERY) {
            const shown = asRead(gauge, column[i] ?? 0).toFixed(decimalsFor(shownStep(gauge)));
            lines += `${(block.t[i] ?? 0).toFixed(2)} ${shown} ${gauge.unit}\r\n`;
          }
          out.enqueue(text.encode(lines));
        });
      },
      cancel: () => this.stop?.(),
    });
  }

  close(): Promise<void> {
    this.stop?.();
    this.rig.close();
    return Promise.resolve();
  }
}
