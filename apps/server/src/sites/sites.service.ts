import type { Page, RecordSaved, Sent, Site as SiteAnswer } from '@firm-needle/contract';
import { Injectable } from '@nestjs/common';
import { InjectConnection, InjectModel } from '@nestjs/sequelize';
import { findUnit } from '@firm-needle/core/quantity';
import type { Sequelize } from 'sequelize';
import { v5 as derived, v7 as uuid } from 'uuid';
import { afterNamed, cursorOf, pageOf } from '../common/page.js';
import { notFound, Problem, wrongField } from '../common/problem.js';
import { keepRecord, mayWrite } from '../common/records.js';
import { inTransaction } from '../common/transaction.js';
import type { Actor } from '../common/user.js';
import { CopiesService } from '../controls/copies.service.js';
import { OpenJobs } from '../controls/openJobs.js';
import { Control, Equipment, Site } from '../database/models.js';
import type { CopyBody, SiteBody, SitesQuery } from './sites.controller.js';
import { viewSite } from './sites.views.js';

@Injectable()
export class SitesService {
  constructor(
    @InjectModel(Site) private readonly sites: typeof Site,
    @InjectModel(Equipment) private readonly equipment: typeof Equipment,
    @InjectConnection() private readonly db: Sequelize,
    private readonly open: OpenJobs,
    private readonly copies: CopiesService,
  ) {}

  async list(actor: Actor, page: SitesQuery): Promise<Sent<Page<SiteAnswer>>> {
    const limit = page.limit ?? 50;
    const standing = page.retired ? {} : { retiredAt: null };
    const sites = await this.sites.findAll({
      where: {
        organisationId: actor.organisation.id,
        ...standing,
        ...(actor.site ? { id: actor.site } : {}),
        ...afterNamed('name', page.after),
      },
      order: ['name', 'id'],
      limit: limit + 1,
    });
    const equipment = await this.equipment.findAll({
      where: { organisationId: actor.organisation.id, siteId: sites.map((s) => s.id), ...standing },
      include: { model: Control, required: false, where: standing },
      order: ['name', [{ model: Control, as: 'controls' }, 'name', 'ASC']],
    });
    const items = sites.map((s) =>
      viewSite(
        s,
        equipment.filter((e) => e.siteId === s.id),
      ),
    );
    return pageOf(items, limit, (s) => cursorOf(String(s.name), String(s.id)));
  }

  async one(actor: Actor, id: string): Promise<Sent<SiteAnswer>> {
    const site = await this.reach(actor, id);
    return viewSite(site, await this.equipmentOf(id));
  }

  async save(actor: Actor, id: string, body: SiteBody): Promise<RecordSaved> {
    mayWrite(actor);
    const unit = body.unit ? findUnit(body.unit) : undefined;
    if (body.unit && (unit?.dimension !== 'pressure' || unit.kind))
      throw wrongField('unit', `"${body.unit}" is not a unit of pressure.`, 'Use psi, bar, kPa, inH2O …');
    return inTransaction(this.db, async (transaction) => {
      const known = await this.sites.findByPk(id, { transaction });
      if (body.retired && known && !known.retiredAt) await this.open.refuseAt({ site: id }, transaction);
      const values = {
        name: body.name,
        altitudeM: body.altitude_m,
        customer: body.customer ?? null,
        address: body.address ?? null,
        contact: body.contact ?? null,
        access: body.access ?? null,
        hazards: body.hazards ?? null,
        unit: unit?.id ?? null,
        notes: body.notes ?? null,
        retiredAt: body.retired ? (known?.retiredAt ?? new Date()) : null,
      };
      const { row } = await keepRecord(
        this.sites,
        actor,
        { id, version: body.version, values, what: 'site' },
        (s) => viewSite(s, []),
        transaction,
      );
      return { id, version: row.version };
    });
  }

  /** Copies a set-up. The ids of what is copied follow from the copy's own, so that the same once more is the same. */
  async copy(actor: Actor, id: string, body: CopyBody): Promise<RecordSaved> {
    mayWrite(actor);
    const from = await this.reach(actor, body.from);
    return inTransaction(this.db, async (transaction) => {
      const known = await this.sites.findByPk(id, { transaction, lock: transaction.LOCK.UPDATE });
      if (known) {
        if (known.organisationId !== actor.organisation.id)
          throw new Problem(409, 'id-reused', 'That site id is taken.');
        return { id, version: known.version };
      }
      const { altitudeM, customer, unit } = from;
      await this.sites.create(
        {
          id,
          organisationId: actor.organisation.id,
          name: body.name,
          altitudeM,
          customer,
          unit,
          notes: null,
        },
        { transaction },
      );
      for (const e of await this.equipmentOf(body.from)) {
        if (e.retiredAt) continue;
        const equipmentId = derived(e.id, id);
        const { organisationId, name, notes, maker, model } = e;
        await this.equipment.create(
          { id: equipmentId, organisationId, siteId: id, name, notes, maker, model },
          { transaction },
        );
        for (const c of e.controls ?? [])
          if (!c.retiredAt && !c.gaugeId)
            await this.copies.make(
              actor,
              { id: derived(c.id, id), planId: uuid(), equipmentId, name: c.name },
              c,
              transaction,
            );
      }
      return { id, version: 1 };
    });
  }

  private equipmentOf(siteId: string): Promise<Equipment[]> {
    return this.equipment.findAll({
      where: { siteId },
      include: Control,
      order: ['name', [{ model: Control, as: 'controls' }, 'name', 'ASC']],
    });
  }

  private async reach(actor: Actor, id: string): Promise<Site> {
    const site =
      actor.site && actor.site !== id
        ? null
        : await this.sites.findOne({ where: { id, organisationId: actor.organisation.id } });
    if (!site) throw notFound('site');
    return site;
  }
}
