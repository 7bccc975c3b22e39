import type { JobView, ObserveStep } from '@firm-needle/core/procedure';
import type { Names, Steps } from '../define/index.js';

/** What a family advises after the as-found readings, and why. */
export interface Decided {
  readonly code: 'adjust' | 'leave' | 'replace';
  readonly say: string;
}

/** What to do after the as-found readings: advised by the family, decided by whoever works. It is no look at anything. */
export const decision = <N extends Names>(
  s: Pick<Steps<N>, 'observe'>,
  advised: (job: JobView) => Decided,
  key = 'decide',
): ObserveStep => {
  const is = (code: Decided['code']) => (job: JobView) => advised(job).code === code;
  return s.observe(
    key,
    'Decide',
    (job) => advised(job).say,
    {
      adjust: { title: 'Adjust', advised: is('adjust') },
      leave: { title: 'Leave as found', advised: is('leave') },
      replace: { title: 'Replace', advised: is('replace') },
    },
    // Nothing goes on before it is known.
    { decides: true, needed: true },
  );
};
