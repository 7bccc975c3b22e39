import type { Problem } from '@firm-needle/contract';
import { withDb } from './db.ts';
import type { Outbox } from './outbox.ts';

/** So long something that is to stand on a job waits for the rest of it, ms. */
const LONGEST_MS = 10_000;

/** Said where something of a job is asked of the server that does not have all of it yet. */
export const NOT_HANDED_OVER: Problem = {
  status: 0,
  code: 'not-sent',
  detail: 'The server does not have all of this job yet: this device still keeps some of it.',
  remedy: 'It is sent as soon as there is a signal. Then try again.',
};

/**
 * Sends what this device keeps of somebody's job before something is asked of the server that is to stand on it.
 * @returns whether the server has all of it: at once where nothing is kept, as soon as it is known that it must wait, at the latest
 * after `within_ms`. A device that cannot read what it keeps leaves it to the server to say.
 */
export async function handedOver(
  outbox: Outbox,
  user: string,
  job: string,
  within_ms = LONGEST_MS,
): Promise<boolean> {
  const all = (): Promise<boolean> =>
    withDb((db) => db.getAllFromIndex('events', 'sent', [user, 0])).then(
      (kept) => !kept.some((e) => e.job === job),
      () => true,
    );
  if (await all()) return true;
  return new Promise((resolve) => {
    const end = (sent: boolean): void => {
      clearTimeout(latest);
      stop();
      resolve(sent);
    };
    const latest = setTimeout(() => end(false), within_ms);
    const stop = outbox.onState(({ status }) => {
      if (status === 'sending') return;
      // It is idle after every round: what was kept meanwhile goes with the next.
      void all().then((sent) => (sent || status !== 'idle' ? end(sent) : outbox.kick()));
    });
    outbox.kick();
  });
}
