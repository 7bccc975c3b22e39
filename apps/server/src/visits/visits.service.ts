import { Injectable } from '@nestjs/common';
import { InjectModel } from '@nestjs/sequelize';
import type { Page, Sent, Visit as VisitAnswer } from '@firm-needle/contract';
import { familyExists } from '@firm-needle/families';
import { Op, type WhereOptions } from 'sequelize';
import { cursorOf, keyIn, pageOf } from '../common/page.js';
import { notFound } from '../common/problem.js';
import type { Actor } from '../common/user.js';
import { Control, Equipment, Job, JobResult, Site, User, Visit, VisitControl } from '../database/models.js';
import type { VisitsQuery } from './visits.dto.js';

/** As much of a visit's site and technician as is shown. */
export const SITE_AND_PERSON = [
  { model: Site, attributes: ['id', 'name', 'altitudeM'] },
  { model: User, attributes: ['name'] },
];

@Injectable()
export class VisitsService {
  constructor(
    @InjectModel(Visit) private readonly visits: typeof Visit,
    @InjectModel(VisitControl) private readonly links: typeof VisitControl,
    @InjectModel(Control) private readonly controls: typeof Control,
    @InjectModel(Job) private readonly jobs: typeof Job,
    @InjectModel(JobResult) private readonly results: typeof JobResult,
  ) {}

  async list(actor: Actor, query: VisitsQuery): Promise<Sent<Page<VisitAnswer>>> {
    const limit = query.limit ?? 30;
    const [day, id] = keyIn(query.after, 2) ?? [];
    const where: WhereOptions = {
      organisationId: actor.organisation.id,
      cancelled: null,
      ...(actor.site ? { siteId: actor.site } : {}),
      ...(query.day ? { day: query.day } : {}),
      ...(day && id ? { [Op.or]: [{ day: { [Op.lt]: day } }, { day, id: { [Op.gt]: id } }] } : {}),
    };
    const rows = await this.visits.findAll({
      where,
      include: SITE_AND_PERSON,
      order: [
        ['day', 'DESC'],
        ['id', 'ASC'],
      ],
      limit: limit + 1,
    });
    const page = pageOf(rows, limit, (v) => cursorOf(v.day, v.id));
    return { items: await this.expand(page.items), next: page.next };
  }

  async one(actor: Actor, id: string): Promise<Sent<VisitAnswer>> {
    const visit = await this.visits.findOne({
      where: { id, organisationId: actor.organisation.id, ...(actor.site ? { siteId: actor.site } : {}) },
      include: SITE_AND_PERSON,
    });
    const [expanded] = visit ? await this.expand([visit]) : [];
    if (!expanded) throw notFound('visit');
    return expanded;
  }

  async expand(visits: readonly Visit[]): Promise<Sent<VisitAnswer>[]> {
    const ids = visits.map((v) => v.id);
    const [links, jobs] = await Promise.all([
      this.links.findAll({ where: { visitId: ids }, order: ['position'], raw: true }),
      this.jobs.findAll({
        where: { visitId: ids },
        attributes: ['id', 'visitId', 'controlId', 'signedAt'],
        order: [['openedAt', 'DESC']],
        raw: true,
      }),
    ]);
    const [controls, results] = await Promise.all([
      this.controls.findAll({
        where: { id: links.map((l) => l.controlId) },
        attributes: ['id', 'name', 'family', 'story'],
        include: { model: Equipment, attributes: ['name'] },
      }),
      // Never the sheets themselves: they are long, and nobody reads them here.
      this.results.findAll({
        where: { jobId: jobs.map((j) => j.id) },
        attributes: ['jobId', 'outcome', 'objections'],
      }),
    ]);
    const told = (c: Control, visit: string): Sent<VisitAnswer['controls'][number]> => {
      const job = jobs.find((j) => j.visitId === visit && j.controlId === c.id);
      const result = results.find((r) => r.jobId === job?.id);
      return {
        id: c.id,
        name: c.name,
        family: c.family,
        available: familyExists(c.family),
        equipment: c.equipment?.name ?? '',
        story: c.story,
        job: job
          ? {
              id: job.id,
              signedAt: job.signedAt,
              outcome: result?.outcome ?? null,
              proved: result ? result.objections.length === 0 : null,
            }
          : null,
      };
    };
    return visits.flatMap(({ id, day, purpose, site, technician, technicianId, stop, packed, version }) => {
      if (!site) return [];
      const here = links
        .filter((l) => l.visitId === id)
        .map((l) => controls.find((c) => c.id === l.controlId));
      return {
        id,
        day,
        purpose,
        site: { id: site.id, name: site.name, altitude_m: site.altitudeM },
        technician: technician?.name ?? null,
        technicianId,
        stop,
        packed,
        version,
        controls: here.flatMap((c) => (c ? told(c, id) : [])),
      };
    });
  }
}
