import type { Family } from '../family/index.js';
import { spanOf } from '../gauge/index.js';
import type { JobView, Step } from '../procedure/index.js';
import type { CatchOptions } from '../trace/index.js';

/** Window over which a standing reading must stand, s: the same for a person at the screen and for a script. */
export const FIRM_WINDOW_S = 4;

/** What a step waits for on the gauge in a place; undefined where no gauge is there. */
export function watchOf(
  family: Family,
  job: JobView,
  step: Step | undefined,
  slot: string,
): CatchOptions | undefined {
  const gauge = job.gauge(slot);
  if (!gauge) return undefined;
  const noise = family.rig.noise(job.plan)[slot] ?? 0;
  return {
    wanted: step?.kind === 'read' ? step.catch : 'firm',
    // What a sensor's noise hides cannot be waited for.
    resolution: Math.max(spanOf(gauge).readableStep, noise),
    noise,
    window_s: FIRM_WINDOW_S,
  };
}

/** Longest time between two opposite turning points that still belong together, s. */
const MOST_BETWEEN_S = 1200;

/** Remembers turning points as they are taken, for the time from one to the opposite one. */
export class Turnings {
  private last: { readonly kind: 'low' | 'high'; readonly t: number } | undefined;

  /** Seconds since the opposite turning point was taken; remembers this one. */
  take(kind: 'low' | 'high', t: number): number | undefined {
    const since = this.last && this.last.kind !== kind ? t - this.last.t : undefined;
    this.last = { kind, t };
    return since !== undefined && since > 0 && since < MOST_BETWEEN_S ? since : undefined;
  }
}

/** Whether what is caught is a turning point of a cycle, and of which kind. */
export const turningOf = (wanted: CatchOptions['wanted']): 'low' | 'high' | undefined =>
  wanted === 'low' || wanted === 'starts'
    ? 'low'
    : wanted === 'high' || wanted === 'stops'
      ? 'high'
      : undefined;
