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
export const request = <T>(method: string, path: string, body?: unknown): Promise<Answer<T>> =>
  ask<T>(path, {
    method,
    ...(body === undefined
      ? {}
      : { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }),
  });

/** Bytes put under an address of the API. */
export const sendBytes = (path: string, data: Blob): Promise<Answer<unknown>> =>
  ask(path, { method: 'PUT', headers: { 'content-type': 'application/octet-stream' }, body: data }, LONG_MS);

/** A file sent as it is; as long as it takes, for it can be stopped. */
export const sendFile = <T>(method: string, path: string, file: Blob, type: string): Promise<Answer<T>> =>
  ask<T>(path, { method, headers: { 'content-type': type }, body: file }, FILE_MS);

/** A sleeping link must not hold the outbox for ever; bytes take longer than words. */
const SHORT_MS = 20_000;
const LONG_MS = 90_000;
const FILE_MS = 600_000;

async function ask<T>(path: string, init: RequestInit, most = SHORT_MS): Promise<Answer<T>> {
  let response: Response;
  try {
    response = await fetch(`/api/v1${path}`, {
      ...init,
      headers: { 'x-firm-needle': '1', ...init.headers },
      credentials: 'same-origin',
      signal: AbortSignal.timeout(most),
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
