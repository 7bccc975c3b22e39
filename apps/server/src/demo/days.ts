/** The same time of day some days later (UTC). */
export function addDays(from: Date, days: number): Date {
  const d = new Date(from);
  d.setUTCDate(d.getUTCDate() + days);
  return d;
}

/** ISO day, such as 2030-01-31. */
export const formatDay = (d: Date): string => d.toISOString().slice(0, 10);
