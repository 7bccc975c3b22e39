// What the hose takes is held against python3-fluids in `reference/`; receivers against the textbook's equation.
import { describe, expect, it } from '@jest/globals';
import { FoldedJob, JobLog } from '@firm-needle/core/procedure';
import { givablesOf } from '@firm-needle/core/family';
import { toCanonical } from '@firm-needle/core/quantity';
import { airHoseLoss, freeAir } from '@firm-needle/core/reckon';
import { expectOk } from '@firm-needle/core/result';
import type { ScriptedJob } from '@firm-needle/core/script';
import { atStep, keysOf, leftAfter, psi } from '../testing.js';
import { family } from './index.js';
import { onKit, planOf, REGULATOR, type Over } from './testing.js';
import { ceiling, least } from './losses.js';

const codes = (over: Over, severity: 'refuse' | 'warn'): readonly string[] =>
  family.check(planOf(over), 101325).flatMap((f) => (f.severity === severity ? [f.code] : []));
const found = (job: ScriptedJob): readonly string[] => family.findings(job.view).map((f) => f.code);

describe('air in a hose and in a receiver', () => {
  // A library’s run from 70 psi, rounded to a tenth; smooth hose [python3-fluids].
  it.each([
    [12, 0.375, 50, 3.8],
    [12, 0.5, 50, 0.9],
  ])('%s cfm through %s in of %s ft loses %s psi', (q, bore, length, loss) => {
    const run = {
      flow: toCanonical(q, 'cfm'),
      bore: toCanonical(bore, 'in'),
      length: toCanonical(length, 'ft'),
    };
    expect(Math.abs(expectOk(airHoseLoss(run, psi(70), 101325)) / psi(1) - loss)).toBeLessThan(0.06);
  });

  it('does not pass what a hose cannot', () => {
    const run = {
      flow: toCanonical(12, 'cfm'),
      bore: toCanonical(0.25, 'in'),
      length: toCanonical(90, 'ft'),
    };
    const lost = airHoseLoss(run, psi(20), 101325);
    expect(lost.ok ? 'ok' : lost.refusal.code).toBe('cannot-pass');
    const nothing = airHoseLoss({ ...run, flow: 0 }, psi(20), 101325);
    expect(nothing.ok ? 'ok' : nothing.refusal.code).toBe('not-positive');
  });

  it('loses more in a longer hose and less in a wider one, and never more than went in', () => {
    const lost = (q: number, bore: number, length: number): number =>
      expectOk(
        airHoseLoss(
          {
            flow: toCanonical(q, 'cfm'),
            bore: toCanonical(bore, 'in'),
            length: toCanonical(length, 'ft'),
          },
          psi(80),
          101325,
        ),
      );
    expect(lost(10, 0.375, 100)).toBeGreaterThan(lost(10, 0.375, 50));
    expect(lost(10, 0.5, 50)).toBeLessThan(lost(10, 0.375, 50));
    expect(lost(12, 0.375, 50)).toBeGreaterThan(lost(8, 0.375, 50));
    expect(lost(14, 0.375, 100)).toBeLessThan(psi(80));
  });

  it('gives 21.8 cfm for 60 gallons from 90 to 130 psi in a minute, and a psi a minute is 0.55', () => {
    const tank = toCanonical(60, 'galUS');
    expect(freeAir(tank, psi(40), 60, 101325) / toCanonical(1, 'cfm')).toBeCloseTo(21.8, 1);
    expect(freeAir(tank, psi(1), 60, 101325) / toCanonical(1, 'cfm')).toBeCloseTo(0.55, 2);
    // At 1 120 m the same pump-up is an eighth more: the air is thinner.
    expect(freeAir(tank, psi(40), 60, 88_600) / freeAir(tank, psi(40), 60, 101325)).toBeCloseTo(1.14, 2);
  });
});

describe('the plan of an air supply', () => {
  it('puts the wall over the gun by its hose and what a regulator needs, until somebody says otherwise', () => {
    const { values, limits } = planOf();
    const loss = family.figures(planOf(), 101325).find((f) => f.id === 'hose')?.value ?? NaN;
    expect((values['wallFlow'] ?? 0) - (values['gunFlow'] ?? 0)).toBeGreaterThan(loss + psi(5));
    expect(limits['wallFlow']?.lower).toBeCloseTo((values['gunFlow'] ?? 0) + loss + psi(5), -2);
    expect(limits['wallFlow']?.upper).toBeCloseTo((values['cutIn'] ?? 0) - psi(10), 0);
    expect((planOf({ given: { wallFlow: '72 psi' } }).values['wallFlow'] ?? 0) / psi(1)).toBeCloseTo(72, 6);
  });

  it.each([
    ['wall-over-cut-in', { given: { wallFlow: '100 psi' } }],
    ['wall-over-window', { given: { wallFlow: '85 psi' } }],
    ['wall-under-window', { given: { wallFlow: '42 psi' } }],
    ['over-rating', { given: { wallFlow: '79 psi' }, plate: { rating: '70 psi' } }],
    ['near-relief', { given: { cutOut: '150 psi' } }],
    ['cut-out-not-above-cut-in', { given: { cutIn: '130 psi' } }],
  ] as const)('refuses %s', (code, over) => {
    expect(codes(over, 'refuse')).toContain(code);
    expect(codes({}, 'refuse')).toEqual([]);
  });

  it.each([
    ['window-empty', { plate: { need: '78 psi', rating: '160 psi' } }],
    ['hose-cannot-pass', { plate: { bore: '0.12 in', hose: '200 ft' } }],
    ['stands-near-rating', { variant: 'valve', plate: { rating: '70 psi' } }],
  ] as const)('warns of %s', (code, over) => {
    expect(codes(over, 'warn')).toContain(code);
    expect(codes({}, 'warn')).not.toContain(code);
  });

  it('judges its switch only where that is to be set', () => {
    const limits = (choice: string) =>
      family.limits(planOf().values, planOf().plate, {
        variant: 'regulator',
        school: 'trim',
        choices: { switch: choice },
      });
    expect(Object.keys(limits('find'))).not.toContain('cutIn');
    expect(Object.keys(limits('set'))).toContain('cutIn');
  });

  it('never lets a knob go over the weakest part, nor a nut near the relief', () => {
    expect(family.never(planOf(), 'wallLock') / psi(1)).toBeCloseTo(140, 6);
    expect(family.never(planOf(), 'cutOut') / psi(1)).toBeCloseTo(0.9 * 165, 6);
    expect(givablesOf(family, planOf()).map((s) => s.id)).toEqual(['cutIn', 'cutOut', 'gunFlow', 'wallFlow']);
  });
});

describe('an air supply, on its rig', () => {
  it('is read flowing: gun and wall with the trigger held, and the wall’s lock-up apart', () => {
    const walked = keysOf(onKit(REGULATOR, 'none', 1));
    const order = [
      'found-cut-in',
      'found-cut-out',
      'rest',
      'found-gun',
      'found-wall',
      'found-sustained',
      'found-lock-up',
    ];
    expect(walked.filter((k) => order.includes(k))).toEqual(order);
  });

  it('has its wall lowered under what the tank holds, and the gun read again after it', () => {
    for (const seed of [1, 2, 3]) {
      const job = onKit(REGULATOR, 'wall-high', seed);
      expect(job.outcome).toBe('set');
      expect(found(job)).toContain('wall-high');
      const [wall, top] = [job.view.figure('wallFlow', 'left')?.value ?? NaN, ceiling(job.view) ?? NaN];
      expect(wall).toBeLessThan(top + psi(6));
      const walked = keysOf(job);
      expect(walked.lastIndexOf('left-gun')).toBeGreaterThan(walked.lastIndexOf('relock'));
    }
  });

  it('set too low has its wall brought up to what gun and hose need', () => {
    const job = onKit(REGULATOR, 'wall-low', 2);
    expect(job.outcome).toBe('set');
    expect(job.view.figure('wallFlow', 'left')?.value).toBeGreaterThan(least(job.view) - psi(4));
  });

  it('is told by its times that its pump is worn, and no knob is turned for it', () => {
    for (const seed of [1, 3]) {
      const job = onKit(REGULATOR, 'pump-worn', seed);
      expect(found(job)).toContain('weak');
      expect(job.outcome).toBe('left-as-found');
      expect(job.view.state.turns).toEqual([]);
    }
  });

  it('that climbs with nothing drawn is replaced, and one that only cools does not leak', () => {
    expect(onKit(REGULATOR, 'creep', 2).outcome).toBe('replace');
    for (const seed of [1, 2, 3, 4]) expect(found(onKit(REGULATOR, 'none', seed))).not.toContain('leak');
    expect(found(onKit(REGULATOR, 'leak', 2))).toContain('leak');
  });

  it('that stops too near its relief is lowered dead, under its cover, and its first rise watched', () => {
    const job = onKit(REGULATOR, 'relief-near', 1);
    const walked = keysOf(job);
    expect(walked.indexOf('lock')).toBeLessThan(walked.indexOf('dead'));
    expect(walked.indexOf('dead')).toBeLessThan(walked.indexOf('range-down'));
    expect(walked.indexOf('set-cut-out')).toBeGreaterThan(walked.indexOf('cover'));
    expect(job.outcome).toBe('set');
    expect(job.unsafe).toEqual([]);
  });

  it('that its own coarse gauge puts just below its limits is not raised toward the relief: a finer gauge is asked for', () => {
    const job = onKit('air supply, its switch set', 'narrow-hose', 28);
    expect(job.outcome).toBe('unfinished');
    expect(job.unsafe).toEqual([]);
    expect(job.view.state.turns).toEqual([]);
    const { lower = NaN } = job.view.limits('cutOut', 'left');
    expect(job.truth['cutOut']).toBeGreaterThan(lower);
    const unsafe = family.findings(job.view).find((f) => f.code === 'unsafe');
    expect(unsafe?.severity).toBe('warn');
    expect(unsafe?.remedy).toMatch(/finer/);
  });

  it('that does not stop is lowered, tried, and left locked off', () => {
    const job = onKit(REGULATOR, 'no-stop', 1);
    expect(job.outcome).toBe('replace');
    expect(keysOf(job).at(-1)).toBe('end-locked');
    expect(job.view.fact('power')).toBe('off');
  });

  it('with a relief that does not work is not run at all', () => {
    const job = onKit(REGULATOR, 'relief-stuck', 1);
    expect(job.outcome).toBe('unfinished');
    expect(keysOf(job)).not.toContain('found-cut-in');
  });

  it('says what the hose loses more than it should, from both gauges with the gun wide open', () => {
    const heard = [1, 2, 3, 4, 5].flatMap((seed) => found(onKit(REGULATOR, 'narrow-hose wall-low', seed)));
    expect(heard).toContain('loss-big');
  });

  it('new is set, and nothing of it is filed as found', () => {
    const job = onKit('air supply, new', 'none', 2);
    expect(job.outcome).toBe('set');
    expect(job.view.figure('gunFlow', 'found')).toBeUndefined();
  });

  it('is never turned with its trigger released, nor its nuts live', () => {
    for (const fault of ['wall-high', 'wall-low', 'gun-off', 'wall-high leak', 'narrow-hose wall-low'])
      for (const seed of [1, 2]) expect(onKit(REGULATOR, fault, seed).unsafe).toEqual([]);
  });
});

describe('an air supply that is left in the middle', () => {
  const left = (fault: string, seed: number, key: string): readonly string[] =>
    leftAfter(family, onKit(REGULATOR, fault, seed), atStep(key));

  it('has its cover on again, and stays locked off while it was not seen to stop', () => {
    const ahead = left('relief-near', 1, 'range-down');
    expect(ahead).toContain('cover-back');
    expect(ahead.at(-1)).toBe('end-locked');
    expect(left('relief-near', 1, 'cover').at(-1)).toBe('end-locked');
  });

  it('has the gun control back at its mark, and its drain shut', () => {
    expect(left('gun-off', 2, 'wide')).toContain('control-back');
    expect(left('gun-off', 2, 'wide-back')).not.toContain('control-back');
    expect(left('none', 2, 'found-cut-in')).toContain('drain-shut');
  });

  it('is never turned or read with the gun control still wide open', () => {
    for (const seed of [1, 2, 3]) {
      const walked = keysOf(onKit(REGULATOR, 'gun-off', seed));
      expect(walked).toContain('wide');
      expect(walked.indexOf('wide-back')).toBeLessThan(walked.findIndex((k) => k.startsWith('turn-')));
    }
  });
});

describe('the recovery', () => {
  const job = onKit(REGULATOR, 'none', 3);
  const of = (setting: string): number => job.view.figure(setting, 'found')?.value ?? NaN;

  it('takes as long as the receiver’s textbook equation wants from where the trigger held it', () => {
    // The same pump, so times go as the pressures that were filled: between the fill from cut-in and the fill from what was held.
    const filled = (of('cutOut') - of('sustained')) / (of('cutOut') - of('cutIn'));
    expect(of('recovery') / (of('pumpUp') * filled)).toBeGreaterThan(0.9);
    expect(of('recovery') / (of('pumpUp') * filled)).toBeLessThan(1.15);
    expect(family.findings(job.view).map((f) => f.code)).toContain('recovers');
  });

  it('is none of a fill with the trigger never let go, and a fill from cut-in is none of it', () => {
    const fills = job.view.state.reads.filter((r) => r.body.setting === 'cutOut');
    expect(fills.length).toBeGreaterThan(1);
    expect(job.view.figure('recovery', 'found')?.ids).toEqual([fills[1]?.id]);
    expect(job.view.figure('pumpUp', 'found')?.ids).toEqual([fills[0]?.id]);
  });
});

describe('a painter’s pattern', () => {
  const VALVE = 'air supply, valve at the gun';

  it('is tried where it is asked for, once what was found is had and before anything is turned', () => {
    const walked = keysOf(onKit(VALVE, 'gun-off', 3));
    expect(walked.indexOf('pattern')).toBe(walked.lastIndexOf('pattern'));
    expect(walked.indexOf('pattern')).toBeGreaterThan(walked.indexOf('found-lock-up'));
    expect(walked.indexOf('pattern')).toBeLessThan(walked.indexOf('decide'));
    expect(keysOf(onKit('air supply, regulator at the gun', 'gun-off', 3))).not.toContain('pattern');
  });

  it('judges nothing, and says what to plan where it is even elsewhere', () => {
    const said = (psi: number) => {
      const job = onKit(VALVE, 'none', 2);
      const events = job.log.events.map((e) =>
        e.body.kind === 'observe' && e.body.at.key === 'pattern' && e.body.value
          ? { ...e, body: { ...e.body, value: { text: String(psi), unit: 'psi', value: psi * 6894.757293 } } }
          : e,
      );
      const log = new JobLog(job.log.job);
      for (const e of events) log.append(e);
      const view = new FoldedJob(family, log.state);
      return { of: family.findings(view).find((f) => f.code === 'pattern'), lacks: family.unproved(view) };
    };
    expect(said(40).of?.severity).toBe('say');
    expect(said(40).of?.remedy).toBeUndefined();
    expect(said(31).of?.message).toMatch(/even at 3[01]\.\d psi; planned are 40\.0 psi/);
    expect(said(31).of?.remedy).toMatch(/Change the plan/);
    expect(said(31).lacks).toEqual(said(40).lacks);
  });
});
