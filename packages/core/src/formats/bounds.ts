// What a firm's records may hold: the same on the device that keeps one until it can be sent as on the server that takes it.

/** Least and most that a number may be. */
export interface Range {
  readonly from: number;
  readonly to: number;
}

/** Below the lowest shore and above the highest town there is, m. */
export const ALTITUDE_M: Range = { from: -450, to: 5500 };
/** Years that stand on plates. */
export const YEAR_MADE: Range = { from: 1850, to: 2200 };
/** Between checks: ten years. */
export const INTERVAL_MONTHS: Range = { from: 1, to: 120 };

/** Most characters of a name; of what stands on a maker's plate; of a contact; of some lines; of notes. */
export const MOST = { name: 120, plate: 60, contact: 200, lines: 400, notes: 2000 } as const;

/** Length is what makes a password [NIST SP 800-63B, from memory: at least eight, no rules on its characters]. */
export const PASSWORD_LENGTH: Range = { from: 10, to: 200 };
