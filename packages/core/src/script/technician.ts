import { shownAs, type Gauge } from '../gauge/index.js';
import { entries, Turnings, turningOf, watchOf, type Entry, type Hands } from '../entries/index.js';
import { doubt, doubtZero, sayAmount, sayStep, type Family, type NextMove } from '../family/index.js';
import {
  checkOf,
  FoldedJob,
  instrumentOf,
  JobLog,
  offer,
  PAYLOAD_VERSION,
  type AsTyped,
  type Display,
  type JobBody,
  type JobEvent,
  type ObserveStep,
  type Outcome,
  type ReadStep,
  type StartedBody,
  type TurnStep,
  type WalkItem,
  type ZeroStep,
} from '../procedure/index.js';
import { RIG_STEP_S, runRig, type Rig } from '../rig/index.js';
import { Catcher, type Caught, type CatchOptions } from '../trace/index.js';
import { careful, type Manner } from './manner.js';
import type { ScriptedIdentity, ScriptedJob } from './job.js';

const SAMPLE_S = 0.05;
/** A click of a wheel, and a look at the meter, s. */
const CLICK_S = 1;
const LONGEST_READ_S = 1500;

/**
 * A technician who obeys only what the procedure offers next, with a rig in place of an installation and no browser.
 * Deterministic: the same family, start and rig give the same log.
 */
export class ScriptedTechnician {
  readonly log: JobLog;
  private readonly job: string;
  private readonly manner: Manner;
  private clock = 0;
  private count = 0;
  private readonly unsafe: string[] = [];
  private readonly turnings = new Turnings();
  /** How much farther each screw stands than was written down, at every count it ever stood at. */
  private readonly stood: Record<string, { readonly at: number; readonly beside: number }[]> = {};

  constructor(
    private readonly family: Family,
    private readonly rig: Rig,
    started: StartedBody,
    private readonly who: ScriptedIdentity = {},
  ) {
    this.job = who.job ?? '00000000-0000-7000-8000-000000000001';
    this.manner = who.manner ?? careful;
    this.log = new JobLog(this.job);
    this.log.judgeBy(checkOf(family));
    this.write(started);
  }

  /** The job as it stands. */
  view(): FoldedJob {
    return new FoldedJob(this.family, this.log.state, this.now());
  }

  /** Take steps until the job can be signed, then sign it as the family recommends. */
  run(mostSteps = 400): ScriptedJob {
    let steps = 0;
    let ended: Outcome | undefined;
    while (steps++ < mostSteps) {
      const view = this.view();
      const offered = offer(this.family.procedure(view.plan), view);
      if (!offered.now) {
        const { outcome } = this.family.recommend(view);
        if (outcome === 'set' && this.family.unproved(view).length > 0)
          this.unsafe.push('signed as set while unproved');
        this.make(entries.signed(this.family, view, outcome, this.who.name ?? 'script'));
        ended = outcome;
        break;
      }
      this.take(view, offered);
    }
    const view = this.view();
    return {
      log: this.log,
      view,
      outcome: ended ?? 'unfinished',
      truth: this.rig.truth(),
      adjustments: this.log.state.turns.filter((t) => view.adjuster(t.body.adjuster).kind !== 'air').length,
      unsafe: this.unsafe,
      steps,
    };
  }

  /** Take exactly the step that is offered; false when there is none. */
  takeOne(): boolean {
    const view = this.view();
    const offered = offer(this.family.procedure(view.plan), view);
    if (!offered.now) return false;
    this.take(view, offered);
    return true;
  }

  private take(view: FoldedJob, offered: ReturnType<typeof offer>): void {
    const item = offered.now;
    if (!item) return;
    const lacking = offered.missing[0];
    if (lacking) return this.make(entries.renewed(item, lacking));
    const { step } = item;
    if (this.manner.skips(step)) return this.make(entries.skipped(item, 'no time'));
    this.hands(step.hands);
    switch (step.kind) {
      case 'confirm':
      case 'note':
      case 'wait':
      case 'count':
        this.pass(step.kind === 'wait' ? step.seconds : step.hands?.['drain'] ? 240 : 5);
        return this.make({ ...entries.done(item), hands: {} });
      case 'zero': {
        const gauge = view.gauge(step.slot);
        if (!gauge) throw new Error(`No gauge in ${step.slot}.`);
        const reads = () => this.readOff(view, step, gauge, this.rig.gauge(step.slot));
        const before = reads();
        const set = step.adjust === true && this.rig.zero !== undefined && before.value !== 0;
        if (set) {
          this.rig.zero?.(step.slot);
          this.pass(10);
        }
        return this.make(entries.zeroed(item, step.slot, before, set ? reads() : undefined));
      }
      case 'observe': {
        if (step.stopwatch) return this.timed(item, step);
        this.pass(step.seconds ?? 2);
        if (step.shows) return this.shown(item, step, step.shows);
        const answer =
          entries.choiceOf(step, this.rig.answer(step.key)) ??
          step.choices.find((c) => c.advised?.(view)) ??
          step.choices[0];
        if (!answer) throw new Error(`${step.key} has no answer.`);
        const gauge = step.watches && answer.withPressure ? view.gauge(step.watches) : undefined;
        const value = gauge && shownAs(gauge, this.rig.gauge(step.watches ?? ''));
        return this.make(entries.answered(this.family, item, answer, { value }));
      }
      case 'turn': {
        for (const [fact, wanted] of Object.entries(step.needs ?? {}))
          if (view.fact(fact) !== wanted) this.unsafe.push(`turned with ${fact} not ${wanted}`);
        if (step.seek || step.amount) return this.counted(view, item, step);
        const advice = view.advice(step.adjuster);
        if (advice.stop !== null) {
          this.unsafe.push(`offered a turn while the advice was ${advice.stop}`);
          return this.make(entries.left('replace', advice.because));
        }
        const { turns } = advice;
        return this.make(entries.turned(item, { ...this.moved(view, step, turns), advised: turns }));
      }
      case 'read':
        return this.read(view, item, step);
    }
  }

  private moved(view: FoldedJob, { adjuster }: TurnStep, amount: number) {
    return { adjuster, amount, text: sayAmount(view.adjuster(adjuster), amount) };
  }

  /** Turned by a count, or one after the other until the meter shows what is sought. */
  private counted(view: FoldedJob, item: WalkItem, step: TurnStep): void {
    const { seek, adjuster } = step;
    let amount = step.amount?.(view) ?? 0;
    if (!seek)
      return this.make(
        entries.turned(item, { ...this.moved(view, step, amount), advised: amount }),
        step.toMark,
      );
    const there = (): boolean => this.rig.channels[seek.channel] === seek.to;
    const from = view.netTurns(adjuster);
    let reached = there();
    for (; !reached && Math.abs(amount) < seek.most - 1e-9; reached = there()) {
      const by = seek.way * (seek.by ?? 1);
      this.rig.turn(adjuster, by);
      amount += by;
      this.pass(seek.settles_s ?? CLICK_S);
    }
    // What is sought is turned as it is counted: it stands as far beside its count as before.
    const stood = (this.stood[adjuster] ??= [{ at: 0, beside: 0 }]);
    stood.push({ at: from + amount, beside: stood.at(-1)?.beside ?? 0 });
    this.make(entries.turned(item, { ...this.moved(view, step, amount), reached }));
  }

  /** Reads off what is shown. */
  private shown(item: WalkItem, step: ObserveStep, display: Display): void {
    const [first] = step.choices;
    const seen = entries.choiceOf(step, this.rig.answer(step.key));
    if (seen && seen !== first) return this.make(entries.answered(this.family, item, seen));
    const choice = first;
    const value = shownAs(instrumentOf(display), this.rig.channels[display.channel] ?? 0);
    if (choice) this.make(entries.answered(this.family, item, choice, { value }));
  }

  /** Starts the stopwatch with what starts it, and stops it when the meter changes. */
  private timed(item: WalkItem, step: ObserveStep): void {
    const watch = step.stopwatch;
    const [came, never] = step.choices;
    if (!watch || !came || !never)
      throw new Error(`${step.key}: a stopwatch needs what is waited for and its absence.`);
    this.hands(watch.hands);
    let seconds = 0;
    while (this.rig.channels[watch.channel] !== watch.to && seconds < watch.most_s) {
      this.pass(RIG_STEP_S);
      seconds += RIG_STEP_S;
    }
    const seen = this.rig.channels[watch.channel] === watch.to;
    seconds = Math.round(seconds * 100) / 100;
    this.make(entries.answered(this.family, item, seen ? came : never, { seconds }));
  }

  private read(view: FoldedJob, item: WalkItem, step: ReadStep): void {
    const gauge = view.gauge(step.slot);
    const watch = watchOf(this.family, view, step, step.slot);
    if (!gauge || !watch) throw new Error(`No gauge in ${step.slot}.`);
    const seen = entries.choiceOf(step, this.rig.answer(step.key));
    if (seen?.before) return this.make(entries.answered(this.family, item, seen));
    const hurry = this.manner.hurries();
    if (hurry !== undefined) return this.early(view, item, step, gauge, hurry);
    const { stopAt, falling } = sayStep(this.family, view, step);
    const caught = this.catch(watch, step.slot, { stopAt, falling });
    const never = step.watched ? this.family.never(view.plan, step.setting) : Infinity;
    if (this.rig.channels['relief'] === 1 && step.watched && view.state.turns.length > 0)
      this.unsafe.push('the relief lifted after an advised turn');
    if (caught === undefined) {
      const choice = entries.choiceOf(step, this.rig.answer(step.key)) ?? step.instead?.[0];
      if (!choice && this.who.goesOn) return this.early(view, item, step, gauge, 0);
      if (!choice) throw new Error(`${step.key}: no reading came and there is no other way out.`);
      const value = shownAs(gauge, this.rig.gauge(step.slot));
      return this.make(entries.answered(this.family, item, choice, { value }));
    }
    if (caught.p > never && view.state.turns.length > 0)
      this.unsafe.push(`${step.setting} passed what it must never reach`);
    const turning = turningOf(step.catch);
    this.make(
      entries.readingOf(item, step, {
        value: this.readOff(view, step, gauge, caught.p),
        state: step.catch === 'firm' ? 'firm' : 'caught',
        source: 'simulated',
        since_s: turning && this.turnings.take(turning, caught.t),
      }),
    );
  }

  /** What is written down of a pressure in a place. Asked whether that can be, as the keypad does, one looks again, and keeps what is read then. */
  private readOff(view: FoldedJob, step: ReadStep | ZeroStep, gauge: Gauge, p: number): AsTyped {
    const { slot } = step;
    const others = this.family.slots
      .filter((s) => s.id !== slot && view.gauge(s.id)?.unit === gauge.unit)
      .map((s) => shownAs(view.gauge(s.id) ?? gauge, this.rig.gauge(s.id)));
    const once = (): AsTyped => this.manner.reads(shownAs(gauge, p), gauge, others);
    const first = once();
    const doubted =
      step.kind === 'read' ? doubt(this.family, view, step.setting, first) : doubtZero(view, slot, first);
    return doubted ? once() : first;
  }

  /** Takes whatever is shown after so many seconds. */
  private early(view: FoldedJob, item: WalkItem, step: ReadStep, gauge: Gauge, seconds: number): void {
    this.pass(seconds);
    const value = this.readOff(view, step, gauge, this.rig.gauge(step.slot));
    this.make(entries.readingOf(item, step, { value, state: 'early', source: 'simulated' }));
  }

  /** Run the rig until the needle is caught as the step asks; undefined when it never is, or where it comes to what it must not. */
  private catch(
    watch: CatchOptions,
    slot: string,
    { stopAt, falling }: Pick<NextMove, 'stopAt' | 'falling'>,
  ): Caught | undefined {
    const catcher = new Catcher(watch);
    // A hand is on the switch: it is stopped where it must not go on.
    const past = (p: number): boolean => stopAt !== undefined && (falling ? p <= stopAt : p >= stopAt);
    const { drives } = this.family.rig;
    let got: Caught | undefined;
    let standing = 0;
    let reference = NaN;
    this.clock += runRig(this.rig, LONGEST_READ_S, slot, SAMPLE_S, (t, p) => {
      const { channels } = this.rig;
      got = catcher.push(t, p, drives && channels[drives.channel] === 1);
      // Two minutes without movement, or a lifted relief: no reading will come.
      standing = Math.abs(p - reference) < 6 * watch.noise ? standing + SAMPLE_S : 0;
      if (standing === 0) reference = p;
      return got !== undefined || past(p) || standing > 120 || channels['relief'] === 1;
    });
    return got;
  }

  private hands(hands: Hands | undefined): void {
    for (const [handle, value] of Object.entries(hands ?? {})) this.rig.set(handle, value);
  }

  /** The hand does it, and it is written down. */
  private make({ body, hands, turned }: Entry, toMark = false): void {
    this.hands(hands);
    if (turned) this.turn(turned.adjuster, turned.amount, toMark);
    this.write(body);
    if (body.kind !== 'sign' && this.manner.doubles()) this.write(body);
  }

  /** The hand turns so far as it can; a screw that comes back to a mark is seen to. */
  private turn(adjuster: string, meant: number, toMark: boolean): void {
    const view = this.view();
    const stood = (this.stood[adjuster] ??= [{ at: 0, beside: 0 }]);
    const was = stood.at(-1)?.beside ?? 0;
    const at = view.netTurns(adjuster) + meant;
    // The mark was made before it was last moved: where it stands now only counts as there.
    const mark = toMark ? stood.slice(0, -1).findLast((x) => Math.abs(x.at - at) < 1e-9) : undefined;
    const clicks = view.adjuster(adjuster).kind === 'click';
    const by = mark ? meant + mark.beside - was : this.manner.turns(meant, clicks);
    stood.push({ at, beside: was + by - meant });
    this.rig.turn(adjuster, by);
  }

  private pass(seconds: number): void {
    for (let i = 0; i < seconds / RIG_STEP_S; i++) this.rig.step(RIG_STEP_S);
    this.clock += seconds;
  }

  private now(): { wall: string; device: string } {
    const from = this.who.from ?? Date.UTC(2030, 0, 1);
    return { wall: new Date(from + this.clock * 1000).toISOString(), device: this.who.device ?? 'script' };
  }

  private write(body: JobBody): void {
    const event: JobEvent = {
      id: this.who.makeId?.() ?? `00000000-0000-7000-9000-${(++this.count).toString(16).padStart(12, '0')}`,
      job: this.job,
      version: PAYLOAD_VERSION,
      after: this.log.events.at(-1)?.id ?? null,
      author: this.who.author ?? 'script',
      mono: this.clock * 1000,
      ...this.now(),
      body,
    };
    this.log.append(event);
    this.clock += 2;
  }
}
