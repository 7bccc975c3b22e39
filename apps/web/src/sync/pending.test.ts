import 'fake-indexeddb/auto';
import { describe, expect, it } from '@jest/globals';
import { siteOf } from '../testingBook.ts';
import { deviceDb } from './db.ts';
import { waiting, waitingControl, withWaiting, withWaitingPhotos } from './pending.ts';

const id = (n: number): string => `00000000-0000-4000-8000-00000000000${n}`;
const site = siteOf(id(1), 'Mill', [], { version: 4 });
const SITE = { path: `/sites/${id(2)}`, body: { version: 1, name: 'Barn', altitude_m: 70 } };
const EQUIPMENT = { path: `/equipment/${id(3)}`, body: { version: 1, siteId: id(2), name: 'Well' } };
const CONTROL = {
  path: `/controls/${id(4)}`,
  body: { version: 1, equipmentId: id(3), name: 'Switch', family: 'well-switch', customerDay: '2031-01-05' },
};
const plan = (version: number, cutIn: number) => ({
  path: `/controls/${id(4)}/plans/${id(5 + version)}`,
  body: { version, plan: { values: { cutIn } } },
});

describe('what waits on this device', () => {
  it('stands in the lists as if the server had it, in its place and by its name', () => {
    const all = withWaiting([site], [SITE, EQUIPMENT, CONTROL]);
    expect(all.map((s) => s.name)).toEqual(['Barn', 'Mill']);
    expect(all[0]).toMatchObject({ altitude_m: 70, customer: null, version: 1, retired: false });
    expect(all[0]?.equipment).toMatchObject([
      { name: 'Well', controls: [{ name: 'Switch', due: '2031-01-05' }] },
    ]);
    // What came back from the server meanwhile is not there twice, and its own state is the one shown.
    const sent = withWaiting([{ ...site, id: id(2), name: 'Barn, as it was kept' }], [SITE, EQUIPMENT]);
    expect(sent.map((s) => s.name)).toEqual(['Barn, as it was kept']);
    expect(sent[0]?.equipment).toHaveLength(1);
  });

  it('leaves alone what it does not belong to', () => {
    const lost = [
      EQUIPMENT,
      CONTROL,
      { path: `/jobs/${id(9)}`, body: {} },
      { path: '/sites/none', body: {} },
    ];
    expect(withWaiting([site], lost)).toEqual([site]);
  });

  it('can be opened as a control, with its newest plan', () => {
    const puts = [SITE, EQUIPMENT, CONTROL, plan(1, 40), plan(2, 45)];
    const control = waitingControl(id(4), [site], puts);
    expect(control).toMatchObject({
      name: 'Switch',
      available: true,
      site: { name: 'Barn', altitude_m: 70 },
      equipment: { name: 'Well' },
      plan: { version: 2, values: { cutIn: 45 } },
      jobs: [],
    });
    expect(waitingControl(id(4), [site], [SITE, EQUIPMENT, CONTROL])?.plan).toBeNull();
    expect(waitingControl(id(8), [site], puts)).toBeUndefined();
    // A plan that waits for a control of the server's own makes no new control.
    expect(waitingControl(id(4), [site], [plan(1, 40)])).toBeUndefined();
  });

  it('of a kind this program does not know is shown, and not opened', () => {
    const odd = { ...CONTROL, body: { ...CONTROL.body, family: 'never-heard-of' } };
    expect(waitingControl(id(4), [], [SITE, EQUIPMENT, odd])?.available).toBe(false);
  });

  it('is read in the order it was made; those of an older program first', async () => {
    const db = await deviceDb();
    await db.put('puts', { path: '/a', user: 'u', body: {}, order: 20 });
    await db.put('puts', { path: '/b', user: 'u', body: {}, order: 10 });
    await db.put('puts', { path: '/z', user: 'u', body: {} });
    expect((await waiting()).map((p) => p.path)).toEqual(['/z', '/b', '/a']);
    await db.clear('puts');
  });
});

describe('photos of a control that wait to be sent', () => {
  const photo = { hash: 'ab'.repeat(32), width: 8, height: 6, text: 'Plate' };
  const [ONE, TWO, CONTROL] = [1, 2, 3].map((n) => `0000000${n}-0000-7000-8000-000000000000`) as [
    string,
    string,
    string,
  ];
  const put = (id: string, body: object, control = CONTROL) => ({
    path: `/controls/${control}/photos/${id}`,
    user: 'u',
    body,
  });

  it('are shown before those that are known, once; what was taken away here is not', () => {
    const known = [{ ...photo, id: ONE, job: null, at: '2030-01-01T00:00:00Z' }];
    const ids = (puts: Parameters<typeof withWaitingPhotos>[2]): readonly string[] =>
      withWaitingPhotos(known, CONTROL, puts).map((p) => p.id);
    expect(ids([put(TWO, photo)])).toEqual([TWO, ONE]);
    expect(ids([put(ONE, photo)])).toEqual([ONE]);
    expect(ids([put(ONE, { ...photo, removed: true })])).toEqual([]);
    expect(ids([put(TWO, photo, ONE)])).toEqual([ONE]);
  });
});
