import { describe, expect, it } from '@jest/globals';
import { family as wellSwitch } from '../well-switch/index.js';
import { ambientOf, chooseGauges, gaugeDoubt, startJob } from '@firm-needle/core/family';
import type { Gauge } from '@firm-needle/core/gauge';
import { FoldedJob, offer } from '@firm-needle/core/procedure';
import { waterHead } from '@firm-needle/core/reckon';
import { expectOk, type Result } from '@firm-needle/core/result';
import { AIR, HandLog, planOf, psi, startedOf, WATER } from '../testing.js';

const view = (h: HandLog): FoldedJob => new FoldedJob(wellSwitch, h.log.state);
const code = (r: Result<unknown>): string => (r.ok ? 'ok' : r.refusal.code);
const zero = (h: HandLog, before = 0, key = 'zero-system'): void => {
  const value = { text: String(before), unit: 'psi', value: psi(before) };
  h.add({
    kind: 'zero',
    slot: 'system',
    before: value,
    after: value,
    handling: 'carried',
    at: { key, pass: '1' },
  });
};

describe('corrections of a reading', () => {
  it('takes the water between gauge and point off, and doubts it by the height', () => {
    const h = new HandLog();
    h.add(startedOf(planOf(), { heads_m: { system: 2 } }));
    zero(h);
    h.read('cutIn', 46, 'found-cut-in');
    const f = view(h).figure('cutIn', 'found');
    // Two metres of water at 20 °C are 2.84 psi.
    expect((f?.value ?? 0) / psi(1)).toBeCloseTo(46 - 2.84, 2);
    const head = f?.budget.lines.find((l) => l.name === 'head');
    expect((head?.u ?? 0) * Math.sqrt(3)).toBeCloseTo(expectOk(waterHead(0.02)), 6);
  });

  it('weighs no head on an air gauge', () => {
    const h = new HandLog();
    h.add(startedOf(planOf(), { heads_m: { air: 2 } }));
    h.read('precharge', 40, 'found-precharge');
    const f = view(h).figure('precharge', 'found');
    expect((f?.value ?? 0) / psi(1)).toBeCloseTo(40, 6);
    expect(f?.budget.lines.some((l) => l.name === 'head')).toBe(false);
  });

  it('takes a checked gauge’s own error off, and trusts it more', () => {
    const checked: Gauge = {
      ...WATER,
      check: {
        day: '2030-01-01',
        points: [20, 100].map((at) => ({ at: psi(at), error: psi(0.6), u: psi(0.1) })),
      },
    };
    const figure = (gauge: Gauge) => {
      const h = new HandLog();
      h.add(startedOf(planOf(), { gauges: { system: gauge, air: AIR } }));
      zero(h);
      h.read('cutIn', 44, 'found-cut-in');
      return view(h).figure('cutIn', 'found');
    };
    expect((figure(checked)?.value ?? 0) / psi(1)).toBeCloseTo(43.4, 6);
    expect(figure(checked)?.budget.U).toBeLessThan(figure(WATER)?.budget.U ?? 0);
    expect(figure(checked)?.budget.lines[0]?.name).toBe('span');
  });

  it('weighs a water column at the temperature its gauge declares', () => {
    const column: Gauge = { ...WATER, kind: 'u-tube', column_C: 20 };
    const h = new HandLog();
    h.add(startedOf(planOf(), { gauges: { system: column, air: AIR } }));
    zero(h);
    h.read('cutIn', 44, 'found-cut-in');
    expect((view(h).figure('cutIn', 'found')?.value ?? 0) / psi(1)).toBeCloseTo(44 * 0.9982, 2);
  });
});

describe('a gauge changed in mid-job', () => {
  it('is zeroed before it is read, and its readings are judged by it', () => {
    const coarse: Gauge = {
      ...WATER,
      id: 'c',
      label: 'T-9',
      division: 5,
      accuracy: { standard: 'B40.100', grade: 'C' },
    };
    const h = new HandLog();
    h.add(startedOf(planOf()));
    h.add({ kind: 'done', at: { key: 'cautions', pass: '1' }, sets: { cautions: 'read' } });
    zero(h);
    const air = { text: '0', unit: 'psi', value: 0 };
    h.add({
      kind: 'zero',
      slot: 'air',
      before: air,
      after: air,
      handling: 'carried',
      at: { key: 'zero-air', pass: '1' },
    });
    h.add({
      kind: 'done',
      at: { key: 'fit-gauge', pass: '1' },
      sets: { gauge: 'fitted', power: 'on', house: 'open', drain: 'closed' },
    });
    const procedure = wellSwitch.procedure(planOf());
    expect(offer(procedure, view(h)).now?.step.kind).toBe('read');
    h.read('cutIn', 43, 'found-cut-in', 'found', '1.1');
    const fine = view(h).figure('cutIn', 'found')?.budget.U ?? 0;
    h.add({ kind: 'gauge', slot: 'system', gauge: coarse, reason: 'the first was dropped' });
    const next = offer(procedure, view(h)).now;
    expect(next?.step).toMatchObject({ kind: 'zero', slot: 'system' });
    zero(h, 1, next?.step.key);
    expect(offer(procedure, view(h)).now?.step.kind).toBe('read');
    expect(view(h).zero('system')?.offset).toBe(psi(1));
    h.read('cutIn', 44, 'found-cut-in', 'found', '1.2');
    const values = view(h)
      .readings('cutIn')
      .map((r) => r.value / psi(1));
    // The first keeps the zero of the gauge that took it.
    expect(values[0]).toBeCloseTo(43, 6);
    expect(values[1]).toBeCloseTo(43, 6);
    expect(view(h).figure('cutIn', 'found')?.budget.U).toBeGreaterThan(2 * fine);
  });
});

describe('before a job', () => {
  const start = (gauges: Record<string, Gauge>, over: object = {}) =>
    startJob(wellSwitch, {
      plan: planOf(),
      site: { id: 's', name: 'A site', altitude_m: 300 },
      control: { id: 'c', name: 'A switch', equipment: 'A well' },
      technician: 'A technician',
      permits: [],
      gauges,
      rule: 'guarded',
      today: '2030-06-01',
      ...over,
    });
  const failed: Gauge = { ...WATER, standing: { state: 'failed', day: '2030-05-01', because: 'Sprung.' } };
  const restricted: Gauge = {
    ...WATER,
    standing: { state: 'restricted', day: '2030-05-01', because: 'To 60 psi.' },
  };

  it('takes a gauge that failed, or is restricted or overdue, only with a reason', () => {
    expect(code(start({ system: failed, air: AIR }))).toBe('gauge-failed');
    expect(code(start({ system: restricted, air: AIR }))).toBe('gauge-restricted');
    expect(code(start({ system: { ...WATER, due: '2030-05-31' }, air: AIR }))).toBe('gauge-overdue');
    const told = start({ system: failed, air: AIR }, { gaugeReasons: { system: 'none other here' } });
    expect(expectOk(told).gaugeReasons).toEqual({ system: 'none other here' });
    expect(gaugeDoubt(WATER, '2030-06-01')).toBeUndefined();
  });

  it('puts a barometer before the altitude, and refuses one that is none', () => {
    const site = { altitude_m: 1120 };
    expect(expectOk(ambientOf({ ...site, barometer_Pa: 90_100 }))).toBe(90_100);
    expect(expectOk(ambientOf(site))).toBeCloseTo(88_560, -2);
    expect(code(ambientOf({ ...site, barometer_Pa: 9_010 }))).toBe('barometer');
    expect(code(start({ system: WATER, air: AIR }, { heads_m: { system: 900 } }))).toBe('head');
  });

  it('ranks what is at hand for each place: the sound first, the doubtful last, and says what to borrow', () => {
    const bench: Gauge = {
      ...WATER,
      id: 'b',
      label: 'B',
      kind: 'bench',
      accuracy: { standard: 'stated', percentOfSpan: 0.05 },
    };
    const coarse: Gauge = {
      ...WATER,
      id: 'c',
      label: 'C',
      division: 5,
      accuracy: { standard: 'B40.100', grade: 'D' },
    };
    const choose = (gauges: readonly Gauge[]) => chooseGauges(wellSwitch, planOf(), gauges, '2030-06-01');
    const [water] = choose([coarse, failed, WATER, bench]);
    // A bench instrument stays at the bench; a failed gauge comes last whatever it could tell.
    expect(water?.ranked.map((r) => r.gauge.id)).toEqual(['w', 'c', 'w']);
    expect(water?.borrow).toBeUndefined();
    const [poor] = choose([coarse]);
    expect(poor?.ranked[0]?.fitness).toBe('cannot-tell');
    expect(poor?.borrow?.text).toMatch(/0–\d+ psi, grade/);
  });
});
