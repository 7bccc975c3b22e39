import { describe, expect, it } from '@jest/globals';
import { AIR, HandLog, psi, TestBench, WATER } from '../testing.js';
import { FoldedJob, offer } from '@firm-needle/core/procedure';
import { family } from './index.js';

const bench = new TestBench(family, {
  variant: 'first',
  plate: { tankVolume: '9 L', relief: '88 psi', drop: '6 psi', least: '25 psi', most: '85 psi' },
  given: { setPoint: '64 psi' },
  gauges: { system: WATER, air: AIR },
  permits: ['mains'],
});

describe('drive, on its rig', () => {
  it('hunts on a waterlogged tank and no more once it is charged', () => {
    const { view } = bench.scripted('low-precharge', 3);
    const hunted = view.state.observations.findLast((o) => o.body.answer === 'hunts')?.order ?? 0;
    expect(hunted).toBeGreaterThan(0);
    const air = view.state.turns.findLast((t) => t.body.adjuster === 'air')?.order ?? 0;
    expect(air).toBeGreaterThan(hunted);
    expect(view.proved('fullDraw')).toBe(true);
  });

  it('locks off and tries it each time before the tank is touched, and never opens the drive', () => {
    const { view } = bench.scripted('low-precharge', 3);
    const steps = JSON.stringify(family.procedure(view.plan));
    expect(steps).not.toMatch(/cover off/i);
    const locks = [...view.state.taken.keys()].filter((key) => key.endsWith('-drain'));
    expect(locks.length).toBeGreaterThan(0);
    for (const key of locks) expect(steps).toContain(`"key":"${key}","title":"Locked off, drained to zero"`);
  });

  it('catches where it wakes anew after its set point was changed', () => {
    const { view } = bench.scripted('set-low', 3);
    const keys = view.state.turns.find((t) => t.body.adjuster === 'keys')?.order ?? Infinity;
    expect(view.readings('wake').some((r) => r.kept.order > keys)).toBe(true);
    expect(view.verdict('wake', 'left')?.word).toBe('in');
  });

  it('never makes up with the set point for a sensor that is off', () => {
    expect(bench.scripted('sensor-offset', 3).view.state.turns).toEqual([]);
  });
});

describe('its plan', () => {
  it('charges at 70 % of the set point: 68 psi is 47.6 [common practice, no source]', () => {
    const plan = bench.plan({ given: { setPoint: '68 psi' } });
    expect((plan.values['precharge'] ?? 0) / psi(1)).toBeCloseTo(47.6, 6);
    expect((plan.values['wake'] ?? 0) / psi(1)).toBeCloseTo(62, 6);
    expect(family.check(plan, 101325)).toEqual([]);
  });

  it.each([
    ['less than ten under the relief', { given: { setPoint: '79 psi' } }, 'relief-margin'],
    ['near the weakest part', { plate: { weakest: '70 psi' } }, 'weakest-part'],
    [
      'above what the drive can',
      { given: { setPoint: '64 psi' }, plate: { most: '60 psi' } },
      'drive-limits',
    ],
    ['below what the drive can', { given: { setPoint: '22 psi' } }, 'drive-limits'],
    ['charged above where it wakes', { given: { precharge: '60 psi' } }, 'precharge-above-wake'],
    ['charged above the tank’s limit', { plate: { airMax: '40 psi' } }, 'air-limit'],
  ])('%s is refused', (_, over, code) => {
    expect(bench.refusals(bench.plan(over))).toContain(code);
  });

  it('names the pressure switch’s rule where somebody plans by it', () => {
    const plan = bench.plan({ given: { precharge: '56 psi' } });
    expect(bench.findings(plan, 'warn')).toEqual(['precharge-off-rule']);
    expect(family.check(plan, 101325)[0]?.remedy).toContain('for a pressure switch');
  });

  it('works out what the tank gives while the drive sleeps, by Boyle', () => {
    const figure = family.figures(bench.plan(), 101325).find((f) => f.id === 'asleep');
    const [p0, p1, p2] = [44.8, 58, 64].map((p) => psi(p) + 101325) as [number, number, number];
    expect(figure?.value).toBeCloseTo(0.009 * p0 * (1 / p1 - 1 / p2), 9);
  });
});

it('asks for the cautions first, and signs nothing as set that was not read', () => {
  const h = new HandLog();
  h.add(bench.started());
  const view = new FoldedJob(family, h.log.state);
  expect(offer(family.procedure(bench.plan()), view).now?.step.cautions).toEqual(
    family.cautions.map((c) => c.key),
  );
  expect(family.unproved(view).map((f) => f.code)).toEqual(['not-held', 'not-full', 'precharge-out']);
});
