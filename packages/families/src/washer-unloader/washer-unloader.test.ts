import { describe, expect, it } from '@jest/globals';
import { HandLog, psi, TestBench } from '../testing.js';
import type { Gauge } from '@firm-needle/core/gauge';
import { FoldedJob, offer, type Plan } from '@firm-needle/core/procedure';
import { toCanonical } from '@firm-needle/core/quantity';
import type { ScriptedJob } from '@firm-needle/core/script';
import { family } from './index.js';
import { fullFlowPressure, nozzleFor } from './plan.js';
import { lossOf, lossOver } from './parts.js';
import { knee, spent } from './state.js';

const gpm = (n: number): number => toCanonical(n, 'gpm');
const GAUGE: Gauge = {
  id: 'g',
  label: 'T-5',
  kind: 'bourdon',
  unit: 'psi',
  lower: 0,
  upper: 5000,
  division: 50,
  readable: 0.25,
  accuracy: { standard: 'B40.100', grade: '1A' },
  medium: 'water',
};
const bench = new TestBench(family, {
  variant: 'at-head',
  plate: { rating: '3100 psi', flow: '3.9 gpm', nozzle: '4.4 gpm', weakest: '4300 psi', hose: '40 ft' },
  given: { head: '2600 psi' },
  gauges: { test: GAUGE },
});
const planOf = (variant = 'at-head', head = '2600 psi', plate: Readonly<Record<string, string>> = {}): Plan =>
  bench.plan({ variant, plate, given: { head } });
const scripted = (plan: Plan, fault: string, seed: number): ScriptedJob => bench.scripted(fault, seed, plan);
const refusals = (plan: Plan): readonly string[] => bench.refusals(plan);

describe('washer unloader, on its rig', () => {
  it('backs off past the knee, and never lets what is trapped reach the weakest part', () => {
    const job = scripted(planOf(), 'worn-nozzle', 8);
    expect(job.view.state.turns.at(-1)?.body).toMatchObject({ adjuster: 'handle', amount: -0.25 });
    expect(job.truth['trapped'] ?? Infinity).toBeLessThan(psi(4300));
  });

  it('says what the worn nozzle passes now', () => {
    const job = scripted(planOf(), 'worn-nozzle', 8);
    expect(family.findings(job.view).find((f) => f.code === 'full-travel-low')?.message).toMatch(
      /passes what a number \d\.\d passes, not 4\.4/,
    );
  });

  it('counts the hose into the working pressure and not into what is trapped', () => {
    const job = scripted(planOf('at-gun'), 'set-low', 8);
    const figure = (id: string): number => job.view.figure(id, 'left')?.value ?? NaN;
    expect((figure('head') - figure('working')) / psi(1)).toBeCloseTo(40, 6);
    expect(figure('spike')).toBeCloseTo(figure('trapped') - figure('head'), 6);
    // A gauge at the gun alone would overstate the spike by what the hose takes.
    expect((figure('trapped') - figure('working') - figure('spike')) / psi(1)).toBeCloseTo(40, 6);
  });
});

describe('the sums', () => {
  it('knows a nozzle by its number: 4 gpm at 4000 psi is a number 4 [published nozzle charts, from memory]', () => {
    expect(fullFlowPressure(gpm(4), gpm(4)) / psi(1)).toBeCloseTo(4000, 6);
    expect(nozzleFor(gpm(4), psi(4000)) / gpm(1)).toBeCloseTo(4, 9);
    // Chart points, to their rounding: number 3.0 at 3000 psi passes 2.6 gpm, number 5.0 at 2000 psi 3.5 gpm.
    expect(nozzleFor(gpm(2.6), psi(3000)) / gpm(1)).toBeCloseTo(3, 1);
    expect(nozzleFor(gpm(3.54), psi(2000)) / gpm(1)).toBeCloseTo(5, 1);
  });

  it('takes a pound a foot of hose and 75 for a coil, with water moving [common practice, no source]', () => {
    expect(lossOf(planOf('at-head'))).toBe(0);
    expect(lossOf(planOf('at-gun')) / psi(1)).toBeCloseTo(40, 6);
    expect(lossOf(planOf('at-gun-coil')) / psi(1)).toBeCloseTo(115, 6);
  });

  it('takes by its bore what a hose of known bore loses, and says how far off the rule may be without it', () => {
    const over = (plate: Readonly<Record<string, string>>) =>
      lossOver(planOf('at-gun', '2600 psi', { flow: '4 gpm', hose: '50 ft', ...plate }));
    // python3-fluids: one_phase_dP(m=0.2519, rho=998.2, mu=1.002e-3, D=0.00635, L=15.24) is 229.6 psi.
    const narrow = over({ hoseBore: '0.25 in' });
    expect(narrow.value / psi(1)).toBeCloseTo(229.6, 0);
    expect(narrow.half).toBeLessThan(narrow.value / 4);
    const unknown = over({});
    expect(unknown.value / psi(1)).toBeCloseTo(50, 6);
    expect(unknown.value + unknown.half).toBeGreaterThanOrEqual(narrow.value * 0.999);
  });

  it('is never in by a rule of thumb that may be off by more than the band', () => {
    for (const [seed, plate] of [1, 2, 3, 4].flatMap((n) => [
      [n, {}] as const,
      [n, { hoseBore: '0.375 in' }] as const,
    ])) {
      const job = scripted(planOf('at-gun', '2600 psi', plate), 'set-low', seed);
      const word = job.view.verdict('head', 'left')?.word;
      const off = Math.abs((job.truth['head'] ?? NaN) - psi(2600));
      if ('hoseBore' in plate) expect(off).toBeLessThan(psi(75));
      else expect(word).not.toBe('in');
    }
  });
});

describe('bypass', () => {
  it('lasts from the trigger’s release to its pull, while the engine runs', () => {
    const [limit] = family.timeLimits ?? [];
    if (!limit) throw new Error('no limit');
    const h = new HandLog();
    h.add(bench.started(planOf()));
    const lasting = () => new FoldedJob(family, h.log.state).lasting(limit);
    const done = (key: string, sets: Record<string, string>) =>
      h.add({ kind: 'done', at: { key, pass: '1' }, sets, t_s: h.minute * 10 });
    done('start', { engine: 'on', trigger: 'pulled' });
    expect(lasting()).toBeUndefined();
    const released = done('let-go', { trigger: 'released' });
    expect(lasting()).toEqual({ wall: released.wall, t_s: 20 });
    // Said again it has not begun again.
    done('let-go-again', { trigger: 'released' });
    expect(lasting()?.t_s).toBe(20);
    done('pull', { trigger: 'pulled' });
    expect(lasting()).toBeUndefined();
    done('let-go-later', { trigger: 'released' });
    done('stop', { engine: 'off' });
    expect(lasting()).toBeUndefined();
  });
});

describe('a plan that cannot be', () => {
  it.each([
    ['above the pump’s rating', planOf('at-head', '3200 psi'), 'above-rating'],
    [
      'trapped above the weakest part',
      planOf('at-head', '2600 psi', { weakest: '2800 psi' }),
      'spike-above-weakest',
    ],
    [
      'more than the nozzle lets it make',
      planOf('at-head', '2600 psi', { nozzle: '5.5 gpm' }),
      'nozzle-too-big',
    ],
    ['beyond the spring', planOf('at-head', '2600 psi', { springMost: '2200 psi' }), 'spring-too-weak'],
  ])('%s is refused', (_, plan, code) => {
    expect(refusals(plan)).toContain(code);
  });

  it('wants a gauge of 1.2 times the rating', () => {
    expect(family.worst(planOf(), 'test') / psi(1)).toBeCloseTo(3720, 6);
    const startWith = (upper: number) => () =>
      bench.started(planOf(), { gauges: { test: { ...GAUGE, upper } } });
    expect(startWith(3600)).toThrow('T-5 ends at 3600 psi; this can reach 3720');
    expect(startWith(4000)).not.toThrow();
  });

  it('leaves a sound plan alone', () => {
    expect(family.check(planOf(), 101325)).toEqual([]);
  });
});

describe('what readings and turns say', () => {
  const hand = (): HandLog => {
    const h = new HandLog();
    h.add(bench.started(planOf()));
    return h;
  };
  const view = (h: HandLog): FoldedJob => new FoldedJob(family, h.log.state);
  const read = (h: HandLog, setting: string, value: number): void =>
    void h.add({
      kind: 'read',
      setting,
      slot: 'test',
      value: { text: String(value), unit: 'psi', value: psi(value) },
      state: 'typed',
      at: { key: `k-${setting}`, pass: `1.${h.log.events.length}`, phase: 'adjust' },
    });
  const turn = (h: HandLog, amount: number): void =>
    void h.add({
      kind: 'turn',
      adjuster: 'handle',
      amount,
      text: '',
      at: { key: 'turn-handle', pass: `1.${h.log.events.length}` },
    });

  it('is at the knee where only what is trapped grew, on the first turn or on a later one', () => {
    const h = hand();
    read(h, 'working', 2200);
    read(h, 'trapped', 2540);
    turn(h, 0.5);
    read(h, 'working', 2210);
    read(h, 'trapped', 2820);
    expect(knee(view(h))).toBe(true);
    expect(spent(view(h))).toBe(false);
    const later = hand();
    for (const [w, t] of [
      [1800, 2140],
      [2080, 2420],
      [2100, 2690],
    ] as const) {
      if (w > 1800) turn(later, 0.5);
      read(later, 'working', w);
      read(later, 'trapped', t);
    }
    expect(knee(view(later))).toBe(true);
  });

  it('is not at the knee where both rise', () => {
    const h = hand();
    read(h, 'working', 2200);
    read(h, 'trapped', 2540);
    turn(h, 0.5);
    read(h, 'working', 2470);
    read(h, 'trapped', 2820);
    expect(knee(view(h))).toBe(false);
  });

  it('asks for the cautions first, and turns only with the trigger released', () => {
    const now = offer(family.procedure(planOf()), view(hand())).now;
    expect(now?.step.cautions).toEqual(family.cautions.map((c) => c.key));
    expect(JSON.stringify(family.procedure(planOf()))).toContain('"trigger":"released"');
  });
});
