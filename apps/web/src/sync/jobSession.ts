import { JobLog, PAYLOAD_VERSION, type JobBody, type JobEvent } from '@firm-needle/core/procedure';
import { v7 as uuid } from 'uuid';
import { request } from '../store/http.ts';
import { deviceDb, deviceId, type KeptEvent } from './db.ts';
import { outbox } from './outbox.ts';

interface EventsPage {
  readonly items: readonly { readonly seq: number; readonly event: JobEvent }[];
  readonly next: number | null;
}

const channel = new BroadcastChannel('firm-needle-jobs');

/**
 * One job on this device: its log, appended here first and then sent. Lives outside the store and outside React;
 * screens subscribe to its revision.
 */
export class JobSession {
  readonly log: JobLog;
  private revision = 0;
  private readonly listeners = new Set<() => void>();
  private readonly stops: (() => void)[] = [];
  private loadedOnce = false;

  constructor(
    readonly job: string,
    readonly user: string,
  ) {
    this.log = new JobLog(job);
    this.stops.push(outbox.onSent((j) => j === job && void this.reload()));
    const heard = (m: MessageEvent<string>): void => {
      if (m.data === job) void this.reload();
    };
    channel.addEventListener('message', heard);
    this.stops.push(() => channel.removeEventListener('message', heard));
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
    await this.reload();
    await this.pull();
  }

  close(): void {
    for (const stop of this.stops) stop();
  }

  /** Append one event: it is on the disk of this device before the promise resolves. */
  async append(body: JobBody): Promise<JobEvent> {
    const event: JobEvent = {
      id: uuid(),
      job: this.job,
      version: PAYLOAD_VERSION,
      after: this.log.events.at(-1)?.id ?? null,
      device: deviceId(),
      author: this.user,
      wall: new Date().toISOString(),
      mono: Math.round(performance.timeOrigin + performance.now()),
      body,
    };
    const db = await deviceDb();
    await db.add('events', { id: event.id, job: this.job, user: this.user, seq: null, sent: 0, event });
    this.log.append(event);
    this.changed();
    channel.postMessage(this.job);
    outbox.kick();
    return event;
  }

  /** Events beyond what this device has, from the server; silence where it cannot be reached. */
  private async pull(): Promise<void> {
    const db = await deviceDb();
    const kept = await db.getAllFromIndex('events', 'job', this.job);
    const known = new Set(kept.map((e) => e.id));
    let after = highestGapless(kept);
    let fresh = false;
    for (;;) {
      const answer = await request<EventsPage>('GET', `/jobs/${this.job}/events?after=${after}`);
      if (!answer.ok) break;
      const tx = db.transaction('events', 'readwrite');
      for (const { seq, event } of answer.data.items) {
        const mine = known.has(event.id) ? await tx.store.index('id').get(event.id) : undefined;
        if (mine) await tx.store.put({ ...mine, seq, sent: 1 });
        else await tx.store.add({ id: event.id, job: this.job, user: this.user, seq, sent: 1, event });
        fresh = true;
      }
      await tx.done;
      if (answer.data.next === null) break;
      after = answer.data.next;
    }
    if (fresh) await this.reload();
  }

  private async reload(): Promise<void> {
    const db = await deviceDb();
    const kept = await db.getAllFromIndex('events', 'job', this.job);
    const ordered = inOrder(kept);
    const same =
      this.loadedOnce &&
      ordered.length === this.log.events.length &&
      ordered.every((e, i) => e.id === this.log.events[i]?.id);
    this.loadedOnce = true;
    if (!same) this.log.replace(ordered.map((e) => e.event));
    this.changed();
  }

  private changed(): void {
    this.revision++;
    for (const l of this.listeners) l();
  }
}

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
