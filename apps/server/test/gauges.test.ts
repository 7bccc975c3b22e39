import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { makePlan, startJob } from '@firm-needle/core/family';
import { canonicalJson } from '@firm-needle/core/formats';
import type { Gauge } from '@firm-needle/core/gauge';
import type { Outcome, StartedBody } from '@firm-needle/core/procedure';
import { ambientAt } from '@firm-needle/core/quantity';
import { expectOk } from '@firm-needle/core/result';
import { ScriptedTechnician } from '@firm-needle/core/script';
import { loadFamily } from '@firm-needle/families';
import { v7 as uuid } from 'uuid';
import { Control, GaugeRow } from '../src/database/models.js';
import { closeStand, event, get, here, newJob, openStand, post, put } from './stand.js';

beforeAll(openStand, 60000);
afterAll(closeStand);

describe('gauges', () => {
  const dial = {
    label: 'Z-99',
    kind: 'bourdon',
    unit: 'psi',
    lower: 0,
    upper: 60,
    division: 1,
    readable: 0.5,
    accuracy: '2A',
    medium: 'water',
  };

  it('keeps a gauge under the device’s own id, and corrects it', async () => {
    const id = uuid();
    expect((await put(`/gauges/${id}`, dial)).status).toBe(200);
    expect((await put(`/gauges/${id}`, { ...dial, accuracy: '0,25 %' })).status).toBe(200);
    expect((await get(`/gauges/${id}`)).body).toMatchObject({
      label: 'Z-99',
      accuracy: { standard: 'stated', percentOfSpan: 0.25 },
      zeros: [],
      drift: null,
    });
  });

  it.each([
    ['a class that is not in the table', { accuracy: '7' }, 'accuracy'],
    ['a scale that ends below its start', { lower: 10, upper: 5 }, 'upper'],
    ['a division wider than the scale', { division: 50 }, 'division'],
    ['a unit of something else', { unit: 'L' }, 'unit'],
    ['a label that another gauge carries', { label: 'W-07' }, 'label'],
    ['a day that is none', { due: 'soon' }, 'due'],
  ])('refuses %s', async (_, wrong, field) => {
    const r = await put(`/gauges/${uuid()}`, { ...dial, label: `Z-${field}`, ...wrong });
    expect(r.body).toMatchObject({ status: 422, errors: [{ field }] });
  });

  it('shows the zeros of signed jobs', async () => {
    const list = (await get('/gauges')).body.items as { id: string; label: string }[];
    const used = await get(`/gauges/${list.find((g) => g.label === 'W-12')?.id}`);
    expect(used.body.zeros.length).toBeGreaterThanOrEqual(2);
  });
});

const gaugeOf = async (label: string): Promise<Gauge> => {
  const row = await GaugeRow.findOne({ where: { label } });
  if (!row) throw new Error(`No gauge is called ${label}.`);
  return (await get(`/gauges/${row.id}`)).body as Gauge;
};

/** A check of one gauge, worked on a rig with a hidden fault and sent as a device would send it. */
async function check(
  label: string,
  variant: string,
  faults: readonly string[],
  daysAgo = 0,
): Promise<{ job: string; outcome: Outcome }> {
  const own = await gaugeOf(label);
  const made = (await post(`/gauges/${own.id}/control`, {})).body as { id: string };
  const control = (await get(`/controls/${made.id}`)).body as {
    family: string;
    gauge: Gauge;
    name: string;
    site: StartedBody['site'];
  };
  const family = await loadFamily(control.family);
  const plan = makePlan(family, {
    variant,
    school: '',
    given: [],
    plate: family.plateOf?.(control.gauge) ?? {},
  });
  const started: StartedBody = expectOk(
    startJob(family, {
      plan,
      site: control.site,
      control: { id: made.id, name: control.name, equipment: 'Test gauges' },
      technician: 'A technician',
      permits: [],
      gauges: { test: own, reference: await gaugeOf('R-02'), thermometer: await gaugeOf('K-11') },
      rule: 'guarded',
    }),
  );
  const rig = family.rig.create({
    plan,
    seed: 4,
    ambient: expectOk(ambientAt(control.site.altitude_m)),
    faults,
  });
  const job = await newJob(made.id);
  const script = new ScriptedTechnician(family, rig, started, {
    job,
    author: here.me.id,
    device: 'bench',
    makeId: uuid,
    from: Date.now() - daysAgo * 86400e3,
  });
  const { outcome } = script.run();
  const sent = await post(`/jobs/${job}/events`, { events: script.log.events });
  expect(sent.body).toMatchObject({ seq: script.log.events.length });
  return { job, outcome };
}

describe('a check of a gauge', () => {
  const label = 'Z-61';
  let used: string;

  it('has one control, however often it is asked for', async () => {
    const id = uuid();
    const dial = { label, kind: 'bourdon', unit: 'psi', lower: 0, upper: 100, division: 1, readable: 0.5 };
    await put(`/gauges/${id}`, { ...dial, accuracy: '1A', medium: 'any' });
    const first = (await post(`/gauges/${id}/control`, {})).body as { id: string };
    const second = (await post(`/gauges/${id}/control`, {})).body as { id: string };
    expect(second).toEqual(first);
    expect((await get(`/controls/${first.id}`)).body).toMatchObject({ gauge: { label, id } });
    expect(await Control.count({ where: { gaugeId: id } })).toBe(1);
  });

  it('puts its errors on the gauge, which later jobs take off', async () => {
    const { outcome } = await check(label, 'comparison', [], 10);
    expect(outcome).toBe('left-as-found');
    const g = await gaugeOf(label);
    expect(g.standing).toMatchObject({ state: 'fit' });
    expect(g.check?.points).toHaveLength(5);
    expect((g as { spans?: unknown[] }).spans).toHaveLength(1);
    expect((g.due ?? '') > (g.check?.day ?? '9')).toBe(true);
  });

  it('that fails marks the gauge, and flags the jobs it was used in without touching them', async () => {
    // A job on an installation, with this gauge in it.
    used = await newJob();
    const family = await loadFamily('well-switch');
    const { plan, site } = (await get(`/controls/${here.controlId}`)).body as Pick<
      StartedBody,
      'plan' | 'site'
    >;
    const gauge = await gaugeOf(label);
    const started = expectOk(
      startJob(family, {
        plan,
        site,
        control: { id: here.controlId, name: 'A switch', equipment: 'A well' },
        technician: 'A technician',
        permits: [],
        gauges: { system: gauge, air: gauge },
        rule: 'guarded',
      }),
    );
    const zero = { text: '0', unit: 'psi', value: 0 };
    const begun = event(used, started);
    const sent = await post(`/jobs/${used}/events`, {
      events: [
        begun,
        event(
          used,
          {
            kind: 'zero',
            slot: 'system',
            before: zero,
            after: zero,
            handling: 'carried',
            at: { key: 'gauge-zero', pass: '1' },
          },
          { wall: new Date().toISOString() },
        ),
        event(
          used,
          { kind: 'sign', outcome: 'unfinished', by: 'A technician', coreVersion: '1', result: {} },
          { after: begun.id },
        ),
      ],
    });
    expect(sent.status).toBe(200);
    const before = canonicalJson((await get(`/jobs/${used}/events`)).body);
    const { outcome } = await check(label, 'comparison', ['sprung-tube']);
    expect(outcome).toBe('replace');
    const g = await gaugeOf(label);
    expect(g.standing).toMatchObject({ state: 'failed' });
    expect(g.check).toBeUndefined();
    const info = (await get(`/jobs/${used}`)).body as { flags: { text: string }[] };
    expect(info.flags).toHaveLength(1);
    expect(info.flags[0]?.text).toContain(`${label} failed its check`);
    expect(canonicalJson((await get(`/jobs/${used}/events`)).body)).toBe(before);
    expect((await get(`/jobs/${used}/seal`)).body).toMatchObject({ whole: true });
  });

  it('of its zero alone does not make a failed gauge fit again; a span check does', async () => {
    expect((await check(label, 'zero', [])).outcome).toBe('left-as-found');
    expect((await gaugeOf(label)).standing).toMatchObject({ state: 'failed' });
    await check(label, 'comparison', []);
    expect((await gaugeOf(label)).standing).toMatchObject({ state: 'fit' });
  });

  it('keeps what checks found when the gauge is corrected, but not on another scale', async () => {
    const g = await gaugeOf(label);
    const dial = {
      label,
      kind: 'bourdon',
      unit: 'psi',
      lower: 0,
      upper: 100,
      division: 1,
      readable: 0.5,
      accuracy: '1A',
      medium: 'any',
    };
    await put(`/gauges/${g.id}`, { ...dial, serial: 'Z-1' });
    expect((await gaugeOf(label)).check?.points).toHaveLength(5);
    await put(`/gauges/${g.id}`, { ...dial, upper: 160 });
    expect((await gaugeOf(label)).check).toBeUndefined();
  });

  it('in the demo left one that failed and one whose errors are known', async () => {
    expect((await gaugeOf('M-04')).standing).toMatchObject({ state: 'failed' });
    expect((await gaugeOf('W-12')).check?.points.length).toBe(5);
  });
});
