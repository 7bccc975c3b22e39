import type { Plan } from '@firm-needle/core/procedure';
import { OTHER, read } from './parts.js';

/** The refrigerant of a plan by its id among the known fluids; undefined where it goes by its own chart. */
export function refrigerantOf(plan: Pick<Plan, 'values' | 'plate' | 'choices'>): string | undefined {
  const { refrigerant } = read(plan).choice;
  return refrigerant === OTHER ? undefined : refrigerant;
}
/** What burns [ISO 817 classes, from memory]. */
const FLAMMABLE = new Set(['R32', 'R290', 'R600a', 'R1234yf', 'R717']);
export const flammable = (plan: Plan): boolean => FLAMMABLE.has(refrigerantOf(plan) ?? '');
