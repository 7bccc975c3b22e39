import { describe, expect, it } from '@jest/globals';
import { AMBIENT, planOf, psi, scripted } from '../testing.js';
import { FoldedJob } from '@firm-needle/core/procedure';
import { drawdown } from '@firm-needle/core/reckon';
import { RIG_STEP_S, runRig } from '@firm-needle/core/rig';
import { family as wellSwitch } from './index.js';

const rigOf = (faults: readonly string[], seed = 1) =>
  wellSwitch.rig.create({ plan: planOf(), seed, ambient: AMBIENT, faults });

describe('the scripted technician, by hidden fault', () => {
  it('reads the precharge again whenever cut-in moved, before it signs', () => {
    const job = scripted(['drifted-switch'], 4);
    const lastTurn = job.log.state.turns.filter((t) => t.body.adjuster === 'range').at(-1)?.order ?? 0;
    expect(lastTurn).toBeGreaterThan(0);
    expect(job.log.state.reads.some((r) => r.body.setting === 'precharge' && r.order > lastTurn)).toBe(true);
    expect(wellSwitch.unproved(job.view)).toEqual([]);
  });

  it('bleeds the precharge before it lowers cut-in', () => {
    const plan = planOf({ cutIn: '36 psi' });
    const rig = {
      ...wellSwitch,
      rig: {
        ...wellSwitch.rig,
        create: (o: Parameters<typeof wellSwitch.rig.create>[0]) =>
          wellSwitch.rig.create({ ...o, plan: planOf({ cutIn: '43 psi' }) }),
      },
    };
    const job = scripted([], 6, plan, rig);
    const first = job.log.state.turns[0]?.body;
    expect(first).toMatchObject({ adjuster: 'air' });
    expect(first?.amount).toBeLessThan(0);
    expect(job.outcome).toBe('set');
  });
});

describe('what refuses a signature', () => {
  it('names the precharge as due after a turn', () => {
    const job = scripted(['drifted-switch'], 4);
    const cut = job.log.events.findIndex((e) => e.body.kind === 'turn') + 1;
    const again = scripted(['drifted-switch'], 4);
    again.log.replace(job.log.events.slice(0, cut));
    const codes = wellSwitch.unproved(new FoldedJob(wellSwitch, again.log.state)).map((f) => f.code);
    expect(codes).toContain('precharge-due');
  });
});

describe('drawdown', () => {
  it('gives the published acceptance factors at precharge = cut-in', () => {
    // Published acceptance-factor tables, from memory: 0.366, 0.309, 0.268.
    const factor = (low: number, high: number, under = 0): number =>
      drawdown(1, psi(low - under), psi(low), psi(high), 101325);
    expect(factor(20, 40)).toBeCloseTo(0.366, 3);
    expect(factor(30, 50)).toBeCloseTo(0.309, 3);
    expect(factor(40, 60)).toBeCloseTo(0.268, 3);
    expect(factor(20, 40, 2)).toBeCloseTo(0.345, 3);
    expect(factor(40, 60, 2)).toBeCloseTo(0.258, 3);
  });

  it('gives nothing below an empty tank', () => {
    expect(drawdown(1, psi(70), psi(40), psi(60), 101325)).toBe(0);
  });
});

describe('rig', () => {
  it('is the same for the same seed, and goes on from a snapshot', () => {
    const a = rigOf(['drifted-switch'], 9);
    a.set('tap', 0.5);
    a.set('gauge', 1);
    runRig(a, 120, 'system');
    const b = rigOf(['drifted-switch'], 9);
    b.restore(a.snapshot());
    expect(b.truth()).toEqual(a.truth());
    a.step(RIG_STEP_S);
    b.step(RIG_STEP_S);
    expect(b.time).toBe(a.time);
  });

  it('cycles between its switch points and obeys Boyle', () => {
    const rig = rigOf([]);
    const { cutIn = 0, cutOut = 0 } = rig.truth();
    rig.set('gauge', 1);
    rig.set('tap', 0.6);
    let low = Infinity;
    let high = 0;
    runRig(rig, 1200, 'system', 0.1, (_, p) => {
      low = Math.min(low, p);
      high = Math.max(high, p);
    });
    expect(Math.abs(low - cutIn)).toBeLessThan(psi(1.2));
    expect(Math.abs(high - cutOut)).toBeLessThan(psi(1.2));
  });

  it('lifts its relief when the contacts weld', () => {
    const rig = rigOf(['welded-contacts']);
    runRig(rig, 1500, 'system');
    expect(rig.truth()['lifts']).toBeGreaterThan(0);
    expect(rig.truth()['highest']).toBeLessThan(psi(81 * 1.15));
  });

  it('shows nothing on a vented gauge but its own error', () => {
    const rig = rigOf(['gauge-zero-off']);
    expect(Math.abs(rig.gauge('system'))).toBeGreaterThan(psi(1.5));
    expect(Math.abs(rig.gauge('system'))).toBeLessThan(psi(3.1));
  });

  it('raises cut-out only with the differential nut', () => {
    const rig = rigOf([]);
    const before = rig.truth();
    rig.turn('differential', 1);
    expect(rig.truth()['cutIn']).toBe(before['cutIn']);
    expect(rig.truth()['cutOut']).toBeGreaterThan(before['cutOut'] ?? 0);
  });
});
