// What an installation does beside what its settings say: run-up, surge, unsteady water, swings that are no pure sine; faults of any size.
import { describe, expect, it } from '@jest/globals';
import { RIG_STEP_S, type Rig } from '@firm-needle/core/rig';
import { installed } from '../define/kit.js';
import { loadFamily } from '../registry.js';
import { psi } from '../testing.js';
import { kitOf } from './kitOf.js';

async function rigOf(id: string, faults: readonly string[] = [], size = 1, seed = 3): Promise<Rig> {
  const family = await loadFamily(id);
  const kit = kitOf(id);
  const [variant] = kit.variants;
  if (!variant) throw new Error(`${id} has no variant.`);
  const { plan, ambient } = installed(family, kit, variant);
  return family.rig.create({ plan, seed, ambient, faults, size });
}

/** What a gauge shows, step by step. */
function shown(rig: Rig, slot: string, seconds: number): readonly number[] {
  const out: number[] = [];
  for (let t = 0; t < seconds; t += RIG_STEP_S) {
    rig.step(RIG_STEP_S);
    out.push(rig.gauge(slot));
  }
  return out;
}
const mean = (x: readonly number[]): number => x.reduce((a, b) => a + b, 0) / x.length;
const sd = (x: readonly number[]): number => Math.sqrt(mean(x.map((v) => (v - mean(x)) ** 2)));

describe('a well pump', () => {
  it('throws up a little more than it stops at, and is felt in the line only while it runs', async () => {
    const rig = await rigOf('well-switch');
    rig.set('gauge', 1);
    rig.set('tap', 0.5);
    while (rig.channels['pump'] !== 1) rig.step(RIG_STEP_S);
    rig.set('tap', 0);
    const running: number[] = [];
    while (rig.channels['pump'] === 1) {
      rig.step(RIG_STEP_S);
      running.push(rig.gauge('system'));
    }
    const peak = Math.max(...shown(rig, 'system', 1));
    const standing = shown(rig, 'system', 20);
    expect(peak).toBeGreaterThan(mean(standing));
    expect(peak - mean(standing)).toBeLessThan(psi(1));
    // Within half a second it is less steady while it runs than while it stands.
    const n = Math.round(0.5 / RIG_STEP_S);
    const within = (x: readonly number[]): number =>
      mean(Array.from({ length: Math.floor(x.length / n) }, (_, i) => sd(x.slice(i * n, (i + 1) * n))));
    expect(within(running)).toBeGreaterThan(1.2 * within(standing));
  });

  it('falls off a cliff where its tank is empty before it starts', async () => {
    const rig = await rigOf('well-switch', ['drifted-switch']);
    const { cutIn = 0, precharge = 0 } = rig.truth();
    expect(cutIn).toBeLessThan(precharge);
    rig.set('gauge', 1);
    rig.set('tap', 0.5);
    expect(Math.min(...shown(rig, 'system', 900))).toBeLessThan(cutIn - psi(1));
  });
});

describe('a swing', () => {
  it.each([
    ['washer-unloader', 'air-in-inlet', 'test', { engine: 1, trigger: 1, nozzle: 1 }],
    ['pilot-reducing', 'trapped-air', 'outlet', { gauges: 1, inlet: 1, draw: 1 }],
  ] as const)('of %s is no pure one: no two of its heights are alike', async (id, fault, slot, hands) => {
    const rig = await rigOf(id, [fault]);
    for (const [h, v] of Object.entries(hands)) rig.set(h, v);
    shown(rig, slot, 20);
    const p = shown(rig, slot, 60);
    const middle = mean(p);
    // Heights of the waves: the highest between two falls through the middle.
    const heights: number[] = [];
    let high = -Infinity;
    p.forEach((v, i) => {
      high = Math.max(high, v - middle);
      if (v < middle && (p[i - 1] ?? 0) >= middle && high > 0) {
        heights.push(high);
        high = -Infinity;
      }
    });
    const waves = heights.filter((h) => h > 0.2 * Math.max(...heights));
    expect(waves.length).toBeGreaterThan(8);
    expect(sd(waves) / mean(waves)).toBeGreaterThan(0.1);
  });
});

describe('what is trapped', () => {
  it('bleeds away through a check that leaks, engine running or not, and stays behind one that does not', async () => {
    for (const [faults, stays] of [
      [['leaking-check'], false],
      [[], true],
    ] as const) {
      const rig = await rigOf('washer-unloader', faults);
      for (const [h, v] of Object.entries({ engine: 1, trigger: 1, nozzle: 1 })) rig.set(h, v);
      shown(rig, 'test', 10);
      rig.set('trigger', 0);
      shown(rig, 'test', 3);
      rig.set('engine', 0);
      const [before] = shown(rig, 'test', 0.5);
      const after = shown(rig, 'test', 60).at(-1);
      expect((after ?? 0) > 0.9 * (before ?? 0)).toBe(stays);
    }
  });

  it('overshoots as the trigger is released', async () => {
    const rig = await rigOf('washer-unloader');
    for (const [h, v] of Object.entries({ engine: 1, trigger: 1, nozzle: 1 })) rig.set(h, v);
    shown(rig, 'test', 10);
    rig.set('trigger', 0);
    const p = shown(rig, 'test', 20);
    expect(Math.max(...p.slice(0, 60))).toBeGreaterThan(mean(p.slice(-60)) + psi(15));
  });
});

describe('the size of a fault', () => {
  it.each([
    ['well-switch', 'drifted-switch', 'cutIn'],
    ['pilot-reducing', 'set-low', 'flowing'],
    ['washer-unloader', 'set-low', 'head'],
    ['well-drive', 'set-low', 'setPoint'],
    ['fire-relief', 'small-margin', 'opening'],
  ] as const)('of %s, %s: half is half of it', async (id, fault, what) => {
    const at = async (size: number): Promise<number> => (await rigOf(id, [fault], size)).truth()[what] ?? NaN;
    const [none, half, whole, more] = [await at(0), await at(0.5), await at(1), await at(1.5)];
    expect(Math.abs(whole - none)).toBeGreaterThan(psi(1));
    expect((half - none) / (whole - none)).toBeCloseTo(0.5, 6);
    expect((more - none) / (whole - none)).toBeCloseTo(1.5, 6);
  });
});
