import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type {
  Page,
  PracticeOverview,
  PracticeRun,
  PracticeTest,
  WholePracticeRun,
} from '@firm-needle/contract';
import {
  drawFrom,
  exerciseOf,
  rigOfDraw,
  sealed,
  startedOn,
  unsealed,
  WatchedRig,
  type RunRecord,
} from '@firm-needle/core/practice';
import { expectOk } from '@firm-needle/core/result';
import { ScriptedTechnician } from '@firm-needle/core/script';
import { loadFamily, loadKit } from '@firm-needle/families';
import { v7 as uuid } from 'uuid';
import { Job, JobEventRow, JobResult } from '../src/database/models.js';
import { PracticeRunRow } from '../src/practice/models.js';
import { closeStand, get, here, openStand, post, put, signIn } from './stand.js';

beforeAll(openStand, 60_000);
afterAll(closeStand, 60_000);

const FAMILY = 'spa-flow-switch';
const VARIANT = 'spa switch, one speed';

/** A run worked by the script, as a device would send it. */
async function worked(over: Partial<RunRecord> = {}, author = here.me.id): Promise<RunRecord> {
  const { family = FAMILY, variant = VARIANT, level = 1 } = over;
  const text = over.sealed ?? sealed({ seed: 77, level, ...(over.lesson ? { lesson: over.lesson } : {}) });
  const ex = exerciseOf(await loadFamily(family), await loadKit(family), variant);
  const draw = drawFrom(ex, expectOk(unsealed(text)));
  const id = over.id ?? uuid();
  const rig = new WatchedRig(rigOfDraw(ex, draw), []);
  const job = new ScriptedTechnician(ex.family, rig, startedOn(ex, draw), {
    job: id,
    author,
    makeId: uuid,
    goesOn: true,
  }).run();
  return {
    id,
    kind: 'run',
    family,
    variant,
    level,
    help: 'bare',
    sealed: text,
    startedAt: '2026-01-02T08:00:00.000Z',
    endedAt: new Date().toISOString(),
    events: job.log.events,
    deeds: rig.deeds,
    said: { faults: draw.faults.slice(0, 2), sure: 0.75 },
    ...over,
  };
}

const send = (run: RunRecord, as = here.cookie) => put(`/practice/runs/${run.id}`, run, as);

describe('a run of practice', () => {
  it('is judged by the server itself, kept once, and told to its person', async () => {
    const run = await worked();
    const kept = await send(run);
    expect(kept.body).toMatchObject({ id: run.id, word: 'sound', grave: 0, missed: [], shared: false });
    expect((await send(run)).body).toEqual(kept.body);
    expect((await send({ ...run, help: 'full' })).body).toMatchObject({ code: 'id-reused' });
    const own = (await get('/practice/runs')).body as Page<PracticeRun>;
    expect(own.items.map((r) => r.id)).toContain(run.id);
    const whole = (await get(`/practice/runs/${run.id}`)).body as WholePracticeRun;
    expect(whole.record.events.length).toBe(run.events.length);
    expect(whole.record.deeds).toEqual(run.deeds);
  });

  it('is in no table of jobs, gauges or dates, whatever it claims', async () => {
    const counts = async () => [await Job.count(), await JobEventRow.count(), await JobResult.count()];
    const before = await counts();
    const due = (await get('/due?until=2031-01-01')).body as object;
    const run = await worked();
    expect((await send(run)).status).toBe(200);
    expect(await counts()).toEqual(before);
    expect((await get('/due?until=2031-01-01')).body).toEqual(due);
    expect((await get(`/jobs/${run.id}/events?after=0`)).status).toBe(404);
    expect((await get(`/jobs/${run.id}`)).status).toBe(404);
    const found = JSON.stringify((await get(`/search?q=${encodeURIComponent(VARIANT)}`)).body);
    expect(found).not.toContain(run.id);
  });

  it('that is forged, damaged or worked on something else is refused, and nothing of it kept', async () => {
    const run = await worked();
    const [first, ...rest] = run.events;
    if (!first || first.body.kind !== 'started') throw new Error('It does not begin.');
    const begun = (body: object) => ({
      ...run,
      events: [{ ...first, body: { ...first.body, ...body } }, ...rest],
    });
    const wrong: readonly (readonly [string, object])[] = [
      ['sealed', { ...run, sealed: 'ab'.repeat(60) }],
      ['not-the-draw', { ...run, level: 2 }],
      ['not-the-draw', { ...run, lesson: 'air-lock', kind: 'lesson' }],
      ['variant', { ...run, variant: 'another' }],
      ['family', { ...run, family: 'another' }],
      ['not-practice', begun({ mode: 'work' })],
      ['not-the-draw', begun({ plan: { ...first.body.plan, school: 'x' } })],
      ['not-yours', { ...run, events: run.events.map((e) => ({ ...e, author: 'another' })) }],
      ['deeds', { ...run, deeds: [{ t: -4, do: 'set', id: 'tap', value: 1 }] }],
      ['deeds', { ...run, deeds: [{ t: 1, do: 'fly', id: 'tap' }] }],
      ['not-valid', { ...run, kind: 'test' }],
      ['not-valid', { ...run, kind: 'lesson' }],
      ['not-valid', { ...run, said: { faults: ['a', 'b', 'c'], sure: 0.5 } }],
      ['not-valid', { ...run, said: { faults: [], sure: 1 } }],
      ['not-valid', { ...run, startedAt: '2040-01-01T00:00:00Z', endedAt: '2040-01-01T01:00:00Z' }],
      ['not-valid', { ...run, endedAt: undefined }],
      ['not-valid', { ...run, more: 1 }],
    ];
    for (const [code, body] of wrong) {
      const answer = await put(`/practice/runs/${run.id}`, body);
      expect([code, answer.status, (answer.body as { code: string }).code]).toEqual([code, 422, code]);
    }
    expect(await PracticeRunRow.findByPk(run.id)).toBeNull();
    // Deeds that never end are gone through no further than a run may last.
    const long = { ...run, deeds: [{ t: 1e15, do: 'set', id: 'pump', value: 1 }] } as RunRecord;
    expect((await send(long)).status).toBe(200);
  }, 120_000);

  it('is seen by its person alone until it is shown, and who looked is told', async () => {
    const run = await worked();
    await send(run);
    const supervisor = await signIn('lowmarch');
    const other = await signIn('quenby');
    const path = `/practice/runs/${run.id}`;
    expect((await get(path, supervisor.cookie)).status).toBe(404);
    expect((await post(`${path}/share`, {}, other.cookie)).status).toBe(404);
    expect((await post(`${path}/share`, {})).body).toMatchObject({ shared: true });
    expect((await get(path, other.cookie)).status).toBe(404);
    expect((await get(path, supervisor.cookie)).status).toBe(200);
    expect(((await get(path)).body as PracticeRun).looks).toHaveLength(1);
    expect((await get(path, (await signIn('observatory')).cookie)).status).toBe(403);
  });
});

describe('a test', () => {
  it('is one draw for all, tried once, worked bare and on nothing else', async () => {
    const supervisor = (await signIn('lowmarch')).cookie;
    const id = uuid();
    const form = { family: FAMILY, variant: VARIANT, level: 4, until: '2031-01-01' };
    expect((await put(`/practice/tests/${id}`, form)).status).toBe(403);
    for (const [field, wrong] of [
      ['family', { ...form, family: 'none' }],
      ['variant', { ...form, variant: 'none' }],
      ['until', { ...form, until: '2020-01-01' }],
      ['until', { ...form, until: '2031-02-30' }],
    ] as const) {
      const answer = await put(`/practice/tests/${uuid()}`, wrong, supervisor);
      expect([answer.status, (answer.body as { errors: { field: string }[] }).errors[0]?.field]).toEqual([
        422,
        field,
      ]);
    }
    expect((await put(`/practice/tests/${id}`, form, supervisor)).body).toMatchObject({ ended: 0 });
    const open = (await get('/practice/tests')).body as Page<PracticeTest>;
    const test = open.items.find((t) => t.id === id);
    expect(test).toMatchObject({ mine: null, ended: null });
    // The text that is sealed says nothing of what it is.
    expect(test?.sealed).toMatch(/^[0-9a-f]+$/);
    const run = await worked({ kind: 'test', level: 4, sealed: test?.sealed ?? '', test: id });
    // Its draw is not tried beforehand as something else.
    const ahead = await worked({ level: 4, sealed: test?.sealed ?? '' });
    expect((await send(ahead)).body).toMatchObject({ code: 'test-open' });
    expect((await post(`/practice/tests/${id}/start`, { run: run.id })).body).toMatchObject({
      mine: { run: run.id, word: null },
    });
    // Begun again from elsewhere it is the same try, or none.
    expect((await post(`/practice/tests/${id}/start`, { run: run.id })).status).toBe(200);
    expect((await post(`/practice/tests/${id}/start`, { run: uuid() })).body).toMatchObject({
      code: 'one-try',
    });
    const other = await worked({ kind: 'test', level: 4, sealed: test?.sealed ?? '', test: id });
    expect((await send(other)).body).toMatchObject({ code: 'one-try' });
    expect((await send({ ...run, help: 'full' })).body).toMatchObject({ code: 'not-the-test' });
    expect((await send({ ...run, sealed: sealed({ seed: 1, level: 4 }) })).body).toMatchObject({
      code: 'not-the-test',
    });
    expect((await send(run)).status).toBe(200);
    expect((await send(ahead)).status).toBe(200);
    // A supervisor looks at tests unasked; a draw that was unfair counts no more, and frees another try.
    expect((await get(`/practice/runs/${run.id}`, supervisor)).status).toBe(200);
    expect((await post(`/practice/runs/${run.id}/unfair`, { reason: 'too dark' })).status).toBe(403);
    expect(
      (await post(`/practice/runs/${run.id}/unfair`, { reason: 'too dark' }, supervisor)).body,
    ).toMatchObject({
      unfair: 'too dark',
    });
    expect((await post(`/practice/tests/${id}/start`, { run: uuid() })).status).toBe(200);
  }, 60_000);
});

describe('what a supervisor sees', () => {
  it('counts by name, ranks nobody, and is a table whose every row says what it is', async () => {
    const supervisor = (await signIn('lowmarch')).cookie;
    const quenby = await signIn('quenby');
    const run = await worked({ lesson: 'stuck-closed', kind: 'lesson' }, quenby.id);
    const missed: RunRecord = { ...run, said: { faults: [], sure: 0.95 } };
    expect((await send(missed, quenby.cookie)).body).toMatchObject({ missed: ['stuck-closed'] });
    expect((await get('/practice/overview')).status).toBe(403);
    const told = (await get('/practice/overview', supervisor)).body as PracticeOverview;
    const row = told.rows.find((r) => r.person.id === quenby.id && r.family === FAMILY);
    // A lesson is no proof of a level.
    expect(row).toMatchObject({ runs: 1, highest: null, missed: { fault: 'stuck-closed', times: 1, of: 1 } });
    // Fewer than five people are not a firm's habit.
    expect(told.teach).toBeNull();
    const csv = (await get('/practice/overview.csv', supervisor)).text.trim().split('\r\n');
    expect(csv.length).toBe(told.rows.length + 1);
    for (const line of csv.slice(1)) expect(line).toMatch(/^PRACTICE,/);
  });
});
