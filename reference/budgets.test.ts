// The uncertainty that is stated, against what NumPy draws of the same measurements; and how often it holds.
import { describe, expect, it } from '@jest/globals';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  combine,
  linesOf,
  readingBudget,
  type Budget,
  type Gauge,
  type ZeroState,
} from '@firm-needle/core/gauge';
import { toCanonical } from '@firm-needle/core/quantity';
import { seeded } from '@firm-needle/core/rig';
import { decide } from '@firm-needle/core/verdict';
import { BUDGETS, HALF, LIMIT, USUAL } from './budgets.mjs';

interface Case {
  readonly n: number;
  readonly sd: number;
  readonly apart?: number;
  readonly drift?: number;
  readonly f?: number;
  readonly checked?: { readonly u: number; readonly w: number; readonly gap: number };
}
const psi = (n: number): number => toCanonical(n, 'psi');
const drawn = (
  JSON.parse(readFileSync(join(process.cwd(), 'reference/values/budgets.json'), 'utf8')) as {
    values: Record<string, number>;
  }
).values;
const cases = Object.entries(BUDGETS as Record<string, Case>);

const plain: Gauge = {
  id: 'T',
  label: 'T',
  kind: 'bourdon',
  unit: 'psi',
  lower: 0,
  upper: 100,
  division: 1,
  readable: 0.5,
  accuracy: { standard: 'EN 837-1', class: 1 },
};

/** The figure's budget as the product states it, of readings about a pressure. */
function stated(c: Case, one: readonly number[], other?: readonly number[]): Budget {
  const from = 50 - 100 * (c.checked ? c.checked.w * c.checked.gap : 0);
  const to = from + 100 * (c.checked?.gap ?? 0);
  const gauge: Gauge = c.checked
    ? {
        ...plain,
        check: {
          day: '2030-01-01',
          points: [from - 25, from, to].map((at) => ({ at: psi(at), error: 0, u: psi(c.checked?.u ?? 0) })),
        },
      }
    : plain;
  const { drift = 0, f = 0 } = c;
  const zero: ZeroState = {
    offset: 0,
    then: 0,
    drift: psi(drift),
    doubt: psi(drift) * Math.sqrt(f * (1 - f)),
    fit: true,
    because: '',
  };
  const budget = (readings: readonly number[]): Budget =>
    readingBudget({
      gauge,
      zero,
      place: 'system',
      readings: readings.map(psi),
      repeatability: { sd: psi(USUAL), dof: 20 },
    });
  return other ? combine([...budget(one).lines, ...linesOf(budget(other), -1)]) : budget(one);
}

/** One measurement drawn: its readings, and by how much the figure is off. */
function measured(c: Case, random: ReturnType<typeof seeded>) {
  const even = (half: number): number => half * (2 * random.next() - 1);
  const dial = c.checked
    ? c.checked.u * random.normal() +
      even((LIMIT / 4) * Math.min(1, 2 * c.checked.gap) * 4 * c.checked.w * (1 - c.checked.w))
    : even(LIMIT);
  const f = c.f ?? 0;
  const zero = even(HALF) + (c.drift ?? 0) * (f ** Math.exp(even(Math.log(4))) - f);
  const readings = (at: number, off: number): number[] => {
    const round = even(HALF);
    return Array.from({ length: c.n }, () => at + off + round + c.sd * random.normal());
  };
  const one = readings(50, dial + zero);
  if (c.apart === undefined) return { one, off: mean(one) - 50 };
  const other = readings(50 - 100 * c.apart, dial + LIMIT * (2 * c.apart * even(1) + 0.15 * even(1)) + zero);
  return { one, other, off: mean(one) - mean(other) - 100 * c.apart };
}
const mean = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0) / values.length;
const TRIES = 4000;

describe.each(cases)('%s', (name, c) => {
  const random = seeded(7);
  const tries = Array.from({ length: TRIES }, () => {
    const { one, other, off } = measured(c, random);
    return { off: psi(off), U: stated(c, one, other).U };
  });

  it('is stated neither narrower nor much wider than it is', () => {
    const U = [...tries].map((t) => t.U).sort((a, b) => a - b)[TRIES / 2] ?? NaN;
    const ratio = U / psi(drawn[name] ?? NaN);
    expect(ratio).toBeGreaterThan(0.93);
    expect(ratio).toBeLessThan(1.25);
  });

  it('holds at least 93 times in a hundred', () => {
    const held = tries.filter((t) => Math.abs(t.off) <= t.U).length / TRIES;
    expect(held).toBeGreaterThan(0.93);
  });

  it('calls what stands at a limit in no more than 3 times in a hundred', () => {
    const wrong = tries.filter(
      (t) => decide(t.off, t.U, { lower: 0 }, 'guarded', String).word === 'in',
    ).length;
    expect(wrong / TRIES).toBeLessThan(0.03);
  });
});
