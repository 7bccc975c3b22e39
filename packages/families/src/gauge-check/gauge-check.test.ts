import { describe, expect, it } from '@jest/globals';
import { HandLog } from '../testing.js';
import { objections, sheetOf } from '@firm-needle/core/family';
import { FoldedJob, type JobView, type JobEvent, type Plan } from '@firm-needle/core/procedure';
import { toCanonical } from '@firm-needle/core/quantity';
import { careful, type Manner } from '@firm-needle/core/script';
import { family as gaugeCheck } from './index.js';
import { expectedSpan, restOf } from './judge.js';
import { POINTS } from './points.js';
import { checkPlan, checkStarted, DRAUGHT, HIGH_SIDE, scriptedCheck } from './testing.js';

const psi = (n: number): number => toCanonical(n, 'psi');
const codes = (view: JobView): readonly string[] => gaugeCheck.findings(view).map((f) => f.code);
const SEEDS = [3, 14, 15];

describe('gauge check, on its rig', () => {
  const cases: readonly (readonly [string, Plan, typeof HIGH_SIDE, string, string, string | undefined])[] = [
    ['zero', checkPlan('zero'), HIGH_SIDE, '', 'left-as-found', undefined],
    ['zero', checkPlan('zero'), HIGH_SIDE, 'zero-off', 'set', undefined],
    ['zero', checkPlan('zero'), HIGH_SIDE, 'bent-pointer', 'replace', 'zero-unfit'],
    ['zero', checkPlan('zero'), HIGH_SIDE, 'sticky', 'left-as-found', 'sticks'],
    ['span', checkPlan('span-r410a'), HIGH_SIDE, '', 'left-as-found', undefined],
    ['span', checkPlan('span-r410a'), HIGH_SIDE, 'sprung-tube', 'replace', 'span-out'],
    ['span', checkPlan('span-r410a'), HIGH_SIDE, 'air-in-hose', 'left-as-found', 'air-in-hose'],
    ['span', checkPlan('span-r410a'), HIGH_SIDE, 'sun', 'left-as-found', undefined],
    [
      'set at span',
      checkPlan('span-r410a', HIGH_SIDE, 'set-at-span'),
      HIGH_SIDE,
      'sprung-tube',
      'restricted',
      'zero-spoiled',
    ],
    ['comparison', checkPlan('comparison'), HIGH_SIDE, '', 'left-as-found', undefined],
    ['comparison', checkPlan('comparison'), HIGH_SIDE, 'sprung-tube', 'replace', 'points-out'],
    ['comparison', checkPlan('comparison'), HIGH_SIDE, 'sticky', 'left-as-found', 'hysteresis-wide'],
    ['column', checkPlan('column', DRAUGHT), DRAUGHT, '', 'left-as-found', undefined],
    ['column', checkPlan('column', DRAUGHT), DRAUGHT, 'sprung-tube', 'replace', 'points-out'],
  ];
  it.each(cases)('%s: %#', (_, plan, gauge, fault, outcome, finding) => {
    for (const seed of SEEDS) {
      const job = scriptedCheck(plan, fault ? [fault] : [], seed, gauge);
      expect(job.unsafe).toEqual([]);
      expect(job.outcome).toBe(outcome);
      if (finding) expect(codes(job.view)).toContain(finding);
    }
  });

  it('is read once more at a point that is out, and not condemned for one figure', () => {
    const plan = checkPlan('comparison');
    const readsAt = (view: JobView, key: string): number =>
      view.state.reads.filter((r) => r.body.at.key === key).length;
    const points = POINTS.map((p) => p.id);
    for (const wrong of [0, 3, 4, 8])
      for (const by of [-40, 25]) {
        let n = 0;
        // What is read of the gauge under test, its zeros left out: one of them is of another figure.
        const reads: Manner['reads'] = (shown) => {
          if (Math.abs(shown.value) < psi(50) || n++ !== wrong) return shown;
          const text = String(Number(shown.text) + by);
          return { ...shown, text, value: toCanonical(Number(text), 'psi') };
        };
        const { outcome, view } = scriptedCheck(plan, [], 3, HIGH_SIDE, { ...careful, reads });
        const misread = points[wrong] ?? '';
        expect({ wrong, by, outcome, codes: codes(view) }).toEqual({
          wrong,
          by,
          outcome: 'left-as-found',
          codes: [],
        });
        // Read anew there until two agree, and nowhere else.
        expect(points.map((id) => readsAt(view, `again-${id}`))).toEqual(
          points.map((id) => (id === misread ? 2 : 0)),
        );
      }
    // One that was misread below two that are surely out takes nothing of what is good below them.
    let n = 0;
    const high: Manner['reads'] = (shown) => {
      if (Math.abs(shown.value) < psi(50)) return shown;
      const k = n++;
      // Rising: 80 and 100 % are each out, twice alike; then falling, once more 80, and 20 % of another figure at first.
      const text = String(Number(shown.text) + (shown.value > psi(370) ? 20 : k === 10 ? 60 : 0));
      return { ...shown, text, value: toCanonical(Number(text), 'psi') };
    };
    const part = scriptedCheck(plan, [], 3, HIGH_SIDE, { ...careful, reads: high });
    expect(readsAt(part.view, 'again-down1')).toBe(2);
    expect({ outcome: part.outcome, because: gaugeCheck.recommend(part.view).because }).toEqual({
      outcome: 'restricted',
      because: expect.stringContaining('300.0 psi'),
    });
    // Two points that are surely out tell enough, but for what lies below both: the rest are read once.
    const { outcome, view } = scriptedCheck(plan, ['sprung-tube'], 3);
    expect(outcome).toBe('replace');
    expect(points.reduce((sum, id) => sum + readsAt(view, `again-${id}`), 0)).toBe(3);
  });

  it('proves nothing against a better gauge that does not come to zero, and says so', () => {
    const job = scriptedCheck(checkPlan('comparison'), [], 3);
    expect(job.outcome).toBe('left-as-found');
    const off = { text: '9', unit: 'psi', value: psi(9) };
    const h = new HandLog();
    for (const { body } of job.log.events)
      h.add(body.kind === 'zero' && body.slot === 'reference' ? { ...body, before: off, after: off } : body);
    const view = new FoldedJob(gaugeCheck, h.log.state);
    expect(gaugeCheck.recommend(view)).toMatchObject({
      outcome: 'unfinished',
      because: expect.stringContaining('The better gauge proves nothing'),
    });
    expect(objections(gaugeCheck, view, 'left-as-found').map((f) => f.code)).toContain('comes-to-less');
    expect(objections(gaugeCheck, view, 'set').map((f) => f.code)).toContain('gauge-unfit');
    // The same log as it was proves what it says.
    expect(objections(gaugeCheck, job.view as FoldedJob, 'left-as-found')).toEqual([]);
  });

  it('waits for a cylinder out of the sun until it is at rest', () => {
    const job = scriptedCheck(checkPlan('span-r410a'), ['sun'], 8);
    expect(job.view.state.taken.has('to-shade')).toBe(true);
    const error = job.view.figure('error', 'found');
    // The truth: only the gauge's own slope is wrong, by less than its class.
    const truth = (job.truth['slope'] ?? 0) * psi(220);
    expect(Math.abs((error?.value ?? 0) - truth)).toBeLessThan(error?.budget.U ?? 0);
  });

  it('measures a gauge’s own error within its stated doubt, four times in five and more', () => {
    let inside = 0;
    for (let seed = 100; seed < 130; seed++) {
      const job = scriptedCheck(checkPlan('span-r410a'), [], seed);
      const f = job.view.figure('error', 'found');
      const shown = job.view.figure('span', 'found')?.value ?? 0;
      const truth = (job.truth['slope'] ?? 0) * shown;
      if (Math.abs((f?.value ?? NaN) - truth) <= (f?.budget.U ?? 0)) inside++;
    }
    expect(inside).toBeGreaterThanOrEqual(27);
  });
});

/** A span check written by hand, in psi and °F. */
function byHand(
  over: { air?: number; surface?: readonly number[]; shown?: readonly number[]; zero?: number } = {},
) {
  const log = new HandLog();
  const plan = checkPlan('span-r410a');
  log.add(checkStarted(plan));
  const typed = (n: number, unit: string) => ({ text: String(n), unit, value: toCanonical(n, unit) });
  const at = (key: string, pass = '1') => ({ key, pass, phase: 'found' as const });
  const read = (setting: string, slot: string, n: number, unit: string, pass = '1'): JobEvent =>
    log.add({ kind: 'read', setting, slot, value: typed(n, unit), state: 'typed', at: at(setting, pass) });
  const zero = typed(over.zero ?? 0, 'psi');
  log.add({ kind: 'zero', slot: 'test', before: zero, after: zero, handling: 'carried', at: at('zero') });
  read('air', 'thermometer', over.air ?? 71.5, 'degF');
  (over.surface ?? [71.2, 71.3]).forEach((t, i) => read('cylinder', 'thermometer', t, 'degF', `1.${i + 1}`));
  (over.shown ?? [207.5, 207.5]).forEach((p, i) => read('span', 'test', p, 'psi', `1.${i + 1}`));
  return { log, view: new FoldedJob(gaugeCheck, log.log.state) };
}

describe('gauge check, by hand', () => {
  it('expects what the equation gives and says how far it can tell', () => {
    const { view } = byHand();
    const f = view.figure('error', 'found');
    expect((f?.value ?? 0) / psi(1)).toBeCloseTo(1.1, 0);
    expect(f?.budget.lines.map((l) => l.name)).toEqual(
      expect.arrayContaining(['temperature', 'reference', 'resolution', 'zero', 'repeatability']),
    );
    // The gauge's own class has no place in the doubt about its own error.
    expect(f?.budget.lines.some((l) => l.name === 'accuracy')).toBe(false);
    expect(gaugeCheck.recommend(view).outcome).toBe('left-as-found');
  });

  it('uses the cylinder and not the air where they differ, warns, and doubts more', () => {
    const level = byHand().view.figure('error', 'found');
    const { view } = byHand({ air: 75 });
    const f = view.figure('error', 'found');
    expect(f?.value).toBeCloseTo(level?.value ?? NaN, 6);
    expect(f?.budget.U).toBeGreaterThan(1.3 * (level?.budget.U ?? 0));
    expect(codes(view)).toContain('air-differs');
  });

  it('says that a cylinder is not at rest while its surface changes', () => {
    const { view } = byHand({ surface: [76, 74.5, 73.2] });
    expect(codes(view)).toContain('not-at-rest');
  });

  it('takes the zero off before it judges the span', () => {
    const level = byHand().view.figure('error', 'found')?.value ?? NaN;
    const off = byHand({ zero: 2.5 }).view.figure('error', 'found')?.value ?? NaN;
    expect((level - off) / psi(1)).toBeCloseTo(2.5, 6);
  });

  it('notices air in the hose by a reading that falls when it is bled', () => {
    expect(codes(byHand({ shown: [215, 207.5, 207.5] }).view)).toContain('air-in-hose');
  });

  it('cannot be signed as fit when the span is wrong or was not read', () => {
    const wrong = byHand({ shown: [235, 235] }).view;
    expect(gaugeCheck.recommend(wrong).outcome).toBe('replace');
    expect(gaugeCheck.unproved(wrong).map((f) => f.code)).toContain('not-fit');
    const none = byHand({ shown: [] }).view;
    expect(gaugeCheck.recommend(none).outcome).toBe('unfinished');
    expect(gaugeCheck.unproved(none).map((f) => f.code)).toContain('span-missing');
  });

  it('restricts a gauge whose span looks wrong by less than the check can tell', () => {
    const { view } = byHand({ shown: [212.5, 212.5] });
    expect(view.verdict('error', 'found')?.word).toBe('near');
    expect(gaugeCheck.recommend(view)).toMatchObject({ outcome: 'restricted' });
    expect(gaugeCheck.unproved(view).map((f) => f.code)).toContain('not-fit');
  });

  it('says its figures in the unit of the gauge under test', () => {
    const sheet = sheetOf(gaugeCheck, byHand().view);
    expect(sheet.rows.map((r) => r.unit)).toEqual(['degF', 'degF', 'psi', 'psi']);
    const column = scriptedCheck(checkPlan('column', DRAUGHT), [], 4, DRAUGHT);
    expect(sheetOf(gaugeCheck, column.view).rows.every((r) => r.unit === 'inH2O')).toBe(true);
  });

  it('hands on its errors as evidence about the gauge', () => {
    const compared = scriptedCheck(checkPlan('comparison'), ['zero-off'], 6);
    const [e] = gaugeCheck.evidence?.(compared.view) ?? [];
    expect(e?.errors).toHaveLength(9);
    expect(e?.raises).toMatch(/clockwise/);
  });
});

describe('a worked example of the trade [common practice, no source]', () => {
  it('accepts 250 psi at 83 °F, where a printed chart says 245, and uses the cylinder’s 83.6 °F, not the air’s 86.3', () => {
    const plain = byHand({ air: 83, surface: [83, 83], shown: [250, 250] }).view;
    expect((expectedSpan(plain)?.value ?? 0) / psi(1)).toBeGreaterThan(245);
    expect((expectedSpan(plain)?.value ?? 0) / psi(1)).toBeLessThan(250);
    expect(gaugeCheck.recommend(plain).outcome).toBe('left-as-found');
    const { view } = byHand({ air: 86.3, surface: [83.6, 83.6], shown: [250, 250] });
    expect(restOf(view)?.T).toBeCloseTo(toCanonical(83.6, 'degF'), 6);
    expect(codes(view)).toContain('air-differs');
    expect(view.verdict('error', 'found')?.word).not.toBe('out');
  });
});

describe('plan of a gauge check', () => {
  const refusals = (variant: string, gauge: typeof HIGH_SIDE): readonly string[] =>
    gaugeCheck
      .check(checkPlan(variant, gauge), 101325)
      .filter((f) => f.severity === 'refuse')
      .map((f) => f.code);

  it('takes the plate from the gauge', () => {
    const plan = checkPlan('comparison');
    expect(plan.values['up3']).toBeCloseTo(psi(300), 3);
    expect((plan.limits['up3']?.upper ?? 0) - psi(300)).toBeCloseTo(psi(5), 3);
    expect(refusals('comparison', HIGH_SIDE)).toEqual([]);
  });

  it('refuses a cylinder that the scale cannot hold, and a column as high as a house', () => {
    expect(refusals('span-r410a', { ...HIGH_SIDE, upper: 200 })).toContain('cylinder-above-scale');
    expect(refusals('span-r134a', { ...HIGH_SIDE, upper: 200 })).toEqual([]);
    expect(refusals('column', HIGH_SIDE)).toContain('column-too-short');
    expect(refusals('column', DRAUGHT)).toEqual([]);
  });

  it('refuses a scale that ends at or below its beginning, and a plate that lacks one', () => {
    expect(refusals('zero', { ...HIGH_SIDE, lower: 30, upper: 30 })).toContain('scale-upside-down');
    const empty = gaugeCheck.check({ ...checkPlan('zero'), plate: {} }, 101325);
    expect(empty.map((f) => f.about)).toContain('fullScale');
  });

  it('warns where the cylinder says little of the scale', () => {
    const warned = gaugeCheck.check(checkPlan('span-r134a'), 101325);
    expect(warned.map((f) => f.code)).toContain('cylinder-low-on-scale');
  });
});
