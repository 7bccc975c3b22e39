import type { Plan } from '@firm-needle/core/procedure';

/** Variants that hold the gauge against a saturated refrigerant, and which. */
const FLUID_OF: Readonly<Record<string, string>> = {
  'span-r410a': 'R410A',
  'span-r134a': 'R134a',
  'span-r22': 'R22',
};

export const fluidOf = (plan: Pick<Plan, 'variant'>): string | undefined => FLUID_OF[plan.variant];
export const isColumn = (plan: Pick<Plan, 'variant'>): boolean => plan.variant === 'column';
/** Held point by point against something better. */
export const isCompared = (plan: Pick<Plan, 'variant'>): boolean =>
  plan.variant === 'comparison' || isColumn(plan);

/** Parts of the span at which a gauge is compared, rising then falling [common practice: five points]. */
export type PointId = `up${1 | 2 | 3 | 4 | 5}` | `down${1 | 2 | 3 | 4}`;
export interface Point {
  readonly id: PointId;
  readonly part: number;
  readonly way: 'up' | 'down';
}
export const POINTS: readonly Point[] = [
  ...[0.2, 0.4, 0.6, 0.8, 1].map((part, i) => ({ id: `up${i + 1}` as PointId, part, way: 'up' as const })),
  ...[0.8, 0.6, 0.4, 0.2].map((part, i) => ({ id: `down${4 - i}` as PointId, part, way: 'down' as const })),
];
