import type { Control as ControlAnswer, ControlJob, Sent } from '@firm-needle/contract';
import type { SheetRow, SheetTurn } from '@firm-needle/core/family';
import type { Gauge } from '@firm-needle/core/gauge';
import type { DueReason } from '@firm-needle/core/history';
import type { Outcome, Plan } from '@firm-needle/core/procedure';
import { familyExists } from '@firm-needle/families';
import { QueryTypes, type Sequelize } from 'sequelize';
import type { Actor } from '../common/user.js';

/** As many jobs as a control's page shows. */
const MOST_JOBS = 50;

/** JSON as the driver answers it: as text, or read already. */
type Json<T> = string | T;
const parsed = <T>(v: Json<T>): T => (typeof v === 'string' ? (JSON.parse(v) as T) : v);

/** A control with all that stands once: its place, its plan in force, its device, its gauge, why it is due. */
export interface ControlHead {
  readonly id: string;
  readonly organisationId: string;
  readonly name: string;
  readonly family: string;
  readonly due: string | null;
  readonly story: string | null;
  readonly months: number | null;
  readonly lawMonths: number | null;
  readonly lawBy: string | null;
  readonly customerDay: string | null;
  readonly version: number;
  readonly retired: number;
  readonly equipmentId: string;
  readonly equipmentName: string;
  readonly equipmentNotes: string | null;
  readonly siteId: string;
  readonly siteName: string;
  readonly altitudeM: number;
  readonly plan: Json<Plan> | null;
  readonly planVersion: number | null;
  readonly gaugeId: string | null;
  readonly gauge: Json<Gauge> | null;
  readonly device: string | null;
  readonly label: string;
  readonly fittedOn: string;
  readonly learned: Json<NonNullable<ControlAnswer['device']>['learned']>;
  readonly rig: Json<NonNullable<ControlAnswer['device']>['rig']>;
  readonly reasons: Json<DueReason[]> | null;
}

/** The control in the actor's reach, in one statement; undefined where there is none. */
export async function controlHead(db: Sequelize, actor: Actor, id: string): Promise<ControlHead | undefined> {
  const [row] = await db.query<ControlHead>(
    `SELECT c.id, c.organisation_id AS organisationId, c.name, c.family, CAST(c.due AS CHAR) AS due, c.story, c.months,
       c.law_months AS lawMonths, c.law_by AS lawBy, CAST(c.customer_day AS CHAR) AS customerDay, c.version,
       c.retired_at IS NOT NULL AS retired,
       e.id AS equipmentId, e.name AS equipmentName, e.notes AS equipmentNotes,
       s.id AS siteId, s.name AS siteName, s.altitude_m AS altitudeM,
       p.plan, p.version AS planVersion, g.id AS gaugeId, g.body AS gauge,
       d.id AS device, d.label, CAST(d.fitted_on AS CHAR) AS fittedOn, d.learned, d.rig,
       (SELECT JSON_ARRAYAGG(JSON_OBJECT('kind', r.kind, 'day', r.day, 'because', r.because) ORDER BY r.day, r.kind)
          FROM due_reasons r WHERE r.control_id = c.id) AS reasons
     FROM controls c
     JOIN equipment e ON e.id = c.equipment_id
     JOIN sites s ON s.id = e.site_id
     LEFT JOIN control_plans p ON p.control_id = c.id AND p.version = c.plan_version
     LEFT JOIN gauges g ON g.id = c.gauge_id
     LEFT JOIN fitted_devices d ON d.control_id = c.id AND d.removed_on IS NULL
     WHERE c.id = ? AND c.organisation_id = ?${actor.site ? ' AND s.id = ?' : ''} LIMIT 1`,
    { replacements: [id, actor.organisation.id, actor.site], type: QueryTypes.SELECT },
  );
  return row;
}

interface JobRow {
  readonly id: string;
  readonly openedAt: Date;
  readonly signedAt: Date | null;
  readonly visitId: string | null;
  readonly outcome: Outcome | null;
  readonly proved: number | null;
  readonly rows: Json<SheetRow[]> | null;
  readonly turns: Json<SheetTurn[]> | null;
}

/** A control's jobs, the newest first, with what its page shows of each; the rest of a sheet stays in the database. */
export async function jobsOf(db: Sequelize, control: string): Promise<Sent<ControlJob>[]> {
  const jobs = await db.query<JobRow>(
    `SELECT j.id, j.opened_at AS openedAt, j.signed_at AS signedAt, j.visit_id AS visitId, r.outcome,
       JSON_LENGTH(r.objections) = 0 AS proved, JSON_EXTRACT(r.result, '$.rows') AS \`rows\`,
       JSON_EXTRACT(r.result, '$.turns') AS turns
     FROM jobs j LEFT JOIN job_results r ON r.job_id = j.id
     WHERE j.control_id = ? AND COALESCE(r.practice, FALSE) = FALSE ORDER BY j.opened_at DESC, j.id DESC LIMIT ${MOST_JOBS}`,
    { replacements: [control], type: QueryTypes.SELECT },
  );
  return jobs.map(({ id, openedAt, signedAt, visitId, outcome, proved, rows, turns }) => ({
    id,
    openedAt,
    signedAt,
    visitId,
    outcome,
    proved: proved === null ? null : proved === 1,
    rows: rows === null ? [] : parsed(rows),
    turns: turns === null ? [] : parsed(turns),
  }));
}

/** Both as the API answers them. */
export function asControl(
  c: ControlHead,
  jobs: Sent<ControlJob>[],
  links: ControlAnswer['links'],
  demo: boolean,
): Sent<ControlAnswer> {
  return {
    id: c.id,
    name: c.name,
    family: c.family,
    available: familyExists(c.family),
    due: c.due,
    reasons: c.reasons === null ? [] : parsed(c.reasons),
    story: c.story,
    months: c.months,
    lawMonths: c.lawMonths,
    lawBy: c.lawBy,
    customerDay: c.customerDay,
    version: c.version,
    retired: Boolean(c.retired),
    equipment: { id: c.equipmentId, name: c.equipmentName, notes: c.equipmentNotes },
    site: { id: c.siteId, name: c.siteName, altitude_m: c.altitudeM },
    gauge: c.gaugeId === null || c.gauge === null ? null : { ...parsed(c.gauge), id: c.gaugeId },
    plan: c.plan === null || c.planVersion === null ? null : { ...parsed(c.plan), version: c.planVersion },
    links,
    device:
      c.device === null
        ? null
        : {
            id: c.device,
            label: c.label,
            fittedOn: c.fittedOn,
            learned: parsed(c.learned),
            rig: demo && c.rig !== null ? parsed(c.rig) : null,
          },
    jobs,
  };
}
