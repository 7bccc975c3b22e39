import type { Hit } from '@firm-needle/contract';
import { Injectable } from '@nestjs/common';
import { InjectModel } from '@nestjs/sequelize';
import { literal, Op, type WhereOptions } from 'sequelize';
import type { Actor } from '../common/user.js';
import { Control, Equipment, GaugeRow, JobFinding, Site } from '../database/models.js';

/** Of each sort; who wants more types more letters. */
const MOST_EACH = 8;

/** What `%` and `_` mean to the database is not what a person means by them. */
const anywhere = (text: string): { [Op.like]: string } => ({
  [Op.like]: `%${text.replace(/[\\%_]/g, '\\$&')}%`,
});

/** Words as the full-text index takes them, each as far as it was typed; too short ones it does not know. */
const asWords = (text: string): string =>
  text
    .split(/[^\p{L}\p{N}]+/u)
    .filter((w) => w.length >= 3)
    .map((w) => `+${w}*`)
    .join(' ');

/** Anything in the firm's book, by a few letters. */
@Injectable()
export class SearchService {
  constructor(
    @InjectModel(Site) private readonly sites: typeof Site,
    @InjectModel(Equipment) private readonly equipment: typeof Equipment,
    @InjectModel(Control) private readonly controls: typeof Control,
    @InjectModel(GaugeRow) private readonly gauges: typeof GaugeRow,
    @InjectModel(JobFinding) private readonly findings: typeof JobFinding,
  ) {}

  async find(actor: Actor, text: string): Promise<readonly Hit[]> {
    const all = await Promise.all([
      this.inSites(actor, text),
      this.inControls(actor, text),
      this.inEquipment(actor, text),
      actor.site ? [] : this.inGauges(actor, text),
      this.inFindings(actor, text),
    ]);
    return all.flat();
  }

  private async inSites(actor: Actor, text: string): Promise<Hit[]> {
    const like = anywhere(text);
    const where: WhereOptions = {
      organisationId: actor.organisation.id,
      retiredAt: null,
      ...(actor.site ? { id: actor.site } : {}),
      [Op.or]: [{ name: like }, { customer: like }, { address: like }],
    };
    const rows = await this.sites.findAll({
      where,
      attributes: ['id', 'name', 'customer', 'address'],
      order: ['name'],
      limit: MOST_EACH,
    });
    return rows.map((s) => ({
      kind: 'site',
      id: s.id,
      title: s.name,
      beside: s.customer ?? s.address ?? '',
    }));
  }

  private async inControls(actor: Actor, text: string): Promise<Hit[]> {
    const rows = await this.controls.findAll({
      where: { organisationId: actor.organisation.id, retiredAt: null, name: anywhere(text) },
      attributes: ['id', 'name'],
      include: placed(actor),
      order: ['name'],
      limit: MOST_EACH,
    });
    return rows.map((c) => ({
      kind: 'control',
      id: c.id,
      title: c.name,
      beside: `${c.equipment?.site?.name ?? ''} · ${c.equipment?.name ?? ''}`,
    }));
  }

  private async inEquipment(actor: Actor, text: string): Promise<Hit[]> {
    const like = anywhere(text);
    const rows = await this.equipment.findAll({
      where: {
        organisationId: actor.organisation.id,
        retiredAt: null,
        ...(actor.site ? { siteId: actor.site } : {}),
        [Op.or]: [{ name: like }, { serial: like }, { model: like }, { maker: like }],
      },
      attributes: ['id', 'name', 'serial', 'siteId'],
      include: STANDING_SITE,
      order: ['name'],
      limit: MOST_EACH,
    });
    return rows.map((e) => ({
      kind: 'equipment',
      id: e.siteId,
      title: e.name,
      beside: [e.site?.name, e.serial && `serial ${e.serial}`].filter(Boolean).join(' · '),
    }));
  }

  private async inGauges(actor: Actor, text: string): Promise<Hit[]> {
    const like = anywhere(text);
    const rows = await this.gauges.findAll({
      where: {
        organisationId: actor.organisation.id,
        retiredAt: null,
        [Op.or]: [
          { label: like },
          literal(
            `JSON_VALUE(body, '$.serial') LIKE ${this.gauges.sequelize?.escape(like[Op.like]) ?? "''"}`,
          ),
        ],
      },
      attributes: ['id', 'label', 'body'],
      order: ['label'],
      limit: MOST_EACH,
    });
    return rows.map((g) => ({
      kind: 'gauge',
      id: g.id,
      title: `Gauge ${g.label}`,
      beside: g.body.serial ? `serial ${g.body.serial}` : '',
    }));
  }

  private async inFindings(actor: Actor, text: string): Promise<Hit[]> {
    const words = asWords(text);
    if (words === '') return [];
    const escaped = this.findings.sequelize?.escape(words) ?? "''";
    const rows = await this.findings.findAll({
      where: {
        organisationId: actor.organisation.id,
        [Op.and]: [literal(`MATCH(message) AGAINST(${escaped} IN BOOLEAN MODE)`)],
      },
      attributes: ['jobId', 'controlId', 'signedAt', 'message'],
      order: [['signedAt', 'DESC']],
      limit: MOST_EACH * 3,
      raw: true,
    });
    const controls = await this.controls.findAll({
      where: { id: [...new Set(rows.map((r) => r.controlId))] },
      attributes: ['id', 'name'],
      include: placed(actor),
    });
    return rows
      .flatMap((f): Hit[] => {
        const c = controls.find((x) => x.id === f.controlId);
        if (!c) return [];
        const day = f.signedAt.toISOString().slice(0, 10);
        return [
          {
            kind: 'finding',
            id: f.jobId,
            title: f.message,
            beside: `${c.equipment?.site?.name ?? ''} · ${c.name} · ${day}`,
          },
        ];
      })
      .slice(0, MOST_EACH);
  }
}

/** What stands at a site that was retired is found on that site’s own page. */
const STANDING_SITE = { model: Site, attributes: ['name'], required: true, where: { retiredAt: null } };

/** A control's equipment and site, by name; those that the actor may see. */
const placed = (actor: Actor) => ({
  model: Equipment,
  attributes: ['name'],
  required: true,
  where: { retiredAt: null, ...(actor.site ? { siteId: actor.site } : {}) },
  include: [STANDING_SITE],
});
