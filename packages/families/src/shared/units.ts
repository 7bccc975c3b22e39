import { toCanonical } from '@firm-needle/core/quantity';

/** Numbers of one unit of gauge pressure or difference as Pa; the factor is looked up once, since rigs ask in every step. */
const of = (unit: string): ((n: number) => number) => {
  const one = toCanonical(1, unit);
  return (n) => n * one;
};

export const psi = of('psi');
/** Ounces of force on a square inch. */
export const ounces = of('ozf/in2');
/** Inches of water at 20 °C. */
export const inches = of('inH2O');
