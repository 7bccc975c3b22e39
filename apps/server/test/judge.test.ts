// What forged or damaged requests try: the server believes only its own fold, its own register and its own sessions.
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { JobBody, JobEvent, StartedBody } from '@firm-needle/core/procedure';
import { v7 as uuid } from 'uuid';
import { permitsOn } from '../src/common/permits.js';
import { JobEventRow, Visit } from '../src/database/models.js';
import { openJudged, psi, control, started, chained, honest, send, resultOf } from './judged.js';
import { closeStand, event, get, newJob, put, signIn } from './stand.js';

beforeAll(openJudged, 60000);
afterAll(closeStand);

describe('who, and with which permits', () => {
  it('is said by the session: a name and a permit that are not one’s own are not recorded', async () => {
    const job = await newJob();
    const body = await started({
      technician: 'Somebody Else',
      permits: ['gas', 'breathing'],
      rule: 'simple',
    });
    const sent = chained(job, [body, { kind: 'take', by: 'The King', permits: ['gas'] }]);
    const r = await send(job, sent);
    expect(r.status).toBe(200);
    const events = (await get(`/jobs/${job}/events`)).body.items as { event: JobEvent }[];
    const me = (await get('/auth/me')).body as { name: string; permits: string[] };
    expect(events[0]?.event.body).toMatchObject({
      technician: me.name,
      permits: me.permits,
      rule: 'guarded',
    });
    expect(events[1]?.event.body).toMatchObject({ by: me.name, permits: me.permits });
    // The device is told what was recorded, and the same again is no other entry.
    expect(r.body.accepted[0].event.body.technician).toBe(me.name);
    expect((await send(job, sent)).body.seq).toBe(2);
  });

  it('forgets a permit on the day after it ends', () => {
    expect(permitsOn(['mains', { id: 'gas', until: '2030-05-31' }], '2030-05-31')).toEqual(['mains', 'gas']);
    expect(permitsOn(['mains', { id: 'gas', until: '2030-05-31' }], '2030-06-01')).toEqual(['mains']);
  });

  it('lets nobody countersign their own job', async () => {
    const chief = await signIn('lowmarch');
    const job = uuid();
    await put(`/jobs/${job}`, { controlId: control.id }, chief.cookie);
    const body = await started();
    const mine = chained(
      job,
      [body, { kind: 'sign', outcome: 'unfinished', by: '', coreVersion: '', result: {} }],
      {
        author: chief.id,
      },
    );
    expect((await send(job, mine, chief.cookie)).status).toBe(200);
    const sign = event(
      job,
      { kind: 'countersign', by: '' },
      { author: chief.id, after: mine[1]?.id ?? null },
    );
    expect((await send(job, [sign], chief.cookie)).body).toMatchObject({ status: 403, code: 'own-job' });
  });
});

describe('what a job is about', () => {
  it.each<[string, Partial<StartedBody>, string]>([
    [
      'another control',
      { control: { id: '01900000-0000-7000-8000-00000000abcd', name: 'x', equipment: 'x' } },
      'other-control',
    ],
    ['another kind', { family: 'fire-relief' }, 'other-family'],
    [
      'another site',
      { site: { id: '01900000-0000-7000-8000-00000000abcd', name: 'x', altitude_m: 0 } },
      'other-site',
    ],
  ])('is refused for %s', async (_, over, code) => {
    const job = await newJob();
    expect((await send(job, chained(job, [await started(over)]))).body).toMatchObject({ status: 422, code });
    expect(await JobEventRow.count({ where: { jobId: job } })).toBe(0);
  });

  it('does not belong to a visit to another site, or of nobody', async () => {
    const own = await get('/visits');
    const elsewhere = (own.body.items as { id: string; site: { id: string } }[]).find(
      (v) => v.site.id !== control.site.id,
    );
    expect(
      (await put(`/jobs/${uuid()}`, { controlId: control.id, visitId: elsewhere?.id })).body,
    ).toMatchObject({
      status: 422,
      code: 'other-visit',
    });
    expect((await put(`/jobs/${uuid()}`, { controlId: control.id, visitId: uuid() })).status).toBe(404);
    expect(await Visit.count()).toBeGreaterThan(1);
  });
});

describe('one malformed entry', () => {
  it('is kept, set aside, and ruins nothing', async () => {
    const job = await newJob();
    const events = await honest(job, 10);
    const bad: JobEvent[] = [
      { kind: 'turn', adjuster: 'nothing', amount: 1, text: '', at: { key: 'k', pass: '1' } },
      { kind: 'read', setting: 7, slot: null, value: 'x', state: [], at: 'here' },
      { kind: 'read' },
      { kind: 'observe', answer: { deep: [] }, at: { key: 'valve', pass: '1' } },
      { kind: 'note', text: 5 },
    ].map((body, i) =>
      event(job, body as unknown as JobBody, {
        after: events[i]?.id ?? null,
        wall: '9999-12-31T23:59:59.999Z',
      }),
    );
    const mixed = events.flatMap((e, i) => [e, ...(bad[i] ? [bad[i]] : [])]);
    expect((await send(job, mixed)).status).toBe(200);
    const { result, signedAt } = await resultOf(job);
    expect(signedAt).not.toBeNull();
    expect(result?.objections).toEqual([]);
    expect((await get(`/jobs/${job}/seal`)).body).toMatchObject({ whole: true, length: mixed.length });
  });
});

describe('a plan', () => {
  const tried = (over: object) =>
    put(`/controls/${control.id}/plans/${uuid()}`, {
      version: control.plan.version + 1,
      plan: { ...control.plan, ...over },
    });
  it.each<[string, object, string]>([
    [
      'a value beside its text',
      { given: [{ setting: 'cutIn', text: '41', unit: 'psi', value: psi(80) }] },
      'value-differs',
    ],
    [
      'no number',
      { given: [{ setting: 'cutIn', text: 'abc', unit: 'psi', value: psi(41) }] },
      'not-a-number',
    ],
    [
      'a value off its scale',
      { given: [{ setting: 'cutIn', text: '9000', unit: 'psi', value: psi(9000) }] },
      'outside-scale',
    ],
    [
      'a setting that is none',
      { given: [{ setting: '__proto__', text: '41', unit: 'psi', value: psi(41) }] },
      'not-a-setting',
    ],
    [
      'a plate that is none',
      { plate: { colour: { text: '4', unit: 'psi', value: psi(4) } } },
      'not-on-plate',
    ],
    [
      'a plate value in another dimension',
      { plate: { relief: { text: '4', unit: 'm', value: 4 } } },
      'wrong-dimension',
    ],
    ['no list', { given: 'cutIn' }, 'plan-malformed'],
    ['nothing in the list', { given: [null] }, 'plan-malformed'],
    ['no plate', { plate: null }, 'plan-malformed'],
    ['a variant that is none', { variant: 'x' }, 'variant-unknown'],
    ['a school that is none', { school: 'x' }, 'school-unknown'],
    ['a choice that is none', { choices: { feeds: 'fire' } }, 'choice-unknown'],
    ['choices that are no list of names', { choices: 7 }, 'plan-malformed'],
  ])('is refused for %s', async (_, over, code) => {
    expect((await tried(over)).body).toMatchObject({ status: 422, code });
  });
});
