import type { Deed, Hurt } from '@firm-needle/core/practice';
import { proxy, wrap, type Remote } from 'comlink';
import { deviceDb } from '../sync/db.ts';
import type { PracticeSetup, RigHost, RigSetup } from '../workers/rig.worker.ts';
import type { LiveBlock, WorkableSource } from './source.ts';

const SAVE_MS = 1500;

interface Opened {
  readonly source: RigSource;
  readonly trace: readonly (readonly [slot: string, t: number, p: number])[];
  /** Nothing was kept of it here. */
  readonly fresh: boolean;
  /** When it was last kept here, ms since 1970. */
  readonly keptAt?: number;
}

/** The simulated rig of one job, in its worker; kept on this device, so that a reload finds it where it was. */
export class RigSource implements WorkableSource {
  readonly title = 'simulated rig';
  private readonly worker = new Worker(new URL('../workers/rig.worker.ts', import.meta.url), {
    type: 'module',
  });
  private readonly host: Remote<RigHost> = wrap<RigHost>(this.worker);
  private readonly takers = new Set<(block: LiveBlock) => void>();
  private readonly timer: ReturnType<typeof setInterval>;
  private trace: [string, number, number][] = [];
  positions: Readonly<Record<string, number>> = {};
  /** In practice: a hand did what hurts somebody. */
  onHurt: ((hurt: Hurt) => void) | undefined;

  private constructor(private readonly job: string) {
    this.timer = setInterval(() => void this.save(), SAVE_MS);
  }

  /** Start a job's rig, or go on with the one kept here. Also gives the trace kept with it. */
  static async open(job: string, setup: RigSetup | PracticeSetup): Promise<Opened> {
    const kept = await (await deviceDb()).get('rigs', job);
    const source = new RigSource(job);
    source.trace = (kept?.trace ?? []).map(([s, t, p]) => [s, t, p]);
    await source.host.start(
      { ...setup, ...(kept ? { snapshot: kept.snapshot, deeds: kept.deeds ?? [] } : {}) },
      proxy((block: LiveBlock) => source.took(block)),
    );
    return {
      source,
      trace: kept?.trace ?? [],
      fresh: kept === undefined,
      ...(kept ? { keptAt: kept.time } : {}),
    };
  }

  onBlock(take: (block: LiveBlock) => void): () => void {
    this.takers.add(take);
    return () => this.takers.delete(take);
  }

  set(handle: string, value: number, bench?: true): void {
    void this.host.set(handle, value, bench).then((hurt) => this.did(hurt));
  }

  turn(adjuster: string, amount: number, bench?: true): void {
    void this.host.turn(adjuster, amount, bench).then((hurt) => this.did(hurt));
  }

  fit(slot: string, spare: number): void {
    void this.host.fit(slot, spare).then(() => this.save());
  }

  /** In a lesson: as it stood so many seconds ago. @returns whether it could go back so far */
  async back(seconds: number): Promise<boolean> {
    const t = await this.host.back(seconds);
    if (t === undefined) return false;
    this.trace = this.trace.filter(([, at]) => at <= t);
    await this.save();
    return true;
  }

  /** Everything that hands did to it so far, in practice. */
  async deeds(): Promise<readonly Deed[]> {
    return (await this.host.kept()).deeds;
  }

  zero(slot: string): void {
    void this.host.zero(slot).then(() => this.save());
  }

  answer(stepKey: string): Promise<string> {
    return this.host.answer(stepKey);
  }

  setSpeed(speed: number): void {
    void this.host.setSpeed(speed);
  }

  hold(held: boolean): void {
    void this.host.hold(held);
  }

  async advance(seconds: number): Promise<void> {
    await this.host.advance(seconds);
  }

  close(): void {
    clearInterval(this.timer);
    void this.save().finally(() => this.worker.terminate());
  }

  private did(hurt: Hurt | undefined): void {
    void this.save();
    if (hurt) this.onHurt?.(hurt);
  }

  private took(block: LiveBlock): void {
    this.positions = block.positions ?? {};
    // Five samples a second are enough for the strip after a reload.
    for (let i = 0; i < block.t.length; i += 4)
      for (const [slot, column] of Object.entries(block.gauges))
        this.trace.push([slot, block.t[i] ?? 0, column[i] ?? 0]);
    if (this.trace.length > 6000) this.trace = this.trace.slice(-4000);
    for (const take of this.takers) take(block);
  }

  private async save(): Promise<void> {
    const { snapshot, deeds } = await this.host.kept();
    if (snapshot === undefined) return;
    const { job, trace } = this;
    await (await deviceDb()).put('rigs', { job, snapshot, deeds, time: Date.now(), trace });
  }
}
