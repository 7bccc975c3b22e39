import { Controller, Get, Param, ParseUUIDPipe } from '@nestjs/common';
import { InjectModel } from '@nestjs/sequelize';
import { notFound } from '../common/problem.js';
import { CurrentUser, type Actor } from '../common/user.js';
import { Control, Equipment, Site } from '../database/models.js';
import { viewControl } from '../sites/sites.service.js';

@Controller('equipment')
export class EquipmentController {
  constructor(@InjectModel(Equipment) private readonly equipment: typeof Equipment) {}

  /** One piece of equipment with its site and controls. */
  @Get(':id')
  async one(@CurrentUser() actor: Actor, @Param('id', ParseUUIDPipe) id: string) {
    const e = await this.equipment.findOne({
      where: { id, organisationId: actor.organisation.id, ...(actor.site ? { siteId: actor.site } : {}) },
      include: [Control, Site],
    });
    if (!e?.site) throw notFound('equipment');
    return {
      id: e.id,
      name: e.name,
      notes: e.notes,
      site: { id: e.site.id, name: e.site.name, altitude_m: e.site.altitudeM },
      controls: (e.controls ?? []).map(viewControl),
    };
  }
}
