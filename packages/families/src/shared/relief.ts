import { toCanonical } from '@firm-needle/core/quantity';

/**
 * Opening tolerance of a relief valve: 3 %, at least 2 psi [ASME BPVC I and IV practice, from memory].
 * @returns the lowest pressure at which it may open, Pa; without one, without a bound
 */
export const reliefAtLeast = (relief: number): number =>
  relief - Math.max(toCanonical(2, 'psi'), 0.03 * relief);
