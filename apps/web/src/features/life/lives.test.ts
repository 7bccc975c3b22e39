import { describe, expect, it } from '@jest/globals';
import type { Life } from '@firm-needle/contract';
import type { Plan } from '@firm-needle/core/procedure';
import { toCanonical } from '@firm-needle/core/quantity';
import { chartOf, sayDrift, storiesOf, untilOf } from './lives.ts';

const psi = (n: number): number => toCanonical(n, 'psi');
const setting = (points: Life['settings'][number]['points'], id = 'cutIn'): Life['settings'][number] => ({
  setting: id,
  title: 'Cut-in',
  unit: 'psi',
  dimension: 'pressure',
  step: 0.5,
  points,
});
const life = (settings: Life['settings']): Life => ({
  reasons: [],
  settings,
  devices: [],
  gauges: [],
  findings: [],
  notes: [],
});
const plan = (lower: number, upper: number): Plan =>
  ({
    values: { cutIn: psi((lower + upper) / 2) },
    limits: { cutIn: { lower: psi(lower), upper: psi(upper) } },
  }) as unknown as Plan;
const yearly = (did: readonly number[], to = 43, device = 'a') =>
  [0, ...did].map((d, i) => ({
    day: `${2026 + i}-05-01`,
    device,
    job: `j${i}`,
    found: psi(to + d),
    left: psi(to),
  }));
const story = (points: Life['settings'][number]['points'], limits = [41, 45] as const) => {
  const [s] = storiesOf(life([setting(points)]), plan(...limits));
  if (!s) throw new Error('no story');
  return s;
};

describe('what a life says', () => {
  it('is only of settings that the plan aims at or bounds', () => {
    const both = life([setting(yearly([1])), setting(yearly([1]), 'inlet')]);
    expect(storiesOf(both, plan(41, 45)).map((s) => s.life.setting)).toEqual(['cutIn']);
    expect(storiesOf(both, null)).toEqual([]);
  });

  it('is no drift with one visit, a bare rate with two or three', () => {
    expect(sayDrift(story(yearly([])))).toMatch(/^Two visits to the same device are needed/);
    expect(sayDrift(story(yearly([0.6])))).toMatch(
      /^0\.6\d? psi a year, from one time between visits: too few/,
    );
    expect(sayDrift(story(yearly([-0.6, -0.7])))).toMatch(
      /^−0\.6\d? psi a year, from 2 times between visits: too few/,
    );
  });

  it('is when it leaves its limits, where it surely drifts; and that it does not, where it only scatters', () => {
    expect(sayDrift(story(yearly([0.5, 0.52, 0.48, 0.5])))).toMatch(
      /a year, from 4 times between visits\. It leaves its limits about April 2034, not before/,
    );
    expect(sayDrift(story(yearly([0.5, -0.6, 0.4, -0.5])))).toMatch(/no sure drift/);
    expect(sayDrift(story(yearly([0.01, 0.011, 0.009, 0.01])))).toMatch(/ten years and more/);
  });
});

describe('the chart of a life', () => {
  it('has what was found and what was left, the time between dotted, and no line from found to left', () => {
    const marks = chartOf(story(yearly([1, 0.8])), '2029-05-01');
    expect(marks.filter((m) => m.found !== undefined).map((m) => m.found?.toFixed(1))).toEqual([
      '43.0',
      '44.0',
      '43.8',
    ]);
    expect(marks.filter((m) => m.left !== undefined)).toHaveLength(3);
    // The dotted line is broken once a visit.
    const gaps = marks.filter((m) => m.went === undefined && m.shade === undefined);
    expect(gaps).toHaveLength(3);
    expect(marks.map((m) => m.t)).toEqual([...marks.map((m) => m.t)].sort((a, b) => a - b));
  });

  it('breaks where another device was fitted', () => {
    const points = [
      ...yearly([1]),
      { day: '2028-05-01', device: 'b', job: 'j9', found: psi(30), left: psi(43) },
    ];
    const marks = chartOf(story(points), '2029-05-01');
    const at = Date.parse('2028-05-01');
    expect(
      marks.some((m) => m.t < at && m.t > at - 10 && m.went === undefined && m.found === undefined),
    ).toBe(true);
  });

  it('shades where it will be found only once there are visits enough, wider the farther off', () => {
    expect(chartOf(story(yearly([1, 0.8])), '2030-05-01').some((m) => m.shade)).toBe(false);
    const shade = chartOf(story(yearly([1, 0.8, 1.1])), '2033-05-01').flatMap((m) =>
      m.shade ? [m.shade[1] - m.shade[0]] : [],
    );
    expect(shade.length).toBeGreaterThan(4);
    expect(shade).toEqual([...shade].sort((a, b) => a - b));
  });

  it('reaches a year past the last visit, or as far as it is due', () => {
    const l = life([setting(yearly([1]))]);
    expect(untilOf(l, null)).toBe('2028-06-04');
    expect(untilOf(l, '2030-01-01')).toBe('2030-01-01');
    expect(untilOf(life([]), '2030-01-01')).toBe('2030-01-01');
  });
});
