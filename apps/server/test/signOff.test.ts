// What follows from a signature, and what does not: honest work, forged plans, gauges and times, gaps and failures half way.
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { Gauge } from '@firm-needle/core/gauge';
import type { Plan } from '@firm-needle/core/procedure';
import { give, makePlan, typeSetting } from '@firm-needle/core/family';
import { expectOk } from '@firm-needle/core/result';
import { loadFamily } from '@firm-needle/families';
import { v7 as uuid } from 'uuid';
import {
  Control,
  DueReasonRow,
  FittedDevice,
  GaugeRow,
  Job,
  JobEventRow,
  JobFlag,
  JobGauge,
  JobResult,
} from '../src/database/models.js';
import { EvidenceService } from '../src/jobs/evidence.service.js';
import { ResultsService } from '../src/jobs/results.service.js';
import { likelyTime } from '../src/jobs/times.js';
import {
  openJudged,
  psi,
  control,
  started,
  chained,
  honest,
  send,
  dueOf,
  resultOf,
  type ControlAnswer,
} from './judged.js';
import { closeStand, get, here, newJob } from './stand.js';

beforeAll(openJudged, 60000);
afterAll(closeStand);

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
    const runsFrom = async (): Promise<string | undefined> =>
      (await DueReasonRow.findOne({ where: { controlId: id, kind: 'rule' } }))?.day;
    const before = await runsFrom();
    expect(before).toBeDefined();
    for (const [check, moved] of [
      ['look', false],
      ['measure', true],
    ] as const) {
      const plan = { ...relief.plan, choices: { ...relief.plan.choices, check } };
      const body = await started({ plan, permits: ['fire'] }, relief);
      const job = await newJob(id);
      await send(job, await honest(job, 9, body));
      expect((await resultOf(job)).result).toMatchObject({ outcome: 'left-as-found', objections: [] });
      expect((await runsFrom()) !== before).toBe(moved);
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

  it('of a plan that was changed in the job plans the control so, unless somebody planned it meanwhile', async () => {
    const family = await loadFamily(control.family);
    const start = await started();
    const changed = (by: number): Plan => {
      const cutIn = ((start.plan.values['cutIn'] ?? 0) / psi(1) + by).toFixed(2);
      const typed = expectOk(typeSetting(family, 'cutIn', `${cutIn} psi`));
      return makePlan(family, give(start.plan, 'cutIn', typed), start.plan.version + 1);
    };
    const job = async (seed: number, plan: Plan): Promise<string> => {
      const id = await newJob();
      const whole = await honest(id, seed, start);
      const bodies = whole.map((e) => e.body);
      const at = bodies.findIndex((b) => b.kind === 'read');
      bodies.splice(at, 0, { kind: 'planned', plan, reason: 'by the book' });
      await send(id, chained(id, bodies, { device: 'test', author: here.me.id }));
      return id;
    };
    // Within what was found: the job ends as it did.
    const first = await job(3, changed(0.5));
    expect((await resultOf(first)).result).toMatchObject({ objections: [] });
    const after = (await get(`/controls/${control.id}`)).body as ControlAnswer;
    expect(after.plan.version).toBe(start.plan.version + 1);
    expect(after.plan.values['cutIn']).toBeCloseTo((start.plan.values['cutIn'] ?? 0) + psi(0.5), -3);
    // The second began from the plan before: what was planned since stands.
    await job(5, changed(-0.5));
    expect(((await get(`/controls/${control.id}`)).body as ControlAnswer).plan).toEqual(after.plan);
  });

  it('of a plan that was made up in the job is not believed, nor one of another kind after a reading', async () => {
    const start = await started();
    const id = await newJob();
    const bodies = (await honest(id, 7, start)).map((e) => e.body);
    const wide = { lower: psi(1), upper: psi(99) };
    const forged = { ...start.plan, version: 9, limits: { ...start.plan.limits, cutIn: wide, cutOut: wide } };
    const at = bodies.findIndex((b) => b.kind === 'read');
    bodies.splice(at, 0, { kind: 'planned', plan: forged, reason: 'x' });
    bodies.splice(at + 2, 0, { kind: 'planned', plan: { ...start.plan, school: 'set-both' }, reason: 'x' });
    await send(id, chained(id, bodies, { device: 'test', author: here.me.id }));
    const { result } = await resultOf(id);
    expect(result?.objections.join(' ')).toMatch(/is not what its values come to/);
    const row = await JobResult.findByPk(id);
    expect(JSON.stringify(row?.result)).not.toContain('set-both');
    expect((await Control.findByPk(control.id))?.planVersion).toBe(control.plan.version + 1);
  });
});
