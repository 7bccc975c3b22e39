// Check values of the trade are marked so; saturation is held against an open property library in `reference/`.
import { describe, expect, it } from '@jest/globals';
import { typeSetting } from '@firm-needle/core/family';
import type { Plan } from '@firm-needle/core/procedure';
import { ambientAt, toCanonical } from '@firm-needle/core/quantity';
import { expectOk } from '@firm-needle/core/result';
import { sayStep } from '@firm-needle/core/family';
import { FoldedJob, offer } from '@firm-needle/core/procedure';
import { installed } from '../define/kit.js';
import { HandLog, TestBench, keysOf, kitJobs } from '../testing.js';
import { family } from './index.js';
import { kit } from './kit.js';
import { bar } from './bounds.js';
import { beside, saturated } from './plan.js';

const bench = new TestBench(family, {
  variant: 'dual',
  plate: kit.plate ?? {},
  given: {},
  gauges: kit.gauges,
});
interface Over {
  readonly variant?: string;
  readonly school?: string;
  readonly given?: Readonly<Record<string, string>>;
  readonly plate?: Readonly<Record<string, string>>;
  readonly choices?: Readonly<Record<string, string>>;
}
const planOf = ({ school, choices, ...over }: Over = {}): Plan => {
  const plan = bench.plan(over);
  return { ...plan, ...(school ? { school } : {}), choices: { ...plan.choices, ...choices } };
};
const SEA = 101325;
const codes = (over: Over, severity: 'refuse' | 'warn', ambient = SEA): readonly string[] =>
  family.check(planOf(over), ambient).flatMap((f) => (f.severity === severity ? [f.code] : []));
const { onKit } = kitJobs(family, kit);
const DUAL = 'refrigeration switch, dual';
const inBar = (pa: number | undefined): number => (pa ?? NaN) / bar(1);

describe('the plan of a refrigeration switch', () => {
  it('keeps start, stop and differential to their sum, whichever is given', () => {
    const ways: readonly Record<string, string>[] = [
      { lpStart: '2.25 bar', lpStop: '0.99 bar' },
      { lpStart: '2.25 bar', lpDiff: '1.26 bar' },
      { lpStop: '0.99 bar', lpDiff: '1.26 bar' },
    ];
    for (const given of ways) {
      // The example of the trade: R-134a from +3 to −10 °C [common practice; saturation by an open property library].
      const { values } = bench.plan({ given });
      expect(inBar(values['lpStart'])).toBeCloseTo(2.25, 6);
      expect(inBar(values['lpStop'])).toBeCloseTo(0.99, 6);
      expect(inBar(values['lpDiff'])).toBeCloseTo(1.26, 6);
    }
  });

  it('frees its high side at the stop less the fixed differential: 58 psi where the plate says nothing', () => {
    // Common practice, no source.
    const { values } = planOf();
    expect(((values['hpStop'] ?? 0) - (values['hpReset'] ?? 0)) / toCanonical(1, 'psi')).toBeCloseTo(58, 0);
    const three = planOf({ plate: { hpDiff: '3 bar' } }).values;
    expect(inBar((three['hpStop'] ?? 0) - (three['hpReset'] ?? 0))).toBeCloseTo(3, 6);
  });

  it('asks for the sides that it has', () => {
    const slots = (variant: string) =>
      family.slots.filter((s) => s.when?.(planOf({ variant })) ?? true).map((s) => s.id);
    expect(slots('dual')).toEqual(['low', 'high']);
    expect(slots('lp')).toEqual(['low']);
    expect(slots('hp-auto')).toEqual(['high']);
    const asked = (variant: string) =>
      family.choices?.filter((c) => c.when?.(planOf({ variant })) ?? true).map((c) => c.id);
    expect(asked('hp-manual')).toEqual(['refrigerant']);
  });

  it.each([
    ['below-nothing', { given: { lpStop: '-1.02 bar' } }],
    ['under-floor', { given: { lpStop: '0.05 bar' } }],
    ['start-not-above-stop', { given: { lpStart: '1 bar', lpStop: '1 bar' } }],
    ['never-starts', { given: { lpStart: '2.6 bar', lpStop: '1 bar' } }],
    ['off-low-scale', { given: { lpStart: '2 bar' }, plate: { lpHigh: '1.8 bar' } }],
    ['off-diff-scale', { given: { lpDiff: '0.4 bar', lpStart: '2 bar' } }],
    ['over-allowable', { given: { hpStop: '25.5 bar' } }],
    ['near-relief', { given: { hpStop: '23.5 bar' } }],
    ['too-near-to-raise', { given: { hpStop: '23 bar' } }],
    ['under-fan', { given: { hpStop: '12 bar' } }],
    ['off-high-scale', { given: { hpStop: '14 bar' }, plate: { hpLow: '15 bar' } }],
  ] as const)('refuses %s', (code, over) => {
    expect(codes(over, 'refuse')).toContain(code);
    // A room at 5 °C leaves R-134a at 2.5 bar; without the mistake nothing is refused.
    expect(codes({ given: { lpStart: '2 bar', lpStop: '0.8 bar', hpStop: '16 bar' } }, 'refuse')).toEqual([]);
  });

  it('lets nitrogen go where the system is not raised', () => {
    expect(codes({ school: 'nitrogen', given: { hpStop: '23 bar' } }, 'refuse')).toEqual([]);
  });

  it('counts the altitude: what never stops in a valley stops on a hill at no lower gauge pressure', () => {
    const high = expectOk(ambientAt(1120));
    // There is no pressure at all 0.13 bar earlier up there.
    expect(codes({ given: { lpStop: '-0.95 bar' }, plate: { floor: '-0.5 bar' } }, 'refuse', SEA)).toContain(
      'under-floor',
    );
    expect(codes({ given: { lpStop: '-0.95 bar' }, plate: { floor: '-0.5 bar' } }, 'refuse', high)).toContain(
      'below-nothing',
    );
  });

  it.each([
    ['guard-near', { choices: { purpose: 'guard' }, given: { lpStop: '2.2 bar', lpStart: '2.4 bar' } }],
    ['not-warmest-coil', { choices: { purpose: 'temperature' }, plate: { coilWarm: '8 degC' } }],
    ['not-coldest-coil', { choices: { purpose: 'temperature' }, plate: { coilCold: '-20 degC' } }],
    ['cold-day', { choices: { purpose: 'pump-down' }, plate: { coldest: '-5 degC' } }],
    ['hot-day', { plate: { ambient: '45 degC' } }],
    ['refrigerant-unknown', { choices: { refrigerant: 'other' } }],
  ] as const)('warns of %s', (code, over) => {
    expect(codes(over, 'warn')).toContain(code);
    expect(codes({}, 'warn')).not.toContain(code);
  });

  it('says no temperature where the refrigerant is none that it knows', () => {
    expect(beside(planOf({ choices: { refrigerant: 'other' } }), 'lpStop', bar(1), SEA)).toBeUndefined();
  });

  it('refuses a pressure without sense in its own unit', () => {
    expect(typeSetting(family, 'hpStop', '200 bar').ok).toBe(false);
    expect(typeSetting(family, 'lpStop', '1 bara').ok).toBe(false);
  });
});

describe('a pressure beside its temperature', () => {
  // An open property library, bar gauge at the sea; see reference/values/saturation.json.
  it.each([
    ['R134a', -10, 'dew', 0.99],
    ['R134a', 0, 'dew', 1.91],
    ['R134a', 45, 'bubble', 10.6],
    ['R404A', -28, 'dew', 1.18],
    ['R404A', 45, 'bubble', 19.6],
    ['R290', -10, 'dew', 2.44],
    ['R410A', 0, 'dew', 6.97],
  ] as const)('%s at %s °C, %s, is %s bar', (refrigerant, t, side, p) => {
    const plan = planOf({ choices: { refrigerant } });
    expect(Math.abs(inBar(saturated(plan, t + 273.15, side, SEA)) - p)).toBeLessThan(
      side === 'dew' ? 0.006 : 0.06,
    );
    const setting = side === 'dew' ? 'lpStop' : 'hpStop';
    expect(beside(plan, setting, bar(p), SEA)).toMatch(new RegExp(` ${side}$`));
  });

  it('takes the dew line for what is sucked and the bubble line for what condenses: on a blend they lie apart', () => {
    const plan = planOf({ choices: { refrigerant: 'R407C' } });
    const at = (setting: string) =>
      Number.parseFloat(beside(plan, setting, bar(5), SEA)?.replace('−', '-') ?? '');
    expect(at('lpStop') - at('hpStop')).toBeGreaterThan(5);
    const pure = planOf();
    const same = (setting: string) => Number.parseFloat(beside(pure, setting, bar(5), SEA) ?? '');
    expect(same('lpStop')).toBe(same('hpStop'));
  });

  it('shows more on a hill: R-134a at −10 °C, 0.99 bar at the sea, 1.12 at 1 120 m', () => {
    const hill = expectOk(ambientAt(1120));
    expect(inBar(saturated(planOf(), 263.15, 'dew', hill))).toBeCloseTo(1.12, 2);
  });
});

describe('a refrigeration switch, on its rig', () => {
  it('is stopped by hand at its floor, and its differential brought in before anything else is made of it', () => {
    const job = onKit(DUAL, 'stop-low', 2);
    const walked = keysOf(job);
    expect(walked.filter((k) => k === 'found-stop')).toHaveLength(2);
    expect(walked.indexOf('blind-diff')).toBeGreaterThan(walked.indexOf('decide'));
    const blind = job.view.state.turns.find((t) => t.body.at.key === 'blind-diff');
    // Clockwise narrows: the stop rises.
    expect(blind?.body.amount).toBeGreaterThan(0);
    expect(job.outcome).toBe('set');
    expect(family.findings(job.view).map((f) => f.code)).toContain('no-lp-stop');
  });

  it('is told to be stopped by hand at its floor as the suction falls', () => {
    const variant = kit.variants[0];
    if (!variant) throw new Error('no variant');
    const h = new HandLog();
    let told: ReturnType<typeof sayStep> | undefined;
    for (const e of onKit(DUAL, 'none', 1).log.events) {
      if (h.log.events.length > 0) {
        const view = new FoldedJob(family, h.log.state);
        const { now } = offer(family.procedure(view.plan), view);
        if (now?.step.key === 'found-stop') told ??= sayStep(family, view, now.step);
      }
      h.add(e.body);
    }
    expect(told).toMatchObject({ falling: true });
    expect(inBar(told?.stopAt)).toBeCloseTo(0.1, 6);
  });

  it('sets range first: it carries both low points, and the stop is read after it', () => {
    for (const seed of [1, 2, 3]) {
      const job = onKit(DUAL, 'low-off', seed);
      const turned = job.view.state.turns.map((t) => t.body.adjuster);
      expect(turned[0]).toBe('range');
      const at = keysOf(job).indexOf('turn-range');
      expect(keysOf(job).slice(at).includes('set-stop')).toBe(true);
      expect(job.outcome).toBe('set');
    }
  });

  it('looks at the tube where both points come late, and turns nothing for it', () => {
    const job = onKit(DUAL, 'tube-blocked', 3);
    expect(keysOf(job)).toContain('tube');
    expect(job.view.state.turns).toEqual([]);
    expect(family.findings(job.view).map((f) => f.code)).toContain('tube-blocked');
  });

  it('is read at the click, whatever a timer makes of it', () => {
    for (const seed of [1, 2, 3]) {
      const job = onKit(DUAL, 'timer', seed);
      const read = job.view.figure('lpStart', 'found')?.value;
      expect(Math.abs(inBar(read) - inBar(job.truth['lpStart']))).toBeLessThan(0.15);
      expect(job.outcome).toBe('left-as-found');
    }
  });

  it('starts by itself where a valve leaks, and that is no fault of its own', () => {
    const job = onKit(DUAL, 'valve-leaks', 2);
    expect(job.outcome).toBe('left-as-found');
    expect(job.view.figure('lpStart', 'found')).toBeDefined();
    expect(family.findings(job.view).find((f) => f.code === 'pumps-back')?.remedy).toMatch(
      /^Not this switch/,
    );
  });

  it('whose high side does not stop it is stopped by hand, and stays locked off', () => {
    const job = onKit(DUAL, 'high-welded', 2);
    expect(job.outcome).toBe('replace');
    expect(keysOf(job).at(-1)).toBe('end-locked');
    expect(job.view.fact('power')).toBe('off');
    const { plate } = job.view.plan;
    const most = Math.min(plate['psHigh']?.value ?? NaN, 0.9 * (plate['relief']?.value ?? NaN));
    const at = job.view.state.observations.find((o) => o.body.answer === 'not-stopped')?.body.value?.value;
    expect(at).toBeLessThanOrEqual(most + bar(0.3));
  });

  it('is never raised again before it has cooled, nor turned while it runs', () => {
    const job = onKit(DUAL, 'high-low', 1);
    const walked = keysOf(job);
    expect(walked.filter((k) => k === 'set-high').length).toBeGreaterThan(0);
    walked.forEach((k, i) => {
      if (k === 'set-high')
        expect(walked.slice(0, i).lastIndexOf('set-cool')).toBeGreaterThan(
          walked.slice(0, i).lastIndexOf('set-high'),
        );
    });
    for (const fault of ['low-off', 'high-low', 'diff-wide', 'start-high low-off', 'high-low diff-wide'])
      for (const seed of [1, 2]) expect(onKit(DUAL, fault, seed).unsafe).toEqual([]);
  });

  it('has its plates on before the last proof', () => {
    for (const name of [DUAL, 'refrigeration switch, by nitrogen', 'refrigeration switch, new'])
      for (const fault of ['low-off', 'high-low']) {
        const job = onKit(name, fault, 3);
        expect({ name, fault, outcome: job.outcome }).toEqual({ name, fault, outcome: 'set' });
        const walked = keysOf(job);
        const last = Math.max(...walked.flatMap((k, i) => (k.includes('turn-') ? [i] : [])));
        const locked = walked.findLastIndex((k) => k.endsWith('relock'));
        if (last >= 0) expect(locked).toBeGreaterThan(last);
        expect(walked.slice(locked).some((k) => k.endsWith('-stop') || k.endsWith('-high'))).toBe(true);
      }
  });

  it('new is set on the bench, and its bench readings are not filed as found', () => {
    const job = onKit('refrigeration switch, new', 'none', 2);
    expect(job.view.figure('lpStop', 'found')).toBeUndefined();
    expect(keysOf(job).indexOf('fit')).toBeLessThan(keysOf(job).indexOf('new-set-stop'));
    expect(job.outcome).toBe('set');
  });

  it('by nitrogen proves points, and its circuit apart', () => {
    const job = onKit('refrigeration switch, by nitrogen', 'by-passed', 2);
    expect(job.outcome).toBe('unfinished');
    expect(job.view.fact('power')).toBe('off');
    expect(keysOf(onKit('refrigeration switch, by nitrogen', 'none', 2))).toContain('circuit');
  });

  it('under another refrigerant is left until it is known, and nothing is turned', () => {
    const variant = kit.variants[0];
    if (!variant) throw new Error('no variant');
    const h = new HandLog();
    h.add(installed(family, kit, variant).started);
    h.add({ kind: 'done', at: { key: 'cautions', pass: '1' }, sets: { cautions: 'read' } });
    h.add({ kind: 'observe', answer: 'other-refrigerant', at: { key: 'type', pass: '1' } });
    const view = new FoldedJob(family, h.log.state);
    const walk = offer(family.procedure(view.plan), view).walk.map((i) => i.step.key);
    expect(walk).not.toContain('gauges');
    expect(family.recommend(view).outcome).toBe('unfinished');
    expect(family.unproved(view).map((f) => f.code)).toContain('not-as-planned');
  });
});

describe('a machine that nothing holds the liquid of', () => {
  it('has its valve opened again at once, and is starved by its suction from there; that is said', () => {
    for (const seed of [1, 2, 3]) {
      const job = onKit(DUAL, 'no-receiver', seed);
      const walked = keysOf(job);
      expect(walked.filter((k) => k.endsWith('-reopen'))).toEqual(['found-reopen']);
      expect(walked[walked.indexOf('found-stop') + 1]).toBe('found-reopen');
      expect(job.outcome).toBe('left-as-found');
      expect(job.unsafe).toEqual([]);
      expect(family.findings(job.view).map((f) => f.code)).toContain('no-receiver');
      // What it was read at is what it is, though another valve starved it.
      expect(inBar(job.view.figure('lpStop', 'found')?.value)).toBeCloseTo(inBar(job.truth['lpStop']), 0);
    }
  });

  it('is asked for by the valve that starves it: planned, or after it climbed', () => {
    const said = (choices: Over['choices'], climbed: boolean): string => {
      const log = new HandLog();
      log.add({ ...installed(family, kit, kit.variants[0] as never).started, plan: planOf({ choices }) });
      if (climbed)
        log.add({
          kind: 'observe',
          answer: 'climbs',
          at: { key: 'found-stop', pass: '1' },
          sets: { liquid: 'open' },
        });
      const job = new FoldedJob(family, log.log.state);
      const fact = family.facts['liquid']?.['shut']?.say;
      return typeof fact === 'function' ? fact(job) : String(fact);
    };
    expect(said({}, false)).toBe('Shut the liquid valve slowly.');
    expect(said({ starved: 'suction' }, false)).toBe('Shut the suction valve slowly.');
    expect(said({}, true)).toBe('Shut the suction valve slowly.');
  });
});

it('stopped by hand at its floor and found open then, it is let come up, and not asked for its stop for ever', () => {
  const job = onKit('low-pressure switch', 'diff-wide', 200);
  const stops = keysOf(job).filter((k) => k === 'found-stop');
  expect(stops.length).toBeLessThan(6);
  expect(job.outcome).toBe('set');
});
