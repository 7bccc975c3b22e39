import { toCanonical } from '@firm-needle/core/quantity';

export const bar = (n: number): number => toCanonical(n, 'bar');
/** A high-pressure switch closes again this far under its stop, fixed in it [common practice, no source: 58 psi]. */
export const HP_DIFF = bar(4);
/** The low side is not drawn lower than this where its plate does not say, gauge [assumed]. */
export const FLOOR = bar(0.1);
/** The high stop stays under this part of the relief [EN 378-2, from memory]. */
export const OF_RELIEF = 0.9;
/** A stop above the fans by this much, and above the usual discharge by that much, does not trip for nothing [assumed]. */
export const OVER_FAN = bar(1.5);
export const OVER_NORMAL = bar(2);
/** On a hot day it condenses this far above the air, and the stop stands above that [assumed]. */
export const OVER_AIR_K = 15;
export const OVER_HOT_DAY = bar(1);
/** So near its most the high side is raised by nitrogen only [assumed: twice the doubt of a usual gauge]. */
export const NEAR_MOST = bar(0.6);
/** A differential under this starts too often [assumed]. */
export const SHORT_CYCLE = bar(0.5);
/** A guard stops this far under the coldest normal suction, K of saturation [assumed]. */
export const GUARD_K = 5;
/** Nobody moves a low-pressure spindle oftener, nor raises the high side oftener in one job [assumed]. */
export const MOST_MOVES = 4;
export const MOST_RISES = 6;
/** Between two rises: oil and motor cool, s [assumed]. */
export const COOL_S = 600;
/** Points that are off by more than this on either side are late, not set so [assumed]. */
export const LATE = bar(0.35);
