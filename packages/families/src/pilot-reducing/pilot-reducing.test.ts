import { describe, expect, it } from '@jest/globals';
import { HandLog, psi, TestBench } from '../testing.js';
import type { Gauge } from '@firm-needle/core/gauge';
import { FoldedJob, type JobView, offer, type Plan } from '@firm-needle/core/procedure';
import { cavitationIndex, criticalTime, speedIn, surgePressure } from '@firm-needle/core/reckon';
import { expectOk } from '@firm-needle/core/result';
import type { ScriptedJob } from '@firm-needle/core/script';
import { family } from './index.js';

const gauge = (id: string, upper: number): Gauge => ({
  id,
  label: id,
  kind: 'bourdon',
  unit: 'psi',
  lower: 0,
  upper,
  division: 0.5,
  readable: 0.5,
  accuracy: { standard: 'B40.100', grade: '2A' },
  medium: 'water',
});
const bench = new TestBench(family, {
  variant: 'steel',
  plate: { size: '3 in', supply: '88 psi', leastFlow: '30 gpm', relief: '75 psi', weakest: '150 psi' },
  given: { flowing: '52 psi' },
  gauges: { outlet: gauge('O-1', 100), inlet: gauge('I-1', 160) },
});
const planOf = (flowing = '52 psi', plate: Readonly<Record<string, string>> = {}): Plan =>
  bench.plan({ plate, given: { flowing } });
const scripted = (fault: string, seed: number, plan = planOf()): ScriptedJob =>
  bench.scripted(fault, seed, plan);

describe('reducing valve, on its rig', () => {
  it('puts the screw back as found before a cock is opened, and learns only from what came after', () => {
    const { view } = scripted('shut-cock', 4);
    const keys = view.state.turns.map((t) => t.body.at.key);
    const back = keys.indexOf('put-back');
    expect(back).toBeGreaterThan(0);
    const upTo = view.state.turns.slice(0, back + 1).reduce((sum, t) => sum + t.body.amount, 0);
    expect(upTo).toBeCloseTo(0, 9);
    expect(family.learnsFrom?.(view, 'pilot')).toBeGreaterThan(view.state.turns[back]?.order ?? Infinity);
  });

  it('never turns without flow', () => {
    const job = scripted('set-low', 19);
    const turn = JSON.stringify(family.procedure(job.view.plan)).match(
      /"key":"turn-pilot".*?"needs":\{(.*?)\}/,
    );
    expect(turn?.[1]).toContain('"flow":"enough"');
  });
});

describe('a screw too coarse for its band', () => {
  /** Flowing at each reading, with the turns between them, told by hand. */
  const told = (flowing: readonly number[], turns: readonly number[]): JobView => {
    const h = new HandLog();
    h.add(bench.started());
    // The same screw moves lock-up: it was read as found.
    h.add({
      kind: 'read',
      setting: 'lockUp',
      slot: 'outlet',
      value: { text: '51', unit: 'psi', value: psi(51) },
      state: 'typed',
      at: { key: 'found-lock-up', pass: '1', phase: 'found' },
    });
    flowing.forEach((p, i) => {
      const turn = turns[i - 1];
      if (turn !== undefined)
        h.add({
          kind: 'turn',
          adjuster: 'pilot',
          amount: turn,
          text: '',
          at: { key: 'turn-pilot', pass: `1.${i}` },
        });
      h.add({
        kind: 'read',
        setting: 'flowing',
        slot: 'outlet',
        value: { text: String(p), unit: 'psi', value: psi(p) },
        state: 'typed',
        at: { key: 'adjust-flowing', pass: `1.${i}`, phase: 'adjust' },
      });
    });
    return new FoldedJob(family, h.log.state);
  };

  it('is not turned to and fro across it', () => {
    // 56 psi a turn: a sixteenth carries it from 50.2 to 53.7, across 50.5 to 53.5.
    const first = told([46.7, 50.2], [1 / 16]).advice('pilot');
    expect(first.stop === null && first.turns).toBe(1 / 16);
    const second = told([46.7, 50.2, 53.7], [1 / 16, 1 / 16]).advice('pilot');
    expect(second.stop === null && second.turns).toBe(-1 / 16);
    const third = told([46.7, 50.2, 53.7, 50.2], [1 / 16, 1 / 16, -1 / 16]).advice('pilot');
    expect(third.stop).toBe('in-limits');
    expect(third.stop !== null && third.because).toContain('To and fro');
  });
});

describe('the sums', () => {
  it('surges as a textbook works it by hand: 1000 kg/m³, 1200 m/s, 2 m/s stopped are 2.4 MPa [Joukowsky]', () => {
    expect(surgePressure(1200, 2, 1000)).toBeCloseTo(2.4e6, 3);
    expect(criticalTime(600, 1200)).toBe(1);
    expect(speedIn(0.0314159265, 0.2)).toBeCloseTo(1, 6);
  });

  it('refuses a cavitation index without a drop, and falls as more is taken away', () => {
    expect(cavitationIndex(psi(50), psi(60), 101325).ok).toBe(false);
    const index = (outlet: number): number => expectOk(cavitationIndex(psi(150), psi(outlet), 101325));
    expect(index(100)).toBeGreaterThan(index(50));
    expect(index(100)).toBeCloseTo((psi(100) + 101325 - 2339) / psi(50), 9);
  });
});

describe('a plan that cannot be', () => {
  const refusals = (plan: Plan): readonly string[] => bench.refusals(plan);
  it.each([
    ['an outlet above its inlet', planOf('90 psi', { relief: '120 psi' }), 'outlet-above-inlet'],
    ['hardly any drop', planOf('82 psi', { relief: '120 psi' }), 'drop-small'],
    ['lock-up at the relief', planOf('72 psi'), 'lock-up-relief'],
    ['lock-up above the weakest part', planOf('52 psi', { weakest: '55 psi' }), 'lock-up-weakest'],
    ['a draw below the least flow', planOf('52 psi', { draw: '12 gpm' }), 'flow-below-least'],
  ])('%s is refused', (_, plan, code) => {
    expect(refusals(plan)).toContain(code);
  });

  it('passes a sound one, lock-up five over flowing [common practice, no source]', () => {
    const plan = planOf();
    expect(family.check(plan, 101325)).toEqual([]);
    expect(((plan.values['lockUp'] ?? 0) - (plan.values['flowing'] ?? 0)) / psi(1)).toBeCloseTo(5, 6);
  });
});

it('asks for the cautions first', () => {
  const h = new HandLog();
  h.add(bench.started());
  const now = offer(family.procedure(planOf()), new FoldedJob(family, h.log.state)).now;
  expect(now?.step.cautions).toEqual(family.cautions.map((c) => c.key));
});
