import { gunzipSync, gzipSync } from 'node:zlib';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { BLOCK_SAMPLES, encodeBlock, type Samples } from '@firm-needle/core/trace';
import request from 'supertest';
import { v7 as uuid } from 'uuid';
import { closeStand, get, here, openStand, put, signIn } from './stand.js';

beforeAll(openStand, 60000);
afterAll(closeStand);

const n = BLOCK_SAMPLES + 500;
const samples: Samples = {
  t: Float64Array.from({ length: n }, (_, i) => i / 10),
  p: Float64Array.from({ length: n }, (_, i) => 300000 + 1000 * Math.round(50 * Math.sin(i / 300))),
  states: { contact: Float64Array.from({ length: n }, (_, i) => i % 2) },
};
const body = {
  name: 'pump house.csv',
  kind: 'cycles',
  unit: 'psi',
  channels: ['contact'],
  samples: n,
  from_s: 0,
  to_s: (n - 1) / 10,
};
const packed = (block: number): Buffer => gzipSync(encodeBlock(samples, block));
const send = (id: string, block: number, bytes: Buffer, as = here.cookie) =>
  request(here.app.getHttpServer())
    .put(`/api/v1/traces/${id}/blocks/${block}`)
    .set('Cookie', as)
    .set('x-firm-needle', '1')
    .set('Content-Type', 'application/octet-stream')
    .send(bytes);

describe('recorded traces', () => {
  it('come in blocks, in any order, and say what is still missing', async () => {
    const id = uuid();
    expect((await put(`/traces/${id}`, { ...body, controlId: here.controlId })).body).toMatchObject({
      missing: [0, 1],
    });
    expect((await send(id, 1, packed(1))).body).toEqual({ missing: [0] });
    // The line broke: asked again, the server says where to go on; the same block twice is one.
    expect((await get(`/traces/${id}`)).body).toMatchObject({ missing: [0] });
    expect((await send(id, 1, packed(1))).status).toBe(200);
    expect((await send(id, 0, packed(0))).body).toEqual({ missing: [] });
    const back = await get(`/traces/${id}/blocks/1`)
      .buffer(true)
      .parse((res, done) => {
        const parts: Buffer[] = [];
        res.on('data', (b: Buffer) => parts.push(b));
        res.on('end', () => done(null, Buffer.concat(parts)));
      });
    expect(gunzipSync(back.body as Buffer).equals(Buffer.from(encodeBlock(samples, 1)))).toBe(true);
    const list = (await get(`/traces?control=${here.controlId}`)).body as { items: { id: string }[] };
    expect(list.items.map((t) => t.id)).toContain(id);
  });

  it('are found by a few letters of their name or of their place, and by nothing else', async () => {
    const ids = [uuid(), uuid()];
    await put(`/traces/${ids[0]}`, { ...body, name: 'odd_100%.csv', controlId: here.controlId });
    await put(`/traces/${ids[1]}`, { ...body, name: 'plain.csv' });
    const found = async (q: string): Promise<readonly { id: string; place: string | null }[]> =>
      (
        (await get(`/traces?q=${encodeURIComponent(q)}`)).body as {
          items: { id: string; place: string | null }[];
        }
      ).items;
    expect((await found('_100%')).map((t) => t.id)).toEqual([ids[0]]);
    expect((await found('%')).map((t) => t.id)).toEqual([ids[0]]);
    expect((await found('lain.c')).map((t) => t.id)).toEqual([ids[1]]);
    const [{ place } = { place: null }] = await found('_100%');
    expect(place).toMatch(/ · /);
    const [site = '', control = ''] = place?.split(' · ') ?? [];
    for (const part of [site, control]) expect((await found(part)).map((t) => t.id)).toContain(ids[0]);
    expect((await found(site)).map((t) => t.id)).not.toContain(ids[1]);
    expect(await found("x' OR 1=1 -- ")).toEqual([]);
    expect((await get('/traces?q=')).status).toBe(422);
    // Page by page, with letters too.
    const first = (await get('/traces?limit=1&q=csv')).body as { items: { id: string }[]; next: string };
    const next = (await get(`/traces?limit=1&q=csv&after=${first.next}`)).body as { items: { id: string }[] };
    expect(next.items[0]?.id).not.toBe(first.items[0]?.id);
  });

  it('packs to well under its sixteen bytes a sample', () => {
    expect(packed(0).length / BLOCK_SAMPLES).toBeLessThan(8);
  });

  it('is one trace however often its beginning is sent, but never two under one id', async () => {
    const id = uuid();
    for (let i = 0; i < 2; i++) expect((await put(`/traces/${id}`, body)).status).toBe(200);
    const other = await put(`/traces/${id}`, { ...body, samples: 7 });
    expect(other.status).toBe(409);
    expect(other.body).toMatchObject({ code: 'trace-differs' });
  });

  it.each([
    ['a unit that is none', { unit: 'furlong' }, 'unit'],
    ['an end before the beginning', { to_s: -5 }, 'to_s'],
    ['no samples', { samples: 0 }, 'samples'],
    ['more samples than are kept', { samples: 1e9 }, 'samples'],
    ['a kind that is none', { kind: 'tea' }, 'kind'],
    ['a field that is not known', { colour: 'red' }, 'colour'],
  ])('refuses %s', async (_, over, field) => {
    const r = await put(`/traces/${uuid()}`, { ...body, ...over });
    expect(r.status).toBe(422);
    expect((r.body as { errors: { field: string }[] }).errors[0]?.field).toBe(field);
  });

  it('refuses bytes that are not the block, and blocks that the trace does not have', async () => {
    const id = uuid();
    await put(`/traces/${id}`, body);
    expect((await send(id, 0, Buffer.from('no gzip'))).status).toBe(422);
    expect((await send(id, 0, packed(1))).body).toMatchObject({
      errors: [{ field: 'body', bound: `${BLOCK_SAMPLES} samples of 3 columns, gzipped` }],
    });
    // A small body that would inflate without end is not followed to its end.
    expect((await send(id, 0, gzipSync(Buffer.alloc(64 * 1024 * 1024)))).status).toBe(422);
    expect((await send(id, 2, packed(1))).status).toBe(422);
    expect((await send(id, 0, Buffer.alloc(5 * 1024 * 1024))).status).toBe(413);
    expect((await get(`/traces/${id}/blocks/0`)).status).toBe(404);
  });

  it('keeps what was said of an event beside it, once however often it is sent', async () => {
    const [id, said] = [uuid(), uuid()];
    await put(`/traces/${id}`, body);
    const correction = { kind: 'cutIn', found_s: 30, t: 31, p: 301000, why: 'read off the dial' };
    for (let i = 0; i < 2; i++)
      expect((await put(`/traces/${id}/corrections/${said}`, correction)).body).toMatchObject({
        corrections: [correction],
      });
    const wrong = async (over: object): Promise<string> => {
      const r = await put(`/traces/${id}/corrections/${uuid()}`, { ...correction, ...over });
      expect(r.status).toBe(422);
      return (r.body as { errors: { field: string }[] }).errors[0]?.field ?? '';
    };
    expect(await wrong({ t: 1e9 })).toBe('t');
    expect(await wrong({ p: undefined })).toBe('t');
    expect(await wrong({ t: undefined, p: undefined, found_s: undefined })).toBe('found_s');
    expect(await wrong({ why: '' })).toBe('why');
  });

  it('shows a customer the traces of their own site and nobody may record without the right', async () => {
    const id = uuid();
    await put(`/traces/${id}`, { ...body, controlId: here.controlId });
    const reader = await signIn('observatory');
    expect((await put(`/traces/${uuid()}`, body, reader.cookie)).status).toBe(403);
    expect((await get('/traces', reader.cookie)).body).toMatchObject({ items: [] });
    const loose = uuid();
    await put(`/traces/${loose}`, body);
    expect((await get(`/traces/${loose}`, reader.cookie)).status).toBe(404);
  });
});
