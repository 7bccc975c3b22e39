// What the traces of the rigs show is what the rigs are: the figures of the analysis against the truth of every family's rig.
import { describe, expect, it } from '@jest/globals';
import { loadFamily, traceKindOf } from '../registry.js';
import type { Gauge } from '@firm-needle/core/gauge';
import { expectOk } from '@firm-needle/core/result';
import { runRig } from '@firm-needle/core/rig';
import { analyse, type Analysis } from '@firm-needle/core/trace';
import { AIR, AMBIENT, psi, TestBench, WATER, type Kit } from '../testing.js';

const SAMPLE_S = 0.05;
/** Seconds after the last thing that hands do. */
const AFTER_S = 120;

const high = (id: string, upper: number): Gauge => ({ ...WATER, id, label: id, upper });
interface Traced {
  readonly kit: Kit;
  /** Figure of the analysis → name of the truth, and how far they may lie apart, psi. */
  readonly figures: Readonly<Record<string, readonly [truth: string, within: number]>>;
  /** Seconds to record, where the hands do not say. */
  readonly seconds?: number;
}

const TRACED: Readonly<Record<string, Traced>> = {
  'well-switch': {
    kit: {
      variant: '40-60',
      plate: { tankVolume: '280 L', pumpFlow: '33 L/min', relief: '81 psi' },
      given: { cutIn: '43 psi' },
      gauges: { system: WATER, air: AIR },
    },
    figures: { cutIn: ['cutIn', 0.5], cutOut: ['cutOut', 0.5] },
    seconds: 3600,
  },
  'well-drive': {
    kit: {
      variant: 'first',
      plate: { tankVolume: '9 L', relief: '88 psi', drop: '6 psi' },
      given: { setPoint: '64 psi' },
      gauges: { system: WATER, air: AIR },
    },
    // The pump is awake a moment before the pressure turns.
    figures: { cutIn: ['wake', 0.8] },
  },
  'washer-unloader': {
    kit: {
      variant: 'at-head',
      plate: { rating: '3000 psi', flow: '4 gpm', nozzle: '4.5 gpm', weakest: '4200 psi' },
      given: { head: '2700 psi' },
      gauges: { test: high('t', 5000) },
    },
    figures: { working: ['working', 6], trapped: ['trapped', 6], spike: ['spike', 6] },
  },
  'pilot-reducing': {
    kit: {
      variant: 'steel',
      plate: { size: '3 in', supply: '88 psi', leastFlow: '30 gpm', relief: '75 psi', weakest: '150 psi' },
      given: { flowing: '52 psi' },
      gauges: { outlet: WATER, inlet: high('i', 160) },
    },
    figures: { flowing: ['flowing', 0.2], lockUp: ['lockUp', 0.2], droop: ['rise', 0.2] },
  },
  'fire-relief': {
    kit: {
      variant: 'variable',
      plate: {
        churn: '128 psi',
        suctionMost: '24 psi',
        suctionLeast: '10 psi',
        rating: '175 psi',
        perTurn: '27 psi',
      },
      given: {},
      gauges: { system: high('s', 300), suction: WATER },
    },
    figures: { opening: ['opening', 0.8], reseat: ['reseat', 0.8] },
  },
};

/** Runs the usual scenario of a rig; its gauge's zero error is taken off, as it would be read off a vented gauge. */
async function record(
  id: string,
  seed: number,
): Promise<{ found: Analysis; truth: Readonly<Record<string, number>> }> {
  const family = await loadFamily(id);
  const { kit, seconds } = TRACED[id] as Traced;
  const plan = new TestBench(family, kit).plan();
  const rig = family.rig.create({ plan, seed, ambient: AMBIENT, faults: [] });
  const [scenario] = family.rig.scenarios;
  if (!scenario) throw new Error(`${id} has nothing worth recording.`);
  let zero = 0;
  for (let i = 0; i < 200; i++) zero += rig.gauge(scenario.slot) / 200;
  const hands = [...scenario.hands].sort((a, b) => a.at_s - b.at_s);
  const whole = seconds ?? (hands.at(-1)?.at_s ?? 0) + AFTER_S;
  const t: number[] = [];
  const p: number[] = [];
  while (rig.time < whole) {
    for (; hands[0] && hands[0].at_s <= rig.time + 1e-9; hands.shift())
      rig.set(hands[0].handle, hands[0].value);
    runRig(rig, SAMPLE_S, scenario.slot, SAMPLE_S, (at, shown) => {
      t.push(at);
      p.push(shown - zero);
    });
  }
  const samples = { t: Float64Array.from(t), p: Float64Array.from(p), states: {} };
  const kind = traceKindOf(id);
  if (!kind) throw new Error(`${id} gives no traces.`);
  return { found: expectOk(analyse(samples, kind, AMBIENT)), truth: rig.truth() };
}

describe.each(Object.keys(TRACED))('the trace of a %s', (id) => {
  it.each([3, 8, 21])('shows what its rig is, seed %d', async (seed) => {
    const { found, truth } = await record(id, seed);
    for (const [figure, [name, within]] of Object.entries(TRACED[id]?.figures ?? {})) {
      const off = (found.figures[figure]?.value ?? NaN) - (truth[name] ?? NaN);
      expect([figure, Math.abs(off) / psi(1) <= within ? 'within' : off / psi(1)]).toEqual([
        figure,
        'within',
      ]);
    }
  });
});
