import { afterEach, beforeEach, describe, expect, it, jest } from '@jest/globals';
import { request } from './http.ts';
import { leave, stay, tellLeaving } from './leaving.ts';

interface Given {
  readonly status?: number;
  readonly body?: string;
  readonly redirected?: boolean;
}

const answers = ({ status = 200, body = '{}', redirected = false }: Given) =>
  jest.fn(async () => ({
    ok: status >= 200 && status < 300,
    status,
    redirected,
    json: async () => JSON.parse(body) as unknown,
  }));
const give = (given: Given) => {
  const mock = answers(given);
  globalThis.fetch = mock as unknown as typeof fetch;
  return mock;
};
const lost = (): void => {
  globalThis.fetch = jest.fn(async () => {
    throw new TypeError('no network');
  }) as unknown as typeof fetch;
};
const OWN = JSON.stringify({
  type: 'urn:firm-needle:gap',
  code: 'gap',
  status: 409,
  detail: 'Entries are missing.',
});

beforeEach(() => {
  Object.assign(AbortSignal, { timeout: () => new AbortController().signal });
  localStorage.clear();
});
afterEach(() => {
  jest.restoreAllMocks();
});

describe('an answer', () => {
  it('of our own is taken as it is', async () => {
    give({ body: '{"id":"x"}' });
    expect(await request('GET', '/x')).toEqual({ ok: true, data: { id: 'x' } });
  });

  it('that refuses is believed where it is our server’s own', async () => {
    give({ status: 409, body: OWN });
    expect(await request('GET', '/x')).toMatchObject({ ok: false, problem: { code: 'gap', status: 409 } });
  });

  it.each([
    ['a page of the house', { status: 404, body: '<html>sign in</html>' }],
    ['a proxy’s own JSON', { status: 403, body: '{"error":"blocked"}' }],
    ['one that only looks like ours', { status: 410, body: '{"type":"about:blank","code":"gone"}' }],
    ['a page with status 200', { status: 200, body: '<html>welcome</html>' }],
    ['somewhere else', { redirected: true }],
  ])('of %s condemns nothing', async (_, given) => {
    give(given);
    expect(await request('POST', '/jobs/1/events', {})).toMatchObject({
      ok: false,
      problem: { status: 0, code: 'foreign' },
    });
  });

  it.each([502, 503])('of a gateway (%d) is no answer', async (status) => {
    give({ status, body: 'Bad gateway' });
    expect(await request('GET', '/x')).toMatchObject({ ok: false, problem: { code: 'unreached' } });
  });

  it('that never comes is said, and does not throw', async () => {
    lost();
    expect(await request('GET', '/x')).toMatchObject({
      ok: false,
      problem: { status: 0, code: 'unreached' },
    });
  });

  it('to nothing sent carries no body, and every one carries what only our pages send', async () => {
    const mock = give({});
    await request('GET', '/x');
    await request('POST', '/x', { a: 1 });
    const [, plain] = mock.mock.calls[0] as unknown as [string, RequestInit];
    const [, full] = mock.mock.calls[1] as unknown as [string, RequestInit];
    expect(plain.body).toBeUndefined();
    expect(plain.headers).toEqual({ 'x-firm-needle': '1' });
    expect(full.headers).toEqual({ 'x-firm-needle': '1', 'content-type': 'application/json' });
    expect(full.body).toBe('{"a":1}');
  });
});

describe('a sign-out without a signal', () => {
  it('is told as soon as the server can be reached, and only once', async () => {
    leave();
    lost();
    expect(await tellLeaving()).toBe(false);
    const mock = give({ status: 204 });
    expect(await tellLeaving()).toBe(true);
    expect(await tellLeaving()).toBe(true);
    expect(mock).toHaveBeenCalledTimes(1);
  });

  it('is done where there is no session any more', async () => {
    leave();
    give({
      status: 401,
      body: JSON.stringify({ type: 'urn:firm-needle:sign-in', code: 'sign-in', status: 401, detail: '…' }),
    });
    expect(await tellLeaving()).toBe(true);
  });

  it('is not done because a foreign page answered', async () => {
    leave();
    give({ status: 401, body: '<html>sign in to the house network</html>' });
    expect(await tellLeaving()).toBe(false);
  });

  it('is not told after somebody signed in again', async () => {
    leave();
    stay();
    const mock = give({ status: 204 });
    expect(await tellLeaving()).toBe(true);
    expect(mock).not.toHaveBeenCalled();
  });
});
