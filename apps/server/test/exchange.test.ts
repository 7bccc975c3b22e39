// The book out of the app and into it: CSV, calendars, files read in, a site's dossier.
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { Ajv2020 as Ajv } from 'ajv/dist/2020.js';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import request from 'supertest';
import { v7 as uuid } from 'uuid';
import type { DossierTaken, ImportLine, ImportState } from '@firm-needle/contract';
import { chainLink, CHAIN_START } from '@firm-needle/core/formats';
import { Control, Equipment, JobEventRow, Job, JobResult, Site } from '../src/database/models.js';
import { harmless } from '../src/exchange/csv.js';
import { numberIn } from '../src/exchange/columns.js';
import { ImportsService } from '../src/exchange/imports.service.js';
import { dossierSchema } from '../src/exchange/dossier.parts.js';
import { del, HEAD, readIn, rowsOf } from './exchanged.js';
import { closeStand, get, here, openStand, post, put, signIn } from './stand.js';

let boss = '';
beforeAll(async () => {
  await openStand();
  boss = (await signIn('lowmarch')).cookie;
}, 60000);
afterAll(closeStand);

describe('tables', () => {
  it('hold every reading of the firm, each once, with its text beside its value', async () => {
    const site = await Site.findOne({ where: { name: 'Tarn House creamery' } });
    const r = await get(`/export/readings.csv?site=${site?.id}`, boss);
    expect(r.headers['content-type']).toBe('text/csv; charset=utf-8');
    const [head, ...lines] = rowsOf(r.text);
    expect(head?.[0]).toBe('site');
    const equipment = await Equipment.findAll({ where: { siteId: site?.id ?? '' } });
    const controls = await Control.findAll({ where: { equipmentId: equipment.map((e) => e.id) } });
    const jobs = await Job.findAll({ where: { controlId: controls.map((c) => c.id) } });
    const readings = await JobEventRow.count({ where: { kind: 'read', jobId: jobs.map((x) => x.id) } });
    expect(readings).toBeGreaterThan(20);
    const keys = lines.map((l) => `${l[4]} ${l[5]}`);
    expect(new Set(keys).size).toBe(readings);
  });

  it('hold settings, gauges and what is due; a customer has those of the own site and no gauges', async () => {
    for (const kind of ['settings', 'gauges', 'due'])
      expect(rowsOf((await get(`/export/${kind}.csv`, boss)).text).length).toBeGreaterThan(1);
    const customer = (await signIn('observatory')).cookie;
    const settings = rowsOf((await get('/export/settings.csv', customer)).text).slice(1);
    expect(new Set(settings.map((l) => l[0])).size).toBeLessThanOrEqual(1);
    expect(rowsOf((await get('/export/gauges.csv', customer)).text)).toHaveLength(1);
    const other = await Site.findOne({ where: { name: 'The Lido' } });
    expect(rowsOf((await get(`/export/due.csv?site=${other?.id}`, customer)).text)).toHaveLength(1);
    expect((await get('/export/people.csv', boss)).status).toBe(404);
  });

  it('give a spreadsheet nothing to run', async () => {
    expect(
      ['=1+1', '+1', '-1', '@x', '\tx', ' =x', '−1', 'plain', -1, '-3.25', '+12,5', '-2+3'].map(harmless),
    ).toEqual(["'=1+1", '+1', '-1', "'@x", "'\tx", "' =x", '−1', 'plain', -1, '-3.25', '+12,5', "'-2+3"]);
    const id = uuid();
    await put(`/sites/${id}`, { version: 1, name: '=HYPERLINK("x")', altitude_m: 1 });
    const equipment = uuid();
    await put(`/equipment/${equipment}`, { version: 1, siteId: id, name: 'Well' });
    await put(`/controls/${uuid()}`, {
      version: 1,
      equipmentId: equipment,
      name: 'Switch',
      family: 'well-switch',
    });
    expect((await get(`/export/due.csv?site=${id}`, boss)).text).toContain(`"'=HYPERLINK(""x"")"`);
  });
});

describe('a calendar', () => {
  it('tells one’s own visits, or for a supervisor everybody’s and what is due, until it is withdrawn', async () => {
    const { id, token } = (await post('/calendars', { own: true })).body as { id: string; token: string };
    const own = await get(`/calendar/${token}.ics`, '');
    expect(own.headers['content-type']).toBe('text/calendar; charset=utf-8');
    expect(own.text).toMatch(/^BEGIN:VCALENDAR\r\n/);
    expect(own.text).toMatch(/UID:visit-/);
    expect(own.text).not.toMatch(/UID:due-/);
    expect((await post('/calendars', { own: false })).status).toBe(403);
    const all = (await post('/calendars', { own: false }, boss)).body as { token: string };
    expect((await get(`/calendar/${all.token}.ics`, '')).text).toMatch(/UID:due-/);
    expect((await del(`/calendars/${id}`, boss)).status).toBe(404);
    expect((await del(`/calendars/${id}`)).status).toBe(204);
    expect((await get(`/calendar/${token}.ics`, '')).status).toBe(410);
    expect((await get('/calendar/nothing.ics', '')).status).toBe(404);
  });
});

const look = (text: string | Buffer, as = boss): Promise<ImportState> => readIn(text, as);
const linesOf = async (id: string, fate = ''): Promise<readonly ImportLine[]> =>
  ((await get(`/imports/${id}/lines${fate && `?fate=${fate}`}`, boss)).body as { items: ImportLine[] }).items;

describe('a file that is read in', () => {
  it('says every line’s fate and changes nothing, until it is taken in whole', async () => {
    const place = `Quarry ${uuid().slice(-6)}`;
    const state = await look(
      [
        HEAD,
        `${place},"12,5",Stone & Sons,Compressor,Wall regulator,air-supply,6`,
        `${place},,,Compressor,Second regulator,Air supply,`,
        `${place},14,,,,,`,
        `${place},12.5,,Boiler,Control,steam engine,`,
        `${place},,,Compressor,wall regulator,air-supply,`,
        `Nowhere,,,,,,`,
        `,5,,,,,`,
      ].join('\r\n'),
    );
    expect(state).toMatchObject({ state: 'ready', lines: 7, problem: null });
    expect(state.counts).toEqual({ new: 2, known: 1, refused: 4, sites: 1, equipment: 1, controls: 2 });
    const refused = await linesOf(state.id, 'refused');
    expect(refused.map((l) => [l.line, l.message.slice(0, 44)])).toEqual([
      [4, 'site: line 2 says otherwise of its altitude_m'.slice(0, 44)],
      [5, 'kind: “steam engine” is not known here. Known: '.slice(0, 44)],
      [7, 'altitude_m: a new site needs its height above'.slice(0, 44)],
      [8, 'site: no name stands here'],
    ]);
    expect(await Site.count({ where: { name: place } })).toBe(0);
    const done = (await post(`/imports/${state.id}/take`, {}, boss)).body as ImportState;
    expect(done.state).toBe('done');
    const site = await Site.findOne({ where: { name: place } });
    expect(site).toMatchObject({ altitudeM: 12.5, customer: 'Stone & Sons' });
    const equipment = await Equipment.findAll({ where: { siteId: site?.id ?? '' } });
    const controls = await Control.findAll({ where: { equipmentId: equipment.map((e) => e.id) } });
    expect(controls.map((c) => [c.name, c.family, c.months, c.due !== null]).sort()).toEqual([
      ['Second regulator', 'air-supply', null, true],
      ['Wall regulator', 'air-supply', 6, true],
    ]);
    const twice = await post(`/imports/${state.id}/take`, {}, boss);
    expect([twice.status, (twice.body as { code: string }).code]).toEqual([409, 'import-done']);
    const again = await look(`${HEAD}\n${place},,,Compressor,Wall regulator,air-supply,6`);
    expect(again.counts).toMatchObject({ known: 1, new: 0 });
  });

  it('is not taken in where the book was changed meanwhile, and nothing of it is', async () => {
    const [a, b] = [`Mill ${uuid().slice(-6)}`, `Mill ${uuid().slice(-6)}`];
    const state = await look(`site,altitude_m\n${a},1\n${b},1`);
    for (const n of [1, 2]) await put(`/sites/${uuid()}`, { version: 1, name: b, altitude_m: n });
    const r = await post(`/imports/${state.id}/take`, {}, boss);
    expect([r.status, (r.body as { code: string }).code]).toEqual([409, 'moved-on']);
    expect(await Site.count({ where: { name: a } })).toBe(0);
  });

  it('is refused as a whole with its reason where it is no such table', async () => {
    const said = async (text: string | Buffer): Promise<string> => {
      const { state, problem } = await look(text);
      return `${state}: ${problem}`;
    };
    expect(await said('name,height\nx,1')).toMatch(/^failed: The first line names no column “site”/);
    expect(await said('site,site\nx,y')).toMatch(/stands twice/);
    expect(await said('')).toMatch(/^failed: The file is empty/);
    const broken = Buffer.concat([
      Buffer.from('site,altitude_m\nMill,1\n'),
      Buffer.from([0xc3, 0x28]),
      Buffer.from(',2\n'),
    ]);
    expect(await said(broken)).toMatch(/is not UTF-8.*Save it as CSV in UTF-8/);
    const imports = here.app.get(ImportsService);
    expect(imports.mostLines).toBe(100_000);
    imports.mostLines = 1200;
    try {
      const lines = (n: number): string => `site,altitude_m\n${'Mill,1\n'.repeat(n)}`;
      expect(await said(lines(1201))).toMatch(
        /^failed: The file has more than 1,200 lines. Cut it into parts/,
      );
      expect(await said(lines(1200))).toMatch(/^ready/);
    } finally {
      imports.mostLines = 100_000;
    }
  });

  it('is a supervisor’s business, and is cancelled', async () => {
    expect((await look('site\nx', here.cookie)) as unknown as { code: string }).toMatchObject({
      code: 'forbidden',
    });
    const state = await look('site,altitude_m\nMill,1');
    expect(((await del(`/imports/${state.id}`, boss)).body as ImportState).state).toBe('cancelled');
    expect((await post(`/imports/${state.id}/take`, {}, boss)).status).toBe(409);
    expect((await get(`/imports/${state.id}`)).status).toBe(403);
  });

  it('numbers its lines as the file does, through empty ones and cells of several lines', async () => {
    const state = await look('site,altitude_m,address\n\nMill A,1,"Two\nlines"\n,,\nMill B,high,\n');
    expect(state.lines).toBe(2);
    expect((await linesOf(state.id)).map((l) => [l.line, l.fate])).toEqual([
      [3, 'new'],
      [6, 'refused'],
    ]);
  });

  it('of the same sites, taken in twice at once, makes them once', async () => {
    const name = `Twin ${uuid().slice(-6)}`;
    const files = await Promise.all([look(`site,altitude_m\n${name},1`), look(`site,altitude_m\n${name},1`)]);
    const done = await Promise.all(files.map((f) => post(`/imports/${f.id}/take`, {}, boss)));
    expect(done.map((r) => (r.body as ImportState).state)).toEqual(['done', 'done']);
    expect(await Site.count({ where: { name } })).toBe(1);
  });

  it('is said to be cut off only where nothing was heard of it, for another server may be at it', async () => {
    const { id } = await look('site,altitude_m\nMill,1');
    const sql = Site.sequelize;
    const stateNow = async (): Promise<string> =>
      ((await get(`/imports/${id}`, boss)).body as ImportState).state;
    await sql?.query("UPDATE imports SET state = 'applying', beat_at = UTC_TIMESTAMP(3) WHERE id = ?", {
      replacements: [id],
    });
    expect(await stateNow()).toBe('applying');
    await sql?.query('UPDATE imports SET beat_at = UTC_TIMESTAMP(3) - INTERVAL 2 MINUTE WHERE id = ?', {
      replacements: [id],
    });
    expect(await stateNow()).toBe('failed');
  });

  it('understands figures with a point or a comma, and asks where it could be either', () => {
    expect(['12.5', '12,5', '1 120', '−3', '1,25'].map(numberIn)).toEqual([12.5, 12.5, 1120, -3, 1.25]);
    expect(numberIn('1,120')).toMatch(/thousand or a decimal comma/);
    expect(numberIn('twelve')).toBe('“twelve” is no number');
  });
});

describe('a dossier', () => {
  const sendIt = async (dossier: unknown, as = boss) =>
    request(here.app.getHttpServer())
      .post('/api/v1/dossiers')
      .set('Cookie', as)
      .set('x-firm-needle', '1')
      .set('Content-Type', 'application/vnd.firm-needle.dossier+json')
      .send(typeof dossier === 'string' ? dossier : JSON.stringify(dossier));
  type Rows = Record<string, unknown>[];
  interface Dossier {
    readonly [part: string]: unknown;
    readonly sites: Rows;
    readonly jobs: Rows;
    readonly events: Rows;
    readonly results: Rows;
  }
  // No other test works at the creamery: what they forge elsewhere folds to something else.
  const out = async (name: string): Promise<Dossier> => {
    const site = await Site.findOne({ where: { name } });
    return JSON.parse((await get(`/sites/${site?.id}/dossier.json`, boss)).text) as Dossier;
  };
  /** The same site under other ids, as it comes from another installation. */
  const elsewhere = (dossier: Dossier): Dossier => {
    const ids = new Map<string, string>();
    const own = new Set(
      Object.entries(dossier)
        .filter(([part]) => !['people', 'gauges', 'photos'].includes(part))
        .flatMap(([, rows]) =>
          Array.isArray(rows)
            ? (rows as Rows).flatMap((r) => (typeof r['id'] === 'string' ? [r['id']] : []))
            : [],
        ),
    );
    const text = JSON.stringify(dossier).replace(/[0-9a-f]{8}-(?:[0-9a-f]{4}-){3}[0-9a-f]{12}/g, (id) => {
      if (!own.has(id)) return id;
      const other = ids.get(id) ?? uuid();
      ids.set(id, other);
      return other;
    });
    return sealed(JSON.parse(text) as Dossier);
  };
  /** Chains worked out anew, as another installation would have them. */
  const sealed = (dossier: Dossier): Dossier => {
    for (const job of dossier.jobs) {
      let head = CHAIN_START;
      for (const e of dossier.events
        .filter((x) => x['job_id'] === job['id'])
        .sort((a, b) => Number(a['seq']) - Number(b['seq'])))
        e['hash'] = head = chainLink(head, String(e['text']));
      job['head'] = head;
    }
    return dossier;
  };

  it('is as its schema says, and the schema that ships is that one', async () => {
    const dossier = await out('Tarn House creamery');
    const valid = new Ajv({ strict: true, allowUnionTypes: true }).compile(dossierSchema());
    expect([valid(dossier), valid.errors]).toEqual([true, null]);
    const shipped = readFileSync(
      join(import.meta.dirname ?? __dirname, '../../../docs/dossier.schema.json'),
      'utf8',
    );
    expect(JSON.parse(shipped)).toEqual(dossierSchema());
    expect(dossier.jobs.length).toBeGreaterThan(3);
  });

  it('comes in whole with the same seals, and its jobs fold to what was frozen', async () => {
    const dossier = elsewhere(await out('Tarn House creamery'));
    const r = await sendIt(dossier);
    expect(r.body).toMatchObject({
      jobs: dossier.jobs.length,
      events: dossier.events.length,
      differ: 0,
    } satisfies Partial<DossierTaken>);
    for (const job of dossier.jobs) {
      const seal = (await get(`/jobs/${String(job['id'])}/seal`, boss)).body as {
        whole: boolean;
        head: string;
      };
      expect(seal).toMatchObject(
        Number(job['seq']) > 0 ? { whole: true, head: job['head'] } : { whole: true },
      );
    }
    const again = await out(String(dossier.sites[0]?.['name']));
    expect(again.sites[0]?.['name']).toBe(dossier.sites[0]?.['name']);
    expect(await JobResult.count({ where: { jobId: dossier.jobs.map((j) => String(j['id'])) } })).toBe(
      dossier.results.length,
    );
    const people = (await get('/people?limit=200', boss)).body as {
      items: { role: string; login: string }[];
    };
    expect(people.items.filter((p) => p.login.startsWith('dossier-') && p.role !== 'technician')).toEqual([]);
    const twice = await sendIt(dossier);
    expect([twice.status, (twice.body as { code: string }).code]).toEqual([409, 'already-here']);
  }, 60000);

  it('is refused, and named, where one entry was changed; where it is newer; where it is no dossier', async () => {
    const whole = elsewhere(await out('Fold Lane allotments'));
    const before = await Job.count();
    const changed = structuredClone(whole);
    const victim = changed.events[5];
    if (!victim) throw new Error('too few events');
    victim['text'] = String(victim['text']).replace(/"wall":"20\d\d/, '"wall":"1999');
    const r = await sendIt(changed);
    expect([r.status, (r.body as { code: string }).code]).toEqual([422, 'record-changed']);
    expect((r.body as { detail: string }).detail).toContain(
      `${String(victim['job_id'])} was changed at entry ${String(victim['seq'])}`,
    );
    const codeOf = async (d: unknown): Promise<string> => ((await sendIt(d)).body as { code: string }).code;
    expect(await codeOf({ ...whole, version: 2 })).toBe('version-newer');
    expect(await codeOf({ ...whole, extra: [] })).toBe('not-valid');
    expect(await codeOf({ ...whole, sites: [{ ...whole.sites[0], site_id: 'x' }] })).toBe('not-valid');
    expect(await codeOf({ ...whole, events: whole.events.slice(0, -1) })).toBe('record-changed');
    expect(await codeOf({ ...whole, gauges: [] })).toBe('not-valid');
    expect(await codeOf({ ...whole, results: whole.results.map((r) => ({ ...r, result: {} })) })).toBe(
      'not-valid',
    );
    expect(await codeOf({ ...whole, sites: [{ ...whole.sites[0], name: 'x'.repeat(5000) }] })).toBe(
      'not-valid',
    );
    expect(await codeOf('{"format":"firm-needle-dossier"')).toBe('not-json');
    expect(await codeOf({ any: 'thing' })).toBe('no-dossier');
    expect((await sendIt(whole, here.cookie)).status).toBe(403);
    expect(await Job.count()).toBe(before);
  }, 60000);
});
