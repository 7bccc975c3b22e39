import { Catch, HttpException, Logger, type ArgumentsHost, type ExceptionFilter } from '@nestjs/common';
import type { Response } from 'express';
import { BaseError, ConnectionError, DatabaseError } from 'sequelize';
import { Problem, type FieldError } from './problem.js';

const STORE_DOWN = {
  code: 'store-down',
  status: 503,
  detail:
    'The record store cannot be reached. What you enter stays on this device and is sent when it is back.',
} as const;

/** Error codes of the driver that mean: no server there, or it went away. */
const LOST = new Set([
  'ECONNREFUSED',
  'ECONNRESET',
  'EPIPE',
  'PROTOCOL_CONNECTION_LOST',
  'ETIMEDOUT',
  'ER_SERVER_SHUTDOWN',
  'ER_CONNECTION_KILLED',
]);

const codeOf = (e: unknown): string | undefined => (e as { code?: string } | undefined)?.code;

/** Whether an error means that the database cannot be reached. */
export const isStoreDown = (e: unknown): boolean =>
  e instanceof ConnectionError ||
  (e instanceof DatabaseError && LOST.has(codeOf(e.original) ?? '')) ||
  (e instanceof BaseError && /closed state|ConnectionManager.getConnection/.test(e.message)) ||
  (e instanceof Error && (LOST.has(codeOf(e) ?? '') || /closed state/.test(e.message)));

interface Described {
  readonly status: number;
  readonly code: string;
  readonly detail: string;
  readonly remedy?: string;
  readonly retryAfter_s?: number;
  readonly errors?: readonly FieldError[];
  readonly current?: unknown;
}

const CODES: Readonly<Record<number, string>> = { 400: 'malformed', 404: 'not-found', 413: 'too-large' };

/** Every error leaves the server as problem details, and nothing of the inside with it. */
@Catch()
export class ProblemFilter implements ExceptionFilter {
  private readonly log = new Logger('Problem');

  catch(error: unknown, host: ArgumentsHost): void {
    const response = host.switchToHttp().getResponse<Response>();
    const { status, code, detail, retryAfter_s, ...body } = this.describe(error);
    if (retryAfter_s) response.setHeader('Retry-After', String(retryAfter_s));
    response
      .status(status)
      .type('application/problem+json')
      .send(JSON.stringify({ type: `urn:firm-needle:${code}`, title: code, status, detail, code, ...body }));
  }

  private describe(error: unknown): Described {
    if (error instanceof Problem)
      return { status: error.getStatus(), code: error.code, detail: error.detail, ...error.extra };
    if (isStoreDown(error)) return STORE_DOWN;
    if (error instanceof HttpException) {
      const status = error.getStatus();
      const code = CODES[status] ?? 'refused';
      return { status, code, detail: error.message };
    }
    const http = error as { status?: number; type?: string; limit?: number };
    if (http.type === 'entity.too.large')
      return {
        status: 413,
        code: 'too-large',
        detail: `The request is larger than ${Math.round((http.limit ?? 0) / 1024)} kB.`,
        remedy: 'Send it in smaller batches.',
      };
    if (http.type === 'entity.parse.failed')
      return {
        status: 400,
        code: 'malformed',
        detail: 'The request is not valid JSON.',
        remedy: 'Send it again whole.',
      };
    this.log.error(error instanceof Error ? (error.stack ?? error.message) : String(error));
    return {
      status: 500,
      code: 'failed',
      detail: 'Something failed on the server. Nothing you entered is lost; try again.',
    };
  }
}
