import type { Deed, Hurt, RunRecord, Said } from '@firm-needle/core/practice';
import { JobLog, type Check, type JobBody, type JobEvent } from '@firm-needle/core/procedure';
import { withDb, type KeptRun } from '../sync/db.ts';
import { chained, notKept, type LogSession } from '../sync/logSession.ts';

const channel = new BroadcastChannel('firm-needle-practice');

/** A run of practice on this device, kept whole and apart from every job; no outbox of jobs ever sees it. */
export class PracticeSession implements LogSession {
  readonly log: JobLog;
  kept: KeptRun | undefined;
  loaded = false;
  private revision = 0;
  private readonly listeners = new Set<() => void>();

  constructor(
    readonly run: string,
    readonly user: string,
  ) {
    this.log = new JobLog(run);
  }

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  getRevision = (): number => this.revision;

  /** Read what is kept here; another tab that goes on with it is heard. @returns what ends that */
  open(): () => void {
    const heard = (m: MessageEvent<string>): void => {
      if (m.data === this.run) void this.reload();
    };
    channel.addEventListener('message', heard);
    void this.reload();
    return () => channel.removeEventListener('message', heard);
  }

  judgeBy(check: Check): void {
    this.log.judgeBy(check);
  }

  touch(): void {
    this.changed();
  }

  async append(first: JobBody, ...more: readonly JobBody[]): Promise<JobEvent> {
    let events: readonly JobEvent[] = [];
    await this.write((record) => {
      if (record.endedAt) return record;
      events = chained(this.log, this.user, [first, ...more]);
      return { ...record, events: [...record.events, ...events] };
    });
    const newest = events.at(-1);
    if (!newest) throw notKept(undefined);
    return newest;
  }

  /** It is over: signed, or somebody would have been hurt. */
  end(how: { readonly deeds: readonly Deed[]; readonly said?: Said; readonly hurt?: Hurt }): Promise<void> {
    return this.write((record) => ({
      ...record,
      ...how,
      endedAt: record.endedAt ?? new Date().toISOString(),
    }));
  }

  private async reload(): Promise<void> {
    const kept = await withDb((db) => db.get('practice', this.run));
    this.loaded = true;
    this.take(kept && kept.user === this.user ? kept : undefined);
  }

  /** One change at a time, whichever tab makes it: what another wrote is changed, and not lost. */
  private async write(change: (record: RunRecord) => RunRecord): Promise<void> {
    try {
      await withDb(async (db) => {
        const tx = db.transaction('practice', 'readwrite', { durability: 'strict' });
        const kept = await tx.store.get(this.run);
        if (!kept) throw new Error('There is no such run here.');
        if (kept.record.events.length !== this.log.events.length) this.log.replace(kept.record.events);
        const next = { ...kept, record: change(kept.record) };
        await tx.store.put(next);
        await tx.done;
        this.take(next);
      });
    } catch (error) {
      throw notKept(error);
    }
    channel.postMessage(this.run);
  }

  private take(kept: KeptRun | undefined): void {
    this.kept = kept;
    const events = kept?.record.events ?? [];
    if (events.length !== this.log.events.length || events.at(-1)?.id !== this.log.events.at(-1)?.id)
      this.log.replace(events);
    this.changed();
  }

  private changed(): void {
    this.revision++;
    for (const l of this.listeners) l();
  }
}
