// What is due and why, who goes where, and what a control has been through.
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { daysAfter } from '@firm-needle/core/history';
import { v7 as uuid } from 'uuid';
import { Control, DueReasonRow, GaugeRow, JobFlag, JobResult, Site } from '../src/database/models.js';
import { standaloneDue } from '../src/jobs/standalone.js';
import { today, type Due, due } from './dues.js';
import { type control, honest, openJudged, send, started } from './judged.js';
import { closeStand, get, here, newJob, put, signIn } from './stand.js';

beforeAll(openJudged, 60000);
afterAll(closeStand);

describe('what is due', () => {
  it('is said with its reasons, the soonest first, and the visit that is planned for it', async () => {
    const items = await due();
    expect(items.length).toBeGreaterThan(20);
    expect(items.map((i) => i.day)).toEqual(items.map((i) => i.day).sort());
    for (const i of items) {
      expect(i.reasons[0]?.day).toBe(i.day);
      for (const r of i.reasons) expect(r.because).not.toBe('');
    }
    const here2 = items.find((i) => i.name === 'Borehole pump switch');
    expect(here2?.visit).toMatchObject({ day: today });
    const kinds = new Set(items.flatMap((i) => i.reasons.map((r) => r.kind)));
    expect([...kinds]).toEqual(expect.arrayContaining(['rule', 'law', 'customer']));
  });

  it('is read a page at a time without skipping or doubling any', async () => {
    const whole = (await due()).map((i) => i.id);
    const paged: string[] = [];
    let after: string | null = '';
    while (after !== null) {
      const r = (await get(`/due?limit=7${after ? `&after=${after}` : ''}`)).body as {
        items: Due[];
        next: string | null;
      };
      paged.push(...r.items.map((i) => i.id));
      after = r.next;
    }
    expect(paged).toEqual(whole);
    expect((await get('/due?after=nonsense')).status).toBe(422);
    expect((await get('/due?until=soon')).status).toBe(422);
    for (const i of await due(`?until=${today}`)) expect(i.day <= today).toBe(true);
  });

  it('is a customer’s own site’s alone', async () => {
    const { cookie } = await signIn('observatory');
    expect(new Set((await due('?limit=200', cookie)).map((i) => i.site.name))).toEqual(
      new Set(['Gannet Hill observatory']),
    );
    const other = await Site.findOne({ where: { name: 'The Lido' } });
    expect(await due(`?site=${other?.id}`, cookie)).toEqual([]);
    expect((await get('/visits/week?from=2030-01-01', cookie)).status).toBe(403);
  });

  it('comes forward where a gauge that proved it failed later, and goes back when it is proved anew', async () => {
    const id = uuid();
    await put(`/controls/${id}/copy`, { from: here.controlId, name: 'Of this test alone' });
    const own = (await get(`/controls/${id}`)).body as typeof control;
    const work = async (seed: number): Promise<string> => {
      const job = await newJob(id);
      await send(job, await honest(job, seed, await started({}, own)));
      return job;
    };
    const dueOf = async (): Promise<string> => (await Control.findByPk(id))?.due ?? '';
    const job = await work(5);
    const proved = await dueOf();
    expect(proved > daysAfter(today, 300)).toBe(true);
    const gaugeId = (await GaugeRow.findOne())?.id ?? '';
    await JobFlag.create({
      jobId: job,
      byJobId: job,
      gaugeId,
      at: new Date(),
      text: 'W-12 failed its check',
    });
    await standaloneDue().refresh(id);
    const doubted = (await due()).find((i) => i.id === id);
    expect(doubted).toMatchObject({ day: today, reasons: [{ kind: 'doubt' }, { kind: 'rule' }] });
    expect(doubted?.reasons[0]?.because).toMatch(/W-12/);
    // Both were worked in the same two hours of this test; the doubted one was yesterday's.
    await JobResult.update({ signedAt: new Date(Date.now() - 86400e3) }, { where: { jobId: job } });
    await work(6);
    expect(await dueOf()).toBe(proved);
  });

  it('is not what was retired', async () => {
    const control = await Control.findOne({ where: { name: 'Irrigation reducing valve' } });
    const body = {
      version: (control?.version ?? 0) + 1,
      equipmentId: control?.equipmentId,
      name: control?.name,
      family: control?.family,
    };
    await put(`/controls/${control?.id}`, { ...body, retired: true });
    expect((await due()).some((i) => i.id === control?.id)).toBe(false);
    expect(await DueReasonRow.count({ where: { controlId: control?.id ?? '' } })).toBe(0);
    await put(`/controls/${control?.id}`, { ...body, version: body.version + 1 });
    expect((await due()).some((i) => i.id === control?.id)).toBe(true);
  });

  it('is worked out for what an older program left without', async () => {
    await standaloneDue().refreshMissing();
    await DueReasonRow.destroy({ where: { controlId: here.controlId } });
    expect(await standaloneDue().refreshMissing()).toBe(1);
    expect(await standaloneDue().refreshMissing()).toBe(0);
  });
});

describe('a control’s life', () => {
  it('is its settings over its visits, under the device that was fitted, with the gauges that proved it', async () => {
    const control = await Control.findOne({ where: { name: 'Unloader' } });
    const life = (await get(`/controls/${control?.id}/life`)).body as {
      settings: {
        setting: string;
        points: { day: string; device?: string; found?: number; left?: number; job: string }[];
      }[];
      devices: { id: string; removedOn: null }[];
      gauges: { label: string; jobs: number }[];
      reasons: { kind: string }[];
    };
    expect(life.settings.length).toBeGreaterThan(1);
    const signed = await JobResult.count({ where: { controlId: control?.id ?? '' } });
    for (const s of life.settings) {
      expect(s.points.map((p) => p.day)).toEqual(s.points.map((p) => p.day).sort());
      expect(s.points.length).toBeLessThanOrEqual(signed);
      for (const p of s.points) expect(p.device).toBe(life.devices[0]?.id);
    }
    expect(life.gauges.length).toBeGreaterThan(0);
    expect(life.reasons.length).toBeGreaterThan(0);
    const { cookie } = await signIn('observatory');
    expect((await get(`/controls/${control?.id}/life`, cookie)).status).toBe(404);
  });
});

describe('practice', () => {
  it('is in no history: it moves no date, is no visit of a life, and no job of the control', async () => {
    const id = uuid();
    await put(`/controls/${id}/copy`, { from: here.controlId, name: 'Practised on' });
    const own = (await get(`/controls/${id}`)).body as typeof control & { jobs: object[] };
    const before = await DueReasonRow.findAll({ where: { controlId: id }, raw: true });
    const job = await newJob(id);
    await send(job, await honest(job, 5, await started({ mode: 'practice' }, own)));
    expect(await JobResult.findByPk(job)).toMatchObject({ practice: true, counts: false, settled: true });
    expect(await DueReasonRow.findAll({ where: { controlId: id }, raw: true })).toEqual(before);
    // Nor when it is worked out anew for another reason.
    await standaloneDue().refresh(id);
    expect((await DueReasonRow.findAll({ where: { controlId: id } })).map((r) => r.kind)).toEqual(['first']);
    expect((await get(`/controls/${id}/life`)).body).toMatchObject({
      settings: [],
      gauges: [],
      findings: [],
    });
    expect((await get(`/controls/${id}`)).body).toMatchObject({ jobs: [] });
    // The same job in earnest is all of that.
    const real = await newJob(id);
    await send(real, await honest(real, 5, await started({}, own)));
    expect(
      ((await get(`/controls/${id}/life`)).body as { settings: object[] }).settings.length,
    ).toBeGreaterThan(1);
    expect((await get(`/controls/${id}`)).body).toMatchObject({ jobs: [{ id: real }] });
  });
});

describe('many visits that prove nothing', () => {
  it('do not make forget the one that did', async () => {
    const id = uuid();
    await put(`/controls/${id}/copy`, { from: here.controlId, name: 'Often left unfinished' });
    const own = (await get(`/controls/${id}`)).body as typeof control;
    const job = await newJob(id);
    await send(job, await honest(job, 5, await started({}, own)));
    const proved = (await DueReasonRow.findOne({ where: { controlId: id, kind: 'rule' } }))?.day;
    const like = (await JobResult.findByPk(job, { raw: true })) as JobResult;
    for (let i = 1; i <= 35; i++)
      await JobResult.create({
        ...like,
        jobId: await newJob(id),
        outcome: 'unfinished',
        counts: false,
        signedAt: new Date(Date.now() + i * 1000),
      });
    await standaloneDue().refresh(id);
    const reasons = await DueReasonRow.findAll({ where: { controlId: id }, order: ['day'] });
    expect(reasons.map((r) => r.kind)).toEqual(['follow-up', 'rule']);
    expect(reasons[1]?.day).toBe(proved);
  });
});

describe('the lists', () => {
  it('ask the database as often however long they are', async () => {
    const { options } = Control.sequelize as unknown as { options: { logging?: unknown } };
    const count = async (path: string): Promise<number> => {
      let n = 0;
      const before = options.logging;
      // Who asks is remembered for a second: whether it is looked up again is not a matter of the list.
      options.logging = (sql: string) => void (/\bsessions\b/i.test(sql) || n++);
      await get(path);
      options.logging = before ?? false;
      return n;
    };
    for (const [one, many] of [
      ['/due?limit=1', '/due?limit=30'],
      ['/sites?limit=1', '/sites?limit=30'],
      ['/visits?limit=1', '/visits?limit=30'],
      ['/search?q=zzzz', '/search?q=gauge'],
      [`/visits/week?from=${daysAfter(today, 19)}`, `/visits/week?from=${daysAfter(today, -1)}`],
    ] as const) {
      const n = await count(one);
      expect(n).toBeGreaterThan(0);
      expect([many, await count(many)]).toEqual([many, n]);
    }
  });
});
