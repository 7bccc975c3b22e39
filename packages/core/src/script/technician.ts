import { asRead, spanOf } from '../gauge/index.js';
import { sayAmount, sheetOf, type Family } from '../family/index.js';
import {
  JobLog,
  JobView,
  offer,
  PAYLOAD_VERSION,
  placeOf,
  RENEW,
  instrumentOf,
  type Display,
  type AsTyped,
  type JobBody,
  type JobEvent,
  type Outcome,
  type Place,
  type ObserveStep,
  type ReadStep,
  type TurnStep,
  type StartedBody,
} from '../procedure/index.js';
import { decimalsFor, toCanonical } from '../quantity/index.js';
import { RIG_STEP_S, runRig, type Rig } from '../rig/index.js';
import { Catcher, type Caught } from '../trace/index.js';
import { CORE_VERSION } from '../version.js';

/** What a scripted job came to. */
export interface ScriptedJob {
  readonly log: JobLog;
  readonly view: JobView;
  readonly outcome: Outcome;
  readonly truth: Readonly<Record<string, number>>;
  readonly adjustments: number;
  /** Anything done that the product must never allow, in words. */
  readonly unsafe: readonly string[];
  readonly steps: number;
}

/** Who writes the log, when it begins, and how its events are named; all optional. */
export interface ScriptedIdentity {
  readonly job?: string;
  readonly author?: string;
  readonly name?: string;
  readonly device?: string;
  /** Wall time of the first event, ms since 1970. */
  readonly from?: number;
  readonly makeId?: () => string;
}

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
  private clock = 0;
  private count = 0;
  private readonly unsafe: string[] = [];
  private lastTurning: { kind: 'low' | 'high'; t: number } | undefined;

  constructor(
    private readonly family: Family,
    private readonly rig: Rig,
    started: StartedBody,
    private readonly who: ScriptedIdentity = {},
  ) {
    this.job = who.job ?? '00000000-0000-7000-8000-000000000001';
    this.log = new JobLog(this.job);
    this.write(started);
  }

  /** The job as it stands. */
  view(): JobView {
    return new JobView(this.family, this.log.state, this.now());
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
        this.write({
          kind: 'sign',
          outcome,
          by: 'script',
          coreVersion: CORE_VERSION,
          result: sheetOf(this.family, view),
        });
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

  private take(view: JobView, offered: ReturnType<typeof offer>): void {
    const item = offered.now;
    if (!item) return;
    const lacking = offered.missing[0];
    if (lacking) {
      this.hands(lacking.hands);
      this.write({
        kind: 'done',
        at: { key: `${RENEW}${lacking.fact}=${lacking.wanted}`, pass: item.pass },
        sets: { [lacking.fact]: lacking.wanted },
      });
      return;
    }
    const { step } = item;
    const at = placeOf(item);
    const sets = step.sets ? { sets: step.sets } : {};
    this.hands(step.hands);
    switch (step.kind) {
      case 'confirm':
      case 'note':
      case 'wait':
      case 'count':
        this.pass(step.kind === 'wait' ? step.seconds : step.hands?.['drain'] ? 240 : 5);
        return this.write({ kind: 'done', at, ...sets });
      case 'zero': {
        const gauge = view.gauge(step.slot);
        if (!gauge) throw new Error(`No gauge in ${step.slot}.`);
        const reads = (): AsTyped =>
          this.typed(asRead(gauge, this.rig.gauge(step.slot)), gauge.unit, gauge.division * gauge.readable);
        const before = reads();
        const set = step.adjust === true && this.rig.zero !== undefined && before.value !== 0;
        if (set) {
          this.rig.zero?.(step.slot);
          this.pass(10);
        }
        return this.write({
          kind: 'zero',
          slot: step.slot,
          before,
          after: set ? reads() : before,
          handling: set ? 'adjusted' : 'carried',
          at,
          ...sets,
        });
      }
      case 'observe': {
        if (step.stopwatch) return this.timed(step, at);
        this.pass(step.seconds ?? 2);
        if (step.shows) return this.shown(step, step.shows, at);
        const advised = step.choices.find((c) => c.advised?.(view))?.code;
        const seen = this.rig.answer(step.key);
        const answer = step.choices.some((c) => c.code === seen)
          ? seen
          : (advised ?? step.choices[0]?.code ?? '');
        const made = step.choices.find((c) => c.code === answer)?.sets;
        for (const [fact, to] of Object.entries(made ?? {})) this.hands(this.family.facts[fact]?.[to]?.hands);
        return this.write({ kind: 'observe', answer, at, ...(made ? { sets: made } : sets) });
      }
      case 'turn': {
        for (const [fact, wanted] of Object.entries(step.needs ?? {}))
          if (view.fact(fact) !== wanted) this.unsafe.push(`turned with ${fact} not ${wanted}`);
        if (step.seek || step.amount) return this.counted(view, step, at);
        const advice = view.advice(step.adjuster);
        if (advice.stop !== null) {
          this.unsafe.push(`offered a turn while the advice was ${advice.stop}`);
          return this.write({ kind: 'leave', outcome: 'replace', reason: advice.because });
        }
        this.rig.turn(step.adjuster, advice.turns);
        return this.write({
          kind: 'turn',
          adjuster: step.adjuster,
          amount: advice.turns,
          text: sayAmount(view.adjuster(step.adjuster), advice.turns),
          advised: advice.turns,
          at,
          ...sets,
        });
      }
      case 'read':
        return this.read(view, step, at);
    }
  }

  /** Turned by a count, or one after the other until the meter shows what is sought. */
  private counted(view: JobView, step: TurnStep, at: Place): void {
    const { seek, adjuster } = step;
    let amount = step.amount?.(view) ?? 0;
    let reached: boolean | undefined;
    if (seek) {
      const there = (): boolean => this.rig.channels[seek.channel] === seek.to;
      for (reached = there(); !reached && Math.abs(amount) < seek.most - 1e-9; reached = there()) {
        const by = seek.way * (seek.by ?? 1);
        this.rig.turn(adjuster, by);
        amount += by;
        this.pass(seek.settles_s ?? CLICK_S);
      }
    } else this.rig.turn(adjuster, amount);
    this.write({
      kind: 'turn',
      adjuster,
      amount,
      text: sayAmount(view.adjuster(adjuster), amount),
      at,
      ...(reached === undefined ? { advised: amount } : { reached }),
      ...(step.sets ? { sets: step.sets } : {}),
    });
  }

  /** Reads off what is shown. */
  private shown(step: ObserveStep, display: Display, at: Place): void {
    const shown = asRead(instrumentOf(display), this.rig.channels[display.channel] ?? 0);
    const value = this.typed(shown, display.unit, display.step);
    const answer = step.choices[0]?.code ?? '';
    this.write({ kind: 'observe', answer, value, at, ...(step.sets ? { sets: step.sets } : {}) });
  }

  /** Starts the stopwatch with what starts it, and stops it when the meter changes. */
  private timed(step: ObserveStep, at: Place): void {
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
    this.write({
      kind: 'observe',
      answer: (seen ? came : never).code,
      seconds: Math.round(seconds * 100) / 100,
      at,
      ...(step.sets ? { sets: step.sets } : {}),
    });
  }

  private read(view: JobView, step: ReadStep, at: Place): void {
    const gauge = view.gauge(step.slot);
    if (!gauge) throw new Error(`No gauge in ${step.slot}.`);
    const noise = this.family.rig.noise(view.plan)[step.slot] ?? 0;
    const caught = this.catch(step, Math.max(spanOf(gauge).readableStep, noise), noise);
    const never = step.watched ? this.family.never(view.plan, step.setting) : Infinity;
    if (this.rig.channels['relief'] === 1 && step.watched && view.state.turns.length > 0)
      this.unsafe.push('the relief lifted after an advised turn');
    if (caught === undefined) {
      const seen = this.rig.answer(step.key);
      const choice = step.instead?.find((c) => c.code === seen) ?? step.instead?.[0];
      if (!choice) throw new Error(`${step.key}: no reading came and there is no other way out.`);
      for (const [fact, to] of Object.entries(choice.sets ?? {}))
        this.hands(this.family.facts[fact]?.[to]?.hands);
      const shown = this.typed(
        asRead(gauge, this.rig.gauge(step.slot)),
        gauge.unit,
        gauge.division * gauge.readable,
      );
      return this.write({
        kind: 'observe',
        answer: choice.code,
        value: shown,
        at,
        ...(choice.bounds ? { bounds: choice.bounds } : {}),
        ...(choice.sets ? { sets: choice.sets } : {}),
      });
    }
    if (caught.p > never && view.state.turns.length > 0)
      this.unsafe.push(`${step.setting} passed what it must never reach`);
    const turning = step.catch === 'low' || step.catch === 'high' ? step.catch : undefined;
    const since =
      turning && this.lastTurning && this.lastTurning.kind !== turning
        ? caught.t - this.lastTurning.t
        : undefined;
    if (turning) this.lastTurning = { kind: turning, t: caught.t };
    this.write({
      kind: 'read',
      setting: step.setting,
      slot: step.slot,
      value: this.typed(asRead(gauge, caught.p), gauge.unit, gauge.division * gauge.readable),
      state: step.catch === 'firm' ? 'firm' : 'caught',
      source: 'simulated',
      at,
      ...(since !== undefined && since < 1200 ? { since_s: since } : {}),
      ...(step.sets ? { sets: step.sets } : {}),
    });
  }

  /** Run the rig until the needle is caught as the step asks; undefined when it never is. */
  private catch(step: ReadStep, resolution: number, noise: number): Caught | undefined {
    const catcher = new Catcher({ wanted: step.catch, resolution, noise, window_s: 4 });
    let got: Caught | undefined;
    let standing = 0;
    let reference = NaN;
    this.clock += runRig(this.rig, LONGEST_READ_S, step.slot, SAMPLE_S, (t, p) => {
      got = catcher.push(t, p, this.rig.channels['pump'] === 1);
      // Two minutes without movement, or a lifted relief: no reading will come.
      standing = Math.abs(p - reference) < 6 * noise ? standing + SAMPLE_S : 0;
      if (standing === 0) reference = p;
      return got !== undefined || standing > 120 || this.rig.channels['relief'] === 1;
    });
    return got;
  }

  private hands(hands: Readonly<Record<string, number>> | undefined): void {
    for (const [handle, value] of Object.entries(hands ?? {})) this.rig.set(handle, value);
  }

  private pass(seconds: number): void {
    for (let i = 0; i < seconds / RIG_STEP_S; i++) this.rig.step(RIG_STEP_S);
    this.clock += seconds;
  }

  private typed(value: number, unit: string, step: number): AsTyped {
    const text = value.toFixed(decimalsFor(step));
    return { text, unit, value: toCanonical(Number(text), unit) };
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
