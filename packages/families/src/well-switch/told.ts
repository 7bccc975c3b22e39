// For tests: a job of a pump switch told by hand, in the words of its procedure.
import { FoldedJob, offer, type Facts, type JobBody } from '@firm-needle/core/procedure';
import { HandLog, planOf, psi, startedOf } from '../testing.js';
import { family as wellSwitch } from './index.js';

/** A job told by hand, in the words of the procedure. */
export class Told {
  readonly h = new HandLog();

  constructor(plan = planOf()) {
    this.h.add(startedOf(plan));
    this.done('cautions', { cautions: 'read' });
    this.zero('system', 0, 'zero-system');
    this.zero('air', 0, 'zero-air');
    this.done('fit-gauge', { gauge: 'fitted', power: 'on', house: 'open', drain: 'closed' });
  }

  done(key: string, sets?: Facts, pass = '1'): this {
    this.h.add({ kind: 'done', at: { key, pass }, ...(sets ? { sets } : {}) });
    return this;
  }

  zero(slot: string, value: number, key: string, pass = '1'): this {
    const at = { text: String(value), unit: 'psi', value: psi(value) };
    this.h.add({ kind: 'zero', slot, before: at, after: at, handling: 'carried', at: { key, pass } });
    return this;
  }

  saw(
    key: string,
    answer: string,
    extra: Partial<Extract<JobBody, { kind: 'observe' }>> = {},
    pass = '1',
  ): this {
    this.h.add({ kind: 'observe', answer, at: { key, pass }, ...extra });
    return this;
  }

  cycle(cutIn: number, cutOut: number, n: number, since = 120): this {
    this.h.read('cutIn', cutIn, 'found-cut-in', 'found', `1.${n}`);
    const out = this.h.read('cutOut', cutOut, 'found-cut-out', 'found', `1.${n}`);
    // The same reading with the seconds it took, as a live source gives it.
    if (out.body.kind === 'read')
      this.h.add({
        kind: 'correct',
        corrects: out.id,
        reason: 'timed',
        body: { ...out.body, since_s: since },
      });
    return this;
  }

  /** Through the as-found part to the decision. */
  drained(precharge: number | undefined): this {
    this.saw('rest', 'holds');
    this.done('found-drain', { power: 'off', house: 'closed', drain: 'open' });
    if (precharge === undefined) this.saw('found-precharge', 'water');
    else this.h.read('precharge', precharge, 'found-precharge');
    return this;
  }

  get view(): FoldedJob {
    return new FoldedJob(wellSwitch, this.h.log.state);
  }

  get codes(): string[] {
    return wellSwitch.findings(this.view).map((f) => f.code);
  }

  get next(): string | undefined {
    return offer(wellSwitch.procedure(this.view.plan), this.view).now?.step.key;
  }

  /** The answer that the decision step advises. */
  get advised(): string | undefined {
    const { now } = offer(wellSwitch.procedure(this.view.plan), this.view);
    return now?.step.kind === 'observe'
      ? now.step.choices.find((c) => c.advised?.(this.view))?.code
      : undefined;
  }
}

export const adjustingFrom = (cutIn: number, cutOut: number): Told =>
  new Told().cycle(cutIn, cutOut, 1).cycle(cutIn, cutOut, 2).drained(41).saw('decide', 'adjust');
