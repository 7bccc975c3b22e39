/**
 * Upper tail of the standard normal distribution, P(Z > z).
 * Abramowitz & Stegun 26.2.17 in the middle; the asymptotic series beyond 6, where that formula's 1e-7 error would count.
 */
export function upperTail(z: number): number {
  if (z < 0) return 1 - upperTail(-z);
  // Less than 1e-19: nothing that is decided here can tell it from none.
  if (z > 9) return 0;
  const density = Math.exp(-z * z * 0.5) * 0.3989422804014327;
  if (z > 4) {
    const z2 = z * z;
    return (density / z) * (1 - (1 - (3 - 15 / z2) / z2) / z2);
  }
  const t = 1 / (1 + 0.2316419 * z);
  return (
    density * t * (0.31938153 + t * (-0.356563782 + t * (1.781477937 + t * (-1.821255978 + t * 1.330274429))))
  );
}

/** P(lower < X < upper) for a normal X. */
export const within = (lower: number, upper: number, mean: number, sd: number): number =>
  Math.max(0, upperTail((lower - mean) / sd) - upperTail((upper - mean) / sd));
