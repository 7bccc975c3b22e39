import type { Sheet, SheetRow } from '@firm-needle/core/family';
import { unitOf, type Plan } from '@firm-needle/core/procedure';
import { findUnit, show, symbolOf } from '@firm-needle/core/quantity';
import { inUnit } from '@firm-needle/core/record';
import { familyExists, loadFamily } from '@firm-needle/families';
import { Injectable } from '@nestjs/common';
import { InjectConnection } from '@nestjs/sequelize';
import { QueryTypes, type Sequelize } from 'sequelize';
import { notFound } from '../common/problem.js';
import type { Actor } from '../common/user.js';
import { saidIn } from './days.js';
import { tagPdf, tagSheetPdf, type TagSize, type TagText } from './tagPdf.js';

interface Row {
  readonly id: string;
  readonly name: string;
  readonly family: string;
  readonly equipment: string;
  readonly site: string;
  readonly unit: string | null;
  readonly firm: string;
  readonly due: string | null;
  readonly plan: string | Plan | null;
  readonly result: string | Sheet | null;
  readonly signedAt: Date | null;
  readonly signedBy: string | null;
}

const read = <T>(v: string | T): T => (typeof v === 'string' ? (JSON.parse(v) as T) : v);

/** Tags: what a control was last proved at, until when, and a code that opens its page. */
@Injectable()
export class TagsService {
  constructor(@InjectConnection() private readonly db: Sequelize) {}

  /** @param origin where the app is opened, `https://firm.example` */
  async one(actor: Actor, controlId: string, size: TagSize, origin: string, zone?: string): Promise<Buffer> {
    const [row] = await this.rows(actor, 'c.id = :id', controlId);
    if (!row) throw notFound('control');
    return tagPdf(await this.text(row, origin, zone), size);
  }

  /** The tags of everything at a site. */
  async ofSite(actor: Actor, siteId: string, origin: string, zone?: string): Promise<Buffer> {
    const rows = await this.rows(actor, 's.id = :id', siteId);
    if (rows.length === 0) throw notFound('site with controls');
    return tagSheetPdf(await Promise.all(rows.map((r) => this.text(r, origin, zone))));
  }

  private rows(actor: Actor, where: string, id: string): Promise<Row[]> {
    return this.db.query<Row>(
      `SELECT c.id, c.name, c.family, e.name AS equipment, s.name AS site, s.unit, o.name AS firm, CAST(c.due AS CHAR) AS due,
         (SELECT p.plan FROM control_plans p WHERE p.control_id = c.id ORDER BY p.version DESC LIMIT 1) AS plan,
         r.result, r.signed_at AS signedAt,
         (SELECT JSON_VALUE(v.text, '$.body.by') FROM job_events v WHERE v.job_id = r.job_id AND v.kind = 'sign' ORDER BY v.seq LIMIT 1) AS signedBy
       FROM controls c JOIN equipment e ON e.id = c.equipment_id JOIN sites s ON s.id = e.site_id
       JOIN organisations o ON o.id = c.organisation_id
       LEFT JOIN job_results r ON r.job_id = (SELECT n.job_id FROM job_results n WHERE n.control_id = c.id AND n.counts = TRUE
         ORDER BY n.signed_at DESC, n.job_id DESC LIMIT 1)
       WHERE ${where} AND c.organisation_id = :firm AND (:site IS NULL OR s.id = :site) AND c.retired_at IS NULL
       ORDER BY e.name, c.name, c.id LIMIT 200`,
      {
        replacements: { id, firm: actor.organisation.id, site: actor.site },
        type: QueryTypes.SELECT,
      },
    );
  }

  private async text(row: Row, origin: string, zone: string | undefined): Promise<TagText> {
    const said = saidIn(zone);
    return {
      control: row.name,
      place: `${row.site} · ${row.equipment}`,
      firm: row.firm,
      settings: await settingsOf(row),
      when: row.signedAt
        ? `Proved ${said.day(row.signedAt.toISOString())}${row.signedBy ? `, ${row.signedBy}` : ''}`
        : 'Planned, not proved yet',
      due: row.due ? `Due ${said.day(row.due)}` : 'No date set',
      link: `${origin}/controls/${row.id}`,
    };
  }
}

/** What it was left at where it was proved; before that what it is planned at. */
async function settingsOf(row: Row): Promise<TagText['settings']> {
  const unit = row.unit && findUnit(row.unit)?.dimension === 'pressure' ? row.unit : undefined;
  if (row.result !== null) {
    // Limits are those of the job: no verdict stands on a tag, so none is said again.
    const shown = inUnit(read(row.result), unit, { limits: () => ({}), rule: 'simple' });
    return shown.rows.flatMap((r) => {
      const value = (r.left ?? r.found)?.value;
      // What was moved and not read since is known by nobody.
      return value === undefined || r.target === undefined || r.due
        ? []
        : [{ title: r.title, value: said(r, value) }];
    });
  }
  if (row.plan === null || !familyExists(row.family)) return [];
  const family = await loadFamily(row.family);
  const plan = read(row.plan);
  return family.settings
    .filter((s) => plan.values[s.id] !== undefined && s.givable)
    .map((s) => {
      const own = s.dimension === 'pressure' && unit ? unit : unitOf(family, plan, s.id);
      return {
        title: s.title,
        value: `${show(plan.values[s.id] ?? 0, { unit: own })} ${symbolOf(own)}`.trim(),
      };
    });
}

const said = (r: SheetRow, value: number): string =>
  `${show(value, { unit: r.unit, step: r.step ?? 0.1 })} ${symbolOf(r.unit)}`.trim();
