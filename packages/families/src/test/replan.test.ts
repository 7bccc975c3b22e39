// A plan changed in the middle of a job: what may be changed when, what is judged by which, and what is said of it.
import { describe, expect, it } from '@jest/globals';
import { give, planChanges, replan, sheetOf, typePlate, typeSetting } from '@firm-needle/core/family';
import { checkOf, FoldedJob, JobLog, offer, type JobEvent, type Plan } from '@firm-needle/core/procedure';
import { expectOk } from '@firm-needle/core/result';
import { entries } from '@firm-needle/core/entries';
import { family } from '../well-switch/index.js';
import { faultsOf, installed, workedOn } from '../define/kit.js';
import { loadFamily } from '../registry.js';
import { HandLog, planOf, psi, startedOf } from '../testing.js';
import { FOLDERS, kitOf } from './kitOf.js';

const given = (plan: Plan, setting: string, text: string) =>
  give(plan, setting, expectOk(typeSetting(family, setting, text)));

function job(read = false): { log: HandLog; view: () => FoldedJob } {
  const log = new HandLog();
  log.log.judgeBy(checkOf(family));
  log.add(startedOf(planOf()));
  if (read) log.read('cutIn', 40.5, 'found-cut-in');
  return { log, view: () => new FoldedJob(family, log.log.state) };
}

describe('a plan changed in the job', () => {
  it('is another from there on; what was found stays judged by the one it was found under', () => {
    const { log, view } = job(true);
    const was = view().limits('cutIn', 'found');
    const made = expectOk(replan(family, view(), given(view().plan, 'cutIn', '40 psi'), ' by the label '));
    expect(made).toMatchObject({ kind: 'planned', reason: 'by the label' });
    expect(made.plan.version).toBe(planOf().version + 1);
    log.add(entries.replanned(made).body);
    expect(log.log.state.aside).toEqual([]);
    expect(view().plan.values['cutIn']).toBeCloseTo(psi(40), 0);
    expect(view().limits('cutIn', 'left')).not.toEqual(was);
    expect(view().limits('cutIn', 'found')).toEqual(was);
    expect(sheetOf(family, view()).replans).toEqual([
      {
        changes: ['Cut-in 43 psi to 40 psi', 'Cut-out 63 psi to 60 psi', 'Precharge 41 psi to 38 psi'],
        reason: 'by the label',
      },
    ]);
  });

  it('withdrawn, is as if it had never been', () => {
    const { log, view } = job();
    const before = view().plan;
    const made = expectOk(replan(family, view(), given(before, 'cutIn', '40 psi'), 'x'));
    const { id } = log.add(made);
    log.add({ kind: 'correct', corrects: id, reason: 'mis-tap' });
    expect(view().plan).toEqual(before);
    expect(sheetOf(family, view()).replans).toBeUndefined();
  });

  it('is of the same kind once something was read or turned, also where a log says otherwise', () => {
    const open = job();
    const other = (plan: Plan) => ({ ...plan, school: 'set-both', choices: { both: 'manual' } });
    expectOk(replan(family, open.view(), other(open.view().plan), 'it has two nuts'));
    const { log, view } = job(true);
    expect(replan(family, view(), other(view().plan), 'x')).toMatchObject({
      refusal: { code: 'kind-stands' },
    });
    log.add({ kind: 'planned', plan: other(view().plan), reason: 'forged' });
    expect(log.log.state.aside.map((a) => a.reason)).toEqual([
      'What kind it is stands once something was read or turned.',
    ]);
    expect(view().plan.school).not.toBe('set-both');
  });

  it('is refused where it may not stand, where nothing is another, and where nobody says why', () => {
    const { view } = job();
    const { plan } = view();
    const low = {
      ...plan,
      plate: { ...plan.plate, relief: expectOk(typePlate(family, 'relief', '62 psi')) },
    };
    const refused = (draft: Plan, why = 'x') => {
      const r = replan(family, view(), draft, why);
      return r.ok ? '' : r.refusal.code;
    };
    expect(refused(low)).toMatch(/relief/);
    expect(refused(plan)).toBe('plan-same');
    expect(refused(given(plan, 'cutIn', '40 psi') as Plan, '  ')).toBe('reason');
  });

  it('is refused where a gauge that it needs is not there, or ends below what may come', async () => {
    const burner = kitOf('burner-gas');
    const furnace = burner.variants.find((v) => v.variant === 'furnace');
    const train = burner.variants.find((v) => v.variant === 'train');
    if (!furnace || !train) throw new Error('burner-gas');
    const at = installed(await loadFamily('burner-gas'), burner, furnace);
    const { plan } = installed(at.family, burner, train);
    const log = new HandLog();
    const gauges = Object.fromEntries(Object.entries(at.started.gauges).filter(([slot]) => slot === 'gas'));
    log.add({ ...at.started, gauges });
    const lacking = replan(at.family, new FoldedJob(at.family, log.log.state), plan, 'it has two switches');
    expect(lacking).toMatchObject({ refusal: { code: 'gauge-missing', where: 'air' } });
    const { view } = job();
    const high = {
      ...view().plan,
      plate: { ...view().plan.plate, relief: expectOk(typePlate(family, 'relief', '150 psi')) },
    };
    expect(replan(family, view(), high, 'its label')).toMatchObject({
      refusal: { code: 'gauge-over-range' },
    });
  });

  it('leaves a gauge’s own plate to the gauge', async () => {
    const kit = kitOf('gauge-check');
    const [variant] = kit.variants;
    if (!variant) throw new Error('gauge-check');
    const at = installed(await loadFamily('gauge-check'), kit, variant);
    const log = new HandLog();
    log.add(at.started);
    const [[id, kept] = []] = Object.entries(at.plan.plate).filter(([, v]) => v.value > 0);
    if (!id || !kept) throw new Error('A gauge has no plate.');
    const other = { ...at.plan, plate: { ...at.plan.plate, [id]: { ...kept, value: kept.value * 1.01 } } };
    const made = replan(at.family, new FoldedJob(at.family, log.log.state), other, 'x');
    expect(made).toMatchObject({ refusal: { code: 'plate-of-gauge' } });
  });

  it('says what is another in words: of the plate, of figures, of what was chosen', () => {
    const plan = planOf();
    const other = {
      ...planOf({ cutIn: '41 psi' }, { relief: '90 psi' }),
      school: family.schools[1]?.id ?? '',
    };
    const said = planChanges(family, plan, other);
    expect(said).toContain('Cut-in 43 psi to 41 psi');
    expect(said.find((t) => t.startsWith('Relief'))).toMatch(/81 psi to 90 psi/);
    expect(said.find((t) => t.startsWith('School'))).toBeTruthy();
    expect(planChanges(family, plan, plan)).toEqual([]);
  });
});

describe.each(FOLDERS)('a plan that was forged into a job of a %s', (id) => {
  /** What nobody's screen writes: unknown kinds, no figures, figures from nowhere. */
  const forgeries = (plan: Plan): readonly Plan[] => [
    { ...plan, variant: 'no such' },
    { ...plan, school: 'no such', choices: { no: 'such' } },
    { ...plan, values: {}, limits: {}, plate: {}, given: [] },
    { ...plan, values: Object.fromEntries(Object.keys(plan.values).map((k) => [k, 1e12])), version: -3 },
  ];

  it('ruins nothing, wherever in the log it stands: the job is drawn, its walk goes on, its sheet is made', async () => {
    const kit = kitOf(id);
    const [variant] = kit.variants;
    if (!variant) throw new Error(id);
    const at = installed(await loadFamily(id), kit, variant);
    const { family } = at;
    const { events } = workedOn(at, { seed: 1, faults: faultsOf(family.rig.faults[0]?.id ?? 'none') }).log;
    for (const plan of forgeries(at.plan))
      for (const place of [1, 3, events.length >> 1]) {
        const [first] = events;
        if (!first) throw new Error(id);
        const log = new JobLog(first.job);
        log.judgeBy(checkOf(family));
        const forged: JobEvent = { ...first, id: 'forged', body: { kind: 'planned', plan, reason: 'x' } };
        for (const e of [...events.slice(0, place), forged, ...events.slice(place)]) log.append(e);
        const job = new FoldedJob(family, log.state);
        offer(family.procedure(job.plan), job);
        expect(sheetOf(family, job).rows.every((r) => r.title !== '')).toBe(true);
        expect(family.recommend(job).because).not.toBe('');
        family.drawing(job.plan);
        family.ladder(job.plan, job);
      }
  });
});
