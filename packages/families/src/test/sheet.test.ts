import { describe, expect, it } from '@jest/globals';
import { family as wellSwitch } from '../well-switch/index.js';
import { predicted, sayAmount, sayStep, sheetOf } from '@firm-needle/core/family';
import { FoldedJob, type JobView } from '@firm-needle/core/procedure';
import { HandLog, planOf, psi, scripted, startedOf } from '../testing.js';

const range = wellSwitch.adjusters.find((a) => a.id === 'range');
const air = wellSwitch.adjusters.find((a) => a.id === 'air');
if (!range || !air) throw new Error('adjusters');

describe('amounts in words', () => {
  it('says turns by direction and air by what is done', () => {
    expect(sayAmount(range, 1.25)).toBe('1¼ turns clockwise');
    expect(sayAmount(range, -0.5)).toBe('½ turn counter-clockwise');
    expect(sayAmount(air, psi(3))).toBe('add 3.0 psi');
    expect(sayAmount(air, -psi(2.5))).toBe('bleed 2.5 psi');
  });
});

describe('the sheet of a whole job', () => {
  const job = scripted(['drifted-switch'], 3);
  const sheet = sheetOf(wellSwitch, job.view);
  const row = (id: string) => sheet.rows.find((r) => r.setting === id);

  it('holds every setting with both figures, verdicts and budgets', () => {
    expect(sheet.rows.map((r) => r.setting)).toEqual(wellSwitch.settings.map((s) => s.id));
    for (const id of ['cutIn', 'cutOut', 'precharge', 'differential', 'runTime']) {
      expect(row(id)?.found?.verdict?.because).toMatch(/±/);
      expect(row(id)?.left?.budget.lines.length).toBeGreaterThanOrEqual(2);
    }
    expect(row('cutIn')?.found?.verdict?.word).toBe('out');
    expect(row('cutIn')?.due).toBe(false);
  });

  it('agrees with its own budget: U is k times the root of the squares', () => {
    for (const r of sheet.rows)
      for (const f of [r.found, r.left]) {
        if (!f) continue;
        const u = Math.sqrt(f.budget.lines.reduce((s, l) => s + l.u * l.u, 0));
        expect(f.U).toBeCloseTo(f.budget.k * u, 6);
      }
  });

  it('tells what every turn did and the net of them', () => {
    expect(sheet.turns.length).toBe(job.adjustments);
    for (const t of sheet.turns) {
      expect(t.advised).toBe(true);
      expect(t.effects.map((e) => e.setting)).toEqual(['cutOut', 'cutIn']);
    }
    expect(sheet.net[0]?.text).toMatch(/clockwise$/);
  });

  it('is plain data: it survives being stored', () => {
    expect(JSON.parse(JSON.stringify(sheet))).toEqual(sheet);
  });
});

describe('what is expected next', () => {
  const turned = (): JobView => {
    const h = new HandLog();
    h.add(startedOf(planOf()));
    h.read('cutIn', 38, 'found-cut-in');
    h.read('cutOut', 58, 'found-cut-out');
    h.add({ kind: 'turn', adjuster: 'range', amount: 2, text: '2', at: { key: 'turn-range', pass: '1.1' } });
    return new FoldedJob(wellSwitch, h.log.state);
  };
  const step = {
    kind: 'read',
    key: 'k',
    title: 'T',
    say: 'Read it.',
    setting: 'cutOut',
    slot: 'system',
    catch: 'high',
    watched: true,
  } as const;

  it('predicts only what was moved and not read since', () => {
    expect(predicted(wellSwitch, turned(), 'cutOut')?.mean).toBeGreaterThan(psi(60));
    expect(predicted(wellSwitch, turned(), 'precharge')).toBeUndefined();
  });

  it('says it, and where to stop the pump', () => {
    const move = sayStep(wellSwitch, turned(), step);
    expect(move.expect).toMatch(/^Expect 6\d\.\d.±.\d\.\d.psi\.$/);
    // The relief may open 3 % under its mark.
    expect(move.stopAt).toBeCloseTo(psi(81) * 0.97, -2);
  });

  it('narrows what it expects once the device has answered', () => {
    const before = turned();
    const h = new HandLog();
    h.add(startedOf(planOf()));
    h.read('cutIn', 38, 'found-cut-in');
    h.read('cutOut', 58, 'found-cut-out');
    h.add({ kind: 'turn', adjuster: 'range', amount: 1, text: '1', at: { key: 'turn-range', pass: '1.1' } });
    h.read('cutOut', 60.5, 'adjust-cut-out', 'adjust', '1.1');
    h.read('cutIn', 40.5, 'adjust-cut-in', 'adjust', '1.1');
    h.add({ kind: 'turn', adjuster: 'range', amount: 1, text: '1', at: { key: 'turn-range', pass: '1.2' } });
    const after = predicted(wellSwitch, new FoldedJob(wellSwitch, h.log.state), 'cutOut');
    const first = predicted(wellSwitch, before, 'cutOut');
    if (!after || !first) throw new Error('nothing predicted');
    expect(after.high - after.low).toBeLessThan((first.high - first.low) / 2);
    expect(after.mean / psi(1)).toBeCloseTo(63, 0);
  });
});
