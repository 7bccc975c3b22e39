import type { JobEvent } from '@firm-needle/core/procedure';
import { request, sendBytes, type Answer } from '../store/http.ts';
import type { Problem } from '@firm-needle/contract';
import { inOrderMade, nextOrder, withDb, type KeptBlob, type KeptEvent, type KeptPut } from './db.ts';

export interface OutboxState {
  /** Events and photos on this device that the server has not confirmed. */
  readonly kept: number;
  readonly sent: number;
  readonly status: 'idle' | 'sending' | 'waiting' | 'signed-out' | 'refused';
  readonly problem?: Problem;
  /** Jobs that wait behind an entry the server did not take, and how many entries wait with it. */
  readonly held?: readonly HeldJob[];
}

/** A job that is not sent on: its first refused entry, and what waits behind it. */
export interface HeldJob {
  readonly job: string;
  readonly waiting: number;
  readonly what: string;
  readonly problem: Problem;
}

interface Appended {
  readonly accepted: readonly {
    readonly id: string;
    readonly seq: number;
    /** As it was recorded, where the session said something of it. */
    readonly event?: JobEvent;
  }[];
}

const BATCH = 100;
const FIRST_WAIT_MS = 1000;
const LONGEST_WAIT_MS = 30000;
/** Photos that stay on the device after they were sent. */
const MOST_SENT_BLOBS = 40;

/** Problems of our own server that will not go away by sending the same thing again. */
const isFinal = (p: Problem): boolean =>
  p.status >= 400 && p.status < 500 && ![401, 408, 425, 429].includes(p.status) && !goesAway(p);

/** The server is older than what was written here: it is updated, or waits for what comes before. */
const goesAway = (p: Problem): boolean => p.code === 'version-newer' || p.code === 'gap';

/**
 * Sends what this device keeps, in order, until the server has it: one sender among all open tabs, retry with back-off.
 * Nothing is ever dropped, and nothing overtakes: a job stops at its first refused entry, which is shown with its reason.
 */
export class Outbox {
  private user: string | undefined;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private wait = FIRST_WAIT_MS;
  private running = false;
  private again = false;
  private readonly listeners = new Set<(state: OutboxState) => void>();
  private readonly sentListeners = new Set<(job: string) => void>();
  private readonly newsListeners = new Set<() => void>();

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

  /** Called when the server took something that changes what it answers elsewhere: a record, or a sign-off. */
  onNews(listener: () => void): () => void {
    this.newsListeners.add(listener);
    return () => this.newsListeners.delete(listener);
  }

  /** Whether records of this user wait here to be sent. */
  async waits(): Promise<boolean> {
    const puts = await withDb((db) => db.getAll('puts'));
    return puts.some((p) => p.user === this.user && !p.refused);
  }

  /** Keeps records that are made on this device, all or none, in this order, and sends them when it can. */
  async keep(puts: readonly Pick<KeptPut, 'path' | 'body'>[]): Promise<void> {
    const { user } = this;
    if (!user) throw new Error('Nobody is signed in.');
    await withDb(async (db) => {
      const tx = db.transaction('puts', 'readwrite', { durability: 'strict' });
      for (const { path, body } of puts) await tx.store.put({ path, body, user, order: nextOrder() });
      await tx.done;
    });
    this.kick();
  }

  /** Keeps a photo's bytes on this device, and sends them when it can: after every entry, which are worth more. */
  async keepBlob(hash: string, data: Blob): Promise<void> {
    const { user } = this;
    if (!user) throw new Error('Nobody is signed in.');
    await withDb(async (db) => {
      const tx = db.transaction('blobs', 'readwrite', { durability: 'strict' });
      if (!(await tx.store.get(hash))) await tx.store.put({ hash, user, data, sent: 0, time: Date.now() });
      await tx.done;
    });
    this.kick();
  }

  /** Send now; harmless to call often. */
  kick(): void {
    clearTimeout(this.timer);
    if (this.running) {
      this.again = true;
      return;
    }
    this.running = true;
    void this.round()
      .catch(() => this.later(STORE_LOST).catch(() => undefined))
      .finally(() => {
        this.running = false;
        if (this.again) {
          this.again = false;
          this.kick();
        }
      });
  }

  /** Forgets that entries were refused and sends them again: after an update, or once what was wrong is mended. */
  async tryAgain(): Promise<void> {
    await withDb(async (db) => {
      const tx = db.transaction(['events', 'puts', 'blobs'], 'readwrite');
      for (const e of await tx.objectStore('events').getAll())
        if (e.refused) await tx.objectStore('events').put(without(e));
      for (const p of await tx.objectStore('puts').getAll())
        if (p.refused) await tx.objectStore('puts').put(without(p));
      for (const b of await tx.objectStore('blobs').getAll())
        if (b.refused) await tx.objectStore('blobs').put(without(b));
      await tx.done;
    });
    this.kick();
  }

  private async round(): Promise<void> {
    if (!this.user) return this.tell('idle');
    const work = (): Promise<void> => this.send();
    // One sender at a time, whichever tab it is in; a browser without locks has one tab in practice.
    if ('locks' in navigator) await navigator.locks.request('firm-needle-sender', work);
    else await work();
  }

  private async send(): Promise<void> {
    const user = this.user;
    if (!user) return;
    const kept = inOrderMade(await withDb((db) => db.getAll('puts')));
    const puts = kept.filter((p) => p.user === user && !p.refused);
    if (puts.length > 0) await this.tell('sending');
    for (const put of puts) {
      const answer = await request<unknown>('PUT', put.path, put.body);
      if (answer.ok) {
        await withDb((db) => db.delete('puts', put.path));
        for (const l of this.newsListeners) l();
      } else if (isFinal(answer.problem))
        await withDb((db) => db.put('puts', { ...put, refused: answer.problem }));
      else return this.later(answer.problem);
    }
    const unsent = await this.unsent(user);
    let waits: Problem | undefined;
    for (const job of new Set(unsent.map((e) => e.job))) {
      const problem = await this.sendJob(unsent.filter((e) => e.job === job));
      if (!problem) continue;
      if (!goesAway(problem)) return this.later(problem);
      // This job waits; the others need not.
      waits = problem;
    }
    if (waits) return this.later(waits);
    const stuck = await this.sendBlobs(user);
    if (stuck) return this.later(stuck);
    this.wait = FIRST_WAIT_MS;
    const held = await this.held(user);
    await this.tell(held.length > 0 ? 'refused' : 'idle', held[0]?.problem, held);
  }

  /** Sends photos one by one. @returns why they must wait, where they must */
  private async sendBlobs(user: string): Promise<Problem | undefined> {
    const kept = await this.blobs(user);
    for (const blob of kept.filter((b) => b.sent === 0 && !b.refused)) {
      await this.tell('sending');
      const answer = await sendBytes(`/photos/${blob.hash}`, blob.data);
      if (answer.ok) {
        await withDb((db) => db.put('blobs', { ...blob, sent: 1 }));
        for (const l of this.newsListeners) l();
      } else if (isFinal(answer.problem))
        await withDb((db) => db.put('blobs', { ...blob, refused: answer.problem }));
      else return answer.problem;
    }
    // What was sent long ago is had from the server.
    const sent = kept.filter((b) => b.sent === 1).sort((a, b) => b.time - a.time);
    for (const b of sent.slice(MOST_SENT_BLOBS)) await withDb((db) => db.delete('blobs', b.hash));
    return undefined;
  }

  private async blobs(user: string): Promise<KeptBlob[]> {
    return (await withDb((db) => db.getAll('blobs'))).filter((b) => b.user === user);
  }

  private async unsent(user: string): Promise<KeptEvent[]> {
    const kept = await withDb((db) => db.getAllFromIndex('events', 'sent', [user, 0]));
    return kept.sort((a, b) => (a.local ?? 0) - (b.local ?? 0));
  }

  /** Sends a job's entries in order, up to the first that is refused. @returns why it must wait, where it must */
  private async sendJob(mine: readonly KeptEvent[]): Promise<Problem | undefined> {
    const stop = mine.findIndex((e) => e.refused);
    const open = stop < 0 ? mine : mine.slice(0, stop);
    for (let i = 0; i < open.length; i += BATCH) {
      await this.tell('sending');
      const batch = open.slice(i, i + BATCH);
      const answer = await this.post(batch);
      if (answer.ok) {
        await this.confirm(batch, answer.data);
        continue;
      }
      if (!isFinal(answer.problem)) return answer.problem;
      return this.oneByOne(batch);
    }
    return undefined;
  }

  /** A batch was refused: which entry of it, is found by sending them singly; nothing goes past that one. */
  private async oneByOne(batch: readonly KeptEvent[]): Promise<Problem | undefined> {
    for (const e of batch) {
      const answer = await this.post([e]);
      if (answer.ok) await this.confirm([e], answer.data);
      else {
        if (!isFinal(answer.problem)) return answer.problem;
        const { problem } = answer;
        await withDb((db) => db.put('events', { ...e, refused: problem }));
        return undefined;
      }
    }
    return undefined;
  }

  private post(batch: readonly KeptEvent[]): Promise<Answer<Appended>> {
    return request<Appended>('POST', `/jobs/${batch[0]?.job}/events`, { events: batch.map((e) => e.event) });
  }

  private async confirm(batch: readonly KeptEvent[], answer: Appended): Promise<void> {
    const places = new Map(answer.accepted.map((a) => [a.id, a]));
    await withDb(async (db) => {
      const tx = db.transaction('events', 'readwrite');
      for (const e of batch) {
        const place = places.get(e.id);
        if (place)
          void tx.store.put({ ...without(e), seq: place.seq, sent: 1, event: place.event ?? e.event });
      }
      await tx.done;
    });
    for (const l of this.sentListeners) l(batch[0]?.job ?? '');
    if (batch.some((e) => e.event.body?.kind === 'sign')) for (const l of this.newsListeners) l();
  }

  private async held(user: string): Promise<readonly HeldJob[]> {
    const kept = await this.unsent(user);
    const puts = (await withDb((db) => db.getAll('puts'))).filter((p) => p.user === user);
    const jobs = [...new Set(kept.map((e) => e.job))].flatMap((job) => {
      const mine = kept.filter((e) => e.job === job);
      const first = mine.find((e) => e.refused);
      return first?.refused
        ? [{ job, waiting: mine.length - 1, what: first.event.body.kind, problem: first.refused }]
        : [];
    });
    return [
      ...jobs,
      ...(await this.blobs(user)).flatMap((b) =>
        b.refused ? [{ job: '', waiting: 0, what: 'photo', problem: b.refused }] : [],
      ),
      ...puts.flatMap((p) => (p.refused ? [{ job: '', waiting: 0, what: p.path, problem: p.refused }] : [])),
    ];
  }

  private async later(problem: Problem): Promise<void> {
    this.timer = problem.status === 401 ? undefined : setTimeout(() => this.kick(), this.wait);
    this.wait = Math.min(this.wait * 2, LONGEST_WAIT_MS);
    await this.tell(problem.status === 401 ? 'signed-out' : 'waiting', problem);
  }

  private async tell(
    status: OutboxState['status'],
    problem?: Problem,
    held: readonly HeldJob[] = [],
  ): Promise<void> {
    const { user } = this;
    const [kept, sent] = user
      ? await withDb(async (db) => [
          (await db.countFromIndex('events', 'sent', [user, 0])) +
            (await db.getAll('blobs')).filter((b) => b.user === user && b.sent === 0).length,
          await db.countFromIndex('events', 'sent', [user, 1]),
        ])
      : [0, 0];
    const state: OutboxState = {
      kept: kept ?? 0,
      sent: sent ?? 0,
      status,
      ...(problem ? { problem } : {}),
      ...(held.length > 0 ? { held } : {}),
    };
    for (const l of this.listeners) l(state);
  }
}

const without = <T extends KeptEvent | KeptPut | KeptBlob>({ refused: _, ...rest }: T): Omit<T, 'refused'> =>
  rest;

const STORE_LOST: Problem = {
  status: 0,
  code: 'store-lost',
  detail: 'This device cannot read what it keeps. It is tried again.',
  remedy: 'Open the page anew if this stays.',
};

export const outbox = new Outbox();
