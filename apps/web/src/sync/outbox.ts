import { request } from '../store/http.ts';
import type { Problem } from '../store/types.ts';
import { deviceDb, type KeptEvent } from './db.ts';

export interface OutboxState {
  /** Events on this device that the server has not confirmed. */
  readonly kept: number;
  readonly sent: number;
  readonly status: 'idle' | 'sending' | 'waiting' | 'signed-out' | 'refused';
  readonly problem?: Problem;
}

interface Appended {
  readonly accepted: readonly { readonly id: string; readonly seq: number }[];
}

const BATCH = 100;
const FIRST_WAIT_MS = 1000;
const LONGEST_WAIT_MS = 30000;

/** Problems that will not go away by sending the same thing again. */
const isFinal = (p: Problem): boolean =>
  p.status >= 400 && p.status < 500 && ![401, 408, 425, 429].includes(p.status);

/**
 * Sends what this device keeps, in order, until the server has it: one sender among all open tabs, retry with back-off.
 * Nothing is ever dropped; what is refused stays here and is shown.
 */
export class Outbox {
  private user: string | undefined;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private wait = FIRST_WAIT_MS;
  private running = false;
  private again = false;
  private readonly listeners = new Set<(state: OutboxState) => void>();
  private readonly sentListeners = new Set<(job: string) => void>();

  constructor() {
    addEventListener('online', () => this.kick());
    document.addEventListener('visibilitychange', () => {
      if (!document.hidden) this.kick();
    });
  }

  /** Whose queue is sent; undefined while signed out. */
  use(user: string | undefined): void {
    this.user = user;
    this.wait = FIRST_WAIT_MS;
    this.kick();
  }

  onState(listener: (state: OutboxState) => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  /** Called with a job's id when events of it got their place in the server's sequence. */
  onSent(listener: (job: string) => void): () => void {
    this.sentListeners.add(listener);
    return () => this.sentListeners.delete(listener);
  }

  /** Send now; harmless to call often. */
  kick(): void {
    clearTimeout(this.timer);
    if (this.running) {
      this.again = true;
      return;
    }
    this.running = true;
    void this.round().finally(() => {
      this.running = false;
      if (this.again) {
        this.again = false;
        this.kick();
      }
    });
  }

  async unsent(): Promise<number> {
    if (!this.user) return 0;
    const db = await deviceDb();
    return (await db.countFromIndex('events', 'sent', [this.user, 0])) + (await db.count('puts'));
  }

  private async round(): Promise<void> {
    if (!this.user) return this.tell('idle');
    const work = (): Promise<void> => this.send();
    // One sender at a time, whichever tab it is in; a browser without locks has one tab in practice.
    if ('locks' in navigator) await navigator.locks.request('firm-needle-sender', work);
    else await work();
  }

  private async send(): Promise<void> {
    const db = await deviceDb();
    const user = this.user;
    if (!user) return;
    const puts = (await db.getAll('puts')).filter((p) => p.user === user && !p.refused);
    if (puts.length > 0) await this.tell('sending');
    for (const put of puts) {
      const answer = await request<unknown>('PUT', put.path, put.body);
      if (answer.ok) await db.delete('puts', put.path);
      else if (isFinal(answer.problem)) await db.put('puts', { ...put, refused: answer.problem });
      else return this.later(answer.problem);
    }
    const kept = (await db.getAllFromIndex('events', 'sent', [user, 0])).filter((e) => !e.refused);
    kept.sort((a, b) => (a.local ?? 0) - (b.local ?? 0));
    const jobs = [...new Set(kept.map((e) => e.job))];
    for (const job of jobs) {
      const mine = kept.filter((e) => e.job === job);
      for (let i = 0; i < mine.length; i += BATCH) {
        await this.tell('sending');
        const batch = mine.slice(i, i + BATCH);
        const answer = await request<Appended>('POST', `/jobs/${job}/events`, {
          events: batch.map((e) => e.event),
        });
        if (!answer.ok) {
          if (!isFinal(answer.problem)) return this.later(answer.problem);
          await this.refuse(batch, answer.problem);
          break;
        }
        await this.confirm(batch, answer.data);
        for (const l of this.sentListeners) l(job);
      }
    }
    this.wait = FIRST_WAIT_MS;
    const refused = [
      ...(await db.getAllFromIndex('events', 'sent', [user, 0])),
      ...(await db.getAll('puts')),
    ].find((e) => e.refused);
    await this.tell(refused ? 'refused' : 'idle', refused?.refused);
  }

  private async confirm(batch: readonly KeptEvent[], answer: Appended): Promise<void> {
    const db = await deviceDb();
    const seqs = new Map(answer.accepted.map((a) => [a.id, a.seq]));
    const tx = db.transaction('events', 'readwrite');
    for (const e of batch) {
      const seq = seqs.get(e.id);
      if (seq !== undefined) void tx.store.put({ ...e, seq, sent: 1 });
    }
    await tx.done;
  }

  private async refuse(batch: readonly KeptEvent[], problem: Problem): Promise<void> {
    const db = await deviceDb();
    const tx = db.transaction('events', 'readwrite');
    for (const e of batch) void tx.store.put({ ...e, refused: problem });
    await tx.done;
  }

  private async later(problem: Problem): Promise<void> {
    if (problem.status === 401) return this.tell('signed-out', problem);
    await this.tell('waiting', problem);
    this.timer = setTimeout(() => this.kick(), this.wait);
    this.wait = Math.min(this.wait * 2, LONGEST_WAIT_MS);
  }

  private async tell(status: OutboxState['status'], problem?: Problem): Promise<void> {
    const db = await deviceDb();
    const kept = this.user ? await db.countFromIndex('events', 'sent', [this.user, 0]) : 0;
    const sent = this.user ? await db.countFromIndex('events', 'sent', [this.user, 1]) : 0;
    for (const l of this.listeners) l({ kept, sent, status, ...(problem ? { problem } : {}) });
  }
}

export const outbox = new Outbox();
