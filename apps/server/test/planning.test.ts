// What is due and why, who goes where, and what a control has been through.
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { daysAfter } from '@firm-needle/core/history';
import { v7 as uuid } from 'uuid';
import {
  Control,
  DueReasonRow,
  Equipment,
  GaugeRow,
  JobFlag,
  JobResult,
  Site,
  User,
  Visit,
  VisitControl,
} from '../src/database/models.js';
import { standaloneDue } from '../src/jobs/standalone.js';
import { type control, honest, openJudged, send, started } from './judged.js';
import { closeStand, get, here, newJob, put, signIn } from './stand.js';

beforeAll(openJudged, 60000);
afterAll(closeStand);

const today = new Date().toISOString().slice(0, 10);
interface Due {
  readonly id: string;
  readonly name: string;
  readonly day: string;
  readonly site: { readonly id: string; readonly name: string };
  readonly reasons: readonly { readonly kind: string; readonly day: string; readonly because: string }[];
  readonly visit: { readonly id: string; readonly day: string } | null;
}
const due = async (query = '?limit=200', as?: string): Promise<Due[]> =>
  ((await get(`/due${query}`, as)).body as { items: Due[] }).items;
const codeOf = (body: unknown): string | undefined => (body as { code?: string }).code;
const fieldOf = (body: unknown): string | undefined =>
  (body as { errors?: { field: string }[] }).errors?.[0]?.field;

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

describe('a visit', () => {
  const on = daysAfter(today, 20);
  let siteId: string;
  let controls: string[];
  let who: string;
  beforeAll(async () => {
    const site = await Site.findOne({ where: { name: 'Harbour cold store' } });
    siteId = site?.id ?? '';
    const equipment = await Equipment.findAll({ where: { siteId }, include: Control });
    controls = equipment.flatMap((e) => (e.controls ?? []).map((c) => c.id));
    who = (await User.findOne({ where: { login: 'quenby' } }))?.id ?? '';
  });
  const visit = (over: object = {}): object => ({
    version: 1,
    siteId,
    technicianId: who,
    day: on,
    stop: 1,
    controls,
    ...over,
  });
  const planned = async (over: object = {}): Promise<string> => {
    const id = uuid();
    expect((await put(`/visits/${id}`, visit(over))).body).toEqual({ id, version: 1 });
    return id;
  };

  it('is planned once, stands in its week and on its controls, moves, and is cancelled with a reason', async () => {
    const id = await planned({ purpose: 'Both racks' });
    await put(`/visits/${id}`, visit({ purpose: 'Both racks' }));
    const week = async (from: string) =>
      (await get(`/visits/week?from=${from}`)).body as {
        people: { name: string }[];
        visits: { id: string; minutes: number; controls: { id: string }[]; technicianId: string }[];
      };
    const there = await week(daysAfter(on, -3));
    expect(there.people.map((p) => p.name)).toEqual(
      expect.arrayContaining(['Tobin Quenby', 'Isolde Marrable']),
    );
    const own = there.visits.filter((v) => v.id === id);
    expect(own).toHaveLength(1);
    expect(own[0]?.controls.map((c) => c.id)).toEqual(controls);
    expect(own[0]?.minutes).toBeGreaterThan(0);
    expect((await due()).find((i) => i.id === controls[0])?.visit?.day).toBe(on);
    const moved = daysAfter(on, 9);
    expect(
      (await put(`/visits/${id}`, visit({ version: 2, day: moved, controls: [...controls].reverse() })))
        .status,
    ).toBe(200);
    expect((await week(daysAfter(on, -3))).visits.some((v) => v.id === id)).toBe(false);
    expect((await get(`/visits/${id}`)).body).toMatchObject({
      day: moved,
      controls: [...controls].reverse().map((c) => ({ id: c })),
    });
    expect(codeOf((await put(`/visits/${id}`, visit({ version: 2 }))).body)).toBe('moved-on');
    expect(
      (await put(`/visits/${id}`, visit({ version: 3, day: moved, cancelled: 'The owner is away.' }))).status,
    ).toBe(200);
    const all = (await get('/visits?limit=200')).body as { items: { id: string }[] };
    expect(all.items.some((v) => v.id === id)).toBe(false);
    expect((await due()).find((i) => i.id === controls[0])?.visit ?? null).toBeNull();
  });

  it('is shown where it is due: of several on one day always the first stop, of those the first that was planned', async () => {
    const day = daysAfter(on, -1);
    const stops = [3, 2, 2, 4];
    const ids: string[] = [];
    for (const stop of stops) ids.push(await planned({ day, stop }));
    const shown = async () => (await due()).find((i) => i.id === controls[0])?.visit;
    for (const of of ids) {
      await Visit.update({ purpose: `looked at after ${of}` }, { where: { id: of } });
      expect(await shown()).toMatchObject({ id: ids[1], day });
    }
    for (const id of ids)
      expect((await put(`/visits/${id}`, visit({ version: 2, day, cancelled: 'of a test' }))).status).toBe(
        200,
      );
  });

  it('is refused where it cannot be', async () => {
    const wrong = async (over: object): Promise<string | undefined> =>
      fieldOf((await put(`/visits/${uuid()}`, visit(over))).body);
    expect(await wrong({ day: '2020-01-31' })).toBe('day');
    expect(await wrong({ day: '2099-02-30' })).toBe('day');
    expect(await wrong({ day: 'Tuesday' })).toBe('day');
    expect(await wrong({ stop: 0 })).toBe('stop');
    expect(await wrong({ controls: [] })).toBe('controls');
    expect(await wrong({ controls: [here.controlId] })).toBe('controls');
    expect(await wrong({ controls: [controls[0], controls[0]] })).toBe('controls');
    expect(await wrong({ controls: ['x'] })).toBe('controls');
    expect(await wrong({ controls: 'all' })).toBe('controls');
    expect(await wrong({ siteId: uuid() })).toBe('siteId');
    expect(await wrong({ technicianId: uuid() })).toBe('technicianId');
    const reader = await User.findOne({ where: { login: 'observatory' } });
    expect(await wrong({ technicianId: reader?.id })).toBe('technicianId');
    await User.update({ disabledAt: new Date() }, { where: { id: who } });
    expect(await wrong({})).toBe('technicianId');
    await User.update({ disabledAt: null }, { where: { id: who } });
    const { cookie } = await signIn('observatory');
    expect((await put(`/visits/${uuid()}`, visit(), cookie)).status).toBe(403);
  });

  it('keeps what was begun on it', async () => {
    const id = await planned();
    expect((await put(`/jobs/${uuid()}`, { controlId: controls[0], visitId: id })).status).toBe(200);
    expect(codeOf((await put(`/visits/${id}`, visit({ version: 2, cancelled: 'no' }))).body)).toBe('begun');
    expect(
      codeOf((await put(`/visits/${id}`, visit({ version: 2, controls: controls.slice(1) }))).body),
    ).toBe('begun');
    expect((await put(`/visits/${id}`, visit({ version: 2, day: daysAfter(on, 1) }))).status).toBe(200);
  });

  it('is one, however many move it at once, with its controls in order', async () => {
    const id = await planned();
    const answers = await Promise.all(
      Array.from({ length: 6 }, (_, i) =>
        put(
          `/visits/${id}`,
          visit({ version: 2, stop: i + 1, controls: i % 2 ? [...controls].reverse() : controls }),
        ),
      ),
    );
    expect(answers.filter((a) => a.status === 200)).toHaveLength(1);
    const links = await VisitControl.findAll({ where: { visitId: id }, order: ['position'] });
    expect(links.map((l) => l.position)).toEqual(controls.map((_, i) => i + 1));
    const { stop } = (await Visit.findByPk(id)) as Visit;
    expect(links.map((l) => l.controlId)).toEqual(stop % 2 ? controls : [...controls].reverse());
  });

  it('has what is packed ticked off', async () => {
    const id = await planned();
    expect((await put(`/visits/${id}/packed`, { items: ['pry bar', 'pry bar', 'gauge'] })).status).toBe(200);
    expect((await get(`/visits/${id}`)).body).toMatchObject({ packed: ['pry bar', 'gauge'], version: 1 });
    expect((await put(`/visits/${id}/packed`, { items: [7] })).status).toBe(422);
    expect((await put(`/visits/${uuid()}/packed`, { items: [] })).status).toBe(404);
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
    const { sequelize } = Control;
    const count = async (path: string): Promise<number> => {
      let n = 0;
      const before = sequelize?.options.logging;
      // Who asks is remembered for a second: whether it is looked up again is not a matter of the list.
      if (sequelize) sequelize.options.logging = (sql: string) => void (/\bsessions\b/i.test(sql) || n++);
      await get(path);
      if (sequelize) sequelize.options.logging = before ?? false;
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
