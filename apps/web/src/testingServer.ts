// Shared by the web's tests: a server that answers what a test says, and keeps what it was asked.
import { jest } from '@jest/globals';

/** What was asked: method, path after the API's own, body. */
export type Asked = readonly [method: string, path: string, body: unknown];
interface Answer {
  readonly status?: number;
  readonly data: unknown;
}

/** A refusal as our server words it. */
export const refusal = (
  status: number,
  detail: string,
  errors: readonly { readonly field: string; readonly message: string }[] = [],
): Answer => ({ status, data: { type: 'urn:firm-needle:refused', status, code: 'refused', detail, errors } });

/**
 * Takes the place of the network until the tests of a file are over.
 * @param answer what comes back; undefined is no connection
 * @returns what was asked so far, in order
 */
export function serverThat(
  answer: (method: string, path: string, body: unknown) => Answer | undefined,
): readonly Asked[] {
  const asked: Asked[] = [];
  globalThis.fetch = jest.fn((url: unknown, init?: RequestInit) => {
    const method = init?.method ?? 'GET';
    const path = String(url).replace('/api/v1', '');
    const body: unknown = typeof init?.body === 'string' ? JSON.parse(init.body) : undefined;
    asked.push([method, path, body]);
    const said = answer(method, path, body);
    if (!said) return Promise.reject(new TypeError('no connection'));
    const { status = 200, data } = said;
    return Promise.resolve({
      ok: status < 400,
      status,
      redirected: false,
      json: () => Promise.resolve(data),
    });
  }) as unknown as typeof fetch;
  return asked;
}
