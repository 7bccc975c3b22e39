// Measurements as they are made, in psi, for the uncertainty that is stated of them: what errs, and by how much, told to NumPy and to
// the product alike. A gauge of 0 to 100 psi, class 1, read to half a division of 1.
export const LIMIT = 1;
export const HALF = 0.25;
/** What is usual of a cycle. */
export const USUAL = 0.35;

/**
 * `n` readings that scatter by `sd`; `drift` between two zero checks, met at a part `f` of the time; `apart`: a difference of two such
 * figures so far apart on the scale; `checked`: the gauge's error was found at points, with `u`, and this lies between two of them.
 */
export const BUDGETS = {
  'one reading': { n: 1, sd: 0.35 },
  'two readings': { n: 2, sd: 0.35 },
  'three readings': { n: 3, sd: 0.35 },
  'four readings': { n: 4, sd: 0.35 },
  'three that scatter less': { n: 3, sd: 0.175 },
  'three that scatter more': { n: 3, sd: 0.7 },
  'four that scatter much more': { n: 4, sd: 1.05 },
  'difference, one reading each': { n: 1, sd: 0.35, apart: 0.2 },
  'difference, three readings each': { n: 3, sd: 0.35, apart: 0.2 },
  'difference on a drifting gauge': { n: 2, sd: 0.35, apart: 0.2, drift: 1.5, f: 0.5 },
  'drift, read in the middle': { n: 2, sd: 0.35, drift: 1.2, f: 0.5 },
  'drift, read soon after the first check': { n: 2, sd: 0.35, drift: 1.2, f: 0.1 },
  'a checked gauge at a point': { n: 2, sd: 0.2, checked: { u: 0.15, w: 0, gap: 0.25 } },
  'a checked gauge between points': { n: 2, sd: 0.2, checked: { u: 0.15, w: 0.5, gap: 0.4 } },
};
