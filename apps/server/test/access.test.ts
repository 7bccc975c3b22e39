// Who gets in, and what may be sent: sign-in, guessing, and the bounds of a body.
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { request as ask } from 'node:http';
import type { AddressInfo } from 'node:net';
import request from 'supertest';
import { v7 as uuid } from 'uuid';
import { hashPassword } from '../src/auth/passwords.js';
import { outOfBounds } from '../src/common/bounds.js';
import { User } from '../src/database/models.js';
import { closeStand, get, here, openStand, post, signIn } from './stand.js';

beforeAll(openStand, 60000);
afterAll(closeStand);

describe('bodies', () => {
  it('are bounded before anything is made of them', async () => {
    const many = Object.fromEntries(Array.from({ length: 60_000 }, (_, i) => [`k${i}`, 1]));
    const from = performance.now();
    const r = await post(`/jobs/${uuid()}/events`, many);
    expect(r.body).toMatchObject({ status: 422, code: 'out-of-bounds' });
    const empty = performance.now();
    await post(`/jobs/${uuid()}/events`, {});
    // A ratio within this run, generous: it was a thousand times as long.
    expect(empty - from).toBeLessThan(60 * Math.max(20, performance.now() - empty));
  });

  it('may not be nested without end', async () => {
    const deep = `${'{"a":'.repeat(5000)}1${'}'.repeat(5000)}`;
    const r = await request(here.app.getHttpServer())
      .put(`/api/v1/controls/${here.controlId}/plans/${uuid()}`)
      .set('Cookie', here.cookie)
      .set('x-firm-needle', '1')
      .set('Content-Type', 'application/json')
      .send(deep);
    expect(r.body).toMatchObject({ status: 422, code: 'out-of-bounds' });
    expect(outOfBounds({ a: [{ b: 1 }] })).toBeUndefined();
  });

  it('are short where anybody may send them', async () => {
    const r = await post('/auth/sign-in', { login: 'x', password: 'y'.repeat(5000) }, '');
    expect(r.body).toMatchObject({ status: 413, code: 'too-large' });
  });
});

describe('guessing passwords', () => {
  /** A sign-in from another machine of this network. */
  const from = (address: string, login: string, password: string): Promise<number> =>
    new Promise((resolve, reject) => {
      const { port } = here.app.getHttpServer().address() as AddressInfo;
      const body = JSON.stringify({ login, password });
      const asked = ask(
        {
          host: '127.0.0.1',
          port,
          path: '/api/v1/auth/sign-in',
          method: 'POST',
          localAddress: address,
          headers: { 'content-type': 'application/json', 'x-firm-needle': '1' },
        },
        (answer) => {
          answer.resume();
          answer.on('end', () => resolve(answer.statusCode ?? 0));
        },
      );
      asked.on('error', reject);
      asked.end(body);
    });
  const login = `target-${uuid().slice(-8)}`;

  beforeAll(async () => {
    await here.app.listen(0, '127.0.0.1');
    const [some] = await User.findAll({ limit: 1 });
    await User.create({
      id: uuid(),
      organisationId: some?.organisationId ?? '',
      login,
      name: 'A Target',
      role: 'technician',
      permits: [],
      siteId: null,
      passwordHash: await hashPassword('the right one'),
    });
  });

  it('goes by the account that is meant, however its name is written and wherever it comes from', async () => {
    for (let i = 0; i < 8; i++)
      expect(await from(`127.0.1.${i + 1}`, i % 2 ? login : login.toUpperCase(), `guess ${i}`)).toBe(401);
    expect(await from('127.0.1.99', login, 'the right one')).toBe(429);
  });

  it('never reaches an account by a name with control characters in it', async () => {
    for (const odd of ['\u0000', '\u0001', '\u200b', ' ', '\u00ad'])
      expect(await from('127.0.2.1', `mar${odd}rable`, 'ostrey-demo')).toBe(401);
  });

  it('is slowed by address, whatever names are tried', async () => {
    const seen: number[] = [];
    for (let i = 0; i < 45 && seen.at(-1) !== 429; i++) seen.push(await from('127.0.3.1', `nobody${i}`, 'x'));
    expect(seen.at(-1)).toBe(429);
    expect(seen.length).toBeGreaterThan(30);
    expect(await from('127.0.3.2', 'marrable', 'ostrey-demo')).toBe(200);
  }, 60_000);
});

describe('signing in', () => {
  it('does not say which part was wrong, and throttles', async () => {
    const wrongPassword = await post('/auth/sign-in', { login: 'quenby', password: 'nope' }, '');
    const wrongName = await post('/auth/sign-in', { login: 'nobody', password: 'nope' }, '');
    expect(wrongPassword.status).toBe(401);
    expect(wrongPassword.body).toEqual(wrongName.body);
    expect(wrongPassword.headers['content-type']).toContain('application/problem+json');
    let last = 0;
    for (let i = 0; i < 9; i++)
      last = (await post('/auth/sign-in', { login: 'quenby', password: 'nope' }, '')).status;
    expect(last).toBe(429);
    expect((await post('/auth/sign-in', { login: 'quenby', password: 'ostrey-demo' }, '')).status).toBe(429);
  });

  it('gives a cookie that scripts cannot read, and forgets it on leaving', async () => {
    const r = await post('/auth/sign-in', { login: 'osgath', password: 'ostrey-demo' }, '');
    expect(String(r.headers['set-cookie'])).toMatch(/HttpOnly.*SameSite=Lax/);
    const { cookie: own } = await signIn('osgath');
    expect((await get('/auth/me', own)).status).toBe(200);
    expect((await post('/auth/sign-out', {}, own)).status).toBe(204);
    expect((await get('/auth/me', own)).body).toMatchObject({ status: 401, code: 'signed-out' });
  });

  it('refuses requests that another page could send', async () => {
    const r = await request(here.app.getHttpServer())
      .post('/api/v1/auth/sign-out')
      .set('Cookie', here.cookie)
      .send({});
    expect(r.body).toMatchObject({ status: 403, code: 'foreign-request' });
    const cross = await request(here.app.getHttpServer())
      .post('/api/v1/auth/sign-out')
      .set('Cookie', here.cookie)
      .set('x-firm-needle', '1')
      .set('Sec-Fetch-Site', 'cross-site')
      .send({});
    expect(cross.status).toBe(403);
  });
});
