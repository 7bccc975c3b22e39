import {
  PAYLOAD_VERSION,
  type Check,
  type JobBody,
  type JobEvent,
  type JobLog,
} from '@firm-needle/core/procedure';
import { v7 as uuid } from 'uuid';
import { deviceId } from './db.ts';

/** The server takes no larger entry. */
export const MOST_EVENT_BYTES = 60 * 1024;

/** An entry that could not be kept on this device, in words; what was typed is still on the screen. */
export class NotKept extends Error {}

/** Why this device could not keep it, for the screen. */
export const notKept = (error: unknown): NotKept =>
  new NotKept(
    error instanceof DOMException && error.name === 'QuotaExceededError'
      ? 'This device has no room left, so that was not kept. Free some space, then enter it again.'
      : 'This device could not keep that. Enter it again; if it fails again, open the page anew.',
    { cause: error },
  );

/**
 * Entries as the events that follow what the log has.
 * @throws NotKept where one is larger than an entry may be
 */
export function chained(log: JobLog, user: string, bodies: readonly JobBody[]): readonly JobEvent[] {
  let after = log.events.at(-1)?.id ?? null;
  return bodies.map((body) => {
    const event: JobEvent = {
      id: uuid(),
      job: log.job,
      version: PAYLOAD_VERSION,
      after,
      device: deviceId(),
      author: user,
      wall: new Date().toISOString(),
      mono: Math.round(performance.timeOrigin + performance.now()),
      body,
    };
    const bytes = new TextEncoder().encode(JSON.stringify(event)).length;
    if (bytes > MOST_EVENT_BYTES)
      throw new NotKept(
        `That is ${Math.round(bytes / 1024)} kB; an entry holds at most ${MOST_EVENT_BYTES / 1024} kB. Shorten it.`,
      );
    after = event.id;
    return event;
  });
}

/** A log that is open on this device, as the screens use it: a job's, or that of a run of practice. */
export interface LogSession {
  readonly log: JobLog;
  /** Whether this device has read what it keeps of it. */
  readonly loaded: boolean;
  subscribe(listener: () => void): () => void;
  getRevision(): number;
  /** From here on what the family does not know is set aside. */
  judgeBy(check: Check): void;
  /** Looks at the log anew: something beside it, such as the time, has changed what it means. */
  touch(): void;
  /**
   * Append entries, all or none: they are on the disk of this device before the promise resolves.
   * @returns the newest of them
   */
  append(first: JobBody, ...more: readonly JobBody[]): Promise<JobEvent>;
}
