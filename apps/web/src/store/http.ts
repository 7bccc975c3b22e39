import type { Problem } from '@firm-needle/contract';

export type Answer<T> =
  { readonly ok: true; readonly data: T } | { readonly ok: false; readonly problem: Problem };

const UNREACHED: Problem = {
  status: 0,
  code: 'unreached',
  detail: 'No connection to the server. What you enter is kept on this device.',
};

/** Something answered that is not our server: a sign-in page of the house, a proxy. */
const FOREIGN: Problem = {
  status: 0,
  code: 'foreign',
  detail:
    'Something between here and the server answered in its place. What you enter is kept on this device.',
  remedy: 'Open another page in this browser: this network may want a sign-in of its own.',
};

const OURS = 'urn:firm-needle:';

/** Whether an answer that refuses is our server's own: only that is believed. */
function ownProblem(data: unknown): Problem | undefined {
  if (typeof data !== 'object' || data === null) return undefined;
  const { type, code, detail, status } = data as Record<string, unknown>;
  return typeof type === 'string' &&
    type.startsWith(OURS) &&
    typeof code === 'string' &&
    typeof detail === 'string' &&
    typeof status === 'number'
    ? (data as Problem)
    : undefined;
}

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
  if (response.redirected) return { ok: false, problem: FOREIGN };
  if (response.status === 204) return { ok: true, data: undefined as T };
  let data: unknown;
  try {
    data = await response.json();
  } catch {
    return { ok: false, problem: response.status >= 500 ? UNREACHED : FOREIGN };
  }
  if (response.ok) return { ok: true, data: data as T };
  return { ok: false, problem: ownProblem(data) ?? FOREIGN };
}
