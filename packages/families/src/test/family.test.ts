import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { families, familyExists, loadFamily } from '../registry.js';
import { family as wellSwitch } from '../well-switch/index.js';
import {
  checkTurn,
  chooseGauges,
  doubt,
  draftOf,
  makePlan,
  sayStep,
  solve,
  startJob,
  typePlate,
  typeReading,
  typeSetting,
} from '@firm-needle/core/family';
import { FoldedJob, type JobView, type Relation } from '@firm-needle/core/procedure';
import { expectOk } from '@firm-needle/core/result';
import { AIR, AMBIENT, HandLog, planOf, psi, startedOf, WATER } from '../testing.js';

const RELATIONS: readonly Relation[] = [
  { terms: { out: 1, in: -1, diff: -1 }, equals: 0, hard: true },
  { terms: { in: 1, air: -1 }, equals: 2, hard: false },
];
const IDS = ['in', 'out', 'diff', 'air'];

describe('relations', () => {
  it('solves in any direction', () => {
    const from = (a: string, b: string): readonly number[] => {
      const full: Record<string, number> = { in: 41, out: 62, diff: 21 };
      const s = solve(
        IDS,
        RELATIONS,
        [],
        [
          { setting: a, value: full[a] ?? 0 },
          { setting: b, value: full[b] ?? 0 },
        ],
      );
      return IDS.map((id) => s.values[id] ?? NaN);
    };
    for (const [a, b] of [
      ['in', 'out'],
      ['in', 'diff'],
      ['out', 'diff'],
      ['diff', 'in'],
    ] as const)
      expect(from(a, b)).toEqual([41, 62, 21, 39]);
  });

  it('evicts the oldest given that a newer one determines', () => {
    const s = solve(
      IDS,
      RELATIONS,
      [],
      [
        { setting: 'in', value: 40 },
        { setting: 'out', value: 60 },
        { setting: 'diff', value: 25 },
      ],
    );
    expect(s.values).toMatchObject({ out: 60, diff: 25, in: 35 });
    expect(s.given.map((g) => g.setting)).toEqual(['out', 'diff']);
  });

  it('lets a school pin a value, and a given beat a soft relation', () => {
    const s = solve(
      IDS,
      RELATIONS,
      [{ setting: 'diff', value: 20 }],
      [
        { setting: 'air', value: 30 },
        { setting: 'in', value: 43 },
      ],
    );
    expect(s.values).toEqual({ in: 43, out: 63, diff: 20, air: 30 });
    expect(solve(IDS, RELATIONS, [], [{ setting: 'in', value: 43 }]).open).toEqual(['out', 'diff']);
  });

  it('always keeps the hard relation', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            setting: fc.constantFrom('in', 'out', 'diff', 'air'),
            value: fc.integer({ min: 1, max: 100 }),
          }),
          { minLength: 2, maxLength: 6 },
        ),
        (given) => {
          const { values } = solve(IDS, RELATIONS, [], given);
          if (values['in'] !== undefined && values['out'] !== undefined && values['diff'] !== undefined)
            expect(values['out'] - values['in'] - values['diff']).toBeCloseTo(0, 6);
          const newest = given.at(-1);
          if (newest) expect(values[newest.setting]).toBeCloseTo(newest.value, 6);
        },
      ),
    );
  });
});

describe('plan', () => {
  const codes = (given: Record<string, string>, plate: Record<string, string> = {}): string[] =>
    wellSwitch.check(planOf(given, plate), AMBIENT).map((f) => f.code);

  it('follows cut-in with the precharge, and keeps the factory differential', () => {
    const p = planOf({ cutIn: '43 psi' });
    expect(p.values['cutOut']).toBeCloseTo(psi(63), 3);
    expect(p.values['precharge']).toBeCloseTo(psi(41), 3);
    expect(codes({ cutIn: '43 psi' })).toEqual([]);
  });

  it('refuses what cannot be set, each with its own name', () => {
    expect(codes({ precharge: '45 psi', cutIn: '43 psi' })).toContain('precharge-above-cut-in');
    expect(codes({ cutIn: '43 psi' }, { relief: '60 psi' })).toContain('relief-below-cut-out');
    expect(codes({ cutIn: '43 psi' }, { relief: '70 psi' })).toContain('relief-margin');
    expect(codes({ cutIn: '43 psi' }, { weakest: '65 psi' })).toContain('weakest-part');
    expect(codes({ cutIn: '43 psi' }, { tankVolume: '40 L' })).toContain('run-time-short');
    const upsideDown = {
      ...planOf(),
      values: { cutIn: psi(60), cutOut: psi(55), differential: psi(-5), precharge: psi(40) },
    };
    expect(wellSwitch.check(upsideDown, AMBIENT).map((f) => f.code)).toContain('cut-out-not-above-cut-in');
    const bare = { ...planOf(), plate: {} };
    expect(wellSwitch.check(bare, AMBIENT).filter((f) => f.code === 'plate-missing')).toHaveLength(3);
  });

  it('bounds what is typed and says the bound', () => {
    expect(typeSetting(wellSwitch, 'cutIn', '900')).toMatchObject({
      refusal: { code: 'outside-scale', bound: '5.0 psi to 150.0 psi', where: 'cutIn' },
    });
    expect(typeSetting(wellSwitch, 'runTime', '60')).toMatchObject({ refusal: { code: 'not-a-setting' } });
    expect(typePlate(wellSwitch, 'relief', 'high')).toMatchObject({ refusal: { code: 'not-a-number' } });
  });

  it('will not start a job on a refused plan or without a gauge', () => {
    const input = {
      plan: planOf({}, { relief: '62 psi' }),
      site: { id: 's', name: 'S', altitude_m: 0 },
      control: { id: 'c', name: 'C', equipment: 'E' },
      technician: 'T',
      permits: [],
      gauges: { system: WATER, air: AIR },
      rule: 'guarded' as const,
    };
    expect(startJob(wellSwitch, input)).toMatchObject({ refusal: { code: 'relief-margin' } });
    expect(startJob(wellSwitch, { ...input, plan: planOf(), gauges: { system: WATER } })).toMatchObject({
      refusal: { code: 'gauge-missing', where: 'air' },
    });
  });
});

describe('a gauge past its date', () => {
  const input = {
    plan: planOf(),
    site: { id: 's', name: 'S', altitude_m: 0 },
    control: { id: 'c', name: 'C', equipment: 'E' },
    technician: 'T',
    permits: [],
    gauges: { system: { ...WATER, due: '2030-01-01' }, air: AIR },
    rule: 'guarded' as const,
  };

  it('is used only with a reason, which stands in the log', () => {
    expect(startJob(wellSwitch, { ...input, today: '2030-01-01' }).ok).toBe(true);
    expect(startJob(wellSwitch, { ...input, today: '2030-01-02' })).toMatchObject({
      refusal: { code: 'gauge-overdue', where: 'system' },
    });
    expect(startJob(wellSwitch, { ...input, today: '2030-01-02', gaugeReasons: { system: ' ' } }).ok).toBe(
      false,
    );
    const kept = startJob(wellSwitch, {
      ...input,
      today: '2030-01-02',
      gaugeReasons: { system: 'the other one froze' },
    });
    expect(kept).toMatchObject({ value: { gaugeReasons: { system: 'the other one froze' } } });
  });
});

describe('typed readings', () => {
  const job = (): JobView => {
    const h = new HandLog();
    h.add(startedOf(planOf()));
    h.read('cutOut', 62, 'found-cut-out', 'found', '1.1');
    h.read('cutOut', 62.5, 'found-cut-out', 'found', '1.2');
    return new FoldedJob(wellSwitch, h.log.state);
  };

  it('refuses what the gauge cannot show', () => {
    expect(typeReading(WATER, '120')).toMatchObject({
      refusal: { code: 'outside-gauge', bound: '0–100 psi' },
    });
    expect(typeReading(WATER, 'sixty')).toMatchObject({ refusal: { code: 'not-a-number' } });
    expect(typeReading(WATER, '30 psia')).toMatchObject({ refusal: { code: 'wrong-kind' } });
    expect(typeReading(WATER, '62.5')).toMatchObject({ ok: true });
  });

  it('questions 12.0 for 62, and 6.2 for 62, and lets 63 pass', () => {
    const ask = (text: string) => {
      const typed = typeReading(WATER, text);
      return typed.ok ? doubt(wellSwitch, job(), 'cutOut', typed.value) : undefined;
    };
    expect(ask('12.0')).toMatchObject({
      message: '12.0? Every cut-out so far lies between 62.0 and 62.5.',
      instead: '62.0',
    });
    expect(ask('6.2')).toMatchObject({ instead: '62.0' });
    expect(ask('63')).toBeUndefined();
  });
});

describe('turns of one’s own', () => {
  const view = (): JobView => {
    const h = new HandLog();
    h.add(startedOf(planOf()));
    h.read('cutIn', 37, 'found-cut-in');
    h.read('cutOut', 57, 'found-cut-out');
    return new FoldedJob(wellSwitch, h.log.state);
  };

  it('refuses no movement, too much at once, and what could reach the relief', () => {
    expect(checkTurn(view(), 'range', 0)).toMatchObject({ refusal: { code: 'no-turn' } });
    expect(checkTurn(view(), 'range', 9)).toMatchObject({ refusal: { code: 'turn-too-large' } });
    const h = new HandLog();
    h.add(startedOf(planOf()));
    h.read('cutIn', 52, 'found-cut-in');
    h.read('cutOut', 72, 'found-cut-out');
    expect(checkTurn(new FoldedJob(wellSwitch, h.log.state), 'range', 3)).toMatchObject({
      refusal: { code: 'turn-reaches-relief' },
    });
    expect(checkTurn(view(), 'range', 1)).toEqual({ ok: true, value: 1 });
  });

  it('says the next move in one sentence with its reason', () => {
    const turn = { kind: 'turn', key: 't', title: 'Range nut', say: '', adjuster: 'range' } as const;
    const move = sayStep(wellSwitch, view(), turn);
    expect(move.amount).toMatch(/^(\d|[½¼¾⅛⅜⅝⅞]).* turns? clockwise$/);
    expect(move.expect).toMatch(/^Expect cut-out 6\d\.\d.±.\d\.\d.psi, cut-in 4\d\.\d/);
    expect(move.why).toContain('this one is not known yet');
  });
});

describe('registry', () => {
  it('loads what it lists and nothing else', async () => {
    for (const f of families()) expect((await loadFamily(f.id)).meta).toEqual(f);
    expect(familyExists('a-thing')).toBe(false);
    await expect(loadFamily('a-thing')).rejects.toThrow('a-thing');
  });
});

describe('a gauge in its place', () => {
  const start = (upper: number, reasons?: Readonly<Record<string, string>>) =>
    startJob(wellSwitch, {
      plan: planOf(),
      site: { id: 's', name: 'A site', altitude_m: 300 },
      control: { id: 'c', name: 'A switch', equipment: 'A well' },
      technician: 'A technician',
      permits: ['mains'],
      gauges: { system: { ...WATER, upper }, air: AIR },
      rule: 'guarded',
      ...(reasons ? { gaugeReasons: reasons } : {}),
    });

  it('reaches as far as what may come, or is refused with both figures', () => {
    expect(start(100).ok).toBe(true);
    const short = start(60);
    expect(short.ok).toBe(false);
    if (!short.ok)
      expect(short.refusal).toMatchObject({
        code: 'gauge-over-range',
        where: 'system',
        message: expect.stringContaining('89.1'),
      });
  });

  it('is let in where it is said what protects it', () => {
    expect(start(60, { system: 'over-pressure stop at 58 psi' }).ok).toBe(true);
  });

  it('is chosen by reach and medium where nothing read there has limits, the finest first', async () => {
    const family = await loadFamily('fire-relief');
    const plate = { churn: '118 psi', suctionMost: '20 psi', rating: '170 psi', perTurn: '26 psi' };
    const typed = Object.entries(plate).map(
      ([id, text]) => [id, expectOk(typePlate(family, id, text))] as const,
    );
    const plan = makePlan(family, draftOf(family, 'diesel', Object.fromEntries(typed)));
    const gauges = [
      { ...WATER, id: 'coarse', label: 'W-3', upper: 600, division: 5 },
      { ...WATER, id: 'short', label: 'W-1', upper: 100 },
      { ...AIR, id: 'dry', label: 'A-1', upper: 300 },
      { ...WATER, id: 'fit', label: 'W-2', upper: 300 },
    ];
    const system = chooseGauges(family, plan, gauges).find((c) => c.slot.id === 'system');
    expect(system?.ranked.map((r) => [r.gauge.id, r.fitness])).toEqual([
      ['fit', 'usable'],
      ['coarse', 'usable'],
      ['dry', 'cannot-tell'],
      ['short', 'unsafe'],
    ]);
  });
});
