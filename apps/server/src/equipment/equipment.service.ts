import type { RecordSaved } from '@firm-needle/contract';
import { Injectable } from '@nestjs/common';
import { InjectConnection, InjectModel } from '@nestjs/sequelize';
import type { Sequelize } from 'sequelize';
import { notFound, wrongField } from '../common/problem.js';
import { keepRecord, mayWrite } from '../common/records.js';
import { inTransaction } from '../common/transaction.js';
import type { Actor } from '../common/user.js';
import { OpenJobs } from '../controls/openJobs.js';
import { Control, Equipment, Site } from '../database/models.js';
import { viewEquipment } from '../sites/sites.views.js';
import type { EquipmentBody } from './equipment.controller.js';

@Injectable()
export class EquipmentService {
  constructor(
    @InjectModel(Equipment) private readonly equipment: typeof Equipment,
    @InjectModel(Site) private readonly sites: typeof Site,
    @InjectConnection() private readonly db: Sequelize,
    private readonly open: OpenJobs,
  ) {}

  async one(actor: Actor, id: string) {
    const e = await this.equipment.findOne({
      where: { id, organisationId: actor.organisation.id, ...(actor.site ? { siteId: actor.site } : {}) },
      include: [Control, Site],
    });
    if (!e?.site) throw notFound('equipment');
    return {
      ...viewEquipment(e),
      site: { id: e.site.id, name: e.site.name, altitude_m: e.site.altitudeM },
    };
  }

  async save(actor: Actor, id: string, body: EquipmentBody): Promise<RecordSaved> {
    mayWrite(actor);
    return inTransaction(this.db, async (transaction) => {
      const site = await this.sites.findOne({
        where: { id: body.siteId, organisationId: actor.organisation.id },
        transaction,
      });
      if (!site) throw wrongField('siteId', 'There is no such site here.', 'Keep the site first.');
      const known = await this.equipment.findByPk(id, { transaction });
      if (known && known.siteId !== body.siteId) await this.open.refuseAt({ equipment: id }, transaction);
      if (body.retired && known && !known.retiredAt) await this.open.refuseAt({ equipment: id }, transaction);
      const values = {
        siteId: body.siteId,
        name: body.name,
        notes: body.notes ?? null,
        maker: body.maker ?? null,
        model: body.model ?? null,
        serial: body.serial ?? null,
        made: body.made ?? null,
        retiredAt: body.retired ? (known?.retiredAt ?? new Date()) : null,
      };
      const { row } = await keepRecord(
        this.equipment,
        actor,
        { id, version: body.version, values, what: 'piece of equipment' },
        viewEquipment,
        transaction,
      );
      return { id, version: row.version };
    });
  }
}
