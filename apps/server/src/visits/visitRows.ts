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
 * @param which a statement that selects their ids
 * @returns by day and stop
 */
export async function visitsWhere(
  db: Sequelize,
  which: string,
  replacements: Record<string, unknown>,
): Promise<Sent<VisitAnswer>[]> {
  const rows = await db.query<Row>(
    `SELECT v.id, CAST(v.day AS CHAR) AS day, v.stop, v.purpose, v.packed, v.version, v.technician_id AS technicianId, u.name AS technician,
       s.id AS siteId, s.name AS site, s.altitude_m AS altitudeM,
       c.id AS controlId, c.name AS control, c.family, c.story, e.name AS equipment,
       j.id AS job, j.signed_at AS signedAt, r.outcome, JSON_LENGTH(r.objections) = 0 AS proved
     FROM (${which}) w
     JOIN visits v ON v.id = w.id
     JOIN sites s ON s.id = v.site_id
     LEFT JOIN users u ON u.id = v.technician_id
     LEFT JOIN visit_controls l ON l.visit_id = v.id
     LEFT JOIN controls c ON c.id = l.control_id
     LEFT JOIN equipment e ON e.id = c.equipment_id
     LEFT JOIN jobs j ON j.id = (SELECT n.id FROM jobs n WHERE n.visit_id = v.id AND n.control_id = c.id
                                 ORDER BY n.opened_at DESC, n.id DESC LIMIT 1)
     LEFT JOIN job_results r ON r.job_id = j.id
     ORDER BY v.day, v.stop, v.id, l.position`,
    { replacements, type: QueryTypes.SELECT },
  );
  const byVisit = new Map<string, Row[]>();
  for (const r of rows) byVisit.set(r.id, [...(byVisit.get(r.id) ?? []), r]);
  return [...byVisit.values()].flatMap((own) => (own[0] ? [asVisit(own[0], own)] : []));
}

/** Some visits, in the order of their ids. */
export async function visitsOf(db: Sequelize, ids: readonly string[]): Promise<Sent<VisitAnswer>[]> {
  if (ids.length === 0) return [];
  const visits = await visitsWhere(db, 'SELECT id FROM visits WHERE id IN (:ids)', { ids });
  const at = new Map(ids.map((id, i) => [id, i]));
  return visits.toSorted((x, y) => (at.get(String(x.id)) ?? 0) - (at.get(String(y.id)) ?? 0));
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
