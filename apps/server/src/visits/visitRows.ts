import type { Sent, Visit as VisitAnswer } from '@firm-needle/contract';
import type { Outcome } from '@firm-needle/core/procedure';
import { familyExists } from '@firm-needle/families';
import { QueryTypes, type Sequelize } from 'sequelize';

/** One control of one visit, or a visit that has none. */
interface Row {
  readonly id: string;
  readonly day: string | Date;
  readonly stop: number;
  readonly purpose: string | null;
  readonly packed: string | readonly string[];
  readonly version: number;
  readonly technicianId: string;
  readonly technician: string | null;
  readonly siteId: string;
  readonly site: string;
  readonly altitudeM: number;
  readonly controlId: string | null;
  readonly control: string;
  readonly family: string;
  readonly story: string | null;
  readonly equipment: string;
  readonly job: string | null;
  readonly signedAt: Date | null;
  readonly outcome: Outcome | null;
  readonly proved: number | null;
}

/**
 * Visits with their site, their technician, their controls in walking order and the newest job of each: the lists that are asked for most,
 * in one statement however many there are.
 * @returns in the order of the ids
 */
export async function visitsOf(db: Sequelize, ids: readonly string[]): Promise<Sent<VisitAnswer>[]> {
  if (ids.length === 0) return [];
  const rows = await db.query<Row>(
    `SELECT v.id, CAST(v.day AS CHAR) AS day, v.stop, v.purpose, v.packed, v.version, v.technician_id AS technicianId, u.name AS technician,
       s.id AS siteId, s.name AS site, s.altitude_m AS altitudeM,
       c.id AS controlId, c.name AS control, c.family, c.story, e.name AS equipment,
       j.id AS job, j.signed_at AS signedAt, r.outcome, JSON_LENGTH(r.objections) = 0 AS proved
     FROM visits v
     JOIN sites s ON s.id = v.site_id
     LEFT JOIN users u ON u.id = v.technician_id
     LEFT JOIN visit_controls l ON l.visit_id = v.id
     LEFT JOIN controls c ON c.id = l.control_id
     LEFT JOIN equipment e ON e.id = c.equipment_id
     LEFT JOIN jobs j ON j.id = (SELECT n.id FROM jobs n WHERE n.visit_id = v.id AND n.control_id = c.id
                                 ORDER BY n.opened_at DESC, n.id DESC LIMIT 1)
     LEFT JOIN job_results r ON r.job_id = j.id
     WHERE v.id IN (?) ORDER BY l.position`,
    { replacements: [ids], type: QueryTypes.SELECT },
  );
  const byVisit = new Map<string, Row[]>();
  for (const r of rows) byVisit.set(r.id, [...(byVisit.get(r.id) ?? []), r]);
  return ids.flatMap((id) => {
    const own = byVisit.get(id) ?? [];
    return own[0] ? [asVisit(own[0], own)] : [];
  });
}

function asVisit(v: Row, own: readonly Row[]): Sent<VisitAnswer> {
  return {
    id: v.id,
    day: v.day,
    purpose: v.purpose,
    site: { id: v.siteId, name: v.site, altitude_m: v.altitudeM },
    technician: v.technician,
    technicianId: v.technicianId,
    stop: v.stop,
    packed: typeof v.packed === 'string' ? (JSON.parse(v.packed) as string[]) : v.packed,
    version: v.version,
    controls: own.flatMap((r) =>
      r.controlId === null
        ? []
        : [
            {
              id: r.controlId,
              name: r.control,
              family: r.family,
              available: familyExists(r.family),
              equipment: r.equipment,
              story: r.story,
              job: r.job
                ? {
                    id: r.job,
                    signedAt: r.signedAt,
                    outcome: r.outcome,
                    proved: r.proved === null ? null : r.proved === 1,
                  }
                : null,
            },
          ],
    ),
  };
}
