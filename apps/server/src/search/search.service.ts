import type { Hit } from '@firm-needle/contract';
import { Injectable } from '@nestjs/common';
import { InjectConnection } from '@nestjs/sequelize';
import { QueryTypes, type Sequelize } from 'sequelize';
import { anywhere } from '../common/like.js';
import type { Actor } from '../common/user.js';

/** Of each sort; who wants more types more letters. */
const MOST_EACH = 8;

/** Words as the full-text index takes them, each as far as it was typed; too short ones it does not know. */
const asWords = (text: string): string =>
  text
    .split(/[^\p{L}\p{N}]+/u)
    .filter((w) => w.length >= 3)
    .map((w) => `+${w}*`)
    .join(' ');

/** What is had of each sort: all as a hit is shown. What stands at a site that was retired is found on that site’s own page. */
const SITES = `SELECT 'site' AS kind, s.id, s.name AS title, COALESCE(s.customer, s.address, '') AS beside FROM sites s
  WHERE s.organisation_id = :firm AND s.retired_at IS NULL AND (:site IS NULL OR s.id = :site)
    AND (s.name LIKE :like OR s.customer LIKE :like OR s.address LIKE :like) ORDER BY s.name, s.id LIMIT ${MOST_EACH}`;
const STANDING = `JOIN sites s ON s.id = e.site_id AND s.retired_at IS NULL AND (:site IS NULL OR s.id = :site)`;
const CONTROLS = `SELECT 'control', c.id, c.name, CONCAT(s.name, ' · ', e.name) FROM controls c
  JOIN equipment e ON e.id = c.equipment_id AND e.retired_at IS NULL ${STANDING}
  WHERE c.organisation_id = :firm AND c.retired_at IS NULL AND c.name LIKE :like ORDER BY c.name, c.id LIMIT ${MOST_EACH}`;
const EQUIPMENT = `SELECT 'equipment', s.id, e.name, CONCAT_WS(' · ', s.name, CONCAT('serial ', NULLIF(e.serial, ''))) FROM equipment e ${STANDING}
  WHERE e.organisation_id = :firm AND e.retired_at IS NULL
    AND (e.name LIKE :like OR e.serial LIKE :like OR e.model LIKE :like OR e.maker LIKE :like) ORDER BY e.name, e.id LIMIT ${MOST_EACH}`;
const GAUGES = `SELECT 'gauge', g.id, CONCAT('Gauge ', g.label), COALESCE(CONCAT('serial ', NULLIF(JSON_VALUE(g.body, '$.serial'), '')), '')
  FROM gauges g WHERE :site IS NULL AND g.organisation_id = :firm AND g.retired_at IS NULL
    AND (g.label LIKE :like OR JSON_VALUE(g.body, '$.serial') LIKE :like) ORDER BY g.label, g.id LIMIT ${MOST_EACH}`;
/** The newest that are told by the words, of which those at what stands no more drop out. */
const FINDINGS = `SELECT 'finding', f.job_id, f.message, CONCAT(s.name, ' · ', c.name, ' · ', DATE(f.signed_at)) FROM
    (SELECT job_id, control_id, signed_at, message FROM job_findings
     WHERE organisation_id = :firm AND MATCH(message) AGAINST(:words IN BOOLEAN MODE) ORDER BY signed_at DESC LIMIT ${MOST_EACH * 3}) f
  JOIN controls c ON c.id = f.control_id
  JOIN equipment e ON e.id = c.equipment_id AND e.retired_at IS NULL ${STANDING} ORDER BY f.signed_at DESC LIMIT ${MOST_EACH}`;

/** Anything in the firm's book, by a few letters, in one statement. */
@Injectable()
export class SearchService {
  constructor(@InjectConnection() private readonly db: Sequelize) {}

  async find(actor: Actor, text: string): Promise<readonly Hit[]> {
    const words = asWords(text);
    const parts = [SITES, CONTROLS, EQUIPMENT, GAUGES, ...(words === '' ? [] : [FINDINGS])];
    return this.db.query<Hit>(parts.map((p) => `(${p})`).join(' UNION ALL '), {
      replacements: { firm: actor.organisation.id, site: actor.site, like: anywhere(text), words },
      type: QueryTypes.SELECT,
    });
  }
}
