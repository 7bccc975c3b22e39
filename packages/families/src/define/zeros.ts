import { spanOf } from '@firm-needle/core/gauge';
import type { Finding, JobView } from '@firm-needle/core/procedure';
import { showWithUnit } from '@firm-needle/core/quantity';

/** What the zeros of a job say of its gauges: unfit, or off and carried. */
export const zeroFindings = (job: JobView, slots: readonly string[]): readonly Finding[] =>
  slots.flatMap((slot): Finding[] => {
    const [zero, gauge] = [job.zero(slot), job.gauge(slot)];
    if (!zero || !gauge) return [];
    if (!zero.fit)
      return [
        {
          severity: 'warn',
          code: 'gauge-unfit',
          message: `${gauge.label}: ${zero.because}`,
          remedy: 'Use another gauge; these readings are in doubt.',
        },
      ];
    if (Math.abs(zero.offset) <= spanOf(gauge).division) return [];
    const off = showWithUnit(zero.offset, { unit: gauge.unit, step: 0.1 });
    return [
      {
        severity: 'say',
        code: 'gauge-zero',
        message: `${gauge.label} stood ${off} off zero; it is carried as a correction.`,
        remedy: 'Have it adjusted.',
      },
    ];
  });

/** A gauge whose zero makes it unfit proves nothing. */
export const zeroRefusals = (job: JobView, slots: readonly string[]): readonly Finding[] =>
  zeroFindings(job, slots)
    .filter((f) => f.code === 'gauge-unfit')
    .map((f) => ({ ...f, severity: 'refuse' as const }));
