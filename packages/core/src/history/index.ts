/** Months between checks where a site agreed nothing else [common practice, no source]. */
export const USUAL_INTERVAL_MONTHS = 12;

/**
 * The ISO date on which a control is next due.
 * @param last ISO date of the last signed check, or undefined where it was never checked (due now)
 * @param months agreed interval
 * @example nextDue('2030-01-31', 1) // '2030-02-28'
 */
export function nextDue(last: string, months = USUAL_INTERVAL_MONTHS): string {
  const [y = 0, m = 1, d = 1] = last.slice(0, 10).split('-').map(Number);
  const first = new Date(Date.UTC(y, m - 1 + months, 1));
  const days = new Date(Date.UTC(first.getUTCFullYear(), first.getUTCMonth() + 1, 0)).getUTCDate();
  first.setUTCDate(Math.min(d, days));
  return first.toISOString().slice(0, 10);
}

export * from './drift.js';
