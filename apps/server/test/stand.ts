// The server under test, on the seeded throw-away database, with a line to it that can be cut.
import { expect } from '@jest/globals';
import { PAYLOAD_VERSION, type JobBody, type JobEvent } from '@firm-needle/core/procedure';
import type { NestExpressApplication } from '@nestjs/platform-express';
import 'reflect-metadata';
import { connect as dial, createServer, type AddressInfo, type Server, type Socket } from 'node:net';
import request from 'supertest';
import { v7 as uuid } from 'uuid';
import { createApp } from '../src/app.js';
import { Control, LoginAttempt } from '../src/database/models.js';

/** Stands between the server and MariaDB, so that a test can cut the line. */
class Line {
  private readonly sockets = new Set<Socket>();
  private server: Server | undefined;
  port = 0;

  async open(): Promise<void> {
    this.server = createServer((client) => {
      const far = dial(Number(process.env['REAL_DB_PORT']), '127.0.0.1');
      for (const s of [client, far]) {
        this.sockets.add(s);
        s.on('error', () => undefined);
        s.on('close', () => this.sockets.delete(s));
      }
      client.pipe(far);
      far.pipe(client);
    });
    await new Promise<void>((resolve) => this.server?.listen(this.port, '127.0.0.1', resolve));
    this.port = (this.server.address() as AddressInfo).port;
  }

  async cut(): Promise<void> {
    for (const s of this.sockets) s.destroy();
    await new Promise((resolve) => this.server?.close(resolve));
  }
}

export const line = new Line();
/** Who is signed in, and the control that jobs are opened on unless another is named. */
export const here = {} as {
  app: NestExpressApplication;
  cookie: string;
  me: { id: string };
  controlId: string;
};

export const post = (path: string, body: object, as = here.cookie) =>
  request(here.app.getHttpServer())
    .post(`/api/v1${path}`)
    .set('Cookie', as)
    .set('x-firm-needle', '1')
    .send(body);
export const put = (path: string, body: object, as = here.cookie) =>
  request(here.app.getHttpServer())
    .put(`/api/v1${path}`)
    .set('Cookie', as)
    .set('x-firm-needle', '1')
    .send(body);
export const get = (path: string, as = here.cookie) =>
  request(here.app.getHttpServer()).get(`/api/v1${path}`).set('Cookie', as);

export async function signIn(
  login: string,
  password = 'ostrey-demo',
): Promise<{ cookie: string; id: string }> {
  const r = await post('/auth/sign-in', { login, password }, '');
  expect(r.status).toBe(200);
  return { cookie: String(r.headers['set-cookie']).split(';')[0] ?? '', id: (r.body as { id: string }).id };
}

export const event = (job: string, body: JobBody, over: Partial<JobEvent> = {}): JobEvent => ({
  id: uuid(),
  job,
  version: PAYLOAD_VERSION,
  after: null,
  device: 'test',
  author: here.me.id,
  wall: '2030-01-01T08:00:00.000Z',
  mono: 0,
  body,
  ...over,
});
export const note = (job: string, text = 'a note', over: Partial<JobEvent> = {}): JobEvent =>
  event(job, { kind: 'note', text }, over);

export async function newJob(controlId = here.controlId, id = uuid()): Promise<string> {
  expect((await put(`/jobs/${id}`, { controlId })).status).toBe(200);
  return id;
}

/** Starts the server and signs the demo's technician in. */
export async function openStand(): Promise<void> {
  process.env['REAL_DB_PORT'] = process.env['DB_PORT'];
  await line.open();
  process.env['DB_PORT'] = String(line.port);
  here.app = await createApp({ quiet: true });
  await here.app.init();
  // What other tests guessed at this address is not this one's.
  await LoginAttempt.destroy({ where: {} });
  const signed = await signIn('marrable');
  here.cookie = signed.cookie;
  here.me = { id: signed.id };
  here.controlId = (await Control.findOne({ where: { name: 'Borehole pump switch' } }))?.id ?? '';
}

export async function closeStand(): Promise<void> {
  await here.app.close();
  await line.cut();
}
