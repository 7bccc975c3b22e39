import { asRead, spanOf } from '../gauge/index.js';
import { sheetOf, type Family } from '../family/index.js';
import {
  JobLog,
  JobView,
  offer,
  PAYLOAD_VERSION,
  placeOf,
  RENEW,
  type JobBody,
  type JobEvent,
  type Outcome,
  type Place,
  type ReadStep,
  type StartedBody,
} from '../procedure/index.js';
import { decimalsFor, toCanonical } from '../quantity/index.js';
import { RIG_STEP_S, runRig, type Rig } from '../rig/index.js';
import { FirmnessDetector, TurningDetector } from '../trace/index.js';
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

const SAMPLE_S = 0.05;
const LONGEST_READ_S = 1500;

/**
 * A technician who obeys only what the procedure offers next, with a rig in place of an installation and no browser.
 * Deterministic: the same family, start and rig give the same log.
 */
export class ScriptedTechnician {
  readonly log: JobLog;
  private clock = 0;
  private count = 0;
  private readonly unsafe: string[] = [];
  private lastTurning: { kind: 'low' | 'high'; t: number } | undefined;

  constructor(
    private readonly family: Family,
    private readonly rig: Rig,
    started: StartedBody,
    private readonly job = '00000000-0000-7000-8000-000000000001',
    /** A view of each event as it is made, for instance to send it to a server. */
    private readonly onEvent: (event: JobEvent) => void = () => undefined,
  ) {
    this.log = new JobLog(job);
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
        const shown = this.rig.gauge(step.slot);
        const value = this.typed(asRead(gauge, shown), gauge.unit, gauge.division * gauge.readable);
        return this.write({
          kind: 'zero',
          slot: step.slot,
          before: value,
          after: value,
          handling: 'carried',
          at,
          ...sets,
        });
      }
      case 'observe': {
        this.pass(step.seconds ?? 2);
        const advised = step.choices.find((c) => c.advised?.(view))?.code;
        const seen = this.rig.answer(step.key);
        const answer = step.choices.some((c) => c.code === seen)
          ? seen
          : (advised ?? step.choices[0]?.code ?? '');
        return this.write({ kind: 'observe', answer, at, ...sets });
      }
      case 'turn': {
        const advice = view.advice(step.adjuster);
        if (advice.stop !== null) {
          this.unsafe.push(`offered a turn while the advice was ${advice.stop}`);
          return this.write({ kind: 'leave', outcome: 'replace', reason: advice.because });
        }
        for (const [fact, wanted] of Object.entries(step.needs ?? {}))
          if (view.fact(fact) !== wanted) this.unsafe.push(`turned with ${fact} not ${wanted}`);
        this.rig.turn(step.adjuster, advice.turns);
        return this.write({
          kind: 'turn',
          adjuster: step.adjuster,
          amount: advice.turns,
          text: String(advice.turns),
          advised: advice.turns,
          at,
          ...sets,
        });
      }
      case 'read':
        return this.read(view, step, at);
    }
  }

  private read(view: JobView, step: ReadStep, at: Place): void {
    const gauge = view.gauge(step.slot);
    if (!gauge) throw new Error(`No gauge in ${step.slot}.`);
    const noise = this.family.rig.noise[step.slot] ?? 0;
    const caught = this.catch(step, spanOf(gauge).readableStep, noise);
    const never = step.watched ? this.family.never(view.plan, step.setting) : Infinity;
    if (this.rig.channels['relief'] === 1 && step.watched && view.state.turns.length > 0)
      this.unsafe.push('the relief lifted after an advised turn');
    if (caught === undefined) {
      const seen = this.rig.answer(step.key);
      const choice = step.instead?.find((c) => c.code === seen) ?? step.instead?.[0];
      if (!choice) throw new Error(`${step.key}: no reading came and there is no other way out.`);
      if (choice.sets?.['power'] === 'off') this.rig.set('power', 0);
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
  private catch(step: ReadStep, resolution: number, noise: number): { t: number; p: number } | undefined {
    let got: { t: number; p: number } | undefined;
    if (step.catch === 'firm') {
      const firm = new FirmnessDetector({ window_s: 4, resolution, noise });
      runRig(this.rig, 300, step.slot, SAMPLE_S, (t, p) => {
        firm.push(t, p);
        const f = firm.get();
        if (f.state !== 'firm') return false;
        got = { t, p: f.mean };
        return true;
      });
    } else {
      const turning = new TurningDetector(Math.max(6 * noise, resolution, 2000));
      const wanted = step.catch === 'low' ? 'low' : 'high';
      let still = 0;
      let reference = NaN;
      const ran = runRig(this.rig, LONGEST_READ_S, step.slot, SAMPLE_S, (t, p) => {
        const turn = turning.push(t, p);
        if (turn?.kind === wanted) {
          got = turn;
          return true;
        }
        // Pressure standing still at the end of a rise with the pump stopped is a cut-out, too.
        still = Math.abs(p - reference) < 6 * noise ? still + SAMPLE_S : 0;
        if (still === 0) reference = p;
        if (
          wanted === 'high' &&
          still > 6 &&
          this.rig.channels['pump'] === 0 &&
          this.rig.position('power') === 1
        ) {
          got = { t: t - still, p };
          return true;
        }
        return (wanted === 'high' && still > 120) || this.rig.channels['relief'] === 1;
      });
      this.clock += ran;
      return got;
    }
    this.clock += 10;
    return got;
  }

  private hands(hands: Readonly<Record<string, number>> | undefined): void {
    for (const [handle, value] of Object.entries(hands ?? {})) this.rig.set(handle, value);
  }

  private pass(seconds: number): void {
    for (let i = 0; i < seconds / RIG_STEP_S; i++) this.rig.step(RIG_STEP_S);
    this.clock += seconds;
  }

  private typed(value: number, unit: string, step: number): { text: string; unit: string; value: number } {
    const text = value.toFixed(decimalsFor(step));
    return { text, unit, value: toCanonical(Number(text), unit) };
  }

  private now(): { wall: string; device: string } {
    return { wall: new Date(Date.UTC(2030, 0, 1) + this.clock * 1000).toISOString(), device: 'script' };
  }

  private write(body: JobBody): void {
    const n = (++this.count).toString(16).padStart(12, '0');
    const event: JobEvent = {
      id: `00000000-0000-7000-9000-${n}`,
      job: this.job,
      version: PAYLOAD_VERSION,
      after: this.log.events.at(-1)?.id ?? null,
      author: 'script',
      mono: this.clock * 1000,
      ...this.now(),
      body,
    };
    this.log.append(event);
    this.onEvent(event);
    this.clock += 2;
  }
}
