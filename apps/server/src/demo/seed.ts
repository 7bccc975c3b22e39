import { parseAccuracyClass, type AccuracyClass, type Gauge } from '@firm-needle/core/gauge';
import { expectOk } from '@firm-needle/core/result';
import { familyExists } from '@firm-needle/families';
import type { Sequelize } from 'sequelize';
import { addDays, formatDay } from './days.js';
import { v7 as uuid } from 'uuid';
import { hashPassword } from '../auth/passwords.js';
import {
  Control,
  ControlLink,
  Equipment,
  GaugeRow,
  Organisation,
  Site,
  User,
  Visit,
  VisitControl,
} from '../database/models.js';
import { standaloneDue, standaloneResults } from '../jobs/standalone.js';
import { agreeDay, seedHistory, type Person, type Place } from './history.js';
import { readScenario, type DemoGauge, type Scenario } from './scenario.js';

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
  const places = await seedSites(scenario, organisationId, gauges);
  const people = await seedUsers(scenario, organisationId);
  const visits = await seedVisits(scenario, organisationId, people, places, today);
  const technician = people.get('marrable');
  if (!technician) throw new Error('The scenario has no technician.');
  const results = standaloneResults(db);
  const due = standaloneDue();
  for (const place of places) {
    if (familyExists(place.demo.family))
      await seedHistory({ place, technician, gauges, visits, today, results, due, organisationId });
    else await agreeDay({ place, today, due });
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
): Promise<Place[]> {
  const places: Place[] = [];
  for (const s of scenario.sites) {
    const site = await Site.create({
      id: uuid(),
      organisationId,
      name: s.name,
      altitudeM: s.altitude_m,
      customer: s.customer ?? null,
      address: s.address ?? null,
      contact: s.contact ?? null,
      access: s.access ?? null,
      hazards: s.hazards ?? null,
      notes: s.notes ?? null,
    });
    for (const e of s.equipment) {
      const equipment = await Equipment.create({
        id: uuid(),
        organisationId,
        siteId: site.id,
        name: e.name,
        notes: e.notes ?? null,
        maker: e.maker ?? null,
        model: e.model ?? null,
        serial: e.serial ?? null,
        made: e.made ?? null,
      });
      for (const c of e.controls) {
        const control = await Control.create({
          id: uuid(),
          organisationId,
          equipmentId: equipment.id,
          name: c.name,
          family: c.family,
          planVersion: 0,
          due: null,
          story: c.story ?? null,
          lawMonths: c.law?.months ?? null,
          lawBy: c.law?.by ?? null,
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
