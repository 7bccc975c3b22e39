// Which control stands beside which: chosen among those that can, recorded with the job by the register and by nobody else.
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { JobEvent } from '@firm-needle/core/procedure';
import { v7 as uuid } from 'uuid';
import { Control } from '../src/database/models.js';
import { chained, openJudged, send, started, type ControlAnswer } from './judged.js';
import { closeStand, get, here, put, signIn } from './stand.js';

interface Answer extends ControlAnswer {
  readonly links: readonly {
    readonly role: string;
    readonly to: { readonly control: string; readonly values: object; readonly signed?: object } | null;
    readonly could: readonly { readonly id: string; readonly name: string }[];
  }[];
}
const at = async (id: string): Promise<Answer> => (await get(`/controls/${id}`)).body as Answer;
const link = async (id: string, role: string) => (await at(id)).links.find((l) => l.role === role);
let operating: string;
let limit: string;

beforeAll(async () => {
  await openJudged();
  const all = await Control.findAll({ where: { family: 'steam-control' } });
  operating = all.find((c) => c.name === 'Operating pressure control')?.id ?? '';
  limit = all.find((c) => c.name === 'High limit')?.id ?? '';
}, 60000);
afterAll(closeStand);

describe('who stands beside a control', () => {
  it('is said with its plan in force and how its last job ended; only those that can are offered', async () => {
    const over = await link(operating, 'limit');
    const { plan } = await at(limit);
    expect(over?.to).toMatchObject({
      control: limit,
      name: 'High limit',
      values: { cutOut: plan.values['cutOut'] },
    });
    expect(over?.to?.signed).toMatchObject({ proved: true });
    expect(over?.could.map((c) => c.id)).toEqual([limit]);
    // The other way round it is the operating control, and never itself.
    expect((await link(limit, 'operating'))?.could.map((c) => c.id)).toEqual([operating]);
    expect((await at(here.controlId)).links).toEqual([]);
  });

  it('is cleared and chosen again; the same twice is one', async () => {
    expect((await put(`/controls/${operating}/links/limit`, { to: null })).status).toBe(200);
    expect((await link(operating, 'limit'))?.to).toBeNull();
    for (let i = 0; i < 2; i++)
      expect((await put(`/controls/${operating}/links/limit`, { to: limit })).status).toBe(200);
    expect((await link(operating, 'limit'))?.to?.control).toBe(limit);
  });

  it('is one, however many choose at once', async () => {
    const answers = await Promise.all(
      Array.from({ length: 6 }, (_, i) =>
        put(`/controls/${operating}/links/limit`, { to: i % 2 === 0 ? limit : null }),
      ),
    );
    expect(answers.map((a) => a.status)).toEqual(answers.map(() => 200));
    expect((await put(`/controls/${operating}/links/limit`, { to: limit })).status).toBe(200);
    expect((await link(operating, 'limit'))?.to?.control).toBe(limit);
  });

  it.each<[string, () => [string, string, unknown], number, string]>([
    ['itself', () => [operating, 'limit', operating], 422, 'cannot-stand-there'],
    ['a control of another kind', () => [operating, 'limit', here.controlId], 422, 'cannot-stand-there'],
    ['nobody’s control', () => [operating, 'limit', uuid()], 422, 'cannot-stand-there'],
    ['a role that the kind has not', () => [operating, 'stage', limit], 404, 'role-unknown'],
    ['a kind without roles', () => [here.controlId, 'limit', limit], 404, 'role-unknown'],
    ['no id', () => [operating, 'limit', 'x'], 422, 'not-valid'],
    ['nothing', () => [operating, 'limit', undefined], 422, 'not-valid'],
    ['a control that is not there', () => [uuid(), 'limit', limit], 404, 'not-found'],
  ])('is refused: %s', async (_, ask, status, code) => {
    const [id, role, to] = ask();
    const r = await put(`/controls/${id}/links/${role}`, { to });
    expect(r.body).toMatchObject({ status, code });
    expect((await link(operating, 'limit'))?.to?.control).toBe(limit);
  });

  it('is chosen by nobody who may only look', async () => {
    const reader = await signIn('observatory');
    const r = await put(`/controls/${operating}/links/limit`, { to: null }, reader.cookie);
    expect(r.status).toBe(403);
  });
});

describe('a job on it', () => {
  it('records what stood beside it by the register, whatever the device says; its sheet tells', async () => {
    const on = await at(operating);
    const job = uuid();
    await put(`/jobs/${job}`, { controlId: operating });
    const forged = { limit: { control: 'x', name: 'A better one', values: { cutOut: 9e4 } } };
    const sent = chained(job, [await started({ links: forged }, on)]);
    expect((await send(job, sent)).status).toBe(200);
    const [first] = (await get(`/jobs/${job}/events`)).body.items as { event: JobEvent }[];
    expect(first?.event.body).toMatchObject({ links: { limit: { control: limit, name: 'High limit' } } });
    const { result } = (await get(`/jobs/${job}`)).body as {
      result: { sheet: { links?: { title: string; text: string }[] } };
    };
    expect(result.sheet.links?.[0]?.text).toMatch(/^High limit, (left as found|set and proved) on \d{4}-/);
    // Sent again after the register changed, it is the same entry still.
    await put(`/controls/${operating}/links/limit`, { to: null });
    expect((await send(job, sent)).body).toMatchObject({ seq: 1 });
    await put(`/controls/${operating}/links/limit`, { to: limit });
  });

  it('has nothing beside it where the register has nothing', async () => {
    await put(`/controls/${operating}/links/limit`, { to: null });
    const on = await at(operating);
    const job = uuid();
    await put(`/jobs/${job}`, { controlId: operating });
    const forged = { limit: { control: 'x', name: 'A better one', values: {} } };
    await send(job, chained(job, [await started({ links: forged }, on)]));
    const [first] = (await get(`/jobs/${job}/events`)).body.items as { event: JobEvent }[];
    expect('links' in (first?.event.body ?? {})).toBe(false);
    await put(`/controls/${operating}/links/limit`, { to: limit });
  });
});
