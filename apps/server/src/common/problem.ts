import { HttpException } from '@nestjs/common';

/** One thing wrong with a request: which field, what about it, the bound it broke. */
export interface FieldError {
  readonly field: string;
  readonly message: string;
  readonly bound?: string;
}

/** An error as RFC 9457 problem details: stable code, plain sentence, what to do. */
export class Problem extends HttpException {
  constructor(
    status: number,
    readonly code: string,
    readonly detail: string,
    readonly extra: {
      readonly errors?: readonly FieldError[];
      readonly remedy?: string;
      readonly retryAfter_s?: number;
      /** What stands now, where something else was changed meanwhile. */
      readonly current?: unknown;
    } = {},
  ) {
    super(detail, status);
  }
}

export const notFound = (what: string): Problem =>
  new Problem(404, 'not-found', `There is no such ${what} here.`, { remedy: 'Go back and choose it again.' });

/** One field that is wrong, why, and what to do. */
export const wrongField = (field: string, message: string, remedy?: string): Problem =>
  new Problem(422, 'not-valid', message, { errors: [{ field, message }], ...(remedy ? { remedy } : {}) });

export const forbidden = (detail: string): Problem => new Problem(403, 'forbidden', detail);
