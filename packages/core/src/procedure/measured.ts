// What a job's log says of its gauges and readings: which gauge stood where, its zero by time, and each reading as it is meant.
import {
  columnOf,
  dimensionOf,
  spanError,
  zeroState,
  type BudgetInput,
  type Gauge,
  type ZeroState,
} from '../gauge/index.js';
import { waterHead } from '../reckon/index.js';
import type { Rule } from '../verdict/index.js';
import type { Plan, ReadBody, StartedBody } from './events.js';
import { factsHold, type JobState, type Kept, type Moment } from './state.js';
import type { Corrected, Placed } from './job.js';
import type { JobRules, SettingDef } from './rules.js';
import type { AdjusterDef, GaugeSlot, TimeLimit } from './settings.js';

/** How well the height between a gauge and its point is known, m [common practice, no source]. */
const HEIGHT_DOUBT_M = 0.02;

/** Device and wall time at which the question "what holds now" is asked. */
export interface Now {
  readonly wall: string;
  readonly device: string;
}

/** The part of a job's view that is read off its log: facts, gauges, zeros, readings. Remembers what it has worked out. */
/** So many readings that nobody waited for are believed all the same: a needle may never stand. */
const ENOUGH_EARLY = 2;

export abstract class MeasuredJob {
  private readonly memo = new Map<string, unknown>();
  readonly started: StartedBody;

  constructor(
    readonly rules: JobRules,
    readonly state: JobState,
    /** When it is looked at, and on which device: facts lapse. */
    readonly now?: Now,
  ) {
    if (!state.started) throw new Error('A job is viewed only once it was started.');
    this.started = state.started.body;
  }

  get plan(): Plan {
    return this.state.plan ?? this.started.plan;
  }

  get opening(): Plan {
    return this.state.openingPlan ?? this.started.plan;
  }

  /** What whoever holds the job is licensed to adjust. */
  get permits(): readonly string[] {
    return this.state.permits;
  }

  get rule(): Rule {
    return this.started.rule;
  }

  /** Whether anything was there to be found: a control that is new has only what it is left at. */
  get finds(): boolean {
    return this.rules.occasions?.find((o) => o.id === this.started.occasion)?.found ?? true;
  }

  setting(id: string): SettingDef {
    const def = this.rules.settings.find((s) => s.id === id);
    if (!def) throw new Error(`No setting is called "${id}".`);
    return def;
  }

  adjuster(id: string): AdjusterDef {
    const def = this.rules.adjusters.find((a) => a.id === id);
    if (!def) throw new Error(`No adjuster is called "${id}".`);
    return def;
  }

  /** The value of a fact that still holds, or undefined where nobody said or it has lapsed. */
  fact(name: string): string | undefined {
    const { lastWall: wall, lastDevice: device } = this.state;
    if (this.now && wall !== undefined && device !== undefined && !factsHold({ wall, device }, this.now))
      return undefined;
    return this.state.facts.get(name);
  }

  /** When a fact was made true, by the order of each entry in the log. */
  made(name: string, value: string): readonly number[] {
    return this.once(`made ${name} ${value}`, () =>
      [...this.state.taken.values()]
        .flatMap((passes) => [...passes.values()].flat())
        .filter((k) => k.body.sets?.[name] === value)
        .map((k) => k.order),
    );
  }

  /** Since when something that must not last long has lasted; undefined where it does not. */
  lasting(limit: TimeLimit): Moment | undefined {
    let since: Moment | undefined;
    for (const [name, value] of Object.entries(limit.during)) {
      const from = this.state.factsFrom.get(name);
      if (this.fact(name) !== value || !from) return undefined;
      if (!since || from.wall > since.wall) since = from;
    }
    return since;
  }

  /** The newest answer given at an observation step (or in place of a reading). */
  answer(stepKey: string): string | undefined {
    for (let i = this.state.observations.length - 1; i >= 0; i--) {
      const o = this.state.observations[i];
      if (o?.body.at.key === stepKey) return o.body.answer;
    }
    return undefined;
  }

  answered(stepKey: string, answer: string): boolean {
    return this.state.observations.some((o) => o.body.at.key === stepKey && o.body.answer === answer);
  }

  gauge(slot: string, order = Infinity): Gauge | undefined {
    return this.mounted(slot, order)?.gauge;
  }

  private mounted(slot: string, order: number) {
    return (this.state.gauges.get(slot) ?? []).filter((g) => g.from <= order).at(-1);
  }

  slot(id: string): GaugeSlot | undefined {
    return this.rules.slots.find((s) => s.id === id);
  }

  /** A gauge was changed in this place and its zero not read since. */
  zeroDue(slot: string): boolean {
    const list = this.state.gauges.get(slot) ?? [];
    const last = list.at(-1);
    if (!last || list.length < 2 || dimensionOf(last.gauge) !== 'pressure') return false;
    return !(this.state.zeros.get(slot) ?? []).some((z) => z.order > last.from);
  }

  /** Height correction of the gauge in a place, Pa: what to take off; only water weighs enough. */
  private head(slot: string, order = Infinity): number {
    const h = this.mounted(slot, order)?.head_m ?? 0;
    const head = h === 0 || this.slot(slot)?.medium !== 'water' ? undefined : waterHead(h);
    return head?.ok ? head.value : 0;
  }

  /**
   * A raw reading as it is meant, Pa (or K): zero off, column to its temperature, known span error off, height off. Of a
   * gauge under test only its zero: its error is what is looked for.
   */
  corrected(slot: string, raw: number, when?: Placed): number {
    const order = when?.order;
    const gauge = this.gauge(slot, order);
    if (!gauge || dimensionOf(gauge) !== 'pressure') return raw;
    const zeroed = raw - (this.zero(slot, when)?.offset ?? 0);
    if (this.slot(slot)?.underTest) return zeroed;
    const column = zeroed * columnOf(gauge);
    return column - (spanError(gauge, column)?.error ?? 0) - this.head(slot, order);
  }

  /** Everything a budget needs to know of a figure read in one place, but for the readings themselves. */
  measured(
    slot: string,
    when?: Placed,
  ): Pick<BudgetInput, 'gauge' | 'zero' | 'against' | 'headDoubt' | 'place' | 'day'> | undefined {
    const order = when?.order;
    const gauge = this.gauge(slot, order);
    if (!gauge) return undefined;
    const test = this.slot(slot)?.underTest;
    const other = test?.against ? this.gauge(test.against, order) : undefined;
    const metre = this.head(slot, order) === 0 ? undefined : waterHead(HEIGHT_DOUBT_M);
    return {
      gauge,
      place: slot,
      day: this.state.started?.wall,
      zero: this.zero(slot, when),
      ...(metre?.ok ? { headDoubt: metre.value } : {}),
      ...(test
        ? {
            against: other
              ? { gauge: other, zero: this.zero(test.against ?? '', when), place: test.against ?? '' }
              : ('nothing' as const),
          }
        : {}),
    };
  }

  /** The zero of the gauge in a place, as it stood at an event: a check that came after it counts too, by its time. */
  zero(slot: string, when?: Placed): ZeroState | undefined {
    return this.once(`zero ${slot} ${when?.order} ${when?.wall}`, () => this.zeroAt(slot, when));
  }

  private zeroAt(slot: string, when?: Placed): ZeroState | undefined {
    const order = when?.order ?? Infinity;
    const gauge = this.gauge(slot, order);
    if (!gauge) return undefined;
    const fitted = Math.max(
      0,
      ...(this.state.gauges.get(slot) ?? []).filter((g) => g.from <= order).map((g) => g.from),
    );
    const next = (this.state.gauges.get(slot) ?? []).find((g) => g.from > fitted)?.from ?? Infinity;
    const all = (this.state.zeros.get(slot) ?? []).filter((z) => z.order > fitted && z.order < next);
    const checks = all.map((z) => ({
      before: z.body.before.value,
      after: z.body.after.value,
      handling: z.body.handling,
      at: Date.parse(z.wall) / 1000,
    }));
    const after = all.filter((z) => z.order <= order).length;
    if (this.slot(slot)?.underTest) {
      // What a gauge under test does not come back to is what is looked for: nothing of it is put down to time.
      const [whole, then] = [zeroState(gauge, checks), zeroState(gauge, checks.slice(0, Math.max(1, after)))];
      return whole && then && { ...whole, offset: then.offset, doubt: whole.drift };
    }
    return zeroState(gauge, checks, {
      after,
      ...(when?.wall === undefined ? {} : { at: Date.parse(when.wall) / 1000 }),
    });
  }

  /** Readings of a setting that carry a value (bounds left out), corrected for zero, in order. */
  readings(setting: string): readonly Corrected[] {
    return this.once(`readings ${setting}`, () =>
      this.state.reads
        .filter((r) => r.body.setting === setting && r.body.bound === undefined)
        .map((kept) => {
          const value = this.readingOf(setting, kept);
          const zero = this.zero(kept.body.slot, kept);
          return { kept, value, seen: zero ? value + zero.offset - zero.then : value };
        }),
    );
  }

  private readingOf(setting: string, kept: Kept<ReadBody>): number {
    const { body } = kept;
    const value = this.corrected(body.slot, body.value.value, kept);
    const against = this.slot(body.slot)?.underTest?.against;
    const nominal = this.plan.values[setting];
    // The better gauge was brought to the nominal value: by its own corrections the pressure was a little beside it.
    return against === undefined || nominal === undefined
      ? value
      : value + nominal - this.corrected(against, nominal, kept);
  }

  /** Readings that only bound a setting. */
  bounds(setting: string): readonly Kept<ReadBody>[] {
    return this.state.reads.filter((r) => r.body.setting === setting && r.body.bound !== undefined);
  }

  /** Order of the last movement of an adjuster that moves this setting; 0 where there was none. */
  lastMove(setting: string): number {
    let last = 0;
    for (const t of this.state.turns)
      if (this.adjuster(t.body.adjuster).prior.moves.some((m) => m.setting === setting)) last = t.order;
    return last;
  }

  /** A setting was moved and not read since: one reading that was taken before the needle was caught is none yet, two are. */
  due(setting: string): boolean {
    const moved = this.lastMove(setting);
    if (moved === 0) return false;
    const since = this.readings(setting).filter((r) => r.kept.order > moved);
    return since.length < ENOUGH_EARLY && since.every((r) => r.kept.body.state === 'early');
  }

  /** A setting was moved and neither read nor bounded since: nothing is known of where it stands. */
  unread(setting: string): boolean {
    const moved = this.lastMove(setting);
    return (
      this.due(setting) &&
      !this.state.observations.some((o) => o.order > moved && o.body.bounds?.setting === setting)
    );
  }

  protected once<T>(key: string, work: () => T): T {
    if (this.memo.has(key)) return this.memo.get(key) as T;
    const value = work();
    this.memo.set(key, value);
    return value;
  }
}
