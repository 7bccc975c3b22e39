// What every answer is made of: pages, problems, what was kept.

/** What the server has in hand for an answer: times are still dates there, and become text on the way. */
export type Sent<T> = T extends (infer I)[]
  ? Sent<I>[]
  : T extends readonly (infer I)[]
    ? readonly Sent<I>[]
    : T extends object
      ? { [K in keyof T]: Sent<T[K]> }
      : string extends T
        ? T | Date
        : T;

/** What a list is asked for; `after` is what the page before answered as `next`. */
export interface PageAsk {
  readonly after?: string;
  readonly limit?: number;
}

export interface Page<T> {
  readonly items: readonly T[];
  /** Give back as `after` for the next page; null at the end. */
  readonly next: string | null;
}

export interface SiteRef {
  readonly id: string;
  readonly name: string;
  readonly altitude_m: number;
}

/** A record as it stands: which version, and whether it was retired. */
export interface Standing {
  readonly version: number;
  readonly retired: boolean;
}

/** A record that was kept. */
export interface RecordSaved extends Saved {
  readonly version: number;
}

/** An error of the API, or of not reaching it. */
export interface Problem {
  readonly status: number;
  readonly code: string;
  readonly detail: string;
  readonly remedy?: string;
  readonly errors?: readonly { readonly field: string; readonly message: string }[];
  /** What stands now, where somebody else changed it meanwhile. */
  readonly current?: unknown;
}

/** Something was kept under the id that was made on the device. */
export interface Saved {
  readonly id: string;
}
