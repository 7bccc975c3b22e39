import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { GaugeMetal, type Rig } from '../rig/index.js';
import { surpriseShares } from './draw.js';
import { harmOf, hurtBy } from './harm.js';
import { helpsAt, LEVELS } from './levels.js';
import { orderScore, askedOf, type Pair } from './order.js';
import { readDeeds } from './record.js';
import { adjusting } from './scores.js';
import { sealed, unsealed } from './sealed.js';
import { LONGEST_RUN_S, replay, WatchedRig } from './watched.js';

const pair = (before: string, after: string, weight: Pair['weight'] = 2): Pair => ({
  before,
  after,
  weight,
  words: `${before} before ${after}`,
});

describe('the order of work', () => {
  it('counts each b that was done, and keeps those whose a came first', () => {
    const pairs = [pair('a', 'b', 3), pair('b', 'c', 1)];
    expect(orderScore(pairs, ['a', 'b', 'c'])).toMatchObject({ met: 2, kept: 2, part: 1 });
    expect(orderScore(pairs, ['b', 'a', 'c'])).toMatchObject({ met: 2, kept: 1, part: 1 / 4 });
    expect(orderScore(pairs, ['b', 'c'])).toMatchObject({ broken: ['a before b'] });
    // What is never done is asked of nobody: other orders, and other ways, are free.
    expect(orderScore(pairs, ['a'])).toMatchObject({ met: 0, part: undefined });
  });

  it('asks nothing that the script itself does otherwise', () => {
    const pairs = [pair('a', 'b'), pair('c', 'b')];
    expect(askedOf(pairs, ['a', 'b', 'c', 'b'])).toEqual([pairs[0]]);
  });

  it('swapping what was in order never raises it, whatever the pairs', () => {
    const keys = ['a', 'b', 'c', 'd', 'e', 'f'];
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(4), fc.nat(4), fc.constantFrom(1 as const, 2 as const, 3 as const)), {
          minLength: 1,
        }),
        fc.shuffledSubarray(keys, { minLength: 6, maxLength: 6 }),
        (drawn, shuffled) => {
          const pairs = drawn.map(([i, by, w]) =>
            pair(keys[i] ?? 'a', keys[Math.min(5, i + 1 + by)] ?? 'f', w),
          );
          expect(orderScore(pairs, keys).part).toBe(1);
          expect(orderScore(pairs, shuffled).part ?? 1).toBeLessThanOrEqual(1);
        },
      ),
    );
  });
});

describe('adjusting', () => {
  it('is full for no more moves than the better of the two needs, and falls with each more', () => {
    expect(adjusting(2, 1, 2).score).toBe(100);
    expect(adjusting(3, 1, 2).score).toBe(75);
    expect(adjusting(1, 0, 0).score).toBe(50);
    expect(adjusting(0, 0, 0).score).toBeUndefined();
    // One opening more than would have done, as in the notes’ own example of a piston.
    expect(adjusting(2, 1, 1).score).toBe(67);
  });
});

describe('surprise me', () => {
  it('shares out one, gives none over a third, and more to what was missed', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(30), fc.nat(30)), { minLength: 3, maxLength: 15 }), (met) => {
        const shares = surpriseShares(
          met.map(([runs, misses]) => ({ runs, misses: Math.min(runs, misses) })),
        );
        expect(shares.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 9);
        for (const s of shares) {
          expect(s).toBeGreaterThan(0);
          expect(s).toBeLessThanOrEqual(1 / 3 + 1e-9);
        }
      }),
    );
    const [missed, known] = surpriseShares([
      { runs: 4, misses: 4 },
      { runs: 4, misses: 0 },
      { runs: 4, misses: 0 },
      { runs: 0, misses: 0 },
      { runs: 0, misses: 0 },
    ]);
    expect(missed).toBeGreaterThan(known ?? 1);
    // Of three each has a third, whatever was met: what was brought to it once stays there, to the rounding.
    const three = surpriseShares([
      { runs: 0, misses: 0 },
      { runs: 4, misses: 1 },
      { runs: 14, misses: 1 },
    ]);
    for (const s of three) expect(s).toBeCloseTo(1 / 3, 9);
  });
});

describe('what is sealed', () => {
  it('comes back whole, never looks the same, and says nothing to whoever reads it', () => {
    const seed = { seed: 41, level: 2, lesson: 'cut-seat' } as const;
    const [a, b] = [sealed(seed), sealed(seed)];
    expect(a).not.toBe(b);
    expect(unsealed(a)).toEqual({ ok: true, value: seed });
    expect(unsealed(sealed({ seed: 0, level: 1 }))).toEqual({ ok: true, value: { seed: 0, level: 1 } });
    const bytes = Buffer.from(a, 'hex').toString('latin1');
    for (const word of ['seed', 'cut', 'level']) expect(bytes).not.toContain(word);
  });

  it('is refused where it was changed, or is none of ours', () => {
    const text = sealed({ seed: 41, level: 2 });
    const changed = text.slice(0, -1) + (text.endsWith('0') ? '1' : '0');
    for (const wrong of [changed, '', 'zz', 'ab', text.slice(2), `${text}00`])
      expect(unsealed(wrong)).toMatchObject({ ok: false, refusal: { code: 'sealed' } });
  });
});

describe('levels', () => {
  it('share out a hundred, and help less the harder they are', () => {
    for (const l of LEVELS) {
      expect(l.faults.reduce((a, b) => a + b, 0)).toBe(100);
      // None stays common, or one learns to always find something.
      expect(l.faults[0]).toBeGreaterThanOrEqual(25);
    }
    expect(LEVELS.map((l) => helpsAt(l).length)).toEqual([4, 4, 3, 1]);
  });
});

describe('deeds from outside', () => {
  it('are read in the order of their times, and refused with what is wrong', () => {
    const good = [
      { t: 0, do: 'set', id: 'tap', value: 1, bench: true },
      { t: 2, do: 'turn', id: 'nut', value: -0.5 },
      { t: 2, do: 'zero', id: 'test' },
      { t: 9, do: 'fit', id: 'test', value: 1 },
    ];
    expect(readDeeds(good)).toEqual({ ok: true, value: good });
    for (const wrong of [
      'x',
      [{ t: -1, do: 'zero', id: 'a' }],
      [{ t: NaN, do: 'zero', id: 'a' }],
      [{ t: 1, do: 'fly', id: 'a' }],
      [{ t: 1, do: 'fit', id: 'a', value: 2 }],
      [...good].reverse(),
      Array.from({ length: 20_001 }, (_, t) => ({ t, do: 'zero', id: 'a' })),
    ])
      expect(readDeeds(wrong)).toMatchObject({ ok: false, refusal: { code: 'deeds' } });
  });
});

/** A rig whose pressure is its time. */
const clockRig = (): Rig => {
  let t = 0;
  const log: string[] = [];
  return {
    get time() {
      return t;
    },
    channels: {},
    step: (dt) => void (t += dt),
    gauge: () => t + 1,
    actual: () => t,
    set: (id, value) => void log.push(`${t.toFixed(2)} ${id} ${value}`),
    position: () => 0,
    fit: () => undefined,
    turn: () => undefined,
    answer: () => log.join(),
    truth: () => ({ t }),
    snapshot: () => t,
    restore: () => undefined,
  };
};

describe('what hurts', () => {
  const rig = (handles: Readonly<Record<string, number>>, pressure = 0) => ({
    position: (h: string) => handles[h] ?? 0,
    actual: () => pressure,
  });
  const hurts = [
    { deed: 'supply', to: [1, 2], while: { relief: [0] }, text: 'no relief' },
    { deed: 'cap', over: ['ip', 70_000], text: 'under pressure' },
    { deed: 'cap', severity: 2, text: 'untidy' },
  ] as const;
  it('is judged by how the installation stands, the gravest first', () => {
    const set = (id: string, value: number, ...at: Parameters<typeof rig>) =>
      harmOf(hurts, { t: 3, do: 'set', id, value }, rig(...at));
    expect(set('supply', 1, { relief: 0 })).toEqual({ severity: 3, t: 3, text: 'no relief' });
    expect(set('supply', 1, { relief: 1 })).toBeUndefined();
    expect(set('supply', 0, { relief: 0, supply: 1 })).toBeUndefined();
    // What stands so already is not done again.
    expect(set('supply', 1, { relief: 0, supply: 1 })).toBeUndefined();
    expect(set('cap', 0, { cap: 1 }, 90_000)).toMatchObject({ severity: 3 });
    expect(set('cap', 0, { cap: 1 }, 10_000)).toMatchObject({ severity: 2 });
    // A gauge that was never looked at tells nothing.
    expect(set('cap', 0, { cap: 1 }, NaN)).toMatchObject({ severity: 2 });
    expect(harmOf(hurts, { t: 3, do: 'zero', id: 'cap' }, rig({}, 90_000))).toBeUndefined();
    expect(hurtBy(set('cap', 0, { cap: 1 }, 10_000))).toBeUndefined();
    expect(hurtBy(set('cap', 0, { cap: 1 }, 90_000))).toEqual({ t: 3, text: 'under pressure' });
  });
});

describe('a run that is gone through again', () => {
  it('does each deed at its time, keeps what was highest, and how long it was beyond', () => {
    const rig = new WatchedRig(clockRig(), ['a'], { a: 8 });
    replay(
      rig,
      [
        { t: 2.5, do: 'set', id: 'tap', value: 1 },
        { t: 4, do: 'set', id: 'tap', value: 0 },
      ],
      10,
    );
    expect(rig.answer('')).toBe('2.50 tap 1,4.00 tap 0');
    expect(rig.highest['a']).toBeCloseTo(10, 1);
    expect(rig.beyond['a']).toBeCloseTo(2, 1);
    expect(rig.strip.t.at(-1)).toBeGreaterThan(9);
  });

  it('thins a long strip, and goes on no longer than a run may', () => {
    const rig = new WatchedRig(clockRig(), ['a']);
    replay(rig, [{ t: 1e12, do: 'zero', id: 'a' }], 1e12);
    expect(rig.time).toBeCloseTo(LONGEST_RUN_S, 0);
    expect(rig.strip.t.length).toBeLessThanOrEqual(3000);
    expect(rig.strip.t).toEqual([...rig.strip.t].sort((a, b) => a - b));
  }, 60_000);
});

describe('a worn gauge', () => {
  const gauge = {
    id: 'g',
    label: 'G',
    kind: 'bourdon',
    unit: 'psi',
    lower: 0,
    upper: 100,
    division: 1,
    readable: 0.5,
    accuracy: { standard: 'B40.100', grade: '2A' },
  } as const;
  it('shows what a sound one of its kind shows, and what it is worn by', () => {
    const sound = new GaugeMetal(gauge, 7);
    const worn = new GaugeMetal(gauge, 7, { zero: 3000, slope: 0.03, sticks: 0 });
    for (const p of [0, 100_000, 500_000])
      expect(worn.shows(p) - sound.shows(p)).toBeCloseTo(3000 + 0.03 * p, 6);
    const sticky = new GaugeMetal(gauge, 7, { zero: 0, slope: 0, sticks: 5000 });
    expect(sticky.follow(100_000, 104_000)).toBe(100_000);
  });
});
