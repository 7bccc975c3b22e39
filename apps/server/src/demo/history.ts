import {
  chooseGauges,
  pickGauges,
  draftOf,
  give,
  makePlan,
  startJob,
  typePlate,
  typeSetting,
  type Family,
} from '@firm-needle/core/family';
import { canonicalJson, CHAIN_START, chainLink } from '@firm-needle/core/formats';
import { type Gauge } from '@firm-needle/core/gauge';
import type { AsTyped, JobEvent, Plan } from '@firm-needle/core/procedure';
import { ambientAt } from '@firm-needle/core/quantity';
import { expectOk } from '@firm-needle/core/result';
import { deviceSeed, ONE_SHELF } from '@firm-needle/core/rig';
import { ScriptedTechnician } from '@firm-needle/core/script';
import { loadFamily } from '@firm-needle/families';
import { addDays, formatDay } from './days.js';
import { v7 as uuid } from 'uuid';
import {
  Control,
  ControlPlan,
  FittedDevice,
  GaugeRow,
  Job,
  JobEventRow,
  Site,
  Visit,
} from '../database/models.js';
import type { DueService } from '../due/due.service.js';
import type { ResultsService } from '../jobs/results.service.js';
import { type DemoControl, type DemoVisit } from './scenario.js';

export interface Person {
  readonly id: string;
  readonly name: string;
  readonly permits: string[];
}

export interface Place {
  readonly control: Control;
  readonly demo: DemoControl;
  readonly site: Site;
  readonly equipment: string;
}

export interface HistoryInput {
  readonly place: Place;
  readonly technician: Person;
  readonly gauges: ReadonlyMap<string, Gauge>;
  readonly visits: ReadonlyMap<string, Visit>;
  readonly today: Date;
  readonly results: ResultsService;
  readonly due: DueService;
  readonly organisationId: string;
}

/** The past of a control: its visits as its rig would have gone, each signed, and the one that is open. */
export async function seedHistory(input: HistoryInput): Promise<void> {
  const { place, technician, today, results, organisationId } = input;
  const { control, demo, site } = place;
  const family = await loadFamily(demo.family);
  const own = demo.gauge === undefined ? undefined : input.gauges.get(demo.gauge);
  const plate: Record<string, AsTyped> = { ...(own ? family.plateOf?.(own) : {}) };
  for (const [id, text] of Object.entries(demo.plate ?? {}))
    plate[id] = expectOk(typePlate(family, id, text));
  const planned = (
    given: Readonly<Record<string, string>>,
    version: number,
    variant = demo.variant ?? '',
  ): Plan => {
    let draft = draftOf(family, variant, plate);
    for (const [setting, text] of Object.entries(given))
      draft = give(draft, setting, expectOk(typeSetting(family, setting, text)));
    return makePlan(
      family,
      { ...draft, choices: demo.choices, school: demo.school ?? draft.school },
      version,
    );
  };
  const first = demo.history?.[0]?.daysAgo ?? 0;
  const device = await FittedDevice.create({
    id: uuid(),
    organisationId,
    controlId: control.id,
    label: demo.device ?? 'As found',
    fittedOn: formatDay(addDays(today, -first - 30)),
    removedOn: null,
    learned: {},
    rig: demo.rig ? { seed: demo.rig.seed, faults: [...demo.rig.faults] } : null,
  });
  let version = 0;
  let last = '';
  const savePlan = async (plan: Plan, when: Date): Promise<void> => {
    const key = JSON.stringify(plan.values);
    if (key === last) return;
    last = key;
    version++;
    await ControlPlan.create({
      id: uuid(),
      organisationId,
      controlId: control.id,
      version,
      plan: { ...plan, version },
      authorId: technician.id,
      createdAt: when,
    });
    await control.update({ planVersion: version });
  };
  const work = async (
    visit: DemoVisit,
    plan: Plan,
    visitId: string | null,
    steps?: number,
  ): Promise<void> => {
    const from = addDays(today, -visit.daysAgo);
    from.setUTCHours(8, 20 + (visit.seed % 30), 0, 0);
    await device.reload();
    const started = expectOk(
      startJob(family, {
        plan,
        site: { id: site.id, name: site.name, altitude_m: site.altitudeM },
        control: { id: control.id, name: control.name, equipment: place.equipment },
        technician: technician.name,
        permits: technician.permits,
        gauges: await gaugesFor(family, plan, organisationId, own?.id),
        rule: 'guarded',
        source: 'simulated rig',
        learned: device.learned,
      }),
    );
    const rig = family.rig.create({
      plan,
      seed: visit.seed,
      device: deviceSeed(device),
      ambient: expectOk(ambientAt(site.altitudeM)),
      faults: visit.faults,
      gauges: started.gauges,
      shelf: ONE_SHELF,
    });
    const job = uuid();
    const script = new ScriptedTechnician(family, rig, started, {
      job,
      author: technician.id,
      name: technician.name,
      device: 'demo-tablet',
      from: from.getTime(),
      makeId: uuid,
    });
    if (steps === undefined) script.run();
    else for (let i = 0; i < steps; i++) script.takeOne();
    await storeJob({
      job,
      organisationId,
      controlId: control.id,
      visitId,
      technician,
      events: script.log.events,
    });
    await results.refresh(job);
  };
  for (const visit of demo.history ?? []) {
    const plan = planned(visit.given, version + 1, visit.variant);
    await savePlan(plan, addDays(today, -visit.daysAgo));
    await work(visit, plan, null);
  }
  const plan = planned(demo.plan ?? {}, version + 1);
  await savePlan(plan, today);
  if (demo.open && demo.rig)
    await work(
      { daysAgo: demo.open.daysAgo, given: demo.plan ?? {}, faults: demo.rig.faults, seed: demo.rig.seed },
      plan,
      input.visits.get(site.id)?.id ?? null,
      demo.open.steps,
    );
  await agreeDay(input);
}

/** The day that the scenario wants it due on, as one that the customer named, where nothing else makes it due by then. */
export async function agreeDay({
  place: { control, demo },
  today,
  due,
}: Pick<HistoryInput, 'place' | 'today' | 'due'>): Promise<void> {
  const [soonest] = await due.refresh(control.id);
  if (demo.dueIn === undefined) return;
  const wanted = formatDay(addDays(today, demo.dueIn));
  if (soonest && soonest.kind !== 'first' && soonest.day <= wanted) return;
  await Control.update({ customerDay: wanted }, { where: { id: control.id } });
  await due.refresh(control.id);
}

/** The firm's best gauge for each place, as it stands by now. */
async function gaugesFor(
  family: Family,
  plan: Plan,
  organisationId: string,
  own: string | undefined,
): Promise<Record<string, Gauge>> {
  const all = (await GaugeRow.findAll({ where: { organisationId }, order: ['label'] })).map((g) => g.body);
  const choices = chooseGauges(
    family,
    plan,
    all,
    undefined,
    all.find((g) => g.id === own),
  );
  return Object.fromEntries(Object.entries(pickGauges(choices)).map(([slot, { gauge }]) => [slot, gauge]));
}

async function storeJob(input: {
  job: string;
  organisationId: string;
  controlId: string;
  visitId: string | null;
  technician: Person;
  events: readonly JobEvent[];
}): Promise<void> {
  let head = CHAIN_START;
  const rows = input.events.map((event, i) => {
    const text = canonicalJson(event);
    head = chainLink(head, text);
    return {
      jobId: input.job,
      seq: i + 1,
      id: event.id,
      kind: event.body.kind,
      authorId: input.technician.id,
      receivedAt: new Date(event.wall),
      text,
      hash: head,
    };
  });
  await Job.create({
    id: input.job,
    organisationId: input.organisationId,
    controlId: input.controlId,
    visitId: input.visitId,
    openedBy: input.technician.id,
    openedAt: new Date(input.events[0]?.wall ?? 0),
    seq: rows.length,
    head,
    signedAt: null,
  });
  await JobEventRow.bulkCreate(rows);
}
