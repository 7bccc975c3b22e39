import { openAim, believe, type Advice, type Aim, type Belief } from '../advisor/index.js';
import {
  columnOf,
  dimensionOf,
  readingBudget,
  scatterOf,
  shownStep,
  spanError,
  spanOf,
  zeroState,
  type BudgetInput,
  type Gauge,
  type Scatter,
  type ZeroState,
} from '../gauge/index.js';
import { convert, showInterval, showWithUnit } from '../quantity/index.js';
import { waterHead } from '../reckon/index.js';
import { decide, insidePlain, type Limits, type Rule, type Verdict } from '../verdict/index.js';
import { adviceOf, historyOf, priorOf } from './advice.js';
import { figureByRelation, figureByTiming } from './figures.js';
import type { Plan, ReadBody, StartedBody } from './events.js';
import { factsHold, type JobState, type Kept, type Moment } from './fold.js';
import type { Corrected, Figure, JobView, Placed } from './job.js';
import { unitOf, type JobRules, type SettingDef } from './rules.js';
import type { AdjusterDef, GaugeSlot, TimeLimit } from './settings.js';

/** How well the height between a gauge and its point is known, m [common practice, no source]. */
const HEIGHT_DOUBT_M = 0.02;

/** So many times the usual scatter off, a reading was of something else. */
const ANOTHER_GAUGE = 15;

/** Device and wall time at which the question "what holds now" is asked. */
export interface Now {
  readonly wall: string;
  readonly device: string;
}

/**
 * A job as its family sees it: every derived figure, verdict, belief and advice, from the folded log.
 * Made anew for each revision of the log; remembers what it has worked out.
 */
export class FoldedJob implements JobView {
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

  /** A setting was moved and not read since. */
  due(setting: string): boolean {
    const moved = this.lastMove(setting);
    if (moved === 0) return false;
    return !this.readings(setting).some((r) => r.kept.order > moved);
  }

  /** A setting was moved and neither read nor bounded since: nothing is known of where it stands. */
  unread(setting: string): boolean {
    const moved = this.lastMove(setting);
    return (
      this.due(setting) &&
      !this.state.observations.some((o) => o.order > moved && o.body.bounds?.setting === setting)
    );
  }

  /** Largest spread of readings that agree: the larger of the readable step and a quarter of the band. */
  agreement(setting: string): number {
    const def = this.setting(setting);
    const gauge = this.gauge(def.slot);
    const step = gauge ? spanOf(gauge).readableStep : 0;
    const { lower, upper } = this.plan.limits[setting] ?? {};
    const band = lower !== undefined && upper !== undefined ? upper - lower : 0;
    return Math.max(step, band / 4) * (1 + 1e-9);
  }

  /** The trailing run of readings since the last movement that agree with each other. */
  agreeing(setting: string): readonly Corrected[] {
    return this.once(`agreeing ${setting}`, () => {
      const moved = this.lastMove(setting);
      const since = this.readings(setting).filter((r) => r.kept.order > moved);
      const limit = this.agreement(setting);
      const run: Corrected[] = [];
      let low = Infinity;
      let high = -Infinity;
      for (let i = since.length - 1; i >= 0; i--) {
        const r = since[i];
        if (!r) break;
        // A zero read later moves them all, each by its time: whether they agree was seen when they were taken.
        low = Math.min(low, r.seen);
        high = Math.max(high, r.seen);
        if (high - low > limit) break;
        run.unshift(r);
      }
      return run;
    });
  }

  /** Whether enough readings since the last movement agree. */
  proved(setting: string): boolean {
    return this.agreeing(setting).length >= this.setting(setting).cycles;
  }

  /** The figure as found (mean of the found-phase readings) or as left (mean of the agreeing run). */
  figure(setting: string, when: 'found' | 'left'): Figure | undefined {
    return this.once(`figure ${setting} ${when}`, () => {
      const def = this.setting(setting);
      if (def.had === 'relation') return this.byRelation(def, when);
      if (def.had === 'timing') return figureByTiming(this, def, when);
      if (def.had === 'derived') {
        const d = def.derive?.(this, when);
        return d && { setting, ...d };
      }
      const set =
        when === 'found'
          ? this.readings(setting).filter((r) => this.finds && r.kept.body.at.phase === 'found')
          : this.agreeing(setting);
      const last = set[set.length - 1];
      const measured = last && this.measured(last.kept.body.slot, last.kept);
      if (!last || !measured) return undefined;
      const values = set.map((r) => r.value);
      return {
        setting,
        value: mean(values),
        n: values.length,
        ids: set.map((r) => r.kept.id),
        budget: readingBudget({
          ...measured,
          readings: values,
          repeatability: def.repeatability,
          elsewhere: this.elsewhere(setting, set),
          caught: def.caught,
        }),
      };
    });
  }

  /**
   * How a setting scattered between movements, in readings that a figure does not stand on: those that were chosen because they agree
   * say too little. What lies very far off was another gauge, and says nothing, as long as most of them lie together and the figure
   * stands on those.
   */
  private elsewhere(setting: string, but: readonly Corrected[]): Scatter {
    const { sd } = this.setting(setting).repeatability;
    const groups = new Map<number, number[]>();
    for (const r of this.readings(setting)) {
      const moves = this.movesBefore(setting, r.kept.order);
      groups.set(moves, [...(groups.get(moves) ?? []), r.value]);
    }
    const own = scatterOf(but.map((r) => r.value));
    const stands = mean(but.map((r) => r.value));
    const last = this.movesBefore(setting, but.at(-1)?.kept.order ?? 0);
    let [squares, dof] = [-own.squares, -own.dof];
    for (const [moves, values] of groups) {
      const middle = [...values].sort((a, b) => a - b)[values.length >> 1] ?? NaN;
      const together = values.filter((x) => Math.abs(x - middle) < ANOTHER_GAUGE * sd);
      const most = together.length * 2 > values.length;
      const counted = moves !== last || Math.abs(stands - middle) < ANOTHER_GAUGE * sd;
      const near = scatterOf(most && counted ? together : values);
      squares += near.squares;
      dof += near.dof;
    }
    return { squares: Math.max(0, squares), dof: Math.max(0, dof) };
  }

  /** How often a setting had been moved when an event was taken. */
  private movesBefore(setting: string, order: number): number {
    return this.state.turns.filter(
      (t) => t.order < order && this.adjuster(t.body.adjuster).prior.moves.some((m) => m.setting === setting),
    ).length;
  }

  limits(setting: string, when: 'found' | 'left'): Limits {
    return (when === 'found' ? this.opening : this.plan).limits[setting] ?? {};
  }

  /** Found is judged by the opening plan, left by the last. */
  verdict(setting: string, when: 'found' | 'left'): Verdict | undefined {
    const f = this.figure(setting, when);
    const limits = this.limits(setting, when);
    if (!f || (limits.lower === undefined && limits.upper === undefined)) return undefined;
    return decide(f.value, f.budget.U, limits, this.rule, (v) => this.say(v, setting));
  }

  /** Whether the newest figure stands inside the plain limits of the plan in force. */
  landed(setting: string): boolean {
    const f = this.figure(setting, 'left');
    return f !== undefined && insidePlain(f.value, this.limits(setting, 'left'));
  }

  /** Signed sum of what was turned. */
  netTurns(adjuster: string): number {
    return this.state.turns
      .filter((t) => t.body.adjuster === adjuster)
      .reduce((sum, t) => sum + t.body.amount, 0);
  }

  /** What is believed of an adjuster from this job, starting at the prior copied into the log. */
  belief(adjuster: string): Belief {
    return this.once(`belief ${adjuster}`, () => {
      const def = this.adjuster(adjuster);
      return believe(priorOf(this, def), historyOf(this, this.rules, def));
    });
  }

  /**
   * Everything that an adjuster moves: where it should land, and what it must not reach. What it moves without being set by it
   * has open limits, and its bound all the same.
   */
  aims(adjuster: string): readonly Aim[] {
    const { aims, prior } = this.adjuster(adjuster);
    const wanted = aims(this.plan);
    const beside = prior.moves.map((m) => m.setting).filter((s) => !wanted.includes(s));
    return [...wanted, ...beside].map((setting) => {
      const { lower, upper } = this.plan.limits[setting] ?? {};
      const target = this.plan.values[setting];
      const never = this.rules.never(this.plan, setting);
      return wanted.includes(setting) && lower !== undefined && upper !== undefined && target !== undefined
        ? { setting, target, lower, upper, never }
        : openAim(setting, never);
    });
  }

  advice(adjuster: string): Advice {
    return this.once(`advice ${adjuster}`, () => adviceOf(this, this.rules, adjuster));
  }

  /** The unit a setting is said in. */
  unitOf(setting: string): string {
    return unitOf(this.rules, this.plan, setting);
  }

  /** The smallest step worth saying, in that unit: a tenth, or what a finer scale can be read to. */
  step(setting: string): number {
    const def = this.setting(setting);
    if (def.step !== undefined) return def.step;
    if (def.dimension === 'time' || def.dimension === 'count') return 1;
    const gauge = this.gauge(def.slot);
    if (!gauge || def.dimension !== dimensionOf(gauge)) return 0.1;
    const unit = this.unitOf(setting);
    return Math.min(0.1, def.dimension === 'pressure' ? convert(shownStep(gauge), gauge.unit, unit) : 0.1);
  }

  /** A canonical value in the setting's unit, with the unit. */
  say(value: number, setting: string): string {
    return showWithUnit(value, { unit: this.unitOf(setting), step: this.step(setting) });
  }

  /** A canonical difference (an uncertainty, a change) in the setting's unit. */
  sayWidth(value: number, setting: string): string {
    return showInterval(value, { unit: this.unitOf(setting), step: this.step(setting) });
  }

  /** Settings being worked out right now: two that follow from each other must not be asked in a circle. */
  private readonly working = new Set<string>();

  private byRelation(def: SettingDef, when: 'found' | 'left'): Figure | undefined {
    if (this.working.has(def.id)) return undefined;
    this.working.add(def.id);
    try {
      return figureByRelation(this, this.rules, def, when);
    } finally {
      this.working.delete(def.id);
    }
  }

  private once<T>(key: string, work: () => T): T {
    if (this.memo.has(key)) return this.memo.get(key) as T;
    const value = work();
    this.memo.set(key, value);
    return value;
  }
}

const mean = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0) / values.length;
