// What was learned may be wrong, a reading may be of another gauge, another screw may move the same setting, and a screw may be reversed.
import { describe, expect, it } from '@jest/globals';
import { toCanonical } from '../quantity/index.js';
import { seeded } from '../rig/index.js';
import {
  advise,
  believe,
  hypotheses,
  learnedGain,
  type AdjusterPrior,
  type Aim,
  type Happening,
} from './index.js';

const psi = (n: number): number => toCanonical(n, 'psi');
const prior = (spread: number): AdjusterPrior => ({
  perTurn: psi(2.5),
  spread,
  backlash: 0.2,
  moves: [{ setting: 'out', ratio: 1, ratioSpread: 0 }],
});
const hand = { quantum: 1 / 16, largest: 3 };
const aim: Aim = { setting: 'out', target: psi(60), lower: psi(59), upper: psi(61), never: psi(75) };
const read = (value: number, sd = 0.2): Happening => ({ setting: 'out', value: psi(value), sd: psi(sd) });
const turn = (n: number): Happening => ({ turn: n });

describe('a change that was learned on another device', () => {
  it('is given up for what is read, without a step that reaches the relief', () => {
    for (const times of [0.4, 2.5]) {
      const random = seeded(11);
      let most = 0;
      for (let d = 0; d < 40; d++) {
        let x = 60 - (3 + 7 * Math.abs(random.normal()));
        const history: Happening[] = [];
        let turns = 0;
        let again = 0;
        for (;;) {
          const y = x + 0.2 * random.normal();
          if (Math.abs(y - 60) <= 1) break;
          history.push(read(y));
          const a = advise(believe(prior(0.1), history), [aim], hand, { out: psi(y) });
          // What would end it is read once more first, as a job does.
          if (a.stop !== null && ++again < 4) continue;
          if (a.stop !== null) throw new Error(`${times}, ${d}: ${a.because}`);
          x += 2.5 * times * a.turns;
          expect(x).toBeLessThan(75);
          history.push(turn(a.turns));
          turns++;
        }
        most = Math.max(most, turns);
      }
      expect(most).toBeLessThanOrEqual(6);
    }
  });

  it('is learned anew from one pair', () => {
    const b = believe(prior(0.1), [read(40), turn(2), read(42.1)]);
    expect(learnedGain(b).perTurn / psi(1)).toBeCloseTo(1.05, 0);
  });
});

describe('one reading on another gauge', () => {
  it('does not end the work, nor teach a wrong change', () => {
    const before = [read(50), turn(2), read(55), turn(1)];
    const slipped = believe(prior(0.4), [...before, read(30)]);
    // Neither dead nor reversed, and the next reading puts it right.
    expect(hypotheses(slipped).works).toBeGreaterThan(0.9);
    const after = believe(prior(0.4), [...before, read(30), read(57.5)]);
    expect(learnedGain(after).perTurn / psi(1)).toBeCloseTo(2.5, 0);
    const a = advise(after, [aim], hand, { out: psi(57.5) });
    expect(a.stop === null && a.turns > 0.5 && a.turns < 1.5).toBe(true);
  });

  it('that is too high near the relief is not turned up from', () => {
    const b = believe(prior(0.4), [read(50), turn(2), read(55), turn(1), read(72)]);
    const a = advise(b, [aim], hand, { out: psi(72) });
    if (a.stop === null) expect(a.turns).toBeLessThan(0);
  });
});

describe('another screw', () => {
  it('that moves the same setting says nothing of this one', () => {
    // This one is dead; the other one raised it by 8.
    const moved: Happening = { setting: 'out', by: psi(8), sd: psi(8) };
    const b = believe(prior(0.4), [read(50), turn(1), read(50), moved, read(57), turn(1), read(57)]);
    expect(hypotheses(b).dead).toBeGreaterThan(0.9);
    // Unsaid, the jump would be this screw's doing, or hide that it does nothing.
    const unsaid = believe(prior(0.4), [read(50), turn(1), read(50), read(57), turn(1), read(57)]);
    expect(hypotheses(b).dead).toBeGreaterThan(hypotheses(unsaid).dead - 1e-9);
  });
});

describe('a screw that is more likely reversed than not', () => {
  it('is not turned on where no movement is safe', () => {
    // 9.4 above the target: lowered by about a turn, it rose.
    const b = believe(prior(0.4), [read(69.4, 0.4), turn(-0.9375), read(73.9, 0.4)]);
    expect(hypotheses(b).reversed).toBeGreaterThan(0.5);
    expect(advise(b, [aim], hand).stop).toBe('reversed');
  });
});
