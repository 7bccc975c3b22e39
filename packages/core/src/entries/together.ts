import type { Family } from '../family/index.js';
import {
  FoldedJob,
  JobLog,
  offer,
  PAYLOAD_VERSION,
  type JobEvent,
  type Offer,
  type WalkItem,
} from '../procedure/index.js';
import { done } from './entries.js';

/** No list is longer: one look must take it in. */
const MOST = 4;

/**
 * The step at hand, and the confirmations after it that its family lets be answered by the same press, in their order. Each is an
 * entry of its own; what would be offered next is asked of a copy of the log that has the ones before.
 * @returns the step at hand alone where nothing joins it; empty where nothing is to be done
 */
export function together(
  family: Family,
  events: readonly JobEvent[],
  view: FoldedJob,
  offered: Offer,
): readonly WalkItem[] {
  const { now } = offered;
  if (!now) return [];
  if (now.step.kind !== 'confirm' || blocked(offered) || !joinsAhead(offered)) return [now];
  const all = [now];
  const log = new JobLog(view.state.job, events);
  for (let last = now; all.length < MOST;) {
    log.append(trial(log, view, last));
    const then = new FoldedJob(family, log.state, view.now);
    const next = offer(family.procedure(then.plan), then);
    if (next.now?.step.kind !== 'confirm' || !next.now.step.joins || blocked(next)) break;
    last = next.now;
    all.push(last);
  }
  return all;
}

const blocked = (o: Offer): boolean => o.missing.length > 0 || o.permit !== undefined;

/** The walk shows what may come; whether it does is asked of the log. */
const joinsAhead = ({ walk }: Offer): boolean =>
  walk.some(({ status, step }) => status === 'ahead' && step.kind === 'confirm' && step.joins);

/** The entry that the press would make, in a log that nobody keeps. */
const trial = (log: JobLog, view: FoldedJob, item: WalkItem): JobEvent => ({
  id: `00000000-0000-7000-8000-${String(log.events.length).padStart(12, '0')}`,
  job: view.state.job,
  version: PAYLOAD_VERSION,
  after: log.events.at(-1)?.id ?? null,
  author: 'trial',
  wall: view.now?.wall ?? view.state.lastWall ?? '',
  device: view.state.holder ?? '',
  mono: 0,
  body: done(item).body,
});
