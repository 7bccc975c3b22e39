// What is handed over, as other programs read it: PDF by qpdf and poppler, the code by zbar, calendar, dossier and table by Python.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { RecordDoc } from '@firm-needle/core/record';
import { parseQuantity, unit } from '@firm-needle/core/quantity';
import { v7 as uuid } from 'uuid';
import { Control, Job, JobEventRow } from '../src/database/models.js';
import { chained, openJudged, send, started } from './judged.js';
import { closeStand, get, here, newJob, post, put, signIn } from './stand.js';

interface Pdf {
  readonly sound: boolean;
  readonly title: string;
  readonly tagged: boolean;
  readonly pages: number;
  readonly embedded: boolean;
  readonly tags: readonly string[];
  readonly text: string;
}
interface Outside {
  readonly sheet: Pdf;
  readonly tag: Pdf;
  readonly code: string;
  /** Of the smallest tag. */
  readonly small: string;
  /** A sheet of a site with odd names, left with a reason longer than a page. */
  readonly odd: Pdf;
  readonly calendar: readonly (readonly [uid: string, day: string, summary: string])[];
  readonly invalid: readonly string[];
  readonly broken: readonly string[];
  readonly heads: Readonly<Record<string, string>>;
  readonly rows: readonly (readonly [string, number, string, string, string, number])[];
}

const root = join(__dirname, '../../..');
let read: Outside;
let doc: RecordDoc;
let visits: readonly { id: string; day: string }[];

const bytes = async (path: string, as: string): Promise<Buffer> => {
  const r = await get(path, as)
    .buffer(true)
    .parse((res, done) => {
      const chunks: Buffer[] = [];
      res.on('data', (c: Buffer) => chunks.push(c));
      res.on('end', () => done(null, Buffer.concat(chunks)));
    });
  expect(r.status).toBe(200);
  return r.body as Buffer;
};

beforeAll(async () => {
  await openJudged();
  process.env['PUBLIC_URL'] = 'https://needle.example';
  const boss = (await signIn('lowmarch')).cookie;
  // No other test works at the creamery: what they forge elsewhere is no record.
  here.controlId = (await Control.findOne({ where: { name: 'Unloader' } }))?.id ?? '';
  const job = await Job.findOne({ where: { controlId: here.controlId }, order: [['signedAt', 'DESC']] });
  const control = (await get(`/controls/${here.controlId}`, boss)).body as { site: { id: string } };
  doc = (await get(`/jobs/${job?.id}/record`, boss)).body as RecordDoc;
  visits = ((await get('/visits?limit=200', boss)).body as { items: { id: string; day: string }[] }).items;
  const { token } = (await post('/calendars', { own: false }, boss)).body as { token: string };
  const dir = mkdtempSync(join(tmpdir(), 'fn-outside-'));
  try {
    const files: readonly (readonly [string, string])[] = [
      ['sheet.pdf', `/jobs/${job?.id}/sheet.pdf`],
      ['tag.pdf', `/controls/${here.controlId}/tag.pdf`],
      ['small.pdf', `/controls/${here.controlId}/tag.pdf?size=small`],
      ['odd.pdf', `/jobs/${await oddJob()}/sheet.pdf`],
      ['calendar.ics', `/calendar/${token}.ics`],
      ['dossier.json', `/sites/${control.site.id}/dossier.json`],
      ['readings.csv', '/export/readings.csv'],
    ];
    for (const [name, path] of files) writeFileSync(join(dir, name), await bytes(path, boss));
    const done = spawnSync(
      '/usr/bin/python3',
      [join(root, 'reference/outside.py'), dir, join(root, 'docs/dossier.schema.json')],
      { encoding: 'utf8', maxBuffer: 64 * 1024 * 1024 },
    );
    expect(done.stderr).toBe('');
    read = JSON.parse(done.stdout) as Outside;
  } finally {
    rmSync(dir, { recursive: true, force: true });
  }
}, 120_000);
afterAll(closeStand);

const WORDS = 700;

/** A job of a control with a name from the right, left with a long reason. */
async function oddJob(): Promise<string> {
  const boss = (await signIn('lowmarch')).cookie;
  const [site, equipment, control] = [uuid(), uuid(), uuid()];
  await put(`/sites/${site}`, { version: 1, name: 'באר מים 🚒', altitude_m: 5 }, boss);
  await put(`/equipment/${equipment}`, { version: 1, siteId: site, name: 'مضخة' }, boss);
  await put(
    `/controls/${control}`,
    { version: 1, equipmentId: equipment, name: 'באר צפון', family: 'well-switch' },
    boss,
  );
  const job = await newJob(control);
  const body = await started({
    site: { id: site, name: 'באר מים 🚒', altitude_m: 5 },
    control: { id: control, name: 'באר צפון', equipment: 'مضخة' },
  });
  const reason = Array.from({ length: WORDS }, (_, i) => `word${i}`).join(' ');
  await send(job, chained(job, [body, { kind: 'leave', outcome: 'unfinished', reason: `${reason} ` }]));
  return job;
}

const squeezed = (text: string): string => text.replace(/\s+/g, ' ');

describe('what is handed over, read by others', () => {
  it('is a sound, tagged PDF with its fonts and its title [qpdf --check, pdfinfo, pdffonts]', () => {
    expect(read.sheet).toMatchObject({ sound: true, tagged: true, embedded: true, pages: 1 });
    expect(read.sheet.title).toBe(`${doc.title}: ${doc.outcome}`);
    expect(read.sheet.tags).toEqual(['Document', 'Figure', 'H1', 'H2', 'TD', 'TH', 'TR', 'Table'].sort());
    expect(read.tag).toMatchObject({ sound: true, tagged: true, embedded: true, pages: 1 });
  });

  it('says on paper what it says on the screen, in its order [pdftotext]', () => {
    const text = squeezed(read.sheet.text);
    for (const part of [doc.title, doc.outcome, doc.by, doc.seal, doc.rule]) expect(text).toContain(part);
    for (const row of doc.table.rows)
      for (const cell of [row.target, row.found, row.left]) expect(text).toContain(cell.text);
    const [found = '', done = ''] = doc.summary;
    expect(text.indexOf(found.slice(0, 30))).toBeGreaterThan(0);
    expect(text.indexOf(done.slice(0, 20))).toBeGreaterThan(text.indexOf(found.slice(0, 30)));
    expect(text.indexOf('As found')).toBeGreaterThan(text.indexOf(done.slice(0, 20)));
    expect(text.indexOf(doc.seal)).toBeGreaterThan(text.indexOf('As found'));
  });

  it('loses nothing of a reason longer than a page, nor of names from the right [pdftotext]', () => {
    const text = squeezed(read.odd.text);
    expect(read.odd).toMatchObject({ sound: true, tagged: true, embedded: true });
    expect(read.odd.pages).toBeGreaterThan(1);
    for (let i = 0; i < WORDS; i++) expect(text).toContain(`word${i} `);
    // In the order in which it is read, not in that of its letters on the line.
    expect(text).toContain('באר צפון');
  });

  it('opens the control from the code on its tag, printed and looked at [zbarimg]', () => {
    expect(read.code).toBe(`https://needle.example/controls/${here.controlId}`);
    expect(read.small).toBe(read.code);
  });

  it('is a calendar of the visits on their days [python3-icalendar]', () => {
    const days = new Map(read.calendar.map(([uid, day]) => [uid, day]));
    const far = Date.now() - 55 * 86400e3;
    const near = visits.filter((v) => Date.parse(v.day) > far);
    expect(near.length).toBeGreaterThan(2);
    for (const v of near) expect(days.get(`visit-${v.id}@firm-needle`)).toBe(v.day.slice(0, 10));
    expect(read.calendar.some(([uid]) => uid.startsWith('due-'))).toBe(true);
  });

  it('is a dossier as its schema says, with chains that others work out the same [python3-jsonschema, hashlib]', async () => {
    expect(read.invalid).toEqual([]);
    expect(read.broken).toHaveLength(1);
    const jobs = await Job.findAll({ where: { id: Object.keys(read.heads) } });
    expect(jobs.length).toBeGreaterThan(3);
    for (const job of jobs) expect(read.heads[job.id]).toBe(job.head);
  });

  it('is a table of every reading with its text and its value [csv]', async () => {
    const events = await JobEventRow.findAll({ where: { kind: 'read' } });
    let compared = 0;
    const rows = new Map(read.rows.map((r) => [`${r[0]} ${r[1]}`, r]));
    expect(events.length).toBeGreaterThan(100);
    for (const e of events) {
      const row = rows.get(`${e.jobId} ${e.seq}`);
      const { body } = JSON.parse(e.text) as { body: { setting: string; value?: { text: string } } };
      // What other tests forged has no value to compare.
      if (typeof body.value?.text !== 'string' || !row) continue;
      compared += 1;
      expect(row?.slice(2, 4)).toEqual([body.setting, body.value.text]);
      const typed = parseQuantity(row?.[3] ?? '', unit(row?.[4] ?? '').dimension, row?.[4] ?? '');
      expect(
        typed.ok &&
          Math.abs(typed.value.value - (row?.[5] ?? 0)) < 1e-6 * Math.max(1, Math.abs(row?.[5] ?? 0)),
      ).toBe(true);
    }
    expect(compared).toBeGreaterThan(100);
  });
});
