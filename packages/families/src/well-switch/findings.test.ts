import { describe, expect, it } from '@jest/globals';
import { HandLog, planOf, psi, startedOf } from '../testing.js';
import { FoldedJob, type JobView, offer, type Facts, type JobBody } from '@firm-needle/core/procedure';
import { family as wellSwitch } from './index.js';

/** A job told by hand, in the words of the procedure. */
class Told {
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

  get view(): JobView {
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

const adjustingFrom = (cutIn: number, cutOut: number): Told =>
  new Told().cycle(cutIn, cutOut, 1).cycle(cutIn, cutOut, 2).drained(41).saw('decide', 'adjust');

describe('what the as-found readings come to', () => {
  it('leaves alone what stands inside its limits', () => {
    const t = new Told().cycle(43, 63, 1).cycle(43, 63.5, 2).drained(41);
    expect(t.codes).toEqual([]);
    expect(t.next).toBe('found-soap');
    t.saw('found-soap', 'tight');
    // Nothing is asked that the readings have answered.
    expect(t.next).toBe('end-power');
    expect(wellSwitch.recommend(t.view).outcome).toBe('left-as-found');
  });

  it('reads the second cut-out of what stands right as the tank fills again, and asks once that is wrong', () => {
    const one = (): Told => {
      const t = new Told().cycle(43, 63, 1);
      t.h.read('cutIn', 43, 'found-cut-in', 'found', '1.2');
      expect(t.next).toBe('rest');
      return t.drained(41).saw('found-soap', 'tight');
    };
    const t = one();
    expect(t.next).toBe('prove-power');
    expect(wellSwitch.recommend(t.view).outcome).toBe('unfinished');
    t.done('prove-power', { power: 'on', drain: 'closed' }, '1.1');
    expect(t.next).toBe('refill-cut-out');
    t.h.read('cutOut', 63.5, 'refill-cut-out', 'left', '1.1');
    expect(t.next).toBe('zero-again');
    expect(wellSwitch.recommend(t.view).outcome).toBe('left-as-found');
    const off = one().done('prove-power', { power: 'on', drain: 'closed' }, '1.1');
    off.h.read('cutOut', 67.5, 'refill-cut-out', 'left', '1.1');
    expect(off.codes).toContain('unrepeatable');
    expect(off.next).not.toBe('zero-again');
  });

  it('counts no run time of a tank that fills from nothing', () => {
    const t = new Told().cycle(43, 63, 1, 95).cycle(43, 63, 2, 97).drained(41);
    const at = { key: 'end-cut-out', pass: '1', phase: 'left' } as const;
    const out = t.h.read('cutOut', 63, 'end-cut-out', 'left');
    if (out.body.kind === 'read')
      t.h.add({
        kind: 'correct',
        corrects: out.id,
        reason: 'timed',
        body: { ...out.body, since_s: 410, at },
      });
    expect(t.view.figure('runTime', 'left')?.value).toBe(96);
    // The next cycle counts again.
    t.h.read('cutIn', 43, 'prove-cut-in', 'left', '1.1');
    const next = t.h.read('cutOut', 63, 'prove-cut-out', 'left', '1.1');
    if (next.body.kind === 'read')
      t.h.add({ kind: 'correct', corrects: next.id, reason: 'timed', body: { ...next.body, since_s: 99 } });
    expect(t.view.figure('runTime', 'left')?.value).toBe(97);
    // Locked off between, it ran on the clock and not on the pump.
    t.h.read('cutIn', 43, 'prove-cut-in', 'left', '1.2');
    t.done('nut-lock', { power: 'off' }, '1.2').done('nut-power', { power: 'on' }, '1.2');
    const off = t.h.read('cutOut', 63, 'prove-cut-out', 'left', '1.2');
    if (off.body.kind === 'read')
      t.h.add({ kind: 'correct', corrects: off.id, reason: 'timed', body: { ...off.body, since_s: 700 } });
    expect(t.view.figure('runTime', 'left')?.value).toBe(97);
  });

  it('adjusts what is out', () => {
    expect(new Told().cycle(39, 59, 1).cycle(39, 59, 2).drained(37).advised).toBe('adjust');
  });

  it('names a low precharge and by how much', () => {
    const t = new Told().cycle(43, 63, 1).cycle(43, 63, 2).drained(33);
    expect(t.codes).toContain('precharge-low');
    expect(wellSwitch.findings(t.view)[0]?.message).toBe('Precharge was found at 33.0 psi, 8.0 psi low.');
  });

  it('names a charge that stands by the rule for a drive', () => {
    const t = new Told().cycle(43, 63, 1).cycle(43, 63, 2).drained(44);
    expect(t.codes).toContain('charged-as-drive');
    expect(t.codes).not.toContain('precharge-low');
  });

  it('calls a short run with next to no charge waterlogged, and with the right charge a small tank', () => {
    expect(new Told().cycle(43, 63, 1, 25).cycle(43, 63, 2, 26).drained(12).codes).toContain('waterlogged');
    expect(new Told().cycle(43, 63, 1, 25).cycle(43, 63, 2, 26).drained(41).codes).toContain('tank-small');
  });

  it('replaces the tank when water comes out of the air valve', () => {
    const t = new Told().cycle(43, 63, 1).cycle(43, 63, 2).drained(undefined);
    expect(t.codes).toContain('ruptured-bladder');
    expect(t.advised).toBe('replace');
    expect(wellSwitch.recommend(t.view)).toMatchObject({ outcome: 'replace' });
  });

  it('replaces a switch that does not repeat, after a third cycle has made sure', () => {
    const two = new Told().cycle(43, 63, 1).cycle(43, 58, 2);
    expect(two.next).toBe('found-cut-in');
    const three = two.cycle(43, 61, 3).drained(41);
    expect(three.codes).toContain('unrepeatable');
    expect(three.advised).toBe('replace');
  });

  it('does not blame the switch for a cut-in that scatters because the tank was empty', () => {
    const t = new Told().cycle(38, 63, 1).cycle(35, 63, 2).cycle(36, 63, 3).drained(41);
    expect(t.codes).toContain('empties-first');
    expect(t.codes).not.toContain('unrepeatable');
  });

  it('replaces a narrowed switch under the school that leaves the differential, and sets it under the other', () => {
    const narrow = (school: string): Told => {
      const plan = planOf();
      return new Told({ ...plan, school, choices: { both: 'wanted' } })
        .cycle(43, 54, 1)
        .cycle(43, 54, 2)
        .cycle(43, 54, 3)
        .drained(41);
    };
    expect(narrow('leave-differential').advised).toBe('replace');
    expect(narrow('leave-differential').codes).toContain('differential-narrowed');
    expect(narrow('set-both').advised).toBe('adjust');
  });

  it('locks off and replaces a switch that does not stop the pump', () => {
    const t = new Told();
    t.h.read('cutIn', 43, 'found-cut-in', 'found', '1.1');
    t.saw(
      'found-cut-out',
      'climbs',
      {
        sets: { power: 'off' },
        bounds: { setting: 'cutOut', side: 'above' },
        value: { text: '75', unit: 'psi', value: psi(75) },
      },
      '1.1',
    );
    // With the power already off, what remains is the house valve and the drain.
    expect(t.next).toBe('found-drain');
    expect(t.codes).toContain('does-not-stop');
    expect(wellSwitch.recommend(t.view).outcome).toBe('replace');
  });

  it('looks at the well, not at the switch, when the pump runs on under cut-out', () => {
    const t = new Told();
    t.h.read('cutIn', 43, 'found-cut-in', 'found', '1.1');
    t.saw('found-cut-out', 'stalls', {}, '1.1').drained(41);
    expect(t.codes).toContain('below-cut-out');
    expect(t.advised).toBe('leave');
  });

  it('names a fall at rest, and a pump that does not start', () => {
    const t = new Told().cycle(43, 63, 1).cycle(43, 63, 2);
    // A minute a line: two after the cut-out, eight psi lower.
    t.saw('rest', 'falls', { value: { text: '55', unit: 'psi', value: psi(55) } });
    expect(wellSwitch.findings(t.view).find((f) => f.code === 'falls-at-rest')?.message).toBe(
      'The pressure falls 4.0 psi a minute with nothing drawn: check valve or a leak.',
    );
    const untold = new Told().cycle(43, 63, 1).cycle(43, 63, 2).saw('rest', 'falls');
    expect(wellSwitch.findings(untold.view).find((f) => f.code === 'falls-at-rest')?.message).toBe(
      'The pressure falls with nothing drawn: check valve or a leak.',
    );
    const dead = new Told().saw('found-cut-in', 'no-start', {}, '1.1');
    expect(dead.codes).toContain('does-not-start');
    expect(dead.next).toBe('found-drain');
  });

  it('compares the pair inside the cover with what is planned', () => {
    const told = (inside: string, outside: string): string[] => {
      const t = adjustingFrom(39, 59);
      const at = (text: string) => ({ value: { text, unit: 'psi', value: psi(Number(text)) } });
      return t.saw('rated-in', 'shows', at(inside), '1.1').saw('rated-out', 'shows', at(outside), '1.1')
        .codes;
    };
    expect(told('40', '60').filter((c) => c.startsWith('off-rated'))).toEqual([]);
    expect(told('20', '40').filter((c) => c.startsWith('off-rated'))).toEqual([
      'off-rated-in',
      'off-rated-out',
    ]);
    expect(told('40', '80').filter((c) => c.startsWith('off-rated'))).toEqual(['off-rated-out']);
  });

  it('doubts a gauge that will not zero, and carries one that is merely off', () => {
    expect(new Told().zero('system', 3, 'zero-system', '2').codes).toContain('gauge-unfit');
    expect(new Told().zero('system', 1.5, 'zero-system', '2').codes).toContain('gauge-zero');
  });
});

describe('the work', () => {
  const adjusting = (precharge = 41): Told =>
    new Told().cycle(39, 59, 1).cycle(39, 59, 2).drained(precharge).saw('decide', 'adjust');

  it('walks from the locked switch to the nut and back to power, in that order', () => {
    const t = adjusting();
    const seen: string[] = [];
    const steps: readonly (readonly [string, Facts | undefined])[] = [
      ['cover-off', { cover: 'off', power: 'dead' }],
      ['mark', undefined],
    ];
    for (const [key, sets] of steps) {
      seen.push(t.next ?? '');
      t.done(key, sets, '1.1');
    }
    seen.push(t.next ?? '');
    t.saw('rated-in', 'shows', { value: { text: '40', unit: 'psi', value: psi(40) } }, '1.1');
    seen.push(t.next ?? '');
    t.saw('rated-out', 'none', {}, '1.1');
    seen.push(t.next ?? '');
    t.h.add({
      kind: 'turn',
      adjuster: 'range',
      amount: 2,
      text: '2',
      at: { key: 'turn-range', pass: '1.1', phase: 'adjust' },
    });
    for (const [key, sets] of [
      ['cover-on', { cover: 'on' }],
      ['nut-power', { drain: 'closed', power: 'on' }],
    ] as const) {
      seen.push(t.next ?? '');
      t.done(key, sets, '1.1');
    }
    seen.push(t.next ?? '');
    expect(seen).toEqual([
      'cover-off',
      'mark',
      'rated-in',
      'rated-out',
      'turn-range',
      'cover-on',
      'nut-power',
      'adjust-cut-out',
    ]);
  });

  it('stops at a drip from the relief: locked off, and lowered before anything else', () => {
    const t = adjusting()
      .done('cover-off', { cover: 'off', power: 'dead' }, '1.1')
      .done('mark', undefined, '1.1');
    t.h.add({
      kind: 'turn',
      adjuster: 'range',
      amount: 3,
      text: '3',
      at: { key: 'turn-range', pass: '1.1', phase: 'adjust' },
    });
    t.done('cover-on', { cover: 'on' }, '1.1').done('nut-power', { drain: 'closed', power: 'on' }, '1.1');
    t.saw(
      'adjust-cut-out',
      'drips',
      {
        sets: { power: 'off' },
        bounds: { setting: 'cutOut', side: 'above' },
        value: { text: '79', unit: 'psi', value: psi(79) },
      },
      '1.1',
    );
    expect(t.codes).toContain('relief-drips');
    const advice = t.view.advice('range');
    expect(advice.stop === null && advice.turns < 0).toBe(true);
    expect(t.next).toBe('cover-off');
  });

  it('asks for the precharge again once the switch is proved, and not before', () => {
    const t = adjusting(39)
      .done('cover-off', { cover: 'off', power: 'dead' }, '1.1')
      .done('mark', undefined, '1.1');
    t.h.add({
      kind: 'turn',
      adjuster: 'range',
      amount: 2,
      text: '2',
      at: { key: 'turn-range', pass: '1.1', phase: 'adjust' },
    });
    t.done('cover-on', { cover: 'on' }, '1.1').done('nut-power', { drain: 'closed', power: 'on' }, '1.1');
    t.h.read('cutOut', 63, 'adjust-cut-out', 'adjust', '1.1');
    t.h.read('cutIn', 43, 'adjust-cut-in', 'adjust', '1.1');
    expect(t.next).toBe('prove-cut-in');
    t.h.read('cutIn', 43, 'prove-cut-in', 'left', '1.1');
    t.h.read('cutOut', 63, 'prove-cut-out', 'left', '1.1');
    expect(wellSwitch.unproved(t.view).map((f) => f.code)).toEqual(['precharge-due']);
    expect(t.next).toBe('charge-drain');
    t.done('charge-drain', { power: 'off', house: 'closed', drain: 'open' }, '1.1');
    expect(t.next).toBe('charge-read');
    t.h.read('precharge', 39, 'charge-read', 'adjust', '1.1');
    // It stands two low: air is added and read until it is right.
    expect(t.next).toBe('charge-air');
    expect(wellSwitch.unproved(t.view).map((f) => f.code)).toEqual(['precharge-out']);
    const advice = t.view.advice('air');
    if (advice.stop !== null) throw new Error(advice.because);
    expect(advice.turns / psi(1)).toBeCloseTo(2, 0);
    t.h.add({
      kind: 'turn',
      adjuster: 'air',
      amount: advice.turns,
      text: 'add 2.0 psi',
      at: { key: 'charge-air', pass: '1.2', phase: 'adjust' },
    });
    t.h.read('precharge', 41, 'charge-after', 'left', '1.2');
    expect(wellSwitch.unproved(t.view)).toEqual([]);
    // The air valve is soaped while nothing but air stands behind it; then the tank is filled.
    expect(t.next).toBe('soap');
    expect(wellSwitch.recommend(t.view).outcome).toBe('set');
  });

  it('lets a near verdict be signed and never an out one', () => {
    const left = (cutIn: number): string[] => {
      const t = adjusting();
      t.h.add({
        kind: 'turn',
        adjuster: 'range',
        amount: 2,
        text: '2',
        at: { key: 'turn-range', pass: '1.1', phase: 'adjust' },
      });
      for (const pass of ['1.1', '1.2']) {
        t.h.read('cutIn', cutIn, 'x', 'left', pass);
        t.h.read('cutOut', 63, 'y', 'left', pass);
      }
      t.h.read('precharge', 41, 'z', 'left', '1');
      return wellSwitch.unproved(t.view).map((f) => f.code);
    };
    expect(left(43)).toEqual([]);
    expect(left(44.7)).toEqual([]);
    expect(left(47)).toEqual(['cutIn-out']);
  });
});
