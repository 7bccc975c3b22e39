// Check values of the trade are marked so; the units are held against GNU Units in `reference/`.
import { describe, expect, it } from '@jest/globals';
import { ambientAt, toCanonical } from '@firm-needle/core/quantity';
import { expectOk } from '@firm-needle/core/result';
import { FoldedJob, offer, type JobBody, type Plan } from '@firm-needle/core/procedure';
import { sayStep } from '@firm-needle/core/family';
import type { ScriptedJob } from '@firm-needle/core/script';
import { installed, rigFor, workedOn } from '../define/kit.js';
import { HandLog, TestBench } from '../testing.js';
import { family } from './index.js';
import { kit } from './kit.js';
import { inches } from './parts.js';
import { derated, heightOf, inputOf } from './reckoned.js';

const bench = new TestBench(family, {
  variant: 'train',
  plate: kit.plate ?? {},
  given: {},
  gauges: kit.gauges,
});
interface Over {
  readonly variant?: string;
  readonly given?: Readonly<Record<string, string>>;
  readonly plate?: Readonly<Record<string, string>>;
  readonly choices?: Readonly<Record<string, string>>;
}
const planOf = ({ choices, ...over }: Over = {}): Plan => {
  const plan = bench.plan({ given: kit.given ?? {}, ...over });
  return choices
    ? { ...plan, choices, limits: family.limits(plan.values, plan.plate, { ...plan, choices }) }
    : plan;
};
const codes = (over: Over, severity: 'refuse' | 'warn'): readonly string[] =>
  family.check(planOf(over), 101325).flatMap((f) => (f.severity === severity ? [f.code] : []));
const siteOf = (name: string) => {
  const variant = kit.variants.find((v) => v.name === name);
  if (!variant) throw new Error(name);
  return installed(family, kit, variant);
};
const onKit = (name: string, fault: string, seed: number, size = 1): ScriptedJob =>
  workedOn(siteOf(name), { seed, size, faults: fault === 'none' ? [] : fault.split(' ') });
const TRAIN = 'burner gas, train';
const keys = (job: ScriptedJob): readonly string[] =>
  job.log.events.flatMap(({ body }) => ('at' in body ? [body.at.key] : []));
const found = (job: ScriptedJob): readonly string[] => family.findings(job.view).map((f) => f.code);
const at = (inH2O: number | undefined): number => (inH2O ?? NaN) / inches(1);

describe('what the meter says', () => {
  it('is 92 700 Btu an hour for a cubic foot of 1 030 in forty seconds', () => {
    // The textbook’s 3600 × volume × heating value ÷ seconds.
    const input = inputOf(toCanonical(1, 'ft3'), toCanonical(1030, 'Btu/ft3'), 40);
    expect(input / toCanonical(1, 'Btu/h')).toBeCloseTo((3600 * 1030) / 40, 6);
    expect(input).toBeCloseTo(27_167, -1);
  });

  it('falls by the root of the manifold: three tenths of 3.5 inches are 4.3 %', () => {
    expect(Math.sqrt(3.8 / 3.5) - 1).toBeCloseTo(0.042, 3);
    const burnt = ['none', 'manifold-off'].map((fault) => {
      const rig = rigFor(siteOf('burner gas, furnace'), { seed: 3, faults: fault === 'none' ? [] : [fault] });
      const { manifold = NaN } = rig.truth();
      rig.set('burner', 1);
      for (let i = 0; i < 400; i++) rig.step(0.05);
      rig.set('dial', 1);
      let seconds = 0;
      while (rig.channels['meterTurn'] !== 1 && seconds < 300) {
        rig.step(0.05);
        seconds += 0.05;
      }
      return { manifold, rate: 1 / seconds };
    });
    const [a, b] = burnt;
    expect((a?.rate ?? NaN) / (b?.rate ?? NaN)).toBeCloseTo(
      Math.sqrt((a?.manifold ?? NaN) / (b?.manifold ?? NaN)),
      2,
    );
  });

  it('is less at a height, by four parts in a hundred a thousand feet over two thousand', () => {
    // NFPA 54, from memory.
    expect(derated(600)).toBe(1);
    expect(derated(1219.2)).toBeCloseTo(0.84, 6);
    for (const height of [0, 300, 1120, 2500])
      expect(heightOf(expectOk(ambientAt(height)))).toBeCloseTo(height, 3);
    const figures = family.figures(planOf(), expectOk(ambientAt(1500)));
    expect(figures.map((f) => f.id)).toEqual(['derated']);
    expect(family.figures(planOf(), 101325)).toEqual([]);
  });

  it('half a pound is 13.84 inches of our column, and 13.86 of one at 20 °C', () => {
    expect(toCanonical(0.5, 'psi') / inches(1)).toBeCloseTo(13.84, 2);
    // Water at 20 °C is 998.2 kg/m³ [published, from memory].
    expect(toCanonical(0.5, 'psi') / (inches(1) * 0.9982)).toBeCloseTo(13.86, 1);
  });
});

describe('the plan of a burner', () => {
  it('takes one dryer as it was told: both gas switches feel the gas after the regulator', () => {
    // Common practice, no source: 13.5 supplied under 14.5, 4 flowing, 8 as it locks up, 3.25 and 8.1, 0.6 and 1.2.
    const given = {
      static: '13.5 inH2O',
      manifold: '4 inH2O',
      lowGas: '3.25 inH2O',
      highGas: '8.1 inH2O',
      airTrip: '0.6 inH2O',
      mainTrip: '1.2 inH2O',
    };
    const plate = { ceiling: '14.5 inH2O', lockMost: '8 inH2O' };
    expect(codes({ given, plate }, 'refuse')).toEqual([]);
    // Against the supply it would look far off; judged where it is felt it is not.
    expect(codes({ given: { ...given, lowGas: '4.5 inH2O' }, plate }, 'refuse')).toContain('low-over-normal');
    expect(
      codes({ given: { ...given, lowGas: '4.5 inH2O' }, plate, choices: { lowTap: 'before' } }, 'refuse'),
    ).not.toContain('low-over-normal');
  });

  it.each([
    ['over-ceiling', { given: { static: '13.9 inH2O' } }],
    ['least-over-static', { given: { static: '8 inH2O' } }],
    ['manifold-over-supply', { given: { static: '4 inH2O' }, plate: { flowLeast: '2 inH2O' } }],
    ['manifold-outside-book', { plate: { manifoldLow: '4.5 inH2O', manifoldHigh: '5 inH2O' } }],
    ['book-crossed', { plate: { manifoldLow: '5 inH2O', manifoldHigh: '4.5 inH2O' } }],
    ['lock-under-manifold', { plate: { lockMost: '4 inH2O' } }],
    ['low-over-normal', { given: { lowGas: '4.4 inH2O' } }],
    ['high-under-normal', { given: { highGas: '4 inH2O' } }],
    ['low-over-high', { given: { lowGas: '9 inH2O' } }],
    ['air-under-proving', { given: { airTrip: '0.3 inH2O' } }],
  ] as const)('refuses %s', (code, over: Over) => {
    expect(codes({ ...over, given: { ...kit.given, ...over.given } }, 'refuse')).toContain(code);
    expect(codes({}, 'refuse')).toEqual([]);
  });

  it('asks for the page of the book, and for what the valve bears', () => {
    const { page: _, ceiling: __, ...plate } = kit.plate ?? {};
    const bare = new TestBench(family, { variant: 'train', plate, given: {}, gauges: kit.gauges });
    const lacking = family.check(bare.plan(), 101325).filter((f) => f.code === 'plate-missing');
    expect(lacking.map((f) => f.about)).toEqual(['page', 'ceiling']);
  });

  it.each([
    ['low-thin', { given: { lowGas: '3.9 inH2O' } }],
    ['high-thin', { given: { highGas: '4.5 inH2O' } }],
    ['unlike-fuel', { choices: { fuel: 'propane' } }],
  ] as const)('warns of %s', (code, over: Over) => {
    expect(codes({ ...over, given: { ...kit.given, ...over.given } }, 'warn')).toContain(code);
    expect(codes({}, 'warn')).not.toContain(code);
  });

  it('never lets the supply near what the valve bears, nor proves air under its level', () => {
    expect(at(family.never(planOf(), 'static'))).toBeCloseTo(13.8, 6);
    expect(at(planOf().limits['airTrip']?.lower)).toBeCloseTo(0.45, 6);
    expect(at(planOf({ plate: { airLeast: '0.5 inH2O' } }).limits['airTrip']?.lower)).toBeCloseTo(0.5, 6);
    // A propane manifold has half an inch either side, a natural one three tenths.
    expect(at(planOf({ choices: { fuel: 'propane' } }).limits['manifold']?.upper)).toBeCloseTo(4.7, 6);
  });

  it('draws gas and air on a scale each, and no switch of a furnace', () => {
    const scales = (variant: string) =>
      new Set(family.ladder(planOf({ variant, given: {} })).map((p) => `${p.scale}`));
    expect([...scales('train')].sort()).toEqual(['air', 'gas']);
    expect([...scales('furnace')]).toEqual(['gas']);
  });
});

describe('a burner, on its rig', () => {
  it('is walked supply before appliance before switches, each in the one state in which it means something', () => {
    const walked = keys(onKit(TRAIN, 'none', 1));
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
      const walked = keys(job);
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
      const walked = keys(job);
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
      const walked = keys(job);
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
      expect(keys(job)).not.toContain('relight');
      expect(keys(job).at(-1)).toBe('end-shut');
      expect(job.view.fact('gas')).toBe('shut');
    }
  });

  it('that rises on at rest is not fired at all', () => {
    const walked = keys(onKit(TRAIN, 'supply-seat', 1));
    expect(walked).not.toContain('found-supply');
    expect(walked.at(-1)).toBe('end-shut');
  });

  it('where gas is about nothing more is done', () => {
    const job = onKit(TRAIN, 'gas-about', 1);
    expect(keys(job)).toEqual(['cautions', 'sniff', 'out']);
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
      expect(keys(job)).toContain('relight');
    }
  });

  it('is not signed as set where it burns badly', () => {
    const job = onKit(TRAIN, 'manifold-off burns-badly', 1);
    expect(job.outcome).toBe('unfinished');
    expect(family.unproved(job.view).map((f) => f.code)).toContain('co-bad');
    expect(keys(job).at(-1)).toBe('end-shut');
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

describe('a burner that is left in the middle, or worked out of order', () => {
  const leftAfter = (fault: string, here: (body: JobBody) => boolean): readonly string[] => {
    const { events } = onKit(TRAIN, fault, 1).log;
    const until = events.findIndex((e) => here(e.body));
    expect(until).toBeGreaterThan(0);
    const h = new HandLog();
    for (const e of events.slice(0, until + 1)) h.add(e.body);
    h.add({ kind: 'leave', outcome: 'unfinished', reason: 'called away' });
    const view = new FoldedJob(family, h.log.state);
    return offer(family.procedure(view.plan), view).walk.flatMap((i) =>
      i.status === 'now' || i.status === 'ahead' ? [i.step.key] : [],
    );
  };
  const at =
    (key: string) =>
    (body: JobBody): boolean =>
      'at' in body && body.at.key === key;

  it('has its cover and caps on again, and stays shut while what was moved was not read', () => {
    expect(leftAfter('low-dial', at('turn-lowDial'))).toEqual(
      expect.arrayContaining(['cover-back', 'close-shut']),
    );
    expect(leftAfter('manifold-off', at('turn-appliance'))).toEqual(
      expect.arrayContaining(['caps-back', 'close-shut']),
    );
    expect(leftAfter('low-dial', at('cover')).at(-1)).toBe('end-shut');
    // Read again, it may burn.
    expect(leftAfter('none', at('found-manifold'))).toEqual(
      expect.arrayContaining(['close', 'relight', 'end']),
    );
  });

  it('asks for the cock to be shut before a port is opened', () => {
    const h = new HandLog();
    const { events } = onKit(TRAIN, 'none', 1).log;
    const zeroed = events.findIndex((e) => at('zero-air')(e.body));
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

  it('says at every reading in which state it is read', () => {
    const plan = siteOf(TRAIN).plan;
    const job = onKit(TRAIN, 'none', 1);
    const say = new Map<string, string>();
    for (const item of offer(family.procedure(plan), job.view).walk)
      say.set(item.step.key, sayStep(family, job.view, item.step).say);
    expect(say.get('found-static')).toMatch(/Nothing burning/);
    expect(say.get('found-manifold')).toMatch(/Same fire/);
    expect(say.get('found-low-gas')).toMatch(/Cock open and shut/);
    expect(say.get('found-air-normal')).toMatch(/fan alone/);
  });
});
