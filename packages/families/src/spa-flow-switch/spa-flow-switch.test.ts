import { describe, expect, it } from '@jest/globals';
import { HandLog } from '../testing.js';
import { draftOf, makePlan, sheetOf, startJob } from '@firm-needle/core/family';
import { FoldedJob, type JobView, offer, type Plan, type StartedBody } from '@firm-needle/core/procedure';
import { expectOk } from '@firm-needle/core/result';
import { ScriptedTechnician, type ScriptedJob } from '@firm-needle/core/script';
import { family as spa } from './index.js';
import { contradiction, edgeAt, position } from './state.js';

const planOf = (variant = 'two-speed', school = 'middle'): Plan => ({
  ...makePlan(spa, draftOf(spa, variant, {}), 1),
  school,
});
const startedOf = (plan: Plan): StartedBody =>
  expectOk(
    startJob(spa, {
      plan,
      site: { id: 's', name: 'Test', altitude_m: 10 },
      control: { id: 'c', name: 'Switch', equipment: 'Heater' },
      technician: 'T',
      permits: ['mains'],
      gauges: {},
      rule: 'guarded',
      source: 'simulated rig',
    }),
  );
const scripted = (plan: Plan, faults: readonly string[], seed: number): ScriptedJob =>
  new ScriptedTechnician(spa, spa.rig.create({ plan, seed, ambient: 101325, faults }), startedOf(plan)).run();
const codes = (view: JobView): readonly string[] => spa.findings(view).map((f) => f.code);
const SEEDS = [2, 9, 31, 77];

describe('spa flow switch, on its rig', () => {
  it.each([
    ['', 'left-as-found', undefined],
    ['drifted-high', 'set', undefined],
    ['drifted-low', 'set', undefined],
    ['dirty-filter', 'set', 'was-filter'],
    ['shut-valve', 'set', 'was-valve'],
    ['air-lock', 'set', 'was-air'],
    ['stuck-closed', 'replace', 'stuck-closed'],
    ['slow-decay', 'replace', 'opens-late'],
  ])('%s ends as %s', (fault, outcome, finding) => {
    for (const seed of SEEDS) {
      const job = scripted(planOf(), fault ? [fault] : [], seed);
      expect(job.unsafe).toEqual([]);
      expect(job.outcome).toBe(outcome);
      if (finding) expect(codes(job.view)).toContain(finding);
      if (outcome === 'set') {
        // Between the true edges, and no nearer to one than to the other by more than a few clicks.
        const { closes = 0, opens = 0 } = job.truth;
        expect(position(job.view)).toBeLessThan(closes);
        expect(position(job.view)).toBeGreaterThan(opens);
        expect(Math.abs(position(job.view) - (closes + opens) / 2)).toBeLessThan(3);
      }
    }
  });

  it('leaves alone what works, where the first place that works is enough', () => {
    for (const seed of SEEDS) {
      const job = scripted(planOf('two-speed', 'first'), [], seed);
      expect(job.outcome).toBe('left-as-found');
      expect(job.adjustments).toBe(0);
    }
  });

  it('has no high speed to prove with one speed', () => {
    const job = scripted(planOf('one-speed'), ['drifted-high'], 5);
    expect(job.outcome).toBe('set');
    expect([...job.view.state.taken.keys()].some((k) => k.includes('high'))).toBe(false);
  });

  it('tells the window, the margin and the delay on the sheet, in clicks and seconds', () => {
    const job = scripted(planOf(), ['drifted-high'], 4);
    const rows = Object.fromEntries(sheetOf(spa, job.view).rows.map((r) => [r.setting, r]));
    expect(rows['window']).toMatchObject({ unit: 'click', left: { verdict: { word: 'in' } } });
    expect(rows['margin']?.found?.verdict?.word).toBe('out');
    expect(rows['margin']?.left?.verdict?.word).toBe('in');
    expect(rows['delay']).toMatchObject({ unit: 's', left: { verdict: { word: 'in' } } });
    expect(rows['delay']?.left?.U).toBeCloseTo(0.3, 2);
  });

  it('has the edges where the rig has them', () => {
    const job = scripted(planOf(), ['drifted-low'], 8);
    expect(Math.abs((edgeAt(job.view, 'closes') ?? NaN) - (job.truth['closes'] ?? NaN))).toBeLessThanOrEqual(
      1,
    );
    expect(Math.abs((edgeAt(job.view, 'opens') ?? NaN) - (job.truth['opens'] ?? NaN))).toBeLessThanOrEqual(1);
  });
});

describe('what the observations say', () => {
  const start = (): HandLog => {
    const h = new HandLog();
    h.add(startedOf(planOf()));
    return h;
  };
  const viewOf = (h: HandLog): FoldedJob => new FoldedJob(spa, h.log.state);
  const seek = (h: HandLog, key: string, amount: number, reached = true) =>
    h.add({
      kind: 'turn',
      adjuster: 'wheel',
      amount,
      text: '',
      reached,
      at: { key, pass: '1', phase: 'adjust' },
    });
  const saw = (h: HandLog, key: string, answer: string, seconds?: number, phase: 'found' | 'left' = 'left') =>
    h.add({
      kind: 'observe',
      answer,
      at: { key, pass: '1', phase },
      ...(seconds === undefined ? {} : { seconds }),
    });
  const edges = (h: HandLog, width: number): void => {
    seek(h, 'edge-closes', -4);
    seek(h, 'edge-opens-back', -(width + 3));
    seek(h, 'edge-opens', 3);
  };

  it.each([
    [3.6, 'in'],
    [3.8, 'near'],
    [4.2, 'near'],
    [4.4, 'out'],
  ])('judges %s s by hand as %s', (seconds, word) => {
    const h = start();
    saw(h, 'prove-off', 'opened', seconds);
    expect(viewOf(h).verdict('delay', 'left')?.word).toBe(word);
  });

  it('asks to look again where an answer contradicts an earlier one, and keeps both', () => {
    const h = start();
    edges(h, 20);
    h.add({ kind: 'turn', adjuster: 'wheel', amount: 10, text: '', at: { key: 'middle', pass: '1' } });
    saw(h, 'prove-low', 'open');
    expect(contradiction(viewOf(h))).toEqual({ open: -14, closed: -4 });
    expect(codes(viewOf(h))).toContain('contradiction');
    saw(h, 'prove-low-again', 'open');
    expect(spa.recommend(viewOf(h)).outcome).toBe('replace');
    expect(viewOf(h).state.observations).toHaveLength(2);
  });

  it('calls a window of a few clicks low flow, not the switch', () => {
    const h = start();
    edges(h, 4);
    expect(codes(viewOf(h))).toContain('low-flow');
    expect(spa.recommend(viewOf(h)).outcome).toBe('unfinished');
  });

  it('does not let a board that ignores its switch be set', () => {
    const h = start();
    saw(h, 'message', 'stays');
    expect(spa.recommend(viewOf(h))).toMatchObject({ outcome: 'replace' });
  });

  it('wants everything seen again after the wheel was moved', () => {
    const h = start();
    saw(h, 'found-low', 'closed', undefined, 'found');
    saw(h, 'found-high', 'closed', undefined, 'found');
    saw(h, 'found-off', 'opened', 1.2, 'found');
    expect(spa.unproved(viewOf(h))).toEqual([]);
    edges(h, 20);
    expect(spa.unproved(viewOf(h)).map((f) => f.code)).toEqual(['low-due', 'high-due', 'off-due']);
  });

  it('asks for the cautions first and never for a meter on a lead that is still on', () => {
    const view = viewOf(start());
    const now = offer(spa.procedure(view.plan), view).now;
    expect(now?.step.key).toBe('cautions');
    expect(now?.step.cautions).toEqual(spa.cautions.map((c) => c.key));
    expect(spa.cautions.find((c) => c.key === 'bridge')?.text).toMatch(/never bridged/);
  });
});
