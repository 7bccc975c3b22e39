// A gauge as metal errs as its class lets it: bounds from the classes' own definition, percent of span.
import { describe, expect, it } from '@jest/globals';
import type { Gauge } from '../gauge/index.js';
import { toCanonical } from '../quantity/index.js';
import { GaugeMetal } from './metal.js';

const psi = (n: number): number => toCanonical(n, 'psi');
const dial = (over: Partial<Gauge> = {}): Gauge => ({
  id: 'T',
  label: 'T',
  kind: 'bourdon',
  unit: 'psi',
  lower: 0,
  upper: 160,
  division: 2,
  readable: 0.25,
  accuracy: { standard: 'EN 837-1', class: 1 },
  ...over,
});
/** 1 % of 160 psi. */
const MOST = psi(1.6);
const SCALE = Array.from({ length: 81 }, (_, i) => psi(2 * i));
const SEEDS = Array.from({ length: 200 }, (_, i) => i + 1);
/** The needle led up and down the whole scale: what it shows too much at each pressure, its zero taken off. */
const led = (m: GaugeMetal): { up: number[]; down: number[] } => {
  let stands: number | undefined;
  const look = (p: number): number => {
    stands = m.follow(stands, p);
    return m.shows(stands) - m.zero - p;
  };
  return { up: SCALE.map(look), down: [...SCALE].reverse().map(look).reverse() };
};

describe('a gauge as metal', () => {
  it('never errs by more than its class, rising or falling, and often by half of it', () => {
    const worst = SEEDS.map((seed) => {
      const { up, down } = led(new GaugeMetal(dial(), seed));
      return Math.max(...up.map(Math.abs), ...down.map(Math.abs));
    });
    // Its slope moves the needle by less than its friction, where it stands behind.
    expect(Math.max(...worst)).toBeLessThan(MOST * 1.02);
    expect(worst.filter((w) => w > MOST / 2).length).toBeGreaterThan(SEEDS.length / 3);
  });

  it('shows less rising than falling, by its friction', () => {
    for (const seed of SEEDS.slice(0, 20)) {
      const m = new GaugeMetal(dial(), seed);
      const { up, down } = led(m);
      const gap = (down[40] ?? NaN) - (up[40] ?? NaN);
      expect(gap).toBeGreaterThanOrEqual(0);
      expect(gap).toBeLessThanOrEqual(2.02 * m.play);
    }
  });

  it('has no friction where it has no needle', () => {
    const { up, down } = led(new GaugeMetal(dial({ kind: 'digital' }), 3));
    expect(down).toEqual(up);
  });

  it('stands off zero by less than it would be sent back for', () => {
    const most = Math.max(...SEEDS.map((seed) => Math.abs(new GaugeMetal(dial(), seed).zero)));
    expect(most).toBeLessThan(MOST);
    expect(most).toBeGreaterThan(MOST / 2);
  });

  it('errs as it was found to at the points of its check', () => {
    const points = [20, 80, 140].map((p, i) => ({ at: psi(p), error: psi([0.5, -0.4, 0.9][i] ?? 0), u: 0 }));
    const m = new GaugeMetal(dial({ kind: 'digital', check: { day: '2026-01-01', points } }), 9);
    for (const p of points) expect(Math.abs(m.error(p.at) - p.error)).toBeLessThan(MOST * 0.11);
    // Between them nobody looked: it may bend.
    const between = SEEDS.map((seed) =>
      new GaugeMetal(dial({ kind: 'digital', check: { day: '2026-01-01', points } }), seed).error(psi(50)),
    );
    const [least, most] = [Math.min(...between), Math.max(...between)];
    expect(most - least).toBeGreaterThan(MOST * 0.2);
    expect(Math.abs((most + least) / 2 - psi(0.05))).toBeLessThan(MOST * 0.05);
  });
});
