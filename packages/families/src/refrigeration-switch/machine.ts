// What the stand-in of a refrigeration machine does of itself, in its own figures: nothing of the product's is used here.
import type { RigState } from '@firm-needle/core/rig';
import { bar } from './bounds.js';

export const FAULTS = {
  'diff-wide': 'Differential far too wide',
  'diff-narrow': 'Differential far too narrow',
  'stop-low': 'Stops just under its floor',
  'low-off': 'Low scale off',
  'start-high': 'Low start set far too high',
  'high-off': 'High scale off',
  'high-low': 'High stop set far too low',
  'high-welded': 'High contact welded',
  'self-reset': 'Latch worn: closes by itself',
  'no-reset': 'Latch does not free',
  'tube-blocked': 'Tube to the switch blocked',
  'low-charge': 'Low on charge',
  'no-receiver': 'Nothing holds its liquid',
  'valve-leaks': 'Liquid valve leaks',
  unlocked: 'Plates missing',
  timer: 'A timer nobody told of',
  'by-passed': 'Wired past the switch',
  'port-leaks': 'A port leaks',
  'fouled-condenser': 'Condenser fouled: it levels off',
  wanders: 'Wanders',
  'zero-off': 'Gauge zero off',
};

/** Liquid that is left boils off in so long; the dry side then goes down with that time constant, s. */
export const BOILS_OFF_S = 9;
export const PUMPS_S = 14;
/** With the valve open the suction settles in so long, s. */
export const SETTLES_S = 8;
/** A stopped machine: what creeps back, what a leaking valve and what a crack and an open valve let in, Pa/s. */
export const CREEPS = bar(0.012);
export const LEAKS_IN = bar(0.3);
export const CRACK = bar(0.09);
export const OPEN = bar(0.6);
/** Discharge: without fan it rises by this, with it it comes back by that, Pa/s. */
export const RISES = bar(0.13);
export const FALLS = bar(0.22);
/** Nitrogen by hand, Pa/s. */
export const FEEDS = { low: bar(0.03), high: bar(0.16) };
export const BLEEDS = { low: bar(0.025), high: bar(0.4) };
export const FEELS_S = 0.5;
export const HOSE_S = 0.3;
export const SHUT_S = 45;
export const TIMER_S = 60;
/** A hand tries a knob for so long, s. */
export const KNOB_S = 55;
/** Steps at which it hangs on a bottle. */
export const BOTTLED = /^[nb]-/;
export const NOISE = { low: bar(0.012), high: bar(0.06) };
/** A boiling line of its own, through its usual boiling point and one slope for all: near enough for a stand-in. */
export const BOILS_K: Readonly<Record<string, number>> = {
  R134a: 247,
  R22: 232,
  R404A: 227,
  R507A: 226,
  R407C: 230,
  R410A: 222,
  R448A: 228,
  R449A: 228,
  R290: 231,
  R600a: 261,
  R717: 240,
  R744: 195,
  R32: 221,
  R1234yf: 244,
};
export const SLOPE = 11;

/** Its liquid shut and opened again, five times. */
export const STARVED = [60, 160, 260, 360, 460].flatMap((t) => [
  { at_s: t, handle: 'liquid', value: 0 },
  { at_s: t + 45, handle: 'liquid', value: 1 },
]);

/** What the machine does at a moment. */
export interface State extends RigState {
  /** Gauge, Pa: suction, discharge, nitrogen. */
  suction: number;
  discharge: number;
  bottle: number;
  /** As the gauges have them through their hoses. */
  shownLow: number;
  shownHigh: number;
  feltLow: number;
  feltHigh: number;
  liquid: number;
  lowMade: 0 | 1;
  highMade: 0 | 1;
  runs: 0 | 1;
  waits: number;
  /** How often its low side was starved: by its liquid the first time. */
  shutIn: number;
  pressed: number;
  /** What its spindles stand at, by their scales, Pa. */
  range: number;
  diff: number;
  high: number;
  startNow: number;
  stopNow: number;
  /** It hung the last time: to one side, then to the other. */
  hung: 1 | -1;
  highNow: number;
}
