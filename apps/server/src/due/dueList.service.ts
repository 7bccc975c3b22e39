import type { DueItem, Page, Sent } from '@firm-needle/contract';
import { Injectable } from '@nestjs/common';
import { InjectConnection } from '@nestjs/sequelize';
import { QueryTypes, type Sequelize } from 'sequelize';
import { cursorOf, keyIn, pageOf } from '../common/page.js';
import type { Actor } from '../common/user.js';
import type { DueQuery } from './due.controller.js';

/** A line of the list as the database answers it. */
interface DueRow {
  readonly id: string;
  readonly name: string;
  readonly family: string;
  readonly due: string;
  readonly equipment: string;
  readonly siteId: string;
  readonly siteName: string;
  readonly altitudeM: number;
  readonly reasons: string | DueItem['reasons'] | null;
  readonly visit: string | DueItem['visit'];
}

const parsed = <T>(v: string | T): T => (typeof v === 'string' ? (JSON.parse(v) as T) : v);

/** What is due, as a list; in one statement however long it is. */
@Injectable()
export class DueList {
  constructor(@InjectConnection() private readonly db: Sequelize) {}

  async list(actor: Actor, query: DueQuery): Promise<Sent<Page<DueItem>>> {
    const limit = query.limit ?? 50;
    const [day, id] = keyIn(query.after, 2) ?? [];
    const site = actor.site ?? query.site;
    // A customer's account asked for another's site is answered with nothing.
    if (actor.site && query.site && query.site !== actor.site) return { items: [], next: null };
    const from = day && id;
    const rows = await this.db.query<DueRow>(
      `SELECT c.id, c.name, c.family, CAST(c.due AS CHAR) AS due, e.name AS equipment,
         s.id AS siteId, s.name AS siteName, s.altitude_m AS altitudeM,
         (SELECT JSON_ARRAYAGG(JSON_OBJECT('kind', r.kind, 'day', r.day, 'because', r.because) ORDER BY r.day, r.kind)
            FROM due_reasons r WHERE r.control_id = c.id) AS reasons,
         (SELECT JSON_OBJECT('id', v.id, 'day', v.day, 'technician', COALESCE(u.name, 'nobody'))
            FROM visit_controls l JOIN visits v ON v.id = l.visit_id LEFT JOIN users u ON u.id = v.technician_id
            WHERE l.control_id = c.id AND v.cancelled IS NULL AND v.day >= UTC_DATE()
            ORDER BY v.day, v.stop, v.id LIMIT 1) AS visit
       FROM controls c
       JOIN equipment e ON e.id = c.equipment_id AND e.retired_at IS NULL
       JOIN sites s ON s.id = e.site_id AND s.retired_at IS NULL
       WHERE c.organisation_id = :firm AND c.retired_at IS NULL AND c.due IS NOT NULL
         ${query.until ? 'AND c.due <= :until' : ''}
         ${from ? 'AND (c.due > :day OR (c.due = :day AND c.id > :id))' : ''}
         ${site ? 'AND s.id = :site' : ''}
       ORDER BY c.due, c.id LIMIT :most`,
      {
        replacements: { firm: actor.organisation.id, until: query.until, day, id, site, most: limit + 1 },
        type: QueryTypes.SELECT,
      },
    );
    const items = rows.map((c): Sent<DueItem> => ({
      id: c.id,
      name: c.name,
      family: c.family,
      equipment: c.equipment,
      site: { id: c.siteId, name: c.siteName, altitude_m: c.altitudeM },
      day: c.due,
      reasons: parsed(c.reasons) ?? [],
      visit: parsed(c.visit),
    }));
    return pageOf(items, limit, (i) => cursorOf(String(i.day), String(i.id)));
  }
}
