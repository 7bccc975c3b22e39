import type { Problem } from './types.ts';

export type Answer<T> =
  { readonly ok: true; readonly data: T } | { readonly ok: false; readonly problem: Problem };

const UNREACHED: Problem = {
  status: 0,
  code: 'unreached',
  detail: 'No connection to the server. What you enter is kept on this device.',
};

/** One request to the API; every failure comes back as a problem, never as a throw. */
export async function request<T>(method: string, path: string, body?: unknown): Promise<Answer<T>> {
  let response: Response;
  try {
    response = await fetch(`/api/v1${path}`, {
      method,
      headers: {
        'x-firm-needle': '1',
        ...(body === undefined ? {} : { 'content-type': 'application/json' }),
      },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
      credentials: 'same-origin',
      // A sleeping link must not hold the outbox for ever.
      signal: AbortSignal.timeout(20000),
    });
  } catch {
    return { ok: false, problem: UNREACHED };
  }
  if (response.status === 204) return { ok: true, data: undefined as T };
  let data: unknown;
  try {
    data = await response.json();
  } catch {
    return { ok: false, problem: { ...UNREACHED, status: response.status, code: 'unreadable' } };
  }
  return response.ok ? { ok: true, data: data as T } : { ok: false, problem: data as Problem };
}
