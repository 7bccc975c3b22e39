const DAY_MS = 86_400_000;
/** A device may have been without a signal for as long as this before what it wrote came in. */
const LONGEST_AWAY_MS = 400 * DAY_MS;
const CLOCKS_DIFFER_MS = 120_000;

/** The time a device says, where that can be; else when the entry came in. */
export function likelyTime(wall: string, received: Date): Date {
  const said = Date.parse(wall);
  const away = received.getTime() - said;
  return away >= -CLOCKS_DIFFER_MS && away <= LONGEST_AWAY_MS ? new Date(said) : received;
}
