// What is handed over: photos, sheets as words, PDF and behind a link, tags, the summary of a visit.
import { createHash } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import request from 'supertest';
import { v7 as uuid } from 'uuid';
import type { RecordDoc } from '@firm-needle/core/record';
import { Control, Equipment, Job, Share, Site } from '../src/database/models.js';
import { chained, openJudged, send, started } from './judged.js';
import { closeStand, get, here, newJob, post, put, signIn } from './stand.js';

beforeAll(openJudged, 60000);
afterAll(closeStand);

/** The smallest JPEG there is of one grey pixel, as an encoder writes it. */
const PIXEL = Buffer.from(
  '/9j/4AAQSkZJRgABAQEASABIAAD/2wBDAP//////////////////////////////////////////////////////////////////////////////////////wAALCAABAAEBAREA/8QAFAABAAAAAAAAAAAAAAAAAAAACf/EABQQAQAAAAAAAAAAAAAAAAAAAAD/2gAIAQEAAD8AVN//2Q==',
  'base64',
);
const hashOf = (data: Buffer): string => createHash('sha256').update(data).digest('hex');
const del = (path: string, as = here.cookie) =>
  request(here.app.getHttpServer()).delete(`/api/v1${path}`).set('Cookie', as).set('x-firm-needle', '1');
const sendPhoto = (data: Buffer, hash = hashOf(data), as = here.cookie) =>
  request(here.app.getHttpServer())
    .put(`/api/v1/photos/${hash}`)
    .set('Cookie', as)
    .set('x-firm-needle', '1')
    .set('Content-Type', 'application/octet-stream')
    .send(data);
const binary = (path: string, as = here.cookie) =>
  get(path, as)
    .buffer(true)
    .parse((r, done) => {
      const chunks: Buffer[] = [];
      r.on('data', (c: Buffer) => chunks.push(c));
      r.on('end', () => done(null, Buffer.concat(chunks)));
    });

/** A control at a site that the customer's account does not have. */
const elsewhere = async (): Promise<string> => {
  const site = await Site.findOne({ where: { name: 'The Lido' } });
  const equipment = await Equipment.findOne({ where: { siteId: site?.id ?? '' } });
  return (await Control.findOne({ where: { equipmentId: equipment?.id ?? '' } }))?.id ?? '';
};

/** A signed job of the demo. */
const signed = async (): Promise<Job> => {
  const job = await Job.findOne({ where: { controlId: here.controlId }, order: [['signedAt', 'DESC']] });
  if (!job?.signedAt) throw new Error('no signed job in the demo');
  return job;
};

describe('photos', () => {
  it('are kept once under their own hash, and given back as they came', async () => {
    const data = Buffer.concat([PIXEL, Buffer.from('once')]);
    expect((await sendPhoto(data)).body).toEqual({
      hash: hashOf(data),
      width: 1,
      height: 1,
      bytes: data.length,
    });
    const both = await Promise.all([sendPhoto(data), sendPhoto(data)]);
    expect(both.map((r) => r.status)).toEqual([200, 200]);
    const back = await binary(`/photos/${hashOf(data)}`);
    expect(back.headers['content-type']).toBe('image/jpeg');
    expect((back.body as Buffer).equals(data)).toBe(true);
  });

  it('are refused where they are none, too large, not what they say, or still carry the place', async () => {
    const said = async (r: ReturnType<typeof sendPhoto>): Promise<string> => {
      const { status, body } = await r;
      return `${status} ${(body as { detail: string }).detail}`;
    };
    expect(await said(sendPhoto(Buffer.from('%PDF-1.7 called .jpg')))).toBe('422 That is no JPEG picture.');
    expect(await said(sendPhoto(PIXEL, 'a'.repeat(64)))).toMatch(/^422 is not the SHA-256/);
    expect(await said(sendPhoto(Buffer.alloc(3 * 1024 * 1024, 1)))).toMatch(/^413 A photo is at most 2 MB/);
    const exif = Buffer.concat([
      PIXEL.subarray(0, 2),
      Buffer.from([0xff, 0xe1, 0, 10]),
      Buffer.from('Exif\0\0xx', 'latin1'),
      PIXEL.subarray(2),
    ]);
    expect(await said(sendPhoto(exif))).toMatch(/such as the place/);
    const broken = PIXEL.subarray(0, 40);
    expect(await said(sendPhoto(broken))).toBe('422 That is no JPEG picture.');
    expect((await get('/photos/nothing')).status).toBe(404);
  });

  it('stand with their control and their job, and are taken away again; a customer sees those of the own site', async () => {
    const data = Buffer.concat([PIXEL, Buffer.from('plate')]);
    await sendPhoto(data);
    const id = uuid();
    const photo = { hash: hashOf(data), width: 1, height: 1, text: 'Plate' };
    const lido = await elsewhere();
    for (let i = 0; i < 2; i++) expect((await put(`/controls/${lido}/photos/${id}`, photo)).status).toBe(200);
    const listed = async (): Promise<readonly { id: string; text: string; job: string | null }[]> =>
      (await get(`/controls/${lido}/photos`)).body as { id: string; text: string; job: string | null }[];
    expect(await listed()).toEqual([expect.objectContaining({ id, text: 'Plate', job: null })]);
    expect((await put(`/controls/${here.controlId}/photos/${id}`, photo)).status).toBe(409);
    const customer = (await signIn('observatory')).cookie;
    expect((await get(`/photos/${hashOf(data)}`, customer)).status).toBe(404);
    expect((await get(`/controls/${lido}/photos`, customer)).status).toBe(404);
    await put(`/controls/${here.controlId}/photos/${uuid()}`, photo);
    expect((await get(`/photos/${hashOf(data)}`, customer)).status).toBe(200);
    expect((await sendPhoto(data, hashOf(data), customer)).status).toBe(403);
    await put(`/controls/${lido}/photos/${id}`, { ...photo, removed: true });
    expect(await listed()).toEqual([]);
  });
});

describe('a sheet', () => {
  it('is told in three sentences, in the customer’s unit where the site has one', async () => {
    const job = await signed();
    const own = (await get(`/jobs/${job.id}/record?unit=worked`)).body as RecordDoc;
    expect(own.summary).toHaveLength(3);
    expect(own.summary[0]).toMatch(/^(Found|Nothing was read)/);
    expect(own.seal).toMatch(/^Record whole: \d+ entries, seal ([0-9a-f]{4} ?){4}/);
    const bar = (await get(`/jobs/${job.id}/record?unit=bar`)).body as RecordDoc;
    expect(bar.table.unit).toBe('bar');
    expect(bar.sections.map((s) => s.items.map((i) => i.mark))).toEqual(
      own.sections.map((s) => s.items.map((i) => i.mark)),
    );
    const site = await Site.findOne({ where: { name: own.place.split(',')[0] ?? '' } });
    await site?.update({ unit: 'kPa' });
    expect(((await get(`/jobs/${job.id}/record`)).body as RecordDoc).table.unit).toBe('kPa');
    await site?.update({ unit: null });
    const wrong = await get(`/jobs/${job.id}/record?unit=V`);
    expect(wrong.status).toBe(422);
    expect((await get(`/jobs/${job.id}/record?zone=Nowhere/Land`)).status).toBe(422);
  });

  it('is a tagged PDF with its title; a photo that has arrived stands in it', async () => {
    const data = Buffer.concat([PIXEL, Buffer.from('in the sheet')]);
    const job = await newJob();
    await send(job, [
      ...chained(job, [
        await started(),
        { kind: 'photo', hash: hashOf(data), width: 1, height: 1, text: 'Seized nut' },
      ]),
    ]);
    const before = await binary(`/jobs/${job}/sheet.pdf`);
    expect(before.headers['content-type']).toBe('application/pdf');
    expect((before.body as Buffer).includes('/Subtype /Image')).toBe(false);
    await sendPhoto(data);
    const pdf = (await binary(`/jobs/${job}/sheet.pdf`)).body as Buffer;
    expect(pdf.subarray(0, 8).toString()).toBe('%PDF-1.7');
    for (const part of ['/Subtype /Image', '/MarkInfo', '/Lang (en)', '/DisplayDocTitle true'])
      expect(pdf.includes(part)).toBe(true);
    expect(((await get(`/jobs/${job}/record`)).body as RecordDoc).photos.map((p) => p.text)).toEqual([
      'Seized nut',
    ]);
  });

  it('of a job of which nothing has arrived says so', async () => {
    const r = await get(`/jobs/${await newJob()}/record`);
    expect([r.status, (r.body as { code: string }).code]).toEqual([409, 'not-begun']);
  });
});

describe('a link to a sheet', () => {
  const make = async (job: string, body: object = { days: 7 }, as = here.cookie) =>
    post(`/jobs/${job}/shares`, body, as);

  it('reads that sheet alone, without an account, until it is withdrawn', async () => {
    const job = await signed();
    const { id, token } = (await make(job.id)).body as { id: string; token: string };
    expect(token).toMatch(/^[\w-]{43}$/);
    const kept = await Share.findByPk(id);
    expect(JSON.stringify(kept)).not.toContain(token);
    const read = await get(`/shared/${token}`, '');
    expect(read.status).toBe(200);
    expect(Object.keys(read.body as object).sort()).toEqual(['doc', 'expiresAt']);
    expect(((await binary(`/shared/${token}/sheet.pdf`, '')).body as Buffer).subarray(0, 5).toString()).toBe(
      '%PDF-',
    );
    const other = Buffer.concat([PIXEL, Buffer.from('not of this sheet')]);
    await sendPhoto(other);
    expect((await get(`/shared/${token}/photos/${hashOf(other)}`, '')).status).toBe(404);
    const list = (await get(`/jobs/${job.id}/shares`)).body as { id: string; opened: number }[];
    expect(list.find((l) => l.id === id)?.opened).toBe(1);
    expect((await del(`/shares/${id}`)).status).toBe(204);
    expect((await del(`/shares/${id}`)).status).toBe(204);
    const gone = await get(`/shared/${token}`, '');
    expect([gone.status, (gone.body as { code: string }).code]).toEqual([410, 'withdrawn']);
    expect((await get(`/shared/${token}/sheet.pdf`, '')).status).toBe(410);
  });

  it('expires, and is not known where it was shortened', async () => {
    const job = await signed();
    const { id, token } = (await make(job.id)).body as { id: string; token: string };
    expect((await get(`/shared/${token.slice(0, -1)}`, '')).status).toBe(404);
    await Share.update({ expiresAt: new Date(Date.now() - 1000) }, { where: { id } });
    const gone = await get(`/shared/${token}`, '');
    expect([gone.status, (gone.body as { code: string }).code]).toEqual([410, 'expired']);
  });

  it('is made of signed work only, for at most a year, and by nobody who may only look', async () => {
    const open = await newJob();
    await send(open, chained(open, [await started()]));
    expect(((await make(open)).body as { code: string }).code).toBe('not-signed');
    const job = await signed();
    expect((await make(job.id, { days: 0 })).status).toBe(422);
    expect((await make(job.id, { days: 366 })).status).toBe(422);
    const customer = (await signIn('observatory')).cookie;
    expect([403, 404]).toContain((await make(job.id, { days: 7 }, customer)).status);
    expect([403, 404]).toContain((await get(`/jobs/${job.id}/shares`, customer)).status);
  });
});

describe('tags and a visit’s summary', () => {
  it('are PDF of the size that was asked for', async () => {
    const job = await signed();
    for (const [size, box] of [
      ['small', 175.75],
      ['label', 283.46],
      ['a4', 841.89],
    ] as const) {
      const pdf = (await binary(`/controls/${job.controlId}/tag.pdf?size=${size}`)).body as Buffer;
      expect(Number(/\/MediaBox \[0 0 ([\d.]+)/.exec(pdf.toString('latin1'))?.[1])).toBeCloseTo(box, 1);
    }
    expect((await get(`/controls/${job.controlId}/tag.pdf?size=poster`)).status).toBe(422);
    expect((await get(`/controls/${uuid()}/tag.pdf`)).status).toBe(404);
    const visits = (await get('/visits?limit=5')).body as { items: { id: string }[] };
    const pdf = (await binary(`/visits/${visits.items[0]?.id}/summary.pdf`)).body as Buffer;
    expect(pdf.subarray(0, 5).toString()).toBe('%PDF-');
  });

  it('of another’s site are not there for a customer', async () => {
    const customer = (await signIn('observatory')).cookie;
    expect((await get(`/controls/${await elsewhere()}/tag.pdf`, customer)).status).toBe(404);
    expect((await get(`/controls/${here.controlId}/tag.pdf`, customer)).status).toBe(200);
  });
});
