/** Standard normal quantile at 97.725 %, so that infinite degrees of freedom give k = 2 exactly. */
const Z = 2;

/**
 * Coverage factor for 95.45 % from Student's t (GUM, JCGM 100 annex G), by the Cornish–Fisher expansion; k = 2 at infinity.
 * @param dof effective degrees of freedom, at least 1; accurate to 0.5 % from 4 up
 */
export function coverageFactor(dof: number): number {
  if (!Number.isFinite(dof)) return Z;
  const v = Math.max(1, dof);
  if (v < 4) return TABLE[Math.max(0, Math.floor(v) - 1)] ?? 4.53;
  const z2 = Z * Z;
  const a = (Z * (z2 + 1)) / 4;
  const b = (Z * (5 * z2 * z2 + 16 * z2 + 3)) / 96;
  const c = (Z * (3 * z2 ** 3 + 19 * z2 ** 2 + 17 * z2 - 15)) / 384;
  const d = (Z * (79 * z2 ** 4 + 776 * z2 ** 3 + 1482 * z2 ** 2 - 1920 * z2 - 945)) / 92160;
  return Z + a / v + b / v ** 2 + c / v ** 3 + d / v ** 4;
}

/** t at 95.45 % for 1, 2 and 3 degrees of freedom (JCGM 100 table G.2). */
const TABLE = [13.97, 4.53, 3.31];
