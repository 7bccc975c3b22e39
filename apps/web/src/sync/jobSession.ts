import type { EventsPage } from '@firm-needle/contract';
import { JobLog, type Check, type JobBody, type JobEvent } from '@firm-needle/core/procedure';
import { request } from '../store/http.ts';
import { withDb, type KeptEvent } from './db.ts';
import { chained, notKept, type LogSession } from './logSession.ts';
import { outbox } from './outbox.ts';

const channel = new BroadcastChannel('firm-needle-jobs');

/**
 * One job on this device: its log, appended here first and then sent. Lives outside the store and outside React;
 * screens subscribe to its revision.
 */
export class JobSession implements LogSession {
  readonly log: JobLog;
  private revision = 0;
  private readonly listeners = new Set<() => void>();
  private readonly stops: (() => void)[] = [];
  private loadedOnce = false;
  private asking: Promise<boolean> | undefined;
  private closed = false;
  private line: Promise<unknown> = Promise.resolve();

  constructor(
    readonly job: string,
    readonly user: string,
  ) {
    this.log = new JobLog(job);
  }

  /** Whether this device has read what it keeps of the job. */
  get loaded(): boolean {
    return this.loadedOnce;
  }

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  getRevision = (): number => this.revision;

  /** Read what is kept here, then whatever the server has beyond it. */
  async open(): Promise<void> {
    this.closed = false;
    const heard = (m: MessageEvent<string>): void => {
      if (m.data === this.job) void this.reload();
    };
    channel.addEventListener('message', heard);
    this.stops.push(
      () => channel.removeEventListener('message', heard),
      // What was sent got its place; others may have written meanwhile.
      outbox.onSent((j) => j === this.job && void this.ask()),
    );
    await this.reload();
    await this.ask();
  }

  close(): void {
    this.closed = true;
    for (const stop of this.stops.splice(0)) stop();
  }

  /** From here on what the family does not know is set aside. */
  judgeBy(check: Check): void {
    this.log.judgeBy(check);
  }

  /** Looks at the log anew: something beside it, such as the time, has changed what it means. */
  touch(): void {
    this.changed();
  }

  /**
   * Append entries, all or none: they are on the disk of this device before the promise resolves.
   * @returns the newest of them
   * @throws NotKept with words for the screen; nothing was entered then
   */
  async append(first: JobBody, ...more: readonly JobBody[]): Promise<JobEvent> {
    const newest = await this.oneByOne(async () => {
      const events = chained(this.log, this.user, [first, ...more]);
      try {
        await withDb(async (db) => {
          const tx = db.transaction('events', 'readwrite', { durability: 'strict' });
          try {
            for (const event of events)
              await tx.store.add({ id: event.id, job: this.job, user: this.user, seq: null, sent: 0, event });
          } catch (error) {
            // What went in before it would be kept else.
            tx.abort();
            await tx.done.catch(() => undefined);
            throw error;
          }
          await tx.done;
        });
      } catch (error) {
        throw notKept(error);
      }
      for (const event of events) this.log.append(event);
      return events.at(-1);
    });
    this.changed();
    channel.postMessage(this.job);
    outbox.kick();
    return newest as JobEvent;
  }

  /**
   * Events beyond what this device has, from the server; silence where it cannot be reached.
   * @returns whether the server was reached
   */
  ask(): Promise<boolean> {
    this.asking ??= this.pull().finally(() => (this.asking = undefined));
    return this.asking;
  }

  private async pull(): Promise<boolean> {
    await this.reload();
    const kept = await withDb((db) => db.getAllFromIndex('events', 'job', this.job));
    let after = highestGapless(kept);
    let fresh = false;
    for (;;) {
      const answer = await request<EventsPage>('GET', `/jobs/${this.job}/events?after=${after}`);
      if (!answer.ok) return false;
      const { items, next } = answer.data;
      if (items.length > 0) {
        await withDb(async (db) => {
          const tx = db.transaction('events', 'readwrite');
          for (const { seq, event } of items) {
            const mine = await tx.store.index('id').get(event.id);
            if (mine) await tx.store.put({ ...mine, seq, sent: 1, event });
            else await tx.store.add({ id: event.id, job: this.job, user: this.user, seq, sent: 1, event });
          }
          await tx.done;
        });
        fresh = true;
      }
      if (next === null) break;
      after = next;
    }
    if (fresh && !this.closed) await this.reload();
    return true;
  }

  /** A log that is read while an entry is being kept must not lose it from view. */
  private oneByOne<T>(work: () => Promise<T>): Promise<T> {
    const turn = this.line.then(work);
    this.line = turn.catch(() => undefined);
    return turn;
  }

  private reload(): Promise<void> {
    return this.oneByOne(() => this.readAnew());
  }

  private async readAnew(): Promise<void> {
    const kept = await withDb((db) => db.getAllFromIndex('events', 'job', this.job));
    if (this.closed) return;
    const ordered = inOrder(kept);
    const same =
      this.loadedOnce &&
      ordered.length === this.log.events.length &&
      ordered.every((e, i) => isSame(e.event, this.log.events[i]));
    this.loadedOnce = true;
    if (same) return;
    this.log.replace(ordered.map((e) => e.event));
    this.changed();
  }

  private changed(): void {
    this.revision++;
    for (const l of this.listeners) l();
  }
}

/** What the server put under an entry, such as a name, makes it another to look at. */
const STAMPED = new Set(['started', 'take', 'sign', 'countersign']);
const isSame = (a: JobEvent, b: JobEvent | undefined): boolean =>
  a.id === b?.id && (!STAMPED.has(a.body?.kind) || JSON.stringify(a) === JSON.stringify(b));

/** The server's sequence first, then the order of this device for what is unsent; never a clock. */
function inOrder(kept: readonly KeptEvent[]): KeptEvent[] {
  return [...kept].sort((a, b) => {
    if (a.seq !== null && b.seq !== null) return a.seq - b.seq;
    if (a.seq !== null) return -1;
    if (b.seq !== null) return 1;
    return (a.local ?? 0) - (b.local ?? 0);
  });
}

function highestGapless(kept: readonly KeptEvent[]): number {
  const seqs = new Set(kept.flatMap((e) => (e.seq === null ? [] : [e.seq])));
  let n = 0;
  while (seqs.has(n + 1)) n++;
  return n;
}
