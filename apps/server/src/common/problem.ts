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
    } = {},
  ) {
    super(detail, status);
  }
}

export const notFound = (what: string): Problem =>
  new Problem(404, 'not-found', `There is no such ${what} here.`, { remedy: 'Go back and choose it again.' });

export const forbidden = (detail: string): Problem => new Problem(403, 'forbidden', detail);
