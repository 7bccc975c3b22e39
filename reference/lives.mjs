/**
 * Invented visits to a setting, for the drift between them: day, as found, as left.
 * @type {Record<string, [day: string, found: number, left: number][]>}
 */
export const LIVES = {
  steady: [
    ['2024-03-01', 40, 43],
    ['2025-03-08', 43.9, 43],
    ['2026-02-20', 44.1, 43.2],
    ['2027-03-15', 44.0, 43],
    ['2028-03-01', 44.2, 43.1],
  ],
  noisy: [
    ['2023-06-01', 10, 12],
    ['2023-12-04', 11.2, 12],
    ['2024-08-19', 12.9, 12.1],
    ['2025-01-30', 11.7, 12],
    ['2027-01-11', 13.4, 12],
    ['2027-09-09', 11.6, 12],
  ],
  untouched: [
    ['2025-01-15', 2.31, 2.31],
    ['2025-07-15', 2.29, 2.29],
    ['2026-01-20', 2.26, 2.26],
    ['2026-07-11', 2.25, 2.25],
  ],
};
/** Where each will be found, so long after the last visit. */
export const AHEAD_DAYS = [30, 365, 1500];
