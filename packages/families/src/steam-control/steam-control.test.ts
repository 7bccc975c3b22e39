// Check values of the trade are marked so; steam is held against the published table of IAPWS-IF97 [from memory, °C at 0.1 K].
import { describe, expect, it } from '@jest/globals';
import { ambientAt, toCanonical } from '@firm-needle/core/quantity';
import { expectOk } from '@firm-needle/core/result';
import { waterSaturationTemperature } from '@firm-needle/core/reckon';
import type { Gauge } from '@firm-needle/core/gauge';
import { typeSetting } from '@firm-needle/core/family';
import { unitOf, type Plan } from '@firm-needle/core/procedure';
import { dial } from '../define/kit.js';
import { TestBench, keysOf, kitJobs, psi } from '../testing.js';
import { family } from './index.js';
import { kit } from './kit.js';
import { firedOver } from './state.js';

const LOW: Gauge = dial('T-8', 'psi', 5, 0.05, 0.5, 0.5);
const bench = new TestBench(family, {
  variant: 'sub',
  plate: kit.plate ?? {},
  given: {},
  gauges: { test: LOW },
});
const planOf = (
  variant: string,
  given: Readonly<Record<string, string>> = {},
  plate: Readonly<Record<string, string>> = {},
): Plan => bench.plan({ variant, plate, given });
const refusals = (...args: Parameters<typeof planOf>): readonly string[] => bench.refusals(planOf(...args));
const { onKit } = kitJobs(family, kit);

describe('the plan of a steam control', () => {
  it('starts where the trade does: a pound and a half less one, ten ounces and four', () => {
    // Common practice, no source.
    expect(planOf('sub').values['cutOut']).toBeCloseTo(psi(1.5), 6);
    expect(planOf('sub').values['cutIn']).toBeCloseTo(psi(0.5), 6);
    const ounces = planOf('ounce');
    expect((ounces.values['cutOut'] ?? 0) / toCanonical(1, 'ozf/in2')).toBeCloseTo(10, 6);
    expect(ounces.limits['cutOut']?.upper).toBeCloseTo(toCanonical(12, 'ozf/in2'), 6);
    expect(ounces.limits['cutIn']?.lower).toBeCloseTo(toCanonical(3, 'ozf/in2'), 6);
  });

  it('takes a figure without a unit for the unit that it is shown in', () => {
    const unit = unitOf(family, planOf('ounce'), 'cutOut');
    const typed = expectOk(typeSetting(family, 'cutOut', '9', unit));
    expect(typed.value).toBeCloseTo(toCanonical(9, 'ozf/in2'), 6);
    // A unit of one’s own is another matter.
    expect(expectOk(typeSetting(family, 'cutOut', '0.5 psi', unit)).value).toBeCloseTo(psi(0.5), 6);
  });

  it('keeps cut-out, cut-in and differential to their sum, whichever is given', () => {
    const ways: readonly Record<string, string>[] = [
      { cutOut: '1.8 psi', cutIn: '0.6 psi' },
      { cutOut: '1.8 psi', differential: '1.2 psi' },
      { cutIn: '0.6 psi', differential: '1.2 psi' },
    ];
    for (const given of ways) {
      const { values } = planOf('sub', given);
      expect((values['cutOut'] ?? 0) / psi(1)).toBeCloseTo(1.8, 6);
      expect((values['cutIn'] ?? 0) / psi(1)).toBeCloseTo(0.6, 6);
    }
  });

  it.each([
    ['over-cap', 'sub', { cutOut: '3 psi' }, {}],
    ['reset-unsure', 'sub', { cutIn: '0.3 psi' }, {}],
    ['cut-out-not-above-cut-in', 'sub', { cutOut: '0.6 psi', cutIn: '0.7 psi' }, {}],
    ['off-main-scale', 'sub', {}, { mainLow: '2 psi' }],
    ['off-diff-scale', 'sub', {}, { diffLow: '1.4 psi' }],
    ['near-limit', 'sub', { cutOut: '2 psi' }, { limit: '2.5 psi' }],
    ['near-valve', 'sub', { cutOut: '4 psi', cutIn: '1 psi' }, { valve: '8 psi', cap: '5 psi' }],
  ] as const)('refuses %s', (code, variant, given, plate) => {
    expect(refusals(variant, given, plate)).toContain(code);
    expect(refusals(variant)).toEqual([]);
  });

  it('keeps a limit over the operating control', () => {
    expect(refusals('limit', { cutOut: '4 psi' }, { limit: '12 psi', operating: '3.5 psi' })).toContain(
      'under-operating',
    );
    expect(refusals('limit', { cutOut: '4 psi' }, { limit: '12 psi', operating: '2 psi' })).toEqual([]);
  });

  it('asks the additive main scale for cut-in, and the subtractive one for cut-out', () => {
    // A main scale that begins at 1 psi has a cut-out of 1.5 on it, and no cut-in of 0.5.
    expect(refusals('sub', {}, { mainLow: '1 psi' })).toEqual([]);
    expect(refusals('add', {}, { mainLow: '1 psi' })).toContain('off-main-scale');
  });

  it('lets process steam have what its plate says', () => {
    expect(refusals('sub', { cutOut: '8 psi', cutIn: '5 psi' }, { cap: '9 psi', limit: '12 psi' })).toEqual(
      [],
    );
  });
});

describe('steam at cut-out', () => {
  it.each([
    [0, 100.0],
    [0.5, 100.9],
    [1.5, 102.7],
    [2, 103.6],
    [15, 121.0],
  ])('%s psi at the sea is %s °C', (p, t) => {
    const at = expectOk(waterSaturationTemperature(toCanonical(p, 'psi') + 101325)) - 273.15;
    expect(Math.abs(at - t)).toBeLessThan(0.06);
  });

  it('is cooler on a hill', () => {
    const figure = (m: number): number =>
      family.figures(planOf('sub'), expectOk(ambientAt(m))).find((f) => f.id === 'steam')?.value ?? NaN;
    // Half a kelvin for every 150 m, about [the barometric formula].
    expect(figure(0) - figure(1500)).toBeGreaterThan(4);
    expect(figure(0) - figure(1500)).toBeLessThan(6);
  });
});

describe('a steam control, on its rig', () => {
  it('that is marked otherwise than planned is turned by its own screws', () => {
    const job = onKit('steam control, subtractive', 'other-kind', 2);
    const screws = new Set(job.view.state.turns.map((t) => t.body.adjuster));
    expect(job.outcome).toBe('set');
    // Planned as subtractive; what it is has a wheel and a main screw for cut-in.
    expect([...screws].every((s) => s === 'wheel' || s === 'mainLow')).toBe(true);
    expect(family.findings(job.view).find((f) => f.code === 'misread')?.message).toMatch(/added/);
  });

  it('has its siphon answered before anything is read, and filled when it goes back', () => {
    const job = onKit('steam control, subtractive', 'siphon-blocked', 5);
    const walked = keysOf(job);
    expect(walked.indexOf('siphon')).toBeLessThan(walked.indexOf('found-trip'));
    expect(walked.indexOf('back')).toBeLessThan(walked.indexOf('live'));
    expect(job.outcome).toBe('left-as-found');
  });

  it('is proved by three pairs since the driver’s last touch', () => {
    const job = onKit('steam control, subtractive', 'set-high', 2);
    expect(job.outcome).toBe('set');
    const walked = keysOf(job);
    const last = walked.lastIndexOf('tap');
    expect(walked.slice(last).filter((k) => k === 'set-trip').length).toBeGreaterThanOrEqual(3);
    expect(walked.slice(last).some((k) => k.startsWith('turn-'))).toBe(false);
  });

  it('above its gauge comes down by its scale before it is called anything', () => {
    const job = onKit('steam control, subtractive', 'set-high', 1);
    const walked = keysOf(job);
    expect(walked.indexOf('main-down')).toBeGreaterThan(walked.indexOf('main-pointer'));
    expect(job.outcome).toBe('set');
  });

  it('on a matched load is no fault, and its circuit is proved instead', () => {
    const job = onKit('steam control, subtractive', 'matched-load', 4);
    expect(job.outcome).toBe('left-as-found');
    expect(keysOf(job)).toContain('lead');
    // Its circuit was proved with the burner off; the customer is not left without heat.
    expect(job.view.fact('power')).toBe('on');
    expect(family.findings(job.view).map((f) => f.code)).toEqual(['not-seen']);
  });

  it('wired past stays locked off, whatever its own points are', () => {
    const job = onKit('steam control, subtractive', 'by-passed', 4);
    expect(job.outcome).toBe('unfinished');
    expect(keysOf(job).at(-1)).toBe('end-locked');
    expect(job.view.fact('power')).toBe('off');
  });

  it('that lights without its control is not given power again', () => {
    for (const name of ['steam limit', 'steam control, subtractive', 'steam control, on its boiler']) {
      const job = onKit(name, 'by-passed', 6);
      const seen = job.log.events.findIndex(
        ({ body }) => body.kind === 'observe' && ['lights', 'fires-on'].includes(body.answer),
      );
      expect(seen).toBeGreaterThan(0);
      const on = job.log.events
        .slice(seen + 1)
        .filter(({ body }) => 'sets' in body && body.sets?.['power'] === 'on');
      expect(on).toEqual([]);
      expect(job.view.fact('power')).toBe('off');
    }
  });

  it('set high and of another kind at once comes down by its own main screw', () => {
    for (const seed of [1, 2, 3, 4]) {
      const job = onKit('steam control, subtractive', 'set-high other-kind', seed);
      const screws = new Set(job.view.state.turns.map((t) => t.body.adjuster));
      expect([...screws].filter((s) => s !== 'mainLow' && s !== 'wheel')).toEqual([]);
      expect(screws.size).toBeGreaterThan(0);
      for (const [setting, truth = NaN] of Object.entries(kit.truths(job))) {
        const { lower = -Infinity, upper = Infinity } = job.view.limits(setting, 'left');
        if (truth < lower || truth > upper) expect(job.view.verdict(setting, 'left')?.word).not.toBe('in');
      }
    }
  });

  it('on its boiler is read at the click and not where the pressure turns', () => {
    for (const seed of [1, 2, 3]) {
      const job = onKit('steam control, on its boiler', 'none', seed);
      const truth = job.truth;
      const read = job.view.figure('cutIn', 'found');
      // The pressure falls on by more than a quarter of a pound while the burner lights.
      expect(Math.abs((read?.value ?? NaN) - (truth['cutIn'] ?? NaN)) / psi(1)).toBeLessThan(0.15);
    }
  });

  it('says how much too large the burner is, from rise and fall between the same two pressures', () => {
    const job = onKit('steam control, subtractive', 'oversized', 3);
    const times = firedOver(job.view) ?? NaN;
    const [rise, fall] = ['rise', 'fall'].map(
      (key) => job.view.state.observations.find((o) => o.body.at.key === key)?.body.value?.value ?? NaN,
    );
    expect(times).toBeCloseTo(1 + (fall ?? NaN) / (rise ?? NaN), 9);
    expect(times).toBeGreaterThan(1.5);
  });

  it('is never turned live, wet or with steam up: every turn stands on a proved-dead fact', () => {
    for (const name of ['steam control, subtractive', 'steam control, on its boiler'])
      for (const seed of [1, 2, 3]) expect(onKit(name, 'set-high', seed).unsafe).toEqual([]);
  });
});
