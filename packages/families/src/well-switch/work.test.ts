import { describe, expect, it } from '@jest/globals';
import { type Facts } from '@firm-needle/core/procedure';
import { kitJobs, psi } from '../testing.js';
import { family as wellSwitch } from './index.js';
import { kit } from './kit.js';
import { Told } from './told.js';

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

describe('a differential that a tank hides', () => {
  const { onKit } = kitJobs(wellSwitch, kit);
  it('is named once it is seen: no turn of one nut brings both points nearer', () => {
    for (const seed of [1, 2, 3]) {
      const job = onKit('well switch', 'drifted-switch narrowed-differential', seed);
      expect(job.outcome).toBe('replace');
      // As found its tank was empty before the pump started: cut-in was read too low, and the differential looked right.
      expect(job.view.verdict('differential', 'found')?.word).toBe('in');
      expect(wellSwitch.findings(job.view).map((f) => f.code)).toEqual(
        expect.arrayContaining(['emptied-first', 'differential-narrowed']),
      );
    }
    const other = onKit('well switch', 'drifted-switch', 1);
    expect(wellSwitch.findings(other.view).map((f) => f.code)).not.toContain('differential-narrowed');
  });
});

describe('a switch that does not land', () => {
  it('calls a switch that acts now here, now there, in its limits by no reading that happens to lie there', () => {
    // Turned eight times: read last at 63.5 psi of 61.5 to 64.5, it stood at 60.8.
    const job = kitJobs(wellSwitch, kit).onKit('well switch', 'blocked-tube', 40);
    expect(job.outcome).toBe('replace');
    expect(job.view.landed('cutOut')).toBe(true);
    expect(job.view.verdict('cutOut', 'left')?.word).toBe('near');
    const line = job.view.figure('cutOut', 'left')?.budget.lines.find((l) => l.because.includes('now here'));
    expect(line?.u).toBeGreaterThan(psi(1.5));
    expect(job.view.verdict('cutOut', 'found')?.word).toBe('out');
  });
});
