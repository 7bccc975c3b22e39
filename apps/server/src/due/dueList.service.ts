import type { DueItem, Page, Sent } from '@firm-needle/contract';
import { Injectable } from '@nestjs/common';
import { InjectModel } from '@nestjs/sequelize';
import { Op, type WhereOptions } from 'sequelize';
import { cursorOf, keyIn, pageOf } from '../common/page.js';
import type { Actor } from '../common/user.js';
import { Control, DueReasonRow, Equipment, Site, User, Visit, VisitControl } from '../database/models.js';
import type { DueQuery } from './due.controller.js';

/** What is due, as a list; as many queries however long it is. */
@Injectable()
export class DueList {
  constructor(
    @InjectModel(Control) private readonly controls: typeof Control,
    @InjectModel(DueReasonRow) private readonly reasons: typeof DueReasonRow,
    @InjectModel(Visit) private readonly visits: typeof Visit,
    @InjectModel(VisitControl) private readonly links: typeof VisitControl,
  ) {}

  async list(actor: Actor, query: DueQuery): Promise<Sent<Page<DueItem>>> {
    const limit = query.limit ?? 50;
    const organisationId = actor.organisation.id;
    const [day, id] = keyIn(query.after, 2) ?? [];
    const siteId = actor.site ?? query.site;
    // A customer's account asked for another's site is answered with nothing.
    if (actor.site && query.site && query.site !== actor.site) return { items: [], next: null };
    const where: WhereOptions = {
      organisationId,
      retiredAt: null,
      due: { [Op.ne]: null, ...(query.until ? { [Op.lte]: query.until } : {}) },
      ...(day && id ? { [Op.or]: [{ due: { [Op.gt]: day } }, { due: day, id: { [Op.gt]: id } }] } : {}),
    };
    const rows = await this.controls.findAll({
      where,
      attributes: ['id', 'name', 'family', 'due'],
      include: {
        model: Equipment,
        attributes: ['name'],
        required: true,
        where: { retiredAt: null },
        include: [
          {
            model: Site,
            attributes: ['id', 'name', 'altitudeM'],
            required: true,
            where: { retiredAt: null, ...(siteId ? { id: siteId } : {}) },
          },
        ],
      },
      order: ['due', 'id'],
      limit: limit + 1,
    });
    const ids = rows.map((r) => r.id);
    const [reasons, planned] = await Promise.all([
      this.reasons.findAll({
        where: { controlId: ids },
        attributes: ['controlId', 'kind', 'day', 'because'],
        order: ['day'],
        raw: true,
      }),
      this.planned(ids),
    ]);
    const items = rows.flatMap((c): Sent<DueItem>[] => {
      const site = c.equipment?.site;
      if (!site || c.due === null) return [];
      return [
        {
          id: c.id,
          name: c.name,
          family: c.family,
          equipment: c.equipment?.name ?? '',
          site: { id: site.id, name: site.name, altitude_m: site.altitudeM },
          day: c.due,
          reasons: reasons
            .filter((r) => r.controlId === c.id)
            .map(({ kind, day: on, because }) => ({ kind, day: on, because })),
          visit: planned.get(c.id) ?? null,
        },
      ];
    });
    return pageOf(items, limit, (i) => cursorOf(String(i.day), String(i.id)));
  }

  /** The next visit that is planned for each of some controls. */
  private async planned(controls: readonly string[]): Promise<ReadonlyMap<string, DueItem['visit']>> {
    const links = await this.links.findAll({ where: { controlId: [...controls] }, raw: true });
    const visits = await this.visits.findAll({
      where: {
        id: [...new Set(links.map((l) => l.visitId))],
        cancelled: null,
        day: { [Op.gte]: new Date().toISOString().slice(0, 10) },
      },
      attributes: ['id', 'day'],
      include: { model: User, attributes: ['name'] },
      order: [['day', 'DESC']],
    });
    const out = new Map<string, DueItem['visit']>();
    for (const v of visits)
      for (const l of links)
        if (l.visitId === v.id)
          out.set(l.controlId, { id: v.id, day: v.day, technician: v.technician?.name ?? 'nobody' });
    return out;
  }
}
