// Who gets in, whose it is that is asked for, and what may be sent: sign-in, guessing, firms apart, and the bounds of a body.
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { request as ask } from 'node:http';
import type { AddressInfo } from 'node:net';
import request from 'supertest';
import { v7 as uuid } from 'uuid';
import { hashPassword } from '../src/auth/passwords.js';
import { outOfBounds } from '../src/common/bounds.js';
import { Control, Equipment, Organisation, Site, User } from '../src/database/models.js';
import { closeStand, event, get, here, newJob, note, openStand, post, put, signIn } from './stand.js';

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

describe('whose it is', () => {
  let stranger: string;
  let theirControl: string;

  beforeAll(async () => {
    const organisationId = uuid();
    await Organisation.create({
      id: organisationId,
      name: 'Another firm',
      demo: false,
      rule: 'guarded',
      createdAt: new Date(),
    });
    const login = `stranger-${organisationId.slice(-6)}`;
    await User.create({
      id: uuid(),
      organisationId,
      login,
      name: 'A Stranger',
      role: 'technician',
      permits: [],
      siteId: null,
      passwordHash: await hashPassword('ostrey-demo'),
    });
    const site = await Site.create({
      id: uuid(),
      organisationId,
      name: 'Elsewhere',
      altitudeM: 0,
      notes: null,
    });
    const equipment = await Equipment.create({
      id: uuid(),
      organisationId,
      siteId: site.id,
      name: 'A well',
      notes: null,
    });
    const control = await Control.create({
      id: uuid(),
      organisationId,
      equipmentId: equipment.id,
      name: 'A switch',
      family: 'well-switch',
      planVersion: 0,
      due: null,
      story: null,
    });
    theirControl = control.id;
    stranger = (await signIn(login)).cookie;
  });

  it('never shows or takes anything of another organisation', async () => {
    const job = await newJob();
    for (const path of [
      `/jobs/${job}`,
      `/jobs/${job}/events`,
      `/jobs/${job}/seal`,
      `/controls/${here.controlId}`,
    ])
      expect((await get(path, stranger)).status).toBe(404);
    expect((await post(`/jobs/${job}/events`, { events: [note(job)] }, stranger)).body).toMatchObject({
      status: 404,
      code: 'not-found',
    });
    expect((await put(`/jobs/${uuid()}`, { controlId: theirControl })).status).toBe(404);
    expect((await put(`/jobs/${job}`, { controlId: theirControl }, stranger)).body).toMatchObject({
      status: 409,
      code: 'id-reused',
    });
    expect((await get('/sites', stranger)).body.items.map((s: { name: string }) => s.name)).toEqual([
      'Elsewhere',
    ]);
  });

  it('lets a customer’s account look at its own site, and change nothing', async () => {
    const reader = (await signIn('observatory')).cookie;
    expect((await get('/sites', reader)).body.items.map((s: { name: string }) => s.name)).toEqual([
      'Gannet Hill observatory',
    ]);
    expect((await get(`/controls/${here.controlId}`, reader)).status).toBe(200);
    const other = await Control.findOne({ where: { name: 'Propagation pump switch' } });
    expect((await get(`/controls/${other?.id}`, reader)).status).toBe(404);
    expect((await put(`/jobs/${uuid()}`, { controlId: here.controlId }, reader)).status).toBe(403);
  });

  it('lets only a supervisor countersign', async () => {
    const job = await newJob();
    expect(
      (await post(`/jobs/${job}/events`, { events: [event(job, { kind: 'countersign', by: 'me' })] })).status,
    ).toBe(403);
    const chief = await signIn('lowmarch');
    const e = event(job, { kind: 'countersign', by: 'her' }, { author: chief.id });
    expect((await post(`/jobs/${job}/events`, { events: [e] }, chief.cookie)).status).toBe(200);
  });
});
