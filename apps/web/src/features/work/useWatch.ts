import { watchOf } from '@firm-needle/core/entries';
import type { WalkItem } from '@firm-needle/core/procedure';
import { useEffect } from 'react';
import type { LiveNow } from '../../live/liveSession.ts';
import type { OpenJob } from '../../sync/useJob.ts';
import type { Live } from './useLiveSource.ts';

/** What one step at one pass watches for; nothing caught under another key belongs to it. */
const watchKey = (item: WalkItem | undefined, missing: number, slot: string): string =>
  `${item?.step.key ?? 'end'} ${item?.pass ?? ''} ${missing} ${slot}`;

/** The live reading, but only once the watch is this step's own. */
export const ownReading = (now: LiveNow | undefined, item: WalkItem, slot: string): LiveNow | undefined =>
  now?.key === watchKey(item, 0, slot) ? now : undefined;

/** Points the live session at the gauge and the kind of catch that the step at hand asks for. */
export function useWatch(job: OpenJob, live: Live | undefined, slot: string): void {
  const item = job.offered.now;
  const step = item?.step;
  const gauge = job.view.gauge(slot);
  const key = watchKey(item, job.offered.missing.length, slot);
  const options = watchOf(job.family, job.view, step, slot);
  useEffect(() => {
    if (live && options) live.session.watch({ ...options, key, slot });
    // What is watched for follows from the step and the gauge.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [live, key, slot, gauge, step, job.family, job.view.plan]);
}
