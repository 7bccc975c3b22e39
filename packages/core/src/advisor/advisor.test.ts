import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { seeded, spreadFactor } from '../rig/index.js';
import { toCanonical } from '../quantity/index.js';
import {
  advise,
  believe,
  hypotheses,
  learnedGain,
  openAim,
  priorBelief,
  riskOf,
  saturated,
  trailing,
  update,
  type AdjusterPrior,
  type Pair,
  type Aim,
  type Happening,
} from './index.js';

const psi = (n: number): number => toCanonical(n, 'psi');
const prior: AdjusterPrior = {
  perTurn: psi(2),
  spread: 0.4,
  backlash: 0.1,
  moves: [{ setting: 'out', ratio: 1, ratioSpread: 0.03 }],
};
const hand = { quantum: 1 / 16, largest: 4 };
const aim: Aim = { setting: 'out', target: psi(60), lower: psi(59), upper: psi(61), never: psi(75) };
const read = (value: number, sd = 0.2): Happening => ({ setting: 'out', value: psi(value), sd: psi(sd) });

describe('limits that lie unevenly about what is aimed at', () => {
  const uneven: Aim = { setting: 'out', target: psi(49.2), lower: psi(49), upper: psi(54), never: psi(75) };

  it('are landed in all the same, where that takes it past the aim', () => {
    // Just under them; the likeliest place to land is their middle, as far past the aim as it stands short of it now.
    const a = advise(
      believe(prior, [read(48.9, 0.4)]),
      [uneven],
      { quantum: 1, largest: 4 },
      { out: psi(48.9) },
    );
    expect(a.stop).toBeNull();
    if (a.stop !== null) return;
    expect(a.turns).toBeGreaterThan(0);
    expect(a.lands).toBeGreaterThan(0.8);
  });

  it('are left the other way too, where the aim is their very end', () => {
    // Two readings, one within and one over: on average just under the end that is aimed at. Away from it is surer.
    const end: Aim = { ...uneven, target: psi(54) };
    const a = advise(
      believe(prior, [read(53.5, 0.4), read(54.4, 0.4)]),
      [end],
      { quantum: 1 / 4, largest: 4 },
      { out: psi(54.4) },
    );
    expect(a.stop).toBeNull();
    if (a.stop !== null) return;
    expect(a.turns).toBeLessThan(0);
    expect(a.lands).toBeGreaterThan(0.95);
  });
});

describe('belief', () => {
  it('learns the change per turn from one adjust–read pair', () => {
    const before = learnedGain(believe(prior, [read(50)]));
    const after = learnedGain(believe(prior, [read(50), { turn: 2 }, read(56)]));
    expect(after.perTurn / psi(1)).toBeCloseTo(3, 0);
    expect(after.sd).toBeLessThan(before.sd / 3);
  });

  it('suspects a dead screw and a reversed one', () => {
    const dead = believe(prior, [
      read(50),
      { turn: 1 },
      read(50),
      { turn: 1 },
      read(50),
      { turn: 1 },
      read(50.1),
    ]);
    expect(hypotheses(dead).dead).toBeGreaterThan(0.9);
    expect(advise(dead, [aim], hand)).toMatchObject({ stop: 'no-response' });
    const reversed = believe(prior, [read(50), { turn: 1 }, read(47.8), { turn: 1 }, read(45.5)]);
    expect(advise(reversed, [aim], hand)).toMatchObject({ stop: 'reversed' });
  });

  it('takes a reading that nothing explains as the new truth', () => {
    const b = believe(prior, [read(50), { turn: 0.5 }, read(500, 0.01)]);
    expect(Number.isFinite(learnedGain(b).perTurn)).toBe(true);
  });
});

describe('advice', () => {
  it('aims at the middle and says what to expect', () => {
    const a = advise(believe(prior, [read(54)]), [aim], hand);
    if (a.stop !== null) throw new Error(a.because);
    expect(a.turns).toBeGreaterThan(1.5);
    expect(a.turns).toBeLessThan(4);
    expect(a.turns * 16).toBeCloseTo(Math.round(a.turns * 16), 9);
    expect(a.expect[0]?.mean).toBeGreaterThan(psi(58));
    expect(a.risk).toBeLessThanOrEqual(1e-4);
  });

  it('stops on the plain limits and asks for nothing unread', () => {
    expect(advise(believe(prior, [read(60.4)]), [aim], hand)).toMatchObject({ stop: 'in-limits' });
    expect(advise(believe(prior, []), [aim], hand)).toMatchObject({ stop: 'not-read' });
  });

  it('probes where the full turn might reach the relief, and refuses where any might', () => {
    const wide: AdjusterPrior = { ...prior, spread: 0.6 };
    const near = advise(believe(wide, [read(52)]), [{ ...aim, never: psi(64) }], hand);
    expect(near).toMatchObject({ stop: null, probing: true });
    const touching = advise(believe(wide, [read(57)]), [{ ...aim, never: psi(57.3) }], hand);
    expect(touching.stop).toBe('unsafe');
  });

  it('comes down after an overshoot', () => {
    const a = advise(believe(prior, [read(54), { turn: 3 }, read(64)]), [aim], hand);
    expect(a.stop === null && a.turns < 0).toBe(true);
  });

  it('learns that a screw has no backlash, and does not step to and fro across its band', () => {
    // One turn does 13.4, an eighth is the least, the band is 3 wide, and nothing is lost on reversing though a tenth of a turn might be.
    const prior = {
      perTurn: 13,
      spread: 0.2,
      backlash: 0.1,
      moves: [{ setting: 'out', ratio: 1, ratioSpread: 0.02 }],
    };
    const aim = { setting: 'out', target: 47, lower: 45.5, upper: 48.5, never: 65 };
    let at = 38.6;
    const history: Happening[] = [{ setting: 'out', value: at, sd: 0.3 }];
    let turns = 0;
    for (; turns < 8; turns++) {
      const advice = advise(believe(prior, history), [aim], { quantum: 1 / 8, largest: 2 }, { out: at });
      if (advice.stop !== null) break;
      at += 13.4 * advice.turns;
      // Begun so that a quarter of a turn crosses the whole band.
      if (turns === 0) at = 48.6;
      history.push({ turn: advice.turns }, { setting: 'out', value: at, sd: 0.3 });
    }
    expect(at).toBeGreaterThan(45.5);
    expect(at).toBeLessThan(48.5);
    expect(turns).toBeLessThan(5);
  });

  it('keeps what is only moved along from its bound, and says nothing of where it lands', () => {
    const both: AdjusterPrior = {
      ...prior,
      moves: [...prior.moves, { setting: 'beside', ratio: 1, ratioSpread: 0.05 }],
    };
    const history: readonly Happening[] = [
      read(50),
      { setting: 'beside', value: psi(68), sd: psi(0.2) },
      { turn: 1 },
      read(52),
      { setting: 'beside', value: psi(70), sd: psi(0.2) },
    ];
    const belief = believe(both, history);
    const alone = advise(belief, [aim], hand);
    const kept = advise(belief, [aim, openAim('beside', psi(75))], hand);
    if (alone.stop !== null || kept.stop !== null) throw new Error('stopped');
    // Eight up would carry what stands beside it to 78.
    expect(alone.turns).toBeGreaterThan(3);
    expect(kept.turns).toBeLessThan(2.5);
    expect(kept.risk).toBeLessThanOrEqual(1e-4);
    expect(kept.expect.map((e) => e.setting)).toEqual(['out']);
    expect(kept.nearest.setting).toBe('beside');
    expect(kept.nearest.high + kept.room).toBeCloseTo(psi(75), 3);
    expect(riskOf(belief, [aim, openAim('beside', psi(75))], alone.turns)).toBeGreaterThan(0.5);
    // What has no bound of its own asks for nothing, and alone gives nothing to aim at.
    expect(advise(belief, [openAim('beside', psi(75))], hand)).toMatchObject({ stop: 'not-read' });
  });

  it('lowers no farther at first than a reversed screw may raise, and then as far as it is wanted', () => {
    const low: Aim = { setting: 'out', target: psi(50), lower: psi(49), upper: psi(51), never: psi(63) };
    const first = advise(believe(prior, [read(60)]), [low], hand);
    if (first.stop !== null) throw new Error(first.because);
    expect(first.turns).toBeLessThan(0);
    // Two psi a turn, log-spread 0.4: what is turned down must not be three psi up, whatever this screw does.
    expect(Math.abs(first.turns) * 2).toBeLessThan(3);
    const known = believe(prior, [read(60), { turn: first.turns }, read(60 + 2 * first.turns)]);
    const second = advise(known, [low], hand);
    if (second.stop !== null) throw new Error(second.because);
    expect(Math.abs(second.turns)).toBeGreaterThan(2 * Math.abs(first.turns));
  });

  it('still comes down, by the least step, where it stands so near that only a reversed screw speaks against it', () => {
    const near: Aim = { setting: 'out', target: psi(50), lower: psi(49), upper: psi(51), never: psi(61) };
    const advice = advise(believe(prior, [read(60, 0.1)]), [near], hand);
    if (advice.stop !== null) throw new Error(advice.because);
    expect(advice.turns).toBeLessThan(0);
    expect(advice.turns).toBeGreaterThanOrEqual(-0.5);
  });

  it('counts the risk of an amount of one’s own', () => {
    const b = believe(prior, [read(54)]);
    expect(riskOf(b, [aim], 1)).toBeLessThan(1e-4);
    expect(riskOf(b, [aim], 12)).toBeGreaterThan(0.3);
  });

  it('lands simulated devices in few turns and never lifts the relief', () => {
    const random = seeded(7);
    let turns = 0;
    let lifts = 0;
    const devices = 150;
    for (let d = 0; d < devices; d++) {
      const gain = psi(2) * spreadFactor(random, 0.4);
      let x = psi(60 - 3 - 7 * random.normal());
      x = Math.min(x, psi(72));
      const history: Happening[] = [];
      for (let n = 0; n < 12; n++) {
        history.push({ setting: 'out', value: x + psi(0.4) * random.normal(), sd: psi(0.4) });
        const a = advise(believe(prior, history), [aim], hand);
        if (a.stop !== null) break;
        x += gain * a.turns;
        history.push({ turn: a.turns });
        turns++;
        if (x >= psi(75)) lifts++;
      }
    }
    expect(lifts).toBe(0);
    // Prototype figure for this spread: 1.59 adjustments; the sharper gate is part of the benchmark.
    expect(turns / devices).toBeLessThan(2);
  });
});

describe('what is remembered', () => {
  const happened = fc.oneof(
    fc.record({ turn: fc.constantFrom(-1, -0.5, 0.5, 1, 2) }),
    fc.integer({ min: 44, max: 60 }).map((at) => read(at, 0.4)),
    fc.record({ setting: fc.constant('out'), by: fc.constantFrom(-9000, 5000), sd: fc.constant(2000) }),
  );

  it('never differs from what is worked out anew, whatever was believed and asked before', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat({ max: 8 }), fc.array(happened, { maxLength: 4 })), {
          minLength: 1,
          maxLength: 6,
        }),
        fc.constantFrom(0.5, 1, 4),
        (changes, largest) => {
          let history: readonly Happening[] = [];
          for (const [keeps, more] of changes) {
            // A log grows by its end; a correction changes what stands before.
            history = [...history.slice(0, keeps), ...more];
            const belief = believe(prior, history);
            const anew = history.reduce(update, priorBelief(prior));
            expect(belief).toEqual(anew);
            const own = { ...hand, largest };
            expect(advise(belief, [aim], own)).toEqual(advise(anew, [aim], own));
            expect(advise(belief, [{ ...aim, never: psi(58) }], own, { out: psi(51) })).toEqual(
              advise(anew, [{ ...aim, never: psi(58) }], own, { out: psi(51) }),
            );
          }
        },
      ),
      { numRuns: 30 },
    );
  });

  it('is the same object for the same history, so that nothing is worked out twice', () => {
    const history = [read(54), { turn: 1 }, read(56)];
    const belief = believe(prior, history);
    expect(believe(prior, [read(54), { turn: 1 }, read(56)])).toBe(belief);
    expect(advise(belief, [aim], hand)).toBe(advise(belief, [aim], hand));
    expect(believe(prior, [read(54), { turn: 1 }])).not.toBe(belief);
  });
});

describe('a screw that has no more to give', () => {
  const pairs = (...of: readonly (readonly [turns: number, moved: number])[]): Pair[] => {
    let at = 100_000;
    return of.map(([turns, moved]) => ({ turns, before: at, after: (at += moved) }));
  };
  const SD = 1000;

  it('is seen at the first large turn that moves nothing', () => {
    expect(saturated(pairs([0.5, 20_000], [0.5, 500]), SD)).toBe(true);
    expect(saturated(pairs([0.5, 20_000], [0.5, 19_000]), SD)).toBe(false);
    expect(saturated(pairs([0.5, 500]), SD)).toBe(false);
  });

  it('is seen over small turns, none of which says anything by itself', () => {
    const little = [0.1, 0.1, 0.1, 0.1].map((turns) => [turns, 0] as const);
    for (let n = 1; n <= 4; n++)
      expect([n, saturated(pairs([0.5, 20_000], ...little.slice(0, n)), SD)]).toEqual([n, n > 2]);
  });

  it('is not seen where every small turn moves it as the large one did, nor across a turn back', () => {
    const slow = [0.1, 0.1, 0.1, 0.1, 0.1].map((turns) => [turns, 4000] as const);
    expect(saturated(pairs([0.5, 20_000], ...slow), SD)).toBe(false);
    expect(saturated(pairs([0.5, 20_000], [0.2, 0], [-0.3, -12_000], [0.1, 0]), SD)).toBe(false);
  });

  it('takes together what went one way, from the last back', () => {
    const all = [...trailing(pairs([1, 9], [-1, -4], [0.5, 3], [0.25, 1]))];
    expect(all.map((x) => [x.from, x.turns, x.after - x.before])).toEqual([
      [3, 0.25, 1],
      [2, 0.75, 4],
    ]);
    expect([...trailing([])]).toEqual([]);
  });
});
