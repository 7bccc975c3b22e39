// What stands inside its limits, but not surely: one more movement where it is worth its while, and said on the sheet where it is not.
import { describe, expect, it } from '@jest/globals';
import { entries } from '@firm-needle/core/entries';
import { earlySaid, outcomeSaid, sayStep, sheetOf } from '@firm-needle/core/family';
import type { Gauge } from '@firm-needle/core/gauge';
import { completes, FoldedJob, offer, type PlacedBody, type TurnStep } from '@firm-needle/core/procedure';
import { HandLog, AIR, planOf, psi, startedOf, WATER } from '../testing.js';
import { family } from '../well-switch/index.js';

const FINE: Gauge = {
  ...WATER,
  kind: 'digital',
  division: 0.05,
  readable: 1,
  accuracy: { standard: 'stated', percentOfSpan: 0.1 },
};

class Near {
  readonly h = new HandLog();
  private readings = 0;

  constructor(system: Gauge = FINE, rule: 'guarded' | 'simple' = 'guarded') {
    this.h.add(startedOf(planOf(), { gauges: { system, air: AIR }, rule }));
    for (const [slot, key] of [
      ['system', 'zero-system'],
      ['air', 'zero-air'],
    ] as const) {
      const zero = { text: '0', unit: 'psi', value: 0 };
      this.h.add({
        kind: 'zero',
        slot,
        before: zero,
        after: zero,
        handling: 'carried',
        at: { key, pass: '1' },
      });
    }
  }

  cycle(cutIn: number, cutOut: number, phase: 'found' | 'adjust' | 'left' = 'left'): this {
    const pass = `1.${++this.readings}`;
    this.h.read('cutIn', cutIn, `${phase}-cut-in`, phase, pass);
    this.h.read('cutOut', cutOut, `${phase}-cut-out`, phase, pass);
    return this;
  }

  turn(amount: number): this {
    const pass = `1.${++this.readings}`;
    this.h.add({ kind: 'turn', adjuster: 'range', amount, text: '', at: { key: 'turn-range', pass } });
    return this;
  }

  get view(): FoldedJob {
    return new FoldedJob(family, this.h.log.state);
  }
}

/** Found low, turned once, and read twice: inside 41.5 to 44.5 and 61.5 to 64.5, one of them but near. */
const turned = (system?: Gauge, rule?: 'guarded' | 'simple'): Near =>
  new Near(system, rule)
    .cycle(39.2, 59.3, 'found')
    .cycle(39.25, 59.25, 'found')
    .turn(1.5)
    .cycle(41.75, 61.8, 'adjust')
    .cycle(41.7, 61.8);

describe('what stands near its limit after a turn', () => {
  it('is turned once more where that will very likely make it sure, and says so', () => {
    const { view } = turned();
    expect(view.verdict('cutIn', 'left')?.word).toBe('near');
    expect(view.landed('cutIn')).toBe(true);
    expect(view.rests('cutIn')).toBe(false);
    const advice = view.advice('range');
    if (advice.stop !== null) throw new Error(advice.because);
    expect(advice.turns).toBeGreaterThan(0.4);
    expect(advice.turns).toBeLessThan(1.2);
    expect(advice.lands).toBeGreaterThanOrEqual(0.8);
    const turn = { kind: 'turn', key: 'x', title: 'x', say: '', adjuster: 'range' } as const;
    expect(sayStep(family, view, turn).why).toMatch(
      /^It stands inside its limits, but near\. (8|9|10) times in 10/,
    );
  });

  it('is left where that is said, and nothing more is advised', () => {
    const t = turned();
    const item = offer(family.procedure(t.view.plan), t.view).now;
    if (!item) throw new Error('Nothing is offered.');
    t.h.add(entries.leftNear(t.view, item).body);
    expect(t.h.log.state.aside).toEqual([]);
    expect(t.view.rests('cutIn')).toBe(true);
    expect(t.view.advice('range').stop).toBe('in-limits');
  });

  it('may be left at the turn itself', () => {
    const t = turned();
    const turn = {
      step: { kind: 'turn', key: 'turn-range', title: 'x', say: '', adjuster: 'range', phase: 'adjust' },
      pass: '1.9',
      status: 'now',
      taken: [],
    } as const;
    const { body } = entries.leftNear(t.view, turn);
    expect(body).toMatchObject({ answer: 'left-near', at: { key: 'turn-range', pass: '1.9' } });
    t.h.add(body);
    expect(t.h.log.state.aside).toEqual([]);
    expect(t.view.rests('cutIn')).toBe(true);
  });

  it.each([
    ['back to a mark', { amount: () => -1 }],
    ['until something comes', { seek: { what: 'it runs', most: 4 } }],
  ])('is let be at its own place while the screw goes %s: that turn is still to be made', (_, of) => {
    const t = turned();
    const face = { key: 'put-back', title: 'x', say: '', phase: 'left' } as const;
    const step = { ...face, kind: 'turn', adjuster: 'range', ...of } as TurnStep;
    const { body } = entries.leftNear(t.view, { step, pass: '1.9', status: 'now', taken: [] });
    expect(body).toMatchObject({ answer: 'left-near', at: { key: 'left-near' } });
    expect(completes(step, body as PlacedBody)).toBe(false);
    expect(completes({ ...face, kind: 'turn', adjuster: 'range' }, body as PlacedBody)).toBe(true);
  });

  it('is turned for that but once', () => {
    const t = turned().turn(0.125).cycle(41.8, 61.85, 'adjust').cycle(41.8, 61.85);
    expect(t.view.verdict('cutIn', 'left')?.word).toBe('near');
    expect(t.view.rests('cutIn')).toBe(true);
  });

  it.each([
    [
      'was read but once since',
      () => new Near().cycle(39.2, 59.3, 'found').turn(1.5).cycle(41.7, 61.8, 'adjust'),
    ],
    ['was not turned at all', () => new Near().cycle(41.7, 61.8, 'found').cycle(41.75, 61.75, 'found')],
    ['is read on a gauge whose doubt is wide', () => turned(WATER)],
    ['is judged without a guard band', () => turned(FINE, 'simple')],
    ['stands surely inside', () => turned().turn(0.75).cycle(43, 63, 'adjust').cycle(43, 63.1)],
  ])('is let be where it %s', (_, told) => {
    const { view } = told();
    expect(view.refines('range')).toBe(false);
    expect(view.rests('cutIn')).toBe(view.landed('cutIn'));
  });

  it('is called so in the headline of what was set', () => {
    const rowsOf = (t: Near) => sheetOf(family, t.view).rows;
    expect(outcomeSaid(family, 'set', rowsOf(turned()))).toBe('Set, near its limit: cut-in, cut-out');
    expect(outcomeSaid(family, 'left-as-found', rowsOf(turned()))).toBe('Left as found');
    const sure = turned().turn(0.75).cycle(43, 63, 'adjust').cycle(43, 63.1);
    expect(outcomeSaid(family, 'set', rowsOf(sure))).toBe('Set and proved');
  });
});

describe('what was not waited for', () => {
  it('is said on the sheet: a look that was cut short, a reading before the needle was caught', () => {
    const t = new Near().cycle(43, 63, 'found');
    t.h.add({ kind: 'observe', answer: 'holds', seconds: 12, early: true, at: { key: 'rest', pass: '1' } });
    const value = { text: '43', unit: 'psi', value: psi(43) };
    t.h.add({
      kind: 'read',
      setting: 'cutIn',
      slot: 'system',
      value,
      state: 'early',
      at: { key: 'x', pass: '1' },
    });
    expect(earlySaid(family, t.view)).toEqual([
      'Holds with no draw: answered after 12 s of 60 s.',
      'Cut-in: a reading was taken before the needle was caught.',
    ]);
    expect(earlySaid(family, new Near().cycle(43, 63, 'found').view)).toEqual([]);
  });
});
