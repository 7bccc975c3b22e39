import { describe, expect, it } from '@jest/globals';
import { seeded } from '../rig/index.js';
import { Catcher, FirmnessDetector, SampleRing, TurningDetector } from './index.js';

const NOISE = 50;
const options = { window_s: 4, resolution: 500, noise: NOISE };

/** Feed a shape of time with noise at 20 Hz; stop when `until` says so. */
function feed(
  seconds: number,
  shape: (t: number) => number,
  take: (t: number, p: number) => boolean | void,
  seed = 1,
): void {
  const random = seeded(seed);
  for (let i = 0; i <= seconds * 20; i++)
    if (take(i / 20, shape(i / 20) + NOISE * random.normal()) === true) return;
}

describe('firmness', () => {
  it('is firm on a standing needle once the window is full, and moving on a fast one', () => {
    const d = new FirmnessDetector(options);
    feed(
      10,
      () => 300000,
      (t, p) => d.push(t, p),
    );
    expect(d.get()).toMatchObject({ state: 'firm' });
    expect(d.get().mean).toBeCloseTo(300000, -2);
    expect(d.get().firmFor_s).toBeGreaterThan(1);
    const m = new FirmnessDetector(options);
    feed(
      10,
      (t) => 300000 + 3000 * t,
      (t, p) => m.push(t, p),
    );
    expect(m.get().state).toBe('moving');
  });

  it('does not call a slow creep firm for long, and gives its rate', () => {
    const d = new FirmnessDetector(options);
    const rate = 60;
    feed(
      60,
      (t) => 300000 + rate * t,
      (t, p) => d.push(t, p),
    );
    expect(d.get().state).not.toBe('firm');
    expect(d.get().creep).toBeCloseTo(rate, -1);
  });

  it('is hardly ever firm while the truth still moves', () => {
    let wrong = 0;
    let declared = 0;
    for (let seed = 1; seed <= 60; seed++) {
      const d = new FirmnessDetector(options);
      const tau = 2 + (seed % 7);
      feed(
        150,
        (t) => 300000 * (1 - Math.exp(-t / tau)),
        (t, p) => {
          d.push(t, p);
          if (d.get().state !== 'firm') return false;
          declared++;
          if ((300000 / tau) * Math.exp(-t / tau) * options.window_s > options.resolution / 2) wrong++;
          return true;
        },
        seed,
      );
    }
    expect(declared).toBe(60);
    expect(wrong).toBe(0);
  });

  it('is not firm on the crest between running out and creeping up, where the needle stands for a moment', () => {
    const rate = (0.6 * options.resolution) / options.window_s;
    for (let seed = 1; seed <= 40; seed++) {
      const d = new FirmnessDetector(options);
      const tau = 1 + (seed % 8);
      let wrong = 0;
      let was = false;
      feed(
        90,
        (t) => 300000 + 20000 * Math.exp(-t / tau) + rate * t,
        (t, p) => {
          d.push(t, p);
          const slope = rate - (20000 / tau) * Math.exp(-t / tau);
          const firm = d.get().state === 'firm';
          if (firm && !was && Math.abs(slope) * options.window_s > options.resolution / 2) wrong++;
          was = firm;
        },
        seed,
      );
      expect(wrong).toBe(0);
    }
  });

  it('starts afresh after a gap and ignores time that runs backwards', () => {
    const d = new FirmnessDetector(options);
    feed(
      12,
      () => 300000,
      (t, p) => d.push(t, p),
    );
    d.push(2, 0);
    expect(d.get().state).toBe('firm');
    d.push(60, 300000);
    expect(d.get().state).toBe('moving');
  });
});

describe('turning points', () => {
  const saw = (t: number): number => {
    const x = t % 40;
    return x < 20 ? 400000 - 5000 * x : 300000 + 5000 * (x - 20);
  };

  it('finds each once, near its place', () => {
    const d = new TurningDetector(1000);
    const found: { kind: string; t: number; p: number }[] = [];
    feed(100, saw, (t, p) => {
      const turn = d.push(t, p);
      if (turn) found.push(turn);
    });
    expect(found.map((f) => f.kind)).toEqual(['low', 'high', 'low', 'high']);
    expect(found[0]?.t).toBeCloseTo(20, 0);
    expect(Math.abs((found[0]?.p ?? 0) - 300000)).toBeLessThan(600);
    expect(Math.abs((found[1]?.p ?? 0) - 400000)).toBeLessThan(600);
  });

  it('does not take the start of a rise for a low', () => {
    const c = new Catcher({ wanted: 'low', resolution: 500, noise: NOISE, window_s: 4 });
    feed(
      30,
      (t) => 300000 + 3000 * t,
      (t, p) => void c.push(t, p),
    );
    expect(c.get()).toBeUndefined();
  });

  it('takes nothing from an hour of noise', () => {
    const c = new Catcher({ wanted: 'low', resolution: 100, noise: NOISE, window_s: 4 });
    feed(
      3600,
      () => 300000,
      (t, p) => void c.push(t, p),
    );
    expect(c.get()).toBeUndefined();
  });

  it('takes the pressure as what drives it stops or starts, though it goes on afterwards', () => {
    const at = (wanted: 'stops' | 'starts', runs: (t: number) => boolean | undefined) => {
      const c = new Catcher({ wanted, resolution: 100, noise: NOISE, window_s: 4 });
      for (let t = 0; t < 40; t += 0.1) c.push(t, 1000 + 50 * t, runs(t));
      return c.get();
    };
    expect(at('stops', (t) => t < 20)).toMatchObject({ how: 'switched' });
    expect(at('stops', (t) => t < 20)?.p).toBeCloseTo(2000, -1);
    expect(at('starts', (t) => t > 30)?.p).toBeCloseTo(2500, -1);
    // Seen to stop only: one that stood open from the start did not stop here, and one that nobody tells of neither.
    expect(at('stops', () => false)).toBeUndefined();
    expect(at('starts', (t) => t < 20)).toBeUndefined();
    expect(at('stops', () => undefined)).toBeUndefined();
  });

  it('takes a rise that ends standing as a high, unless the pump still runs', () => {
    const rise = (t: number): number => Math.min(400000, 300000 + 2000 * t);
    const stopped = new Catcher({ wanted: 'high', resolution: 500, noise: NOISE, window_s: 4 });
    feed(80, rise, (t, p) => void stopped.push(t, p, t < 50));
    expect(stopped.get()).toMatchObject({ how: 'stood' });
    expect(stopped.get()?.p).toBeCloseTo(400000, -3);
    const running = new Catcher({ wanted: 'high', resolution: 500, noise: NOISE, window_s: 4 });
    feed(80, rise, (t, p) => void running.push(t, p, true));
    expect(running.get()).toBeUndefined();
  });
});

describe('ring of samples', () => {
  it('keeps the newest and never loses a spike when drawn small', () => {
    const ring = new SampleRing(100);
    for (let i = 0; i < 250; i++) ring.push(i, i === 200 ? 9e5 : 1e5);
    expect(ring.length).toBe(100);
    expect(ring.at(0)?.t).toBe(150);
    const pairs = ring.minMax(150, 250, 10);
    expect(Math.max(...pairs)).toBe(9e5);
    expect(ring.minMax(0, 100, 4).every(Number.isNaN)).toBe(true);
  });
});
