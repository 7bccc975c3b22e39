import { describe, expect, it } from '@jest/globals';
import { stepsOf } from '@firm-needle/core/procedure';
import { ScriptedTechnician, wander } from '@firm-needle/core/script';
import { dial } from '../define/kit.js';
import { loadFamily } from '../registry.js';
import { AMBIENT, psi, TestBench } from '../testing.js';
import { family } from './index.js';
import { inches } from './parts.js';

const bench = new TestBench(family, {
  variant: 'adjustable',
  plate: {
    effortLeast: '1 inH2O',
    effortMost: '1.48 inH2O',
    ipLeast: '126 psi',
    ipMost: '143 psi',
    relief: '171 psi',
  },
  given: {},
  gauges: { suction: dial('S-2', 'inH2O', 4, 0.05, 0.5, 0.5), ip: dial('R-3', 'psi', 300, 1, 0.5, 0.25) },
  permits: ['breathing'],
});
const steps = stepsOf(family, bench.plan());
const all = [...steps.values()];

describe('what must never be', () => {
  it('is the orifice moved on its seat: every turn of it holds the purge, the low-range gauge off, the tool in', () => {
    const turns = all.filter((s) => s.kind === 'turn' && s.adjuster === 'orifice');
    expect(turns.length).toBeGreaterThan(2);
    for (const t of turns) {
      expect([t.key, t.hands?.['thumb'], t.hands?.['shutoff']]).toEqual([t.key, 1, 0]);
      expect(t.needs).toMatchObject({ tool: 'in', gauge: 'off', supply: 'on' });
      expect(t.cautions).toContain('seat');
      expect(t.permit).toBe('breathing');
    }
  });

  it('is a purge or a supply opened with the low-range gauge on, in any walk', () => {
    // A gauge that is blown keeps it for good: none is, whatever is wrong with the device.
    for (const fault of ['', ...family.rig.faults.map((f) => f.id)])
      for (let seed = 40; seed < 43; seed++)
        expect([fault, seed, bench.scripted(fault, seed).truth['blown']]).toEqual([fault, seed, 0]);
  });

  it('is an effort read with its side open, or through a case that leaks', () => {
    for (const s of all)
      if (s.kind === 'read' && s.setting === 'effort')
        expect(s.needs).toMatchObject({ side: 'closed', gauge: 'on' });
    const { view, outcome } = bench.scripted('case-gone', 8);
    expect([view.readings('effort').length, outcome]).toEqual([0, 'replace']);
  });

  it('is a turn before its first stage is right', () => {
    for (const fault of ['high-ip', 'creeping-ip'])
      for (let seed = 50; seed < 54; seed++) {
        const { view, outcome } = bench.scripted(fault, seed);
        expect([fault, seed, view.state.turns.length, outcome]).toEqual([fault, seed, 0, 'unfinished']);
        expect(bench.codes(view)).toContain('first-out');
      }
  });

  it('is called right on a first stage that is to be rebuilt, or was left unfinished', () => {
    const on = (outcome: string, proved: boolean) => {
      const links = {
        first: {
          control: 'x',
          name: 'First stage 1',
          values: {},
          signed: { at: '2030-01-01', outcome, proved },
        },
      };
      const started = bench.started(bench.plan(), { links });
      const { plan, gauges } = started;
      const rig = family.rig.create({ plan, seed: 21, ambient: AMBIENT, faults: [], gauges });
      const job = new ScriptedTechnician(family, rig, started).run();
      return [job.outcome, bench.codes(job.view).includes('first-unproved')];
    };
    expect(on('set', true)).toEqual(['left-as-found', false]);
    expect(on('set', false)).toEqual(['unfinished', true]);
    expect(on('replace', true)).toEqual(['unfinished', true]);
    expect(on('unfinished', true)).toEqual(['unfinished', true]);
  });

  it('is supply before something else was said to open: reading the cautions is no relief', () => {
    const ups = all.filter((s) => s.sets?.['supply'] === 'on');
    expect(ups.length).toBeGreaterThan(2);
    for (const s of ups) expect([s.key, s.needs?.['relief']]).toEqual([s.key, 'inline']);
    expect(all.filter((s) => s.sets?.['relief'] === 'inline').map((s) => s.key)).toEqual([]);
    let opened = 0;
    for (let seed = 1; seed <= 25; seed++) {
      const { log } = wander(family, bench.started(), seed, () => undefined);
      const events = log.events.map((e) => e.body);
      const open = events.findIndex((b) => 'sets' in b && b.sets?.['supply'] === 'on');
      if (open < 0) continue;
      opened += 1;
      const said = events
        .slice(0, open)
        .some(
          (b) =>
            ('at' in b && b.at?.key === 'relief' && 'answer' in b && b.answer !== 'nothing') ||
            ('at' in b && 'sets' in b && b.at?.key !== 'cautions' && b.sets?.['relief'] === 'inline'),
        );
      expect([seed, said]).toEqual([seed, true]);
    }
    expect(opened).toBeGreaterThan(5);
  });
});

describe('the plan', () => {
  it('aims at the middle of its range, and takes what its first stage is planned at', async () => {
    expect((bench.plan().values['effort'] ?? 0) / inches(1)).toBeCloseTo(1.24, 6);
    const role = family.links?.find((l) => l.id === 'first');
    const [kind = ''] = role?.kinds ?? [];
    const firstStage = await loadFamily(kind);
    expect(firstStage.settings.map((s) => s.id)).toContain(role?.gives['first']);
    expect(role?.fits?.({ variant: 'cylinder-gas', school: '' })).toBe(false);
    expect(role?.fits?.({ variant: 'piston', school: '' })).toBe(true);
  });
  it.each([
    ['a range upside down', { effortMost: '0.9 inH2O' }, 'range'],
    ['a relief inside its window', { relief: '144 psi' }, 'relief-near'],
    ['a first stage outside what it wants', { first: '150 psi' }, 'first-outside'],
    ['a window upside down', { ipMost: '120 psi' }, 'window'],
  ])('%s is refused', (_, plate, code) => {
    expect(bench.refusals(bench.plan({ plate }))).toContain(code);
  });
});

describe('its lever', () => {
  it('is looked at after every orifice that moved more than an eighth, and the effort read after it', () => {
    let looked = 0;
    for (let seed = 60; seed < 68; seed++) {
      const { log, view, outcome } = bench.scripted('stiff', seed);
      if (outcome !== 'set') continue;
      const net = view.netTurns('orifice');
      if (Math.abs(net) <= 1 / 8) continue;
      const nut = log.events.findLastIndex((e) => e.body.kind === 'turn' && e.body.adjuster === 'nut');
      const orifice = log.events.findLastIndex(
        (e) => e.body.kind === 'turn' && e.body.adjuster === 'orifice' && e.body.amount !== 0,
      );
      expect(nut).toBeGreaterThan(orifice);
      expect(
        log.events.slice(nut).filter((e) => e.body.kind === 'read' && e.body.setting === 'effort').length,
      ).toBeGreaterThanOrEqual(5);
      looked += 1;
    }
    expect(looked).toBeGreaterThan(4);
  });
});

describe('its rig', () => {
  const rig = (faults: readonly string[] = []) => {
    const r = family.rig.create({ plan: bench.plan(), seed: 7, ambient: AMBIENT, faults: [...faults] });
    r.set('bleed', 0);
    r.set('supply', 1);
    for (let i = 0; i < 200; i++) r.step(0.02);
    return r;
  };
  it('opens at its effort and no other, as its line dips, and only with its side closed', () => {
    const r = rig();
    r.set('shutoff', 1);
    r.set('draw', 1);
    let most = 0;
    let line = Infinity;
    for (let i = 0; i < 400; i++) {
      r.step(0.02);
      most = Math.max(most, r.gauge('suction'));
      line = Math.min(line, r.gauge('ip'));
    }
    expect(Math.abs(most - (r.truth()['effort'] ?? 0)) / inches(1)).toBeLessThan(0.12);
    expect(line).toBeLessThan((r.truth()['ip'] ?? 0) - psi(2));
    const open = rig();
    open.set('side', 1);
    open.set('shutoff', 1);
    open.set('draw', 1);
    for (let i = 0; i < 400; i++) open.step(0.02);
    expect(open.gauge('suction')).toBeGreaterThan(inches(2));
  });
  it('hurts the low-range gauge for good where a purge meets it, and its seat where the orifice moves on it', () => {
    const blown = rig();
    blown.set('shutoff', 1);
    blown.set('purge', 1);
    expect(blown.truth()['blown']).toBeGreaterThan(inches(0.1));
    const cut = rig();
    cut.turn('orifice', 0.5);
    const held = rig();
    held.set('thumb', 1);
    held.turn('orifice', 0.5);
    expect(cut.truth()['cut']).toBeGreaterThan(0);
    expect(held.truth()['cut']).toBe(0);
  });
});
