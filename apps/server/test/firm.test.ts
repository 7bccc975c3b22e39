// A firm's book as people write it: sites, equipment, controls; two at once; odd names; what must not be moved or retired.
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { v7 as uuid } from 'uuid';
import { Control, FittedDevice, Site } from '../src/database/models.js';
import { chained, control as judged, honest, openJudged, send, started } from './judged.js';
import {
  type Refused,
  site,
  newSite,
  newEquipment,
  control,
  newControl,
  refused,
  fieldOf,
} from './booked.js';
import { closeStand, get, here, newJob, put, signIn } from './stand.js';

beforeAll(openJudged, 60000);
afterAll(closeStand);

describe('a site', () => {
  it('is kept whole, once, and found in the list under its name', async () => {
    const id = uuid();
    const whole = site({
      customer: 'Kiln Company',
      address: 'Kiln Row 2\nOstrey',
      contact: 'Somebody, by the gate',
      access: 'Ring twice.',
      hazards: 'Loose bricks.',
      unit: 'bar',
      notes: 'Nothing else.',
    });
    for (let i = 0; i < 3; i++) expect((await put(`/sites/${id}`, whole)).body).toEqual({ id, version: 1 });
    const { version: _, ...fields } = whole as Record<string, unknown>;
    expect((await get(`/sites/${id}`)).body).toMatchObject({ ...fields, id, version: 1, retired: false });
    const { items } = (await get('/sites?limit=200')).body as { items: { id: string }[] };
    expect(items.filter((s) => s.id === id)).toHaveLength(1);
    expect(await Site.count({ where: { id } })).toBe(1);
  });

  it('keeps any name that can be read, from the right or with pictures; and says what is wrong with one that cannot', async () => {
    for (const name of [
      'مخزن المياه',
      'חדר דוודים',
      '🏭 Works',
      'Ĵaŭdo & Sons <b>',
      "'; DROP TABLE sites; --",
      'x'.repeat(120),
    ]) {
      const id = await newSite({ name });
      expect(((await get(`/sites/${id}`)).body as { name: string }).name).toBe(name);
    }
    for (const [name, told] of [
      ['', /empty/],
      ['   ', /empty/],
      ['x'.repeat(300), /longer than 120/],
      ['turned \u202e round', /cannot be seen/],
      ['a\u0000b', /cannot be seen/],
      ['two\nlines', /cannot be seen/],
      [7, /text/],
      [null, /text/],
    ] as const) {
      const r = await refused(`/sites/${uuid()}`, site({ name }));
      expect([r.status, r.code, fieldOf(r)]).toEqual([422, 'not-valid', 'name']);
      expect(r.errors?.[0]?.message).toMatch(told);
    }
  });

  it('stands on this earth, and reads in a unit of pressure', async () => {
    for (const altitude_m of [-451, 5501, 'high', null])
      expect(fieldOf(await refused(`/sites/${uuid()}`, site({ altitude_m })))).toBe('altitude_m');
    for (const unit of ['degF', 'furlong', 'psia'])
      expect(fieldOf(await refused(`/sites/${uuid()}`, site({ unit })))).toBe('unit');
    expect(fieldOf(await refused(`/sites/${uuid()}`, site({ organisationId: uuid() })))).toBe(
      'organisationId',
    );
  });

  it('shows the second of two who change it what the first made of it', async () => {
    const id = await newSite();
    expect((await put(`/sites/${id}`, site({ version: 2, name: 'New Kiln' }))).body).toEqual({
      id,
      version: 2,
    });
    const r = await refused(`/sites/${id}`, site({ version: 2, name: 'Kiln, the old one' }));
    expect([r.status, r.code]).toEqual([409, 'moved-on']);
    expect(r.current).toMatchObject({ name: 'New Kiln', version: 2 });
    // Having seen it, they decide.
    expect((await put(`/sites/${id}`, site({ version: 3, name: 'Kiln, the old one' }))).status).toBe(200);
    // What is sent again by a device that did not hear the answer is the same, and no quarrel.
    expect((await put(`/sites/${id}`, site({ version: 3, name: 'Kiln, the old one' }))).body).toEqual({
      id,
      version: 3,
    });
    expect((await refused(`/sites/${uuid()}`, site({ version: 4 }))).code).toBe('gone');
  });

  it('is one, and of one mind, however many change it at once', async () => {
    const id = await newSite();
    const answers = await Promise.all(
      Array.from({ length: 8 }, (_, i) => put(`/sites/${id}`, site({ version: 2, name: `Kiln ${i}` }))),
    );
    expect(answers.filter((a) => a.status === 200)).toHaveLength(1);
    expect(answers.filter((a) => (a.body as Refused).code === 'moved-on')).toHaveLength(7);
  });

  it('made at once under one id is made once', async () => {
    const id = uuid();
    const answers = await Promise.all(Array.from({ length: 6 }, () => put(`/sites/${id}`, site())));
    expect(answers.some((a) => a.status === 200)).toBe(true);
    for (const a of answers) expect([200, 409, 503]).toContain(a.status);
    expect((await put(`/sites/${id}`, site())).status).toBe(200);
    expect(await Site.count({ where: { id } })).toBe(1);
  });

  it('that was retired leaves the list, keeps its page, and comes back', async () => {
    const id = await newSite();
    const listed = async (all = ''): Promise<boolean> =>
      ((await get(`/sites?limit=200${all}`)).body as { items: { id: string }[] }).items.some(
        (s) => s.id === id,
      );
    expect((await put(`/sites/${id}`, site({ version: 2, retired: true }))).status).toBe(200);
    expect([await listed(), await listed('&retired=true')]).toEqual([false, true]);
    expect((await get(`/sites/${id}`)).body).toMatchObject({ retired: true });
    expect((await put(`/sites/${id}`, site({ version: 3 }))).status).toBe(200);
    expect(await listed()).toBe(true);
  });

  it('is changed by nobody who may only look, nor from another firm', async () => {
    const { cookie } = await signIn('observatory');
    expect((await put(`/sites/${uuid()}`, site(), cookie)).status).toBe(403);
    expect(
      (await put(`/equipment/${uuid()}`, { version: 1, siteId: uuid(), name: 'x' }, cookie)).status,
    ).toBe(403);
    expect((await put(`/controls/${uuid()}`, control(uuid()), cookie)).status).toBe(403);
    expect((await put(`/sites/${uuid()}`, site(), '')).status).toBe(401);
  });
});

describe('a control', () => {
  it('of a kind is entered, and can be opened, planned, worked and signed', async () => {
    const equipmentId = await newEquipment(await newSite(), { maker: 'Dunlarch', serial: 'N 1', made: 2019 });
    const id = await newControl(equipmentId, { months: 6 });
    const before = (await get(`/controls/${id}`)).body as {
      due: string;
      reasons: { kind: string }[];
      plan: null;
      device: object;
    };
    expect(before).toMatchObject({ available: true, plan: null, device: { label: 'As found' }, months: 6 });
    expect(before.reasons.map((r) => r.kind)).toEqual(['first']);
    expect(before.due).toBe(new Date().toISOString().slice(0, 10));
    const planId = uuid();
    const planned = await put(`/controls/${id}/plans/${planId}`, { version: 1, plan: judged.plan });
    expect(planned.body).toEqual({ id: planId, version: 1 });
    const own = (await get(`/controls/${id}`)).body as typeof judged;
    const job = await newJob(id);
    const r = await send(job, await honest(job, 3, await started({}, own)));
    expect(r.status).toBe(200);
    const after = (await get(`/controls/${id}`)).body as {
      due: string;
      reasons: { kind: string; because: string }[];
    };
    expect(after.reasons[0]).toMatchObject({ kind: 'rule', because: 'every 6 months' });
    expect(Date.parse(after.due) - Date.now()).toBeGreaterThan(170 * 86400e3);
  });

  it('is of a kind that there is, and stays of it once it was planned', async () => {
    const equipmentId = await newEquipment(await newSite());
    for (const family of ['never-heard-of', 'gauge-check', '__proto__', ''])
      expect(fieldOf(await refused(`/controls/${uuid()}`, control(equipmentId, { family })))).toBe('family');
    const id = await newControl(equipmentId);
    // Mistaken on the page of kinds, and nothing hangs on it yet.
    expect(
      (await put(`/controls/${id}`, control(equipmentId, { version: 2, family: 'well-drive' }))).status,
    ).toBe(200);
    expect((await put(`/controls/${id}`, control(equipmentId, { version: 3 }))).status).toBe(200);
    await put(`/controls/${id}/plans/${uuid()}`, { version: 1, plan: judged.plan });
    expect(
      fieldOf(await refused(`/controls/${id}`, control(equipmentId, { version: 4, family: 'well-drive' }))),
    ).toBe('family');
  });

  it('has intervals and days that can be', async () => {
    const equipmentId = await newEquipment(await newSite());
    const wrong = async (over: object): Promise<string | undefined> =>
      fieldOf(await refused(`/controls/${uuid()}`, control(equipmentId, over)));
    expect(await wrong({ months: 0 })).toBe('months');
    expect(await wrong({ months: 1.5 })).toBe('months');
    expect(await wrong({ lawMonths: 121 })).toBe('lawMonths');
    expect(await wrong({ lawMonths: 6 })).toBe('lawBy');
    expect(await wrong({ customerDay: '2020-01-31' })).toBe('customerDay');
    expect(await wrong({ customerDay: '2099-02-30' })).toBe('customerDay');
    expect(await wrong({ customerDay: 'soon' })).toBe('customerDay');
    const id = await newControl(equipmentId, {
      customerDay: '2099-02-28',
      lawMonths: 6,
      lawBy: 'an insurer',
    });
    expect((await get(`/controls/${id}`)).body).toMatchObject({ due: '2099-02-28' });
  });

  it('with a job open is neither moved to another site nor retired, nor is what it stands on', async () => {
    const siteId = await newSite();
    const equipmentId = await newEquipment(siteId);
    const elsewhere = await newEquipment(await newSite());
    const beside = await newEquipment(siteId);
    const id = await newControl(equipmentId);
    await newJob(id);
    for (const [path, body] of [
      [`/controls/${id}`, control(elsewhere, { version: 2 })],
      [`/controls/${id}`, control(equipmentId, { version: 2, retired: true })],
      [`/equipment/${equipmentId}`, { version: 2, siteId, name: 'Well', retired: true }],
      [`/equipment/${equipmentId}`, { version: 2, siteId: await newSite(), name: 'Well' }],
      [`/sites/${siteId}`, site({ version: 2, retired: true })],
    ] as const)
      expect(await refused(path, body)).toMatchObject({ status: 409, code: 'job-open' });
    // On another piece of equipment of the same site it is still where the job says.
    expect((await put(`/controls/${id}`, control(beside, { version: 2 }))).status).toBe(200);
  });

  it('that is a gauge goes where its gauge goes', async () => {
    const gauge = await Control.findOne({ where: { name: 'Gauge W-07' } });
    const body = {
      version: (gauge?.version ?? 0) + 1,
      equipmentId: gauge?.equipmentId,
      name: 'Gauge W-07',
      family: 'gauge-check',
    };
    expect(await refused(`/controls/${gauge?.id}`, { ...body, retired: true })).toMatchObject({
      status: 409,
      code: 'of-a-gauge',
    });
  });

  it('is not entered on what is not there, or not the firm’s', async () => {
    expect(fieldOf(await refused(`/controls/${uuid()}`, control(uuid())))).toBe('equipmentId');
    expect(fieldOf(await refused(`/equipment/${uuid()}`, { version: 1, siteId: uuid(), name: 'x' }))).toBe(
      'siteId',
    );
    const siteId = await newSite();
    const equipmentId = await newEquipment(siteId);
    await put(`/equipment/${equipmentId}`, { version: 2, siteId, name: 'Well', retired: true });
    expect(fieldOf(await refused(`/controls/${uuid()}`, control(equipmentId)))).toBe('equipmentId');
    expect(
      fieldOf(await refused(`/equipment/${uuid()}`, { version: 1, siteId, name: 'x', made: 1066 })),
    ).toBe('made');
  });

  it('whose device was replaced has learned nothing of the new one, and keeps its history', async () => {
    const id = await newControl(await newEquipment(await newSite()));
    await FittedDevice.update(
      { learned: { range: { perTurn: 9, spread: 0.1 } } },
      { where: { controlId: id } },
    );
    const device = uuid();
    const day = new Date().toISOString().slice(0, 10);
    for (let i = 0; i < 2; i++)
      expect(
        (await put(`/controls/${id}/devices/${device}`, { label: 'A new one', fittedOn: day })).body,
      ).toEqual({ id: device });
    expect((await get(`/controls/${id}`)).body).toMatchObject({
      device: { id: device, label: 'A new one', learned: {} },
    });
    expect(await FittedDevice.count({ where: { controlId: id } })).toBe(2);
    expect(await FittedDevice.count({ where: { controlId: id, removedOn: null } })).toBe(1);
    expect(
      fieldOf(await refused(`/controls/${id}/devices/${uuid()}`, { label: 'x', fittedOn: '2001-01-01' })),
    ).toBe('fittedOn');
    expect(
      fieldOf(await refused(`/controls/${id}/devices/${uuid()}`, { label: 'x', fittedOn: '2099-02-30' })),
    ).toBe('fittedOn');
  });
});

describe('a copy', () => {
  it('of a control has its plan and nothing of its past, once', async () => {
    const id = uuid();
    for (let i = 0; i < 2; i++)
      expect(
        (await put(`/controls/${id}/copy`, { from: here.controlId, name: 'Second pump switch' })).body,
      ).toEqual({ id, version: 1 });
    const made = (await get(`/controls/${id}`)).body as {
      plan: { values: object };
      jobs: object[];
      reasons: { kind: string }[];
    };
    expect(made.plan.values).toEqual(judged.plan.values);
    expect(made.jobs).toEqual([]);
    expect(made.reasons.map((r) => r.kind)).toEqual(['first']);
  });

  it('of a site has its equipment, controls and plans under ids of its own, once', async () => {
    const from = (
      (await get('/sites?limit=200')).body as {
        items: { id: string; name: string; equipment: { controls: object[] }[] }[];
      }
    ).items.find((s) => s.name === 'Saltmarsh glasshouses');
    const id = uuid();
    for (let i = 0; i < 2; i++)
      expect((await put(`/sites/${id}/copy`, { from: from?.id, name: 'Upper glasshouses' })).body).toEqual({
        id,
        version: 1,
      });
    const made = (await get(`/sites/${id}`)).body as typeof from & { customer: string };
    expect(made?.equipment.map((e) => e.controls.length)).toEqual(
      from?.equipment.map((e) => e.controls.length),
    );
    expect(made?.customer).toBe('Saltmarsh Growers');
    expect((await put(`/sites/${uuid()}/copy`, { from: uuid(), name: 'x' })).status).toBe(404);
  });
});

describe('a retired gauge', () => {
  it('is in no list of what could be used, and a job begun with it is not proved', async () => {
    const job = await newJob();
    const body = await started();
    const used = Object.values(body.gauges)[0];
    if (!used) throw new Error('no gauge');
    const { id, label, kind, unit, lower, upper, division, readable, medium } = used;
    const form = {
      label,
      kind,
      unit,
      lower,
      upper,
      division,
      readable,
      medium: medium ?? 'any',
      accuracy: '1A',
    };
    const asIs = (await get(`/gauges/${id}`)).body as {
      accuracy: { standard: string; grade?: string; class?: number; percentOfSpan?: number };
    };
    const { accuracy: a } = asIs;
    const accuracy = a.percentOfSpan !== undefined ? `${a.percentOfSpan} %` : (a.grade ?? String(a.class));
    expect((await put(`/gauges/${id}`, { ...form, accuracy, retired: true })).status).toBe(200);
    expect((await get(`/gauges/${id}`)).body).toMatchObject({ retired: true });
    const later = new Date(Date.now() + 3600e3).toISOString();
    const events = chained(job, [body], { wall: later });
    expect((await send(job, events)).status).toBe(200);
    expect((await put(`/gauges/${id}`, { ...form, accuracy })).status).toBe(200);
    expect((await get(`/gauges/${id}`)).body).toMatchObject({ retired: false });
  });
});
