import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { canonicalJson, verifyChain } from '@firm-needle/core/formats';
import { PAYLOAD_VERSION, type JobBody } from '@firm-needle/core/procedure';
import request from 'supertest';
import { v7 as uuid } from 'uuid';
import { createApp } from '../src/app.js';
import { Control, ControlPlan, GaugeRow, JobEventRow, JobResult, Site } from '../src/database/models.js';
import { closeStand, event, get, here, line, newJob, note, openStand, post, put } from './stand.js';

beforeAll(openStand, 60000);
afterAll(closeStand);

describe('appending events', () => {
  it('gives each a place, once, however often it is sent', async () => {
    const job = await newJob();
    const events = [note(job, 'one'), note(job, 'two')];
    const first = await post(`/jobs/${job}/events`, { events });
    expect(first.body).toMatchObject({ seq: 2, accepted: [{ seq: 1 }, { seq: 2 }] });
    const again = await post(`/jobs/${job}/events`, { events: [...events, note(job, 'three')] });
    expect(again.body.seq).toBe(3);
    expect(again.body.accepted.slice(0, 2)).toEqual(first.body.accepted);
    expect(await JobEventRow.count({ where: { jobId: job } })).toBe(3);
  });

  it('will not take other contents under a known id', async () => {
    const job = await newJob();
    const e = note(job, 'as it was');
    await post(`/jobs/${job}/events`, { events: [e] });
    const r = await post(`/jobs/${job}/events`, {
      events: [{ ...e, body: { kind: 'note', text: 'as it was not' } }],
    });
    expect(r.body).toMatchObject({ status: 409, code: 'id-reused' });
    expect((await JobEventRow.findOne({ where: { id: e.id } }))?.text).toBe(canonicalJson(e));
  });

  it('takes batches that meet for one job without losing or doubling any', async () => {
    const job = await newJob();
    const batches = Array.from({ length: 8 }, (_, b) =>
      Array.from({ length: 10 }, (_, i) => note(job, `${b}.${i}`)),
    );
    const answers = await Promise.all(batches.map((events) => post(`/jobs/${job}/events`, { events })));
    expect(answers.map((a) => a.status)).toEqual(Array(8).fill(200));
    const rows = await JobEventRow.findAll({ where: { jobId: job }, order: ['seq'] });
    expect(rows.map((r) => r.seq)).toEqual(Array.from({ length: 80 }, (_, i) => i + 1));
    expect(verifyChain(rows.map((r) => ({ seq: r.seq, text: r.text, hash: r.hash })))).toMatchObject({
      whole: true,
      length: 80,
    });
  });

  it.each([
    ['an unknown field', (j: string) => [{ ...note(j), colour: 'red' }], 422, 'not-valid', 'events.0.colour'],
    ['no version', (j: string) => [{ ...note(j), version: undefined }], 422, 'not-valid', 'events.0.version'],
    ['a time that is none', (j: string) => [{ ...note(j), wall: 'noon' }], 422, 'not-valid', 'events.0.wall'],
    [
      'an unknown kind',
      (j: string) => [event(j, { kind: 'dance' } as unknown as JobBody)],
      422,
      'kind-unknown',
      'events.0',
    ],
    [
      'a newer payload',
      (j: string) => [note(j, 'x', { version: PAYLOAD_VERSION + 1 })],
      409,
      'version-newer',
      'events.0',
    ],
    ['another job', (j: string) => [note(j), note(uuid())], 422, 'other-job', 'events.1'],
    ['another author', (j: string) => [note(j, 'x', { author: uuid() })], 403, 'other-author', 'events.0'],
    ['an event that is too large', (j: string) => [note(j, 'x'.repeat(70000))], 413, 'too-large', 'events.0'],
    [
      'too many at once',
      (j: string) => Array.from({ length: 201 }, () => note(j)),
      422,
      'not-valid',
      'events',
    ],
    ['an empty batch', () => [], 422, 'not-valid', 'events'],
  ])('refuses %s and keeps nothing of the batch', async (_, make, status, code, field) => {
    const job = await newJob();
    const r = await post(`/jobs/${job}/events`, { events: make(job) });
    expect(r.body).toMatchObject({ status, code });
    expect((r.body as { errors: { field: string }[] }).errors[0]?.field).toBe(field);
    expect(await JobEventRow.count({ where: { jobId: job } })).toBe(0);
  });

  it('refuses a body that is not JSON, or larger than a batch may be', async () => {
    const job = await newJob();
    const raw = (body: string) =>
      request(here.app.getHttpServer())
        .post(`/api/v1/jobs/${job}/events`)
        .set('Cookie', here.cookie)
        .set('x-firm-needle', '1')
        .set('Content-Type', 'application/json')
        .send(body);
    expect((await raw('{"events":[')).body).toMatchObject({ status: 400, code: 'malformed' });
    expect((await raw(`{"events":"${'x'.repeat(1_200_000)}"}`)).body).toMatchObject({
      status: 413,
      code: 'too-large',
    });
  });
});

describe('plans', () => {
  it('solves and checks a plan itself, and moves its version by one', async () => {
    const control = (await get(`/controls/${here.controlId}`)).body;
    const next = {
      ...control.plan,
      given: [{ setting: 'cutIn', text: '44.5', unit: 'psi', value: 306816.7 }],
      values: { cutIn: 1 },
    };
    const id = uuid();
    const version = control.plan.version + 1;
    expect((await put(`/controls/${here.controlId}/plans/${id}`, { version, plan: next })).body).toEqual({
      id,
      version,
    });
    expect((await put(`/controls/${here.controlId}/plans/${id}`, { version, plan: next })).body).toEqual({
      id,
      version,
    });
    expect((await ControlPlan.findByPk(id))?.plan.values['cutOut']).toBeCloseTo(306816.7 + 20 * 6894.757, 0);
    expect(
      (await put(`/controls/${here.controlId}/plans/${uuid()}`, { version, plan: next })).body,
    ).toMatchObject({ status: 409, code: 'plan-moved-on' });
  });

  it('refuses a forbidden plan by the family’s own rule', async () => {
    const control = (await get(`/controls/${here.controlId}`)).body;
    const plan = { ...control.plan, given: [{ setting: 'cutIn', text: '70', unit: 'psi', value: 482633 }] };
    const r = await put(`/controls/${here.controlId}/plans/${uuid()}`, {
      version: control.plan.version + 1,
      plan,
    });
    expect(r.body).toMatchObject({ status: 422, errors: [{ field: 'cutOut' }] });
  });
});

describe('the record', () => {
  it('finds a row that was changed behind its back', async () => {
    const job = await newJob();
    await post(`/jobs/${job}/events`, { events: [note(job, 'one'), note(job, 'two'), note(job, 'three')] });
    expect((await get(`/jobs/${job}/seal`)).body).toMatchObject({ whole: true, length: 3 });
    await JobEventRow.update({ text: '{"changed":true}' }, { where: { jobId: job, seq: 2 } });
    expect((await get(`/jobs/${job}/seal`)).body).toMatchObject({ whole: false, at: 2 });
    await JobEventRow.destroy({ where: { jobId: job, seq: 3 } });
    await JobEventRow.destroy({ where: { jobId: job, seq: 2 } });
    expect((await get(`/jobs/${job}/seal`)).body).toMatchObject({
      whole: false,
      because: 'The job counts 3 events; 1 are here.',
    });
  });

  it('keeps the demo’s history sealed and its results folded', async () => {
    const results = await JobResult.findAll();
    const signed = results.filter((r) => r.signedAt);
    expect(signed.length).toBeGreaterThanOrEqual(6);
    for (const r of signed) expect((await get(`/jobs/${r.jobId}/seal`)).body.whole).toBe(true);
    expect(results.find((r) => !r.signedAt)?.result.rows.length).toBeGreaterThan(3);
  });

  it('pages lists by key', async () => {
    const first = (await get('/sites?limit=4')).body;
    const second = (await get(`/sites?limit=4&after=${encodeURIComponent(first.next)}`)).body;
    expect(first.items).toHaveLength(4);
    expect(second.items[0].name > first.items[3].name).toBe(true);
    expect((await get('/sites?limit=9999')).body).toMatchObject({
      status: 422,
      errors: [{ field: 'limit' }],
    });
  });

  it('skips no equal name, reaches gauge 101, and knows its own cursors', async () => {
    const organisationId = (await Control.findByPk(here.controlId))?.organisationId ?? '';
    const names = ['Twin lodge', 'Twin lodge', 'Twin lodge'];
    for (const name of names)
      await Site.create({ id: uuid(), organisationId, name, altitudeM: 0, notes: null });
    const some = await GaugeRow.findOne({ where: { organisationId } });
    if (!some) throw new Error('no gauges');
    for (let i = 0; i < 110; i++) {
      const id = uuid();
      const label = `Y-${String(i).padStart(3, '0')}`;
      await GaugeRow.create({
        id,
        organisationId,
        label,
        owner: null,
        body: { ...some.body, id, label },
        due: null,
      });
    }
    const all = async (path: string): Promise<{ name?: string; label?: string; id: string }[]> => {
      const out: { id: string }[] = [];
      for (let after: string | null = ''; after !== null;) {
        const page = (await get(`${path}?limit=7${after ? `&after=${encodeURIComponent(after)}` : ''}`))
          .body as {
          items: { id: string }[];
          next: string | null;
        };
        out.push(...page.items);
        after = page.next;
      }
      return out;
    };
    const sites = await all('/sites');
    expect(sites.filter((s) => s.name === 'Twin lodge')).toHaveLength(3);
    expect(new Set(sites.map((s) => s.id)).size).toBe(sites.length);
    const gauges = await all('/gauges');
    expect(gauges.filter((g) => g.label?.startsWith('Y-'))).toHaveLength(110);
    const visits = await all('/visits');
    expect(new Set(visits.map((v) => v.id)).size).toBe(visits.length);
    for (const path of ['/sites', '/gauges', '/visits'])
      expect((await get(`${path}?after=nonsense`)).body).toMatchObject({
        status: 422,
        errors: [{ field: 'after' }],
      });
    await Site.destroy({ where: { name: 'Twin lodge' } });
    await GaugeRow.destroy({
      where: { label: gauges.flatMap((g) => (g.label?.startsWith('Y-') ? [g.label] : [])) },
    });
  });

  it('describes itself', async () => {
    const doc = (await request(here.app.getHttpServer()).get('/api/v1/openapi.json')).body;
    expect(Object.keys(doc.paths)).toEqual(
      expect.arrayContaining(['/api/v1/jobs/{id}/events', '/api/v1/controls/{id}']),
    );
    const r = await request(here.app.getHttpServer()).get('/health/live');
    expect(r.headers['content-security-policy']).toMatch(/script-src 'self';/);
  });
});

describe('a record store that goes away', () => {
  it('answers plainly while it is gone, loses nothing, and goes on when it is back', async () => {
    const job = await newJob();
    const e = note(job, 'before');
    await post(`/jobs/${job}/events`, { events: [e] });
    await line.cut();
    const down = await post(`/jobs/${job}/events`, { events: [note(job, 'during')] });
    expect(down.body).toMatchObject({ status: 503, code: 'store-down' });
    expect((await request(here.app.getHttpServer()).get('/health/ready')).status).toBe(503);
    expect((await request(here.app.getHttpServer()).get('/health/live')).status).toBe(200);
    await line.open();
    const back = await post(`/jobs/${job}/events`, { events: [e, note(job, 'after')] });
    expect(back.body).toMatchObject({ seq: 2 });
  }, 30000);

  it('starts without it and says that it is not ready', async () => {
    const port = process.env['DB_PORT'];
    process.env['DB_PORT'] = '1';
    const lonely = await createApp({ quiet: true });
    await lonely.init();
    process.env['DB_PORT'] = port;
    const r = await request(lonely.getHttpServer()).get('/health/ready');
    expect(r.body).toMatchObject({ status: 503, code: 'store-down' });
    await lonely.close();
  }, 30000);
});
