// Who goes where and when: a visit planned, moved, cancelled, worked.
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { daysAfter } from '@firm-needle/core/history';
import { v7 as uuid } from 'uuid';
import { Control, Equipment, Site, User, Visit, VisitControl } from '../src/database/models.js';
import { today, due, codeOf, fieldOf } from './dues.js';
import { openJudged } from './judged.js';
import { closeStand, get, here, put, signIn } from './stand.js';

beforeAll(openJudged, 60000);
afterAll(closeStand);

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
