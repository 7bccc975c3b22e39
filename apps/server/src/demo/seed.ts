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
import { parseAccuracyClass, type AccuracyClass, type Gauge } from '@firm-needle/core/gauge';
import type { AsTyped, JobEvent, Plan } from '@firm-needle/core/procedure';
import { ambientAt } from '@firm-needle/core/quantity';
import { expectOk } from '@firm-needle/core/result';
import { deviceSeed, ONE_SHELF } from '@firm-needle/core/rig';
import { ScriptedTechnician } from '@firm-needle/core/script';
import { familyExists, loadFamily } from '@firm-needle/families';
import type { Sequelize } from 'sequelize';
import { addDays, formatDay } from './days.js';
import { v7 as uuid } from 'uuid';
import { hashPassword } from '../auth/auth.service.js';
import {
  Control,
  ControlLink,
  ControlPlan,
  Equipment,
  FittedDevice,
  GaugeRow,
  Job,
  JobEventRow,
  Organisation,
  Site,
  User,
  Visit,
  VisitControl,
} from '../database/models.js';
import type { ResultsService } from '../jobs/results.service.js';
import { standaloneResults } from '../jobs/standalone.js';
import { readScenario, type DemoControl, type DemoGauge, type DemoVisit, type Scenario } from './scenario.js';

interface Person {
  readonly id: string;
  readonly name: string;
  readonly permits: string[];
}

interface Place {
  readonly control: Control;
  readonly demo: DemoControl;
  readonly site: Site;
  readonly equipment: string;
}

/** Loads the invented scenario, dated from `today`; signed history comes from jobs worked on each control's rig. */
export async function seedDemo(today: Date, db: Sequelize): Promise<void> {
  const scenario = readScenario();
  const organisationId = uuid();
  await Organisation.create({
    id: organisationId,
    name: scenario.organisation,
    demo: true,
    rule: 'guarded',
    createdAt: today,
  });
  const gauges = await seedGauges(scenario, organisationId, today);
  const places = await seedSites(scenario, organisationId, gauges, today);
  const people = await seedUsers(scenario, organisationId);
  const visits = await seedVisits(scenario, organisationId, people, places, today);
  const technician = people.get('marrable');
  if (!technician) throw new Error('The scenario has no technician.');
  const results = standaloneResults(db);
  for (const place of places) {
    if (!familyExists(place.demo.family)) continue;
    await seedHistory({ place, technician, gauges, visits, today, results, organisationId });
  }
  await seedLinks(places);
}

/** The controls that stand beside each other, by the names that the scenario gives them. */
async function seedLinks(places: readonly Place[]): Promise<void> {
  for (const { control, demo, site } of places)
    for (const [role, name] of Object.entries(demo.links ?? {})) {
      const other = places.find((p) => p.site.id === site.id && p.control.name === name);
      if (!other) throw new Error(`${site.name} has no ${name} to stand beside ${control.name}.`);
      await ControlLink.create({ controlId: control.id, role, toId: other.control.id });
    }
}

async function seedSites(
  scenario: Scenario,
  organisationId: string,
  gauges: ReadonlyMap<string, Gauge>,
  today: Date,
): Promise<Place[]> {
  const places: Place[] = [];
  for (const s of scenario.sites) {
    const site = await Site.create({
      id: uuid(),
      organisationId,
      name: s.name,
      altitudeM: s.altitude_m,
      notes: s.notes ?? null,
    });
    for (const e of s.equipment) {
      const equipment = await Equipment.create({
        id: uuid(),
        organisationId,
        siteId: site.id,
        name: e.name,
        notes: e.notes ?? null,
      });
      for (const c of e.controls) {
        const control = await Control.create({
          id: uuid(),
          organisationId,
          equipmentId: equipment.id,
          name: c.name,
          family: c.family,
          planVersion: 0,
          due: c.dueIn === undefined ? null : formatDay(addDays(today, c.dueIn)),
          story: c.story ?? null,
          gaugeId: c.gauge === undefined ? null : (gauges.get(c.gauge)?.id ?? null),
        });
        places.push({ control, demo: c, site, equipment: e.name });
      }
    }
  }
  return places;
}

async function seedUsers(scenario: Scenario, organisationId: string): Promise<Map<string, Person>> {
  const passwordHash = await hashPassword(scenario.password);
  const people = new Map<string, Person>();
  for (const u of scenario.users) {
    const id = uuid();
    const site = u.site ? await Site.findOne({ where: { organisationId, name: u.site } }) : null;
    await User.create({
      id,
      organisationId,
      login: u.login,
      name: u.name,
      role: u.role,
      permits: u.permits,
      siteId: site?.id ?? null,
      passwordHash,
    });
    people.set(u.login, { id, name: u.name, permits: u.permits });
  }
  return people;
}

const accuracyOf = (g: DemoGauge): AccuracyClass =>
  g.stated !== undefined
    ? { standard: 'stated', percentOfSpan: g.stated }
    : expectOk(parseAccuracyClass(String(g.grade ?? g.class)));

async function seedGauges(
  scenario: Scenario,
  organisationId: string,
  today: Date,
): Promise<Map<string, Gauge>> {
  const out = new Map<string, Gauge>();
  for (const g of scenario.gauges) {
    const due = formatDay(addDays(today, g.dueIn));
    const body: Gauge = {
      id: uuid(),
      label: g.label,
      kind: g.kind,
      unit: g.unit,
      lower: g.lower,
      upper: g.upper,
      division: g.division,
      readable: g.readable,
      accuracy: accuracyOf(g),
      medium: g.medium,
      serial: g.serial,
      due,
      ...(g.column_C === undefined ? {} : { column_C: g.column_C }),
    };
    await GaugeRow.create({
      id: body.id,
      organisationId,
      label: g.label,
      owner: scenario.organisation,
      body,
      due,
    });
    out.set(g.label, body);
  }
  return out;
}

async function seedVisits(
  scenario: Scenario,
  organisationId: string,
  people: Map<string, Person>,
  places: readonly Place[],
  today: Date,
): Promise<Map<string, Visit>> {
  const out = new Map<string, Visit>();
  for (const v of scenario.visits) {
    const site = places.find((p) => p.site.name === v.site)?.site;
    const technicianId = people.get(v.technician)?.id;
    if (!site || !technicianId) throw new Error(`The visit to ${v.site} names nobody or nowhere.`);
    const visit = await Visit.create({
      id: uuid(),
      organisationId,
      siteId: site.id,
      technicianId,
      day: formatDay(addDays(today, v.day)),
      purpose: v.purpose,
    });
    let position = 0;
    for (const name of v.controls) {
      const place = places.find((p) => p.control.name === name && p.site.id === site.id);
      if (!place) throw new Error(`${v.site} has no ${name}.`);
      await VisitControl.create({ visitId: visit.id, controlId: place.control.id, position: ++position });
    }
    out.set(site.id, visit);
  }
  return out;
}

interface HistoryInput {
  readonly place: Place;
  readonly technician: Person;
  readonly gauges: ReadonlyMap<string, Gauge>;
  readonly visits: ReadonlyMap<string, Visit>;
  readonly today: Date;
  readonly results: ResultsService;
  readonly organisationId: string;
}

async function seedHistory(input: HistoryInput): Promise<void> {
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
  // By statement: signing the history moved the row's date behind this instance's back.
  const due = demo.dueIn === undefined ? null : formatDay(addDays(today, demo.dueIn));
  await Control.update({ due }, { where: { id: control.id } });
  if (demo.open && demo.rig)
    await work(
      { daysAgo: demo.open.daysAgo, given: demo.plan ?? {}, faults: demo.rig.faults, seed: demo.rig.seed },
      plan,
      input.visits.get(site.id)?.id ?? null,
      demo.open.steps,
    );
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
