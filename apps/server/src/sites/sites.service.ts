import type { Page, Sent, Site as SiteAnswer } from '@firm-needle/contract';
import { Injectable } from '@nestjs/common';
import { InjectModel } from '@nestjs/sequelize';
import { afterNamed, cursorOf, pageOf, type PageQuery } from '../common/page.js';
import { notFound } from '../common/problem.js';
import type { Actor } from '../common/user.js';
import { Control, Equipment, Site } from '../database/models.js';

@Injectable()
export class SitesService {
  constructor(
    @InjectModel(Site) private readonly sites: typeof Site,
    @InjectModel(Equipment) private readonly equipment: typeof Equipment,
  ) {}

  async list(actor: Actor, page: PageQuery): Promise<Sent<Page<SiteAnswer>>> {
    const limit = page.limit ?? 50;
    const sites = await this.sites.findAll({
      where: {
        organisationId: actor.organisation.id,
        ...(actor.site ? { id: actor.site } : {}),
        ...afterNamed('name', page.after),
      },
      order: ['name', 'id'],
      limit: limit + 1,
    });
    const equipment = await this.equipment.findAll({
      where: { organisationId: actor.organisation.id, siteId: sites.map((s) => s.id) },
      include: Control,
      order: ['name'],
    });
    const items = sites.map((s) => ({
      ...view(s),
      equipment: equipment.filter((e) => e.siteId === s.id).map(viewEquipment),
    }));
    return pageOf(items, limit, (s) => cursorOf(s.name, s.id));
  }

  async one(actor: Actor, id: string): Promise<Sent<SiteAnswer>> {
    if (actor.site && actor.site !== id) throw notFound('site');
    const site = await this.sites.findOne({ where: { id, organisationId: actor.organisation.id } });
    if (!site) throw notFound('site');
    const equipment = await this.equipment.findAll({
      where: { siteId: id },
      include: Control,
      order: ['name'],
    });
    return { ...view(site), equipment: equipment.map(viewEquipment) };
  }
}

const view = (s: Site) => ({ id: s.id, name: s.name, altitude_m: s.altitudeM, notes: s.notes });

export const viewControl = (c: Control) => ({
  id: c.id,
  name: c.name,
  family: c.family,
  due: c.due,
  story: c.story,
});

const viewEquipment = (e: Equipment) => ({
  id: e.id,
  name: e.name,
  notes: e.notes,
  controls: (e.controls ?? []).map(viewControl),
});
