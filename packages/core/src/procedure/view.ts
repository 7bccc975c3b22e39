import { openAim, believe, type Advice, type Aim, type Belief } from '../advisor/index.js';
import {
  combine,
  dimensionOf,
  readingBudget,
  scatterOf,
  shownStep,
  spanOf,
  type Budget,
  type BudgetLine,
  type Scatter,
} from '../gauge/index.js';
import { convert, showInterval, showWithUnit } from '../quantity/index.js';
import { decide, insidePlain, type Limits, type Verdict } from '../verdict/index.js';
import { adviceOf, historyOf, priorOf } from './advice.js';
import { figureByRelation, figureByTiming } from './figures.js';
import { finerAims } from './finer.js';
import type { Corrected, Figure, JobView } from './job.js';
import { MeasuredJob } from './measured.js';
import { unitOf, type SettingDef } from './rules.js';

export type { Now } from './measured.js';

/** So many times the usual scatter off, a reading was of something else. */
const ANOTHER_GAUGE = 15;

/** A budget with what else leaves its figure open. */
const opened = (budget: Budget, lines: readonly BudgetLine[]): Budget =>
  lines.length === 0 ? budget : combine([...budget.lines, ...lines]);

/**
 * A job as its family sees it: every derived figure, verdict, belief and advice, from the folded log.
 * Made anew for each revision of the log; remembers what it has worked out.
 */
export class FoldedJob extends MeasuredJob implements JobView {
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
      const since = caught(this.readings(setting).filter((r) => r.kept.order > moved));
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

  /** The figure as found (mean of the found-phase readings, but for one of another gauge) or as left (mean of the agreeing run). */
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
          ? together(
              caught(this.readings(setting).filter((r) => this.finds && r.kept.body.at.phase === 'found')),
              this.farOff(def),
            )
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
        budget: opened(
          readingBudget({
            ...measured,
            readings: values,
            repeatability: def.repeatability,
            elsewhere: this.elsewhere(setting, set),
            caught: def.caught,
          }),
          def.open?.(this, when) ?? [],
        ),
      };
    });
  }

  /**
   * How a setting scattered between movements, in readings that a figure does not stand on: those that were chosen because they agree
   * say too little. What lies very far off was another gauge, and says nothing, as long as most of them lie together and the figure
   * stands on those.
   */
  private elsewhere(setting: string, but: readonly Corrected[]): Scatter {
    const def = this.setting(setting);
    const groups = new Map<number, Corrected[]>();
    for (const r of this.readings(setting)) {
      const moves = this.movesBefore(setting, r.kept.order);
      groups.set(moves, [...(groups.get(moves) ?? []), r]);
    }
    const own = scatterOf(but.map((r) => r.value));
    const stands = mean(but.map((r) => r.value));
    const last = this.movesBefore(setting, but.at(-1)?.kept.order ?? 0);
    let [squares, dof] = [-own.squares, -own.dof];
    for (const [moves, readings] of groups) {
      const most = together(readings, this.farOff(def));
      // Where the figure itself stands on what lies far off, nothing of it is left out.
      const far = this.farOff(def);
      const counted = moves !== last || most.some((r) => Math.abs(r.value - stands) < far);
      const near = scatterOf((counted ? most : readings).map((r) => r.value));
      squares += near.squares;
      dof += near.dof;
    }
    return { squares: Math.max(0, squares), dof: Math.max(0, dof) };
  }

  /** What lies so far off was read of another gauge, Pa: by the usual scatter, or where there is none by what readings agree within. */
  private farOff({ id, repeatability: { sd } }: SettingDef): number {
    return sd > 0 ? ANOTHER_GAUGE * sd : 2 * this.agreement(id);
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

  /**
   * Whether a setting may be left where it stands: inside its limits, and either surely so, or said to be left near, or where no
   * movement would very likely bring it surely inside.
   */
  rests(setting: string): boolean {
    return (
      this.landed(setting) &&
      !this.rules.adjusters.some((a) => a.aims(this.plan).includes(setting) && this.refines(a.id))
    );
  }

  /** One more movement of this adjuster would very likely bring everything that it is aimed at surely inside its limits. */
  refines(adjuster: string): boolean {
    return this.finer(adjuster) !== undefined;
  }

  private finer(adjuster: string): readonly Aim[] | undefined {
    return this.once(`finer ${adjuster}`, () => finerAims(this, adjuster));
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
      // Its gauge may show less than stands there: by so much less is a bound reached.
      const never = this.rules.never(this.plan, setting) - (this.figure(setting, 'left')?.budget.U ?? 0);
      return wanted.includes(setting) && lower !== undefined && upper !== undefined && target !== undefined
        ? { setting, target, lower, upper, never }
        : openAim(setting, never);
    });
  }

  advice(adjuster: string): Advice {
    return this.once(`advice ${adjuster}`, () => adviceOf(this, this.rules, adjuster, this.finer(adjuster)));
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
}

/** Those that were waited for; one taken early counts only while there is no other. */
const caught = (list: readonly Corrected[]): readonly Corrected[] => {
  const sure = list.filter((r) => r.kept.body.state !== 'early');
  return sure.length > 0 ? sure : list;
};

/**
 * Of readings of one state those that lie together. One that lies very far off was of another gauge, as long as most of them do lie
 * together; more than one in four are no slip: then they scatter, and all count.
 */
const together = <R extends Pick<Corrected, 'value'>>(readings: readonly R[], far: number): readonly R[] => {
  const middle = [...readings].sort((a, b) => a.value - b.value)[readings.length >> 1]?.value ?? NaN;
  const near = readings.filter((r) => Math.abs(r.value - middle) < far);
  const off = readings.length - near.length;
  return near.length > off && off <= Math.max(1, readings.length / 4) ? near : readings;
};

const mean = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0) / values.length;
