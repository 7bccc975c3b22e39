import { describe, expect, it } from '@jest/globals';
import { FoldedJob, offer } from '@firm-needle/core/procedure';
import { sayStep } from '@firm-needle/core/family';
import { clumsy, type ScriptedJob } from '@firm-needle/core/script';
import { installed, rigFor, workedOn } from '../define/kit.js';
import { HandLog, atStep, keysOf, kitJobs, leftAfter } from '../testing.js';
import { family } from './index.js';
import { kit } from './kit.js';
import { inches } from './parts.js';

const { siteOf, onKit } = kitJobs(family, kit);
const TRAIN = 'burner gas, train';
const found = (job: ScriptedJob): readonly string[] => family.findings(job.view).map((f) => f.code);
const at = (inH2O: number | undefined): number => (inH2O ?? NaN) / inches(1);

describe('a burner, on its rig', () => {
  it('is walked supply before appliance before switches, each in the one state in which it means something', () => {
    const walked = keysOf(onKit(TRAIN, 'none', 1));
    const order = [
      'sniff',
      'zero-gas',
      'ports',
      'soap',
      'found-static',
      'found-supply',
      'found-manifold',
      'found-lock-up',
      'found-low-gas',
      'found-high-gas',
      'found-air-normal',
      'found-air-trip',
      'found-main-trip',
      'close',
      'relight',
    ];
    expect(walked.filter((k) => order.includes(k))).toEqual(order);
  });

  it('over what the valve bears is not fired: its gas is let down, and the supply lowered first', () => {
    for (const seed of [1, 2, 3, 4]) {
      const job = onKit(TRAIN, 'supply-high', seed, 1.3);
      const walked = keysOf(job);
      const lit = walked.findIndex((k) => k.endsWith('supply') && !/^(book|turn|cap)/.test(k));
      expect(walked.indexOf('supply-down')).toBeGreaterThan(walked.indexOf('let-down'));
      expect(lit).toBeGreaterThan(walked.lastIndexOf('supply-down'));
      expect(job.outcome).toBe('set');
      expect(found(job)).toContain('over-ceiling');
      expect(job.unsafe).toEqual([]);
      expect(at(job.truth['static'])).toBeLessThan(12.2);
    }
  });

  it('lowered at rest shows nothing: what is trapped stays until it is drawn from', () => {
    const rig = rigFor(siteOf(TRAIN), { seed: 2 });
    const run = (seconds: number): void => {
      for (let i = 0; i < seconds * 20; i++) rig.step(0.05);
    };
    rig.set('ports', 1);
    run(20);
    const before = at(rig.gauge('gas'));
    rig.turn('supply', -2);
    run(60);
    expect(at(rig.gauge('gas'))).toBeCloseTo(before, 0);
    rig.set('burner', 1);
    run(20);
    rig.set('burner', 0);
    run(60);
    expect(at(rig.gauge('gas'))).toBeLessThan(before - 1);
  });

  it('has its manifold set as it burns, its cap put on, and all that follows it read again', () => {
    for (const seed of [1, 3, 5]) {
      const job = onKit(TRAIN, 'manifold-off', seed);
      const walked = keysOf(job);
      expect(job.outcome).toBe('set');
      expect(walked.indexOf('left-manifold')).toBeGreaterThan(walked.indexOf('cap-appliance'));
      expect(walked).toContain('left-lock-up');
      expect(walked.indexOf('clock-before')).toBeLessThan(walked.indexOf('turn-appliance'));
      expect(walked).toContain('clock-after');
      expect(found(job)).toContain('input');
      expect(walked.at(-1)).toBe('end');
    }
  });

  it('has a dial moved by what its trip was off, dead and under its cover, and tripped twice after', () => {
    for (const fault of ['low-dial', 'high-dial', 'air-dial', 'main-dial']) {
      const job = onKit(TRAIN, fault, 2);
      const walked = keysOf(job);
      expect({ fault, outcome: job.outcome }).toEqual({ fault, outcome: 'set' });
      const turn = walked.findIndex((k) => k.startsWith('turn-'));
      expect(walked.slice(0, turn)).toEqual(expect.arrayContaining(['book-dials', 'lock', 'dead']));
      expect(walked.indexOf('cover')).toBeGreaterThan(turn);
      // No dial is moved for one trip, and none is left on one.
      const trips = walked.filter((k) => /-(low-gas|high-gas|air-trip|main-trip)$/.test(k));
      expect(trips.length).toBeGreaterThanOrEqual(4 + 1 + 2);
      expect(trips.length).toBeLessThanOrEqual(4 + 1 + 3);
    }
  });

  it('goes by the trip and not by the dial', () => {
    // What a dial claims is off by its own offset; as left it trips where it was planned all the same.
    for (const seed of [1, 2, 3]) {
      const job = onKit(TRAIN, 'low-dial', seed);
      expect(Math.abs(at(job.truth['lowGas']) - 2.7)).toBeLessThan(0.4);
    }
  });

  it('with a switch that never opens is left shut and locked off', () => {
    for (const [fault, code] of [
      ['welded-low', 'welded'],
      ['welded-high', 'welded'],
      ['air-stuck', 'air-stuck'],
    ] as const) {
      const job = onKit(TRAIN, fault, 1);
      expect(job.outcome).toBe('replace');
      expect(found(job)).toContain(code);
      expect(keysOf(job)).not.toContain('relight');
      expect(keysOf(job).at(-1)).toBe('end-shut');
      expect(job.view.fact('gas')).toBe('shut');
    }
  });

  it('that rises on at rest is not fired at all', () => {
    const walked = keysOf(onKit(TRAIN, 'supply-seat', 1));
    expect(walked).not.toContain('found-supply');
    expect(walked.at(-1)).toBe('end-shut');
  });

  it('where gas is about nothing more is done', () => {
    const job = onKit(TRAIN, 'gas-about', 1);
    expect(keysOf(job)).toEqual(['cautions', 'sniff', 'out']);
    expect(job.outcome).toBe('unfinished');
  });

  it('starved by its pipe is not turned up at the appliance', () => {
    for (const seed of [1, 2, 3]) {
      const job = onKit('burner gas, furnace', 'pipe-small', seed);
      expect(found(job)).toContain('droop');
      expect(job.view.state.turns.map((t) => t.body.adjuster)).not.toContain('appliance');
    }
  });

  it('kept from lighting by a dial has the dial found, moved, and is lit then', () => {
    const lit = [1, 2, 3, 4, 5, 6, 7, 8].map((seed) => onKit(TRAIN, 'low-dial', seed, 1.4));
    const barred = lit.filter((job) =>
      job.log.events.some((e) => e.body.kind === 'observe' && e.body.answer === 'no-light'),
    );
    expect(barred.length).toBeGreaterThan(0);
    for (const job of barred) {
      expect(job.outcome).toBe('set');
      expect(found(job)).toContain('lights-again');
      expect(keysOf(job)).toContain('relight');
    }
  });

  it('is not signed as set where it burns badly', () => {
    const job = onKit(TRAIN, 'manifold-off burns-badly', 1);
    expect(job.outcome).toBe('unfinished');
    expect(family.unproved(job.view).map((f) => f.code)).toContain('co-bad');
    expect(keysOf(job).at(-1)).toBe('end-shut');
  });

  it('set by its dials alone is called not proved, and is not signed as set', () => {
    const job = onKit('burner gas, by its dials', 'low-dial', 2);
    expect(found(job)).toContain('not-proved');
    expect(job.outcome).not.toBe('set');
    expect(family.unproved(job.view).map((f) => f.code)).toContain('by-figure');
  });

  it('is never turned with the wrong thing on, whatever is wrong with it', () => {
    for (const fault of [
      'supply-high',
      'manifold-off low-dial',
      'air-dial main-dial',
      'pipe-small manifold-off',
    ])
      for (const seed of [1, 2, 3])
        expect({ fault, unsafe: onKit(TRAIN, fault, seed).unsafe }).toEqual({ fault, unsafe: [] });
  });
});

describe('a burner with its taps elsewhere', () => {
  const ELSEWHERE = 'burner gas, two stages, taps elsewhere';

  it('is read at both fires, and its lock-up is caught before the safeguard acts', () => {
    const job = onKit(ELSEWHERE, 'none', 2);
    expect(job.outcome).toBe('left-as-found');
    expect(keysOf(job)).toContain('found-low-fire');
    const lock = at(job.view.figure('lockUp', 'found')?.value);
    expect(Math.abs(lock - at(job.truth['lockUp']))).toBeLessThan(0.3);
    // Over what it burns at, and not the nothing that stands there once the safety valves have shut.
    expect(lock).toBeGreaterThan(at(job.truth['manifold']));
  });

  it('has its low-gas switch judged against the supply, where it feels that', () => {
    expect(found(onKit(ELSEWHERE, 'none', 1))).not.toContain('low-near');
    const job = onKit(ELSEWHERE, 'pipe-small', 1);
    // The supply sags nearer to where it drops out.
    expect(found(job)).toContain('droop');
  });

  it('has its manifold set and burns again after the safeguard was reset', () => {
    for (const seed of [1, 2]) {
      const job = onKit(ELSEWHERE, 'manifold-off', seed);
      expect(job.outcome).toBe('set');
      expect(job.view.figure('lowFire', 'left')).toBeDefined();
    }
  });
});

describe('a furnace', () => {
  it('has no dials to be set by their figures, whatever school is planned', () => {
    const site = installed(family, kit, {
      name: 'x',
      variant: 'furnace',
      school: 'figure',
      given: { static: '7.2 inH2O', manifold: '3.4 inH2O' },
      plate: { flowLeast: '5 inH2O' },
    });
    const job = workedOn(site, { seed: 1, faults: ['manifold-off'] });
    expect(job.outcome).toBe('set');
    expect(family.unproved(job.view).map((f) => f.code)).not.toContain('by-figure');
  });

  it('whose air switch lets it fire without air is left shut', () => {
    const job = onKit('burner gas, furnace', 'air-stuck', 1);
    expect(job.outcome).toBe('replace');
    expect(keysOf(job).at(-1)).toBe('end-shut');
  });
});

describe('hands that read the wrong gauge, or too soon', () => {
  it('move nothing for one reading, and leave nothing in that is out', () => {
    for (const slip of ['wrong-gauge', 'early', 'misreads'] as const)
      for (const seed of [1, 2, 3])
        for (const fault of ['none', 'low-dial', 'manifold-off']) {
          const site = siteOf(TRAIN);
          const job = workedOn(site, { seed, faults: fault === 'none' ? [] : [fault] }, clumsy([slip], seed));
          if (fault === 'none')
            expect({ slip, seed, turns: job.view.state.turns.length }).toEqual({ slip, seed, turns: 0 });
          for (const [setting, truth = NaN] of Object.entries(kit.truths(job))) {
            const { lower = -Infinity, upper = Infinity } = job.view.limits(setting, 'left');
            const word = job.view.verdict(setting, 'left')?.word;
            if (truth < lower || truth > upper)
              expect({ slip, seed, setting, word }).not.toMatchObject({ word: 'in' });
          }
        }
  });
});

describe('a burner that is left in the middle, or worked out of order', () => {
  const left = (fault: string, key: string): readonly string[] =>
    leftAfter(family, onKit(TRAIN, fault, 1), atStep(key));

  it('has its cover and caps on again, and stays shut while what was moved was not read', () => {
    expect(left('low-dial', 'turn-lowDial')).toEqual(expect.arrayContaining(['cover-back', 'close-shut']));
    expect(left('manifold-off', 'turn-appliance')).toEqual(
      expect.arrayContaining(['caps-back', 'close-shut']),
    );
    expect(left('low-dial', 'cover').at(-1)).toBe('end-shut');
    // Read again, it may burn.
    expect(left('none', 'found-manifold')).toEqual(expect.arrayContaining(['close', 'relight', 'end']));
  });

  it('asks for the cock to be shut before a port is opened', () => {
    const h = new HandLog();
    const { events } = onKit(TRAIN, 'none', 1).log;
    const zeroed = events.findIndex((e) => atStep('zero-air')(e.body));
    for (const e of events.slice(0, zeroed + 1)) h.add(e.body);
    const now = () => {
      const view = new FoldedJob(family, h.log.state);
      return offer(family.procedure(view.plan), view);
    };
    expect(now().now?.step.key).toBe('ports');
    expect(now().missing).toEqual([]);
    // Somebody opened it meanwhile.
    h.add({ kind: 'done', at: { key: 'renew:gas=on', pass: '1' }, sets: { gas: 'on' } });
    expect(now().missing.map((m) => m.fact)).toEqual(['gas']);
  });

  it('is neither fired nor turned for one reading over what the valve bears, nor for one that says otherwise', () => {
    const h = new HandLog();
    const { events } = onKit(TRAIN, 'supply-high', 1).log;
    const opened = events.findIndex((e) => atStep('soap')(e.body));
    for (const e of events.slice(0, opened + 1)) h.add(e.body);
    const rest = (key: string, pass: string, value: number): string | undefined => {
      h.add({
        kind: 'read',
        setting: 'static',
        slot: 'gas',
        value: { text: String(value), unit: 'inH2O', value: inches(value) },
        state: 'typed',
        at: { key, pass, phase: 'found' },
      });
      const view = new FoldedJob(family, h.log.state);
      return offer(family.procedure(view.plan), view).now?.step.key;
    };
    expect(rest('found-static', '1', 15.1)).toBe('second-static');
    // Read on the wrong gauge: it is not fired for that.
    expect(rest('second-static', '1.1', 0.6)).toBe('second-static');
    expect(rest('second-static', '1.2', 15.1)).toBe('second-static');
    expect(rest('second-static', '1.3', 15)).toBe('decide');
  });

  it('that proves air where there is too little is left shut, whoever left it', () => {
    const proves = left('air-dial', 'found-main-trip');
    expect(proves).toContain('close-shut');
    expect(proves).not.toContain('relight');
  });

  it('says at every reading in which state it is read', () => {
    const plan = siteOf(TRAIN).plan;
    const job = onKit(TRAIN, 'none', 1);
    const say = new Map<string, string>();
    for (const item of offer(family.procedure(plan), job.view).walk)
      say.set(item.step.key, sayStep(family, job.view, item.step).say);
    expect(say.get('found-static')).toMatch(/Nothing burning/);
    expect(say.get('found-manifold')).toMatch(/Same fire/);
    expect(say.get('found-low-gas')).toMatch(/Cock open, then shut/);
    expect(say.get('found-air-normal')).toMatch(/fan alone/);
  });
});
