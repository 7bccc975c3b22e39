// Signed results as the life of each setting: what counts, under which device, in which order.
import { describe, expect, it } from '@jest/globals';
import { leaving, settingDrift } from '@firm-needle/core/history';
import type { FittedDevice, JobResult } from '../src/database/models.js';
import { lifeOf } from '../src/due/life.js';

const figure = (value: number) => ({ value, U: 1, n: 3, budget: { k: 2, lines: [] } });
const row = (setting: string, found?: number, left?: number) => ({
  setting,
  title: `The ${setting}`,
  unit: 'psi',
  dimension: 'pressure',
  step: 0.5,
  limits: {},
  due: false,
  ...(found === undefined ? {} : { found: figure(found) }),
  ...(left === undefined ? {} : { left: figure(left) }),
});
const result = (jobId: string, day: string, rows: readonly object[], over: object = {}): JobResult =>
  ({
    jobId,
    signedAt: new Date(`${day}T09:00:00Z`),
    objections: [],
    result: { rows },
    ...over,
  }) as unknown as JobResult;
const device = (id: string, fittedOn: string): FittedDevice => ({ id, fittedOn }) as unknown as FittedDevice;

describe('a life', () => {
  it('is each setting by itself, the oldest visit first, whatever order the results come in', () => {
    const life = lifeOf(
      [
        result('j3', '2030-05-01', [row('cutIn', 44, 43)]),
        result('j1', '2028-05-01', [row('cutIn', 40, 43), row('cutOut', 60)]),
        result('j2', '2029-05-01', [row('cutOut', 61, 62), row('cutIn', 43)]),
      ],
      [],
    );
    expect(life.map((s) => [s.setting, s.title, s.step])).toEqual([
      ['cutIn', 'The cutIn', 0.5],
      ['cutOut', 'The cutOut', 0.5],
    ]);
    expect(life[0]?.points.map((p) => [p.job, p.found, p.left])).toEqual([
      ['j1', 40, 43],
      ['j2', 43, undefined],
      ['j3', 44, 43],
    ]);
    expect(life[1]?.points.map((p) => p.day)).toEqual(['2028-05-01', '2029-05-01']);
  });

  it('counts nothing that was not proved, not signed, or not measured', () => {
    const life = lifeOf(
      [
        result('j1', '2028-05-01', [row('cutIn', 40, 43)], { objections: [{ code: 'x' }] }),
        result('j2', '2029-05-01', [row('cutIn', 41, 43)], { signedAt: null }),
        result('j3', '2030-05-01', [row('cutIn')]),
      ],
      [],
    );
    expect(life).toEqual([]);
  });

  it('has every visit under the device that was fitted on its day; the past before the first belongs to the first', () => {
    const visits = ['2027-05-01', '2028-05-01', '2029-05-01', '2029-06-01'].map((day, i) =>
      result(`j${i}`, day, [row('cutIn', 40 + i, 43)]),
    );
    const devices = [device('new', '2029-05-01'), device('old', '2028-01-01')];
    expect(lifeOf(visits, devices)[0]?.points.map((p) => p.device)).toEqual(['old', 'old', 'new', 'new']);
    expect(lifeOf(visits, [])[0]?.points.map((p) => 'device' in p)).toEqual([false, false, false, false]);
  });

  it('is what a drift is taken from: a device that goes up half a unit a year leaves above, and a new one begins again', () => {
    const visits = [0, 1, 2, 3, 4].map((i) =>
      result(`j${i}`, `${2026 + i}-05-01`, [row('cutIn', i === 0 ? 43 : 43.5 + (i % 2) * 0.02, 43)]),
    );
    const [own] = lifeOf(visits, [device('a', '2026-01-01')]);
    const drift = settingDrift(own?.points ?? []);
    expect(drift?.perYear).toBeCloseTo(0.51, 1);
    expect(drift && leaving(drift, { lower: 41, upper: 45 })).toMatchObject({
      sure: true,
      day: expect.stringMatching(/^203[34]/),
    });
    const [after] = lifeOf(visits, [device('a', '2026-01-01'), device('b', '2030-02-01')]);
    expect(settingDrift(after?.points ?? [])).toBeUndefined();
  });
});
