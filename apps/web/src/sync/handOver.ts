import type { Problem } from '@firm-needle/contract';
import { withDb } from './db.ts';
import type { Outbox } from './outbox.ts';

/** So long something that is to stand on a job waits for the rest of it, ms. */
const LONGEST_MS = 10_000;

const NOT_SENT: Problem = {
  status: 0,
  code: 'not-sent',
  detail: 'The server does not have all of this job yet: this device still keeps some of it.',
  remedy: 'It is sent as soon as there is a signal and you are signed in. Then try again.',
};
const HELD: Problem = {
  status: 0,
  code: 'held',
  detail:
    'The server did not take an entry of this job, and what came after it waits here, the signature with it.',
  remedy: 'What it was and why stands where it says what is to be sent.',
};

/**
 * Sends what this device keeps of somebody's job before something is asked of the server that is to stand on it.
 * @returns undefined once the server has all of it that it takes; why it has not, as soon as that is known, at the latest after
 * `within_ms`. What it refused holds nothing up but a signature behind it. A device that cannot read what it keeps leaves it to the
 * server to say.
 */
export async function handedOver(
  outbox: Outbox,
  user: string,
  job: string,
  within_ms = LONGEST_MS,
): Promise<Problem | undefined> {
  const left = async (): Promise<Problem | undefined> => {
    const kept = await withDb((db) => db.getAllFromIndex('events', 'sent', [user, 0])).catch(() => []);
    const mine = kept.filter((e) => e.job === job);
    if (!mine.some((e) => e.refused)) return mine.length > 0 ? NOT_SENT : undefined;
    return mine.some((e) => e.event.body.kind === 'sign') ? HELD : undefined;
  };
  if ((await left()) === undefined) return undefined;
  return new Promise((resolve) => {
    const end = (why: Problem | undefined): void => {
      clearTimeout(latest);
      stop();
      resolve(why);
    };
    const latest = setTimeout(() => end(NOT_SENT), within_ms);
    const stop = outbox.onState(({ status }) => {
      if (status === 'sending') return;
      // It is idle after every round: what was kept meanwhile goes with the next.
      void left().then((why) => (why === undefined || status !== 'idle' ? end(why) : outbox.kick()));
    });
    outbox.kick();
  });
}
