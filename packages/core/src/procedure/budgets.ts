import { combine, pooledRepeatability, type Budget, type RepeatabilityPrior } from '../gauge/index.js';

/** Hand timing of a click or a needle: ± 0.3 s, rectangular [common practice, no source]. */
const HAND_TIMING_S = 0.3;

/** Budget of a mean of timed intervals, s. */
export function timingBudget(values: readonly number[], prior: RepeatabilityPrior): Budget {
  const pooled = pooledRepeatability(values, prior);
  return combine([
    {
      name: 'sampling',
      because: 'timing by hand, ± 0.3 s, rectangular',
      u: HAND_TIMING_S / Math.sqrt(3),
      dof: Infinity,
    },
    {
      name: 'repeatability',
      because: `${values.length} cycle${values.length === 1 ? '' : 's'}, pooled with the usual scatter of this kind`,
      u: pooled.sd / Math.sqrt(values.length),
      dof: pooled.dof,
    },
  ]);
}
