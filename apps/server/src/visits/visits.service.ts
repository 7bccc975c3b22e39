import { Injectable } from '@nestjs/common';
import { InjectConnection, InjectModel } from '@nestjs/sequelize';
import type { Page, Sent, Visit as VisitAnswer } from '@firm-needle/contract';
import { Op, type Sequelize, type WhereOptions } from 'sequelize';
import { cursorOf, keyIn, pageOf } from '../common/page.js';
import { notFound } from '../common/problem.js';
import type { Actor } from '../common/user.js';
import { Visit } from '../database/models.js';
import type { VisitsQuery } from './visits.dto.js';
import { visitsOf } from './visitRows.js';

@Injectable()
export class VisitsService {
  constructor(
    @InjectModel(Visit) private readonly visits: typeof Visit,
    @InjectConnection() private readonly db: Sequelize,
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
      attributes: ['id', 'day'],
      order: [
        ['day', 'DESC'],
        ['id', 'ASC'],
      ],
      limit: limit + 1,
      raw: true,
    });
    const page = pageOf(rows, limit, (v) => cursorOf(v.day, v.id));
    const items = await visitsOf(
      this.db,
      page.items.map((v) => v.id),
    );
    return { items, next: page.next };
  }

  async one(actor: Actor, id: string): Promise<Sent<VisitAnswer>> {
    const visit = await this.visits.findOne({
      where: { id, organisationId: actor.organisation.id, ...(actor.site ? { siteId: actor.site } : {}) },
      attributes: ['id'],
      raw: true,
    });
    const [shown] = visit ? await visitsOf(this.db, [visit.id]) : [];
    if (!shown) throw notFound('visit');
    return shown;
  }
}
