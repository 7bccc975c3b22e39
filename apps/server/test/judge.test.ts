// What forged or damaged requests try: the server believes only its own fold, its own register and its own sessions.
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { chooseGauges, startJob } from '@firm-needle/core/family';
import type { Gauge } from '@firm-needle/core/gauge';
import type { JobBody, JobEvent, Plan, StartedBody } from '@firm-needle/core/procedure';
import { ambientAt, toCanonical } from '@firm-needle/core/quantity';
import { expectOk } from '@firm-needle/core/result';
import { ScriptedTechnician } from '@firm-needle/core/script';
import { loadFamily } from '@firm-needle/families';
import { v7 as uuid } from 'uuid';
import { permitsOn } from '../src/common/permits.js';
import {
  Control,
  FittedDevice,
  GaugeRow,
  Job,
  JobEventRow,
  JobFlag,
  JobGauge,
  JobResult,
  Visit,
} from '../src/database/models.js';
import { EvidenceService } from '../src/jobs/evidence.service.js';
import { ResultsService } from '../src/jobs/results.service.js';
import { likelyTime } from '../src/jobs/times.js';
import { closeStand, event, get, here, newJob, openStand, post, put, signIn } from './stand.js';

const psi = (n: number): number => toCanonical(n, 'psi');

interface ControlAnswer {
  readonly id: string;
  readonly family: string;
  readonly name: string;
  readonly due: string | null;
  readonly plan: Plan;
  readonly site: StartedBody['site'];
  readonly equipment: { readonly name: string };
}
let control: ControlAnswer;
let gauges: Gauge[];

beforeAll(async () => {
  await openStand();
  control = (await get(`/controls/${here.controlId}`)).body as ControlAnswer;
  gauges = ((await get('/gauges')).body as { items: Gauge[] }).items;
}, 60000);
afterAll(closeStand);

/** The start of a job as an honest device writes it. */
async function started(over: Partial<StartedBody> = {}, on = control): Promise<StartedBody> {
  const family = await loadFamily(on.family);
  const picked = Object.fromEntries(
    chooseGauges(family, on.plan, gauges).flatMap((c) =>
      c.ranked[0] ? [[c.slot.id, c.ranked[0].gauge] as const] : [],
    ),
  );
  const body = expectOk(
    startJob(family, {
      plan: on.plan,
      site: on.site,
      control: { id: on.id, name: on.name, equipment: on.equipment.name },
      technician: 'I. Marrable',
      permits: ['mains'],
      gauges: picked,
      rule: 'guarded',
    }),
  );
  return { ...body, ...over };
}

/** Entries in a row, each after the one before. */
function chained(
  job: string,
  bodies: readonly (JobBody | object)[],
  over: Partial<JobEvent> = {},
): JobEvent[] {
  let after: string | null = null;
  return bodies.map((body, i) => {
    const e = event(job, body as JobBody, { after, wall: new Date(Date.now() + i).toISOString(), ...over });
    after = e.id;
    return e;
  });
}

/** A whole honest job on the rig, as its device would send it. */
async function honest(job: string, seed: number, body?: StartedBody): Promise<readonly JobEvent[]> {
  const start = body ?? (await started());
  const family = await loadFamily(start.family);
  const rig = family.rig.create({
    plan: start.plan,
    seed,
    ambient: expectOk(ambientAt(start.site.altitude_m)),
    faults: [],
  });
  const script = new ScriptedTechnician(family, rig, start, {
    job,
    author: here.me.id,
    device: 'test',
    from: Date.now() - 7200_000,
    makeId: uuid,
  });
  script.run();
  return script.log.events;
}

const send = async (job: string, events: readonly JobEvent[], as = here.cookie) =>
  post(`/jobs/${job}/events`, { events }, as);
const dueOf = async (): Promise<string | null> => (await Control.findByPk(control.id))?.due ?? null;
const resultOf = async (job: string) =>
  (await get(`/jobs/${job}`)).body as {
    signedAt: string | null;
    result: { outcome: string; objections: string[]; sheet: { rows: { setting: string }[] } } | null;
  };

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

describe('a sign-off', () => {
  it('of honest work moves the date, once, and every gauge that was used is on record', async () => {
    const job = await newJob();
    await Control.update({ due: '2030-01-01' }, { where: { id: control.id } });
    const r = await send(job, await honest(job, 3));
    expect(r.status).toBe(200);
    const { signedAt, result } = await resultOf(job);
    expect(signedAt).not.toBeNull();
    expect(result?.objections).toEqual([]);
    expect(await dueOf()).not.toBe('2030-01-01');
    expect(await JobGauge.count({ where: { jobId: job } })).toBe(2);
  });

  it('of a look at what is not due moves no date, and of its measurement does', async () => {
    const id = (await Control.findOne({ where: { family: 'fire-relief' } }))?.id ?? '';
    const relief = (await get(`/controls/${id}`)).body as ControlAnswer;
    await Control.update({ due: '2030-01-01' }, { where: { id } });
    for (const [check, moved] of [
      ['look', false],
      ['measure', true],
    ] as const) {
      const plan = { ...relief.plan, choices: { ...relief.plan.choices, check } };
      const body = await started({ plan, permits: ['fire'] }, relief);
      const job = await newJob(id);
      await send(job, await honest(job, 9, body));
      expect((await resultOf(job)).result).toMatchObject({ outcome: 'left-as-found', objections: [] });
      expect((await Control.findByPk(id))?.due !== '2030-01-01').toBe(moved);
    }
  });

  it('of nothing is recorded as what it is, and moves no date', async () => {
    const job = await newJob();
    const before = await dueOf();
    const forged = { rows: [{ setting: 'cutIn', left: { value: psi(43), U: 0, verdict: { word: 'in' } } }] };
    await send(
      job,
      chained(job, [
        await started(),
        { kind: 'sign', outcome: 'set', by: 'x', coreVersion: '9', result: forged },
      ]),
    );
    const { result } = await resultOf(job);
    expect(result?.outcome).toBe('set');
    expect(result?.objections.join(' ')).toMatch(/Not every step was taken/);
    expect(result?.sheet.rows.every((row) => !('left' in row))).toBe(true);
    expect(await dueOf()).toBe(before);
  });

  it('by a plan whose figures were written by hand is not believed', async () => {
    const job = await newJob();
    const before = await dueOf();
    const wide = { lower: psi(1), upper: psi(99) };
    const plan = { ...control.plan, limits: { ...control.plan.limits, cutIn: wide, cutOut: wide } };
    await send(job, await honest(job, 4, await started({ plan })));
    const { result } = await resultOf(job);
    expect(result?.objections.join(' ')).toMatch(/is not what its values come to/);
    expect(await dueOf()).toBe(before);
  });

  it('read off a gauge that the register has otherwise, or not at all, is not believed', async () => {
    for (const make of [
      (g: Gauge): Gauge => ({ ...g, accuracy: { standard: 'B40.100', grade: '4A' }, division: 0.01 }),
      (g: Gauge): Gauge => ({ ...g, id: uuid() }),
    ]) {
      const job = await newJob();
      const honestly = await started();
      const body = {
        ...honestly,
        gauges: Object.fromEntries(Object.entries(honestly.gauges).map(([slot, g]) => [slot, make(g)])),
      };
      await send(job, await honest(job, 5, body));
      const { result } = await resultOf(job);
      expect(result?.objections.join(' ')).toMatch(/not what the register has|not one of the firm/);
    }
  });

  it('two entries at one place do not make a proof', async () => {
    const job = await newJob();
    const events = await honest(job, 6);
    const at = events.findIndex((e) => e.body.kind === 'read');
    const twice = events[at];
    if (!twice) throw new Error('nothing was read');
    const doubled = { ...twice, id: uuid(), after: twice.id };
    const r = await send(job, [...events.slice(0, at + 1), doubled, ...events.slice(at + 1)]);
    expect(r.status).toBe(200);
    const stored = (await get(`/jobs/${job}/events`)).body as { seq: number };
    expect(stored.seq).toBe(events.length + 1);
    const row = (await JobResult.findByPk(job))?.result.rows.find((x) => x.setting === 'cutIn');
    const once = events.filter(
      (e) => e.body.kind === 'read' && e.body.setting === 'cutIn' && e.body.at.phase === 'found',
    );
    expect(row?.found?.n).toBe(once.length);
  });

  it('over a gap waits for what is missing, whole, reversed or blind', async () => {
    const job = await newJob();
    const events = await honest(job, 7);
    const holed = events.filter((_, i) => i !== 6);
    expect((await send(job, holed)).body).toMatchObject({ status: 409, code: 'gap' });
    expect((await send(job, [...events].reverse())).body).toMatchObject({ status: 409, code: 'gap' });
    const blind = events.map((e) => (e.body.kind === 'sign' ? { ...e, after: null } : e));
    expect((await send(job, blind)).body).toMatchObject({ status: 409, code: 'gap' });
    expect(await JobEventRow.count({ where: { jobId: job } })).toBe(0);
    expect((await send(job, events)).status).toBe(200);
    expect((await resultOf(job)).result?.objections).toEqual([]);
  });

  it('that fails half way leaves nothing half done, and comes through when it is asked again', async () => {
    const job = await newJob();
    await Control.update({ due: '2030-01-01' }, { where: { id: control.id } });
    const results = here.app.get(ResultsService, { strict: false });
    const evidence = here.app.get(EvidenceService, { strict: false });
    const keep = evidence.keep.bind(evidence);
    evidence.keep = async () => {
      throw new Error('the power failed');
    };
    try {
      expect((await send(job, await honest(job, 8))).status).toBe(200);
    } finally {
      evidence.keep = keep;
    }
    expect((await Job.findByPk(job))?.signedAt).toBeNull();
    expect((await JobResult.findByPk(job))?.settled ?? false).toBe(false);
    expect(await dueOf()).toBe('2030-01-01');
    await results.refresh(job);
    expect((await JobResult.findByPk(job))?.settled).toBe(true);
    expect(await dueOf()).not.toBe('2030-01-01');
    const device = async () =>
      (await FittedDevice.findOne({ where: { controlId: control.id, removedOn: null } }))?.learned;
    const learned = await device();
    await results.refresh(job);
    expect(await device()).toEqual(learned);
  });

  it('with a clock that cannot be is dated by when it came in', () => {
    const received = new Date('2030-06-01T10:00:00Z');
    expect(likelyTime('2030-05-31T09:00:00Z', received).toISOString()).toBe('2030-05-31T09:00:00.000Z');
    for (const wall of ['9999-01-01T00:00:00Z', '0001-01-01T00:00:00Z', '1970-01-01T00:00:00Z', 'soon'])
      expect(likelyTime(wall, received)).toEqual(received);
  });

  it('casts doubt, when a gauge later fails, on jobs that never zeroed it too', async () => {
    const job = await newJob();
    await send(job, await honest(job, 9));
    const [gauge] = await GaugeRow.findAll({
      where: { id: (await JobGauge.findAll({ where: { jobId: job } })).map((g) => g.gaugeId) },
    });
    if (!gauge) throw new Error('no gauge was used');
    const evidence = here.app.get(EvidenceService, { strict: false }) as unknown as {
      flag(by: Job, g: GaugeRow, since: Date, text: string, t: undefined): Promise<void>;
    };
    const by = await newJob();
    await evidence.flag((await Job.findByPk(by)) as Job, gauge, new Date(0), 'x'.repeat(900), undefined);
    expect(await JobFlag.count({ where: { jobId: job, byJobId: by } })).toBe(1);
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
