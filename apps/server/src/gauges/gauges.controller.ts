import { Controller, Get, Query } from '@nestjs/common';
import { InjectModel } from '@nestjs/sequelize';
import { Op } from 'sequelize';
import { pageOf, PageQuery } from '../common/page.js';
import { CurrentUser, type Actor } from '../common/user.js';
import { GaugeRow } from '../database/models.js';

@Controller('gauges')
export class GaugesController {
  constructor(@InjectModel(GaugeRow) private readonly gauges: typeof GaugeRow) {}

  /** The firm's gauges, by label. */
  @Get()
  async list(@CurrentUser() actor: Actor, @Query() page: PageQuery) {
    const limit = page.limit ?? 100;
    const rows = await this.gauges.findAll({
      where: {
        organisationId: actor.organisation.id,
        ...(page.after ? { label: { [Op.gt]: page.after } } : {}),
      },
      order: ['label', 'id'],
      limit: limit + 1,
    });
    return pageOf(
      rows.map((g) => ({ ...g.body, id: g.id, label: g.label, owner: g.owner, due: g.due ?? undefined })),
      limit,
      (g) => g.label,
    );
  }
}
