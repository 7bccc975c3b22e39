import type { QueryInterface, Sequelize } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';

interface Migration {
  readonly name: string;
  readonly up: readonly string[];
}

const TEXT = 'CHARACTER SET utf8mb4 COLLATE utf8mb4_bin';

/** Schema changes in order. A migration that has been released is never edited; a new one follows it. */
const MIGRATIONS: readonly Migration[] = [
  {
    name: '001-initial',
    up: [
      `CREATE TABLE organisations (
        id UUID PRIMARY KEY, name VARCHAR(120) NOT NULL, demo BOOLEAN NOT NULL DEFAULT FALSE,
        rule VARCHAR(12) NOT NULL DEFAULT 'guarded', created_at DATETIME(3) NOT NULL)`,
      `CREATE TABLE sites (
        id UUID PRIMARY KEY, organisation_id UUID NOT NULL REFERENCES organisations(id),
        name VARCHAR(120) NOT NULL, altitude_m DOUBLE NOT NULL DEFAULT 0, notes TEXT NULL,
        INDEX sites_by_name (organisation_id, name, id))`,
      `CREATE TABLE users (
        id UUID PRIMARY KEY, organisation_id UUID NOT NULL REFERENCES organisations(id),
        login VARCHAR(60) NOT NULL UNIQUE, name VARCHAR(120) NOT NULL, role VARCHAR(12) NOT NULL,
        permits JSON NOT NULL, site_id UUID NULL REFERENCES sites(id), password_hash VARCHAR(200) NOT NULL)`,
      `CREATE TABLE sessions (
        token_hash CHAR(64) CHARACTER SET ascii PRIMARY KEY, user_id UUID NOT NULL REFERENCES users(id),
        created_at DATETIME(3) NOT NULL, expires_at DATETIME(3) NOT NULL, INDEX (user_id))`,
      `CREATE TABLE login_attempts (
        key_hash CHAR(64) CHARACTER SET ascii PRIMARY KEY, tries INT NOT NULL, window_start DATETIME(3) NOT NULL)`,
      `CREATE TABLE equipment (
        id UUID PRIMARY KEY, organisation_id UUID NOT NULL REFERENCES organisations(id),
        site_id UUID NOT NULL REFERENCES sites(id), name VARCHAR(120) NOT NULL, notes TEXT NULL,
        INDEX equipment_by_site (organisation_id, site_id, name))`,
      `CREATE TABLE controls (
        id UUID PRIMARY KEY, organisation_id UUID NOT NULL REFERENCES organisations(id),
        equipment_id UUID NOT NULL REFERENCES equipment(id), name VARCHAR(120) NOT NULL,
        family VARCHAR(60) NOT NULL, plan_version INT NOT NULL DEFAULT 0, due DATE NULL, story VARCHAR(400) NULL,
        INDEX controls_by_equipment (organisation_id, equipment_id), INDEX controls_due (organisation_id, due))`,
      `CREATE TABLE control_plans (
        id UUID PRIMARY KEY, organisation_id UUID NOT NULL REFERENCES organisations(id),
        control_id UUID NOT NULL REFERENCES controls(id), version INT NOT NULL, plan JSON NOT NULL,
        author_id UUID NOT NULL REFERENCES users(id), created_at DATETIME(3) NOT NULL,
        UNIQUE KEY plan_version (control_id, version))`,
      `CREATE TABLE fitted_devices (
        id UUID PRIMARY KEY, organisation_id UUID NOT NULL REFERENCES organisations(id),
        control_id UUID NOT NULL REFERENCES controls(id), label VARCHAR(120) NOT NULL, fitted_on DATE NOT NULL,
        removed_on DATE NULL, learned JSON NOT NULL, rig JSON NULL, INDEX device_of (control_id, removed_on))`,
      `CREATE TABLE gauges (
        id UUID PRIMARY KEY, organisation_id UUID NOT NULL REFERENCES organisations(id),
        label VARCHAR(60) NOT NULL, owner VARCHAR(120) NULL, body JSON NOT NULL, due DATE NULL,
        INDEX gauges_by_label (organisation_id, label, id))`,
      `CREATE TABLE visits (
        id UUID PRIMARY KEY, organisation_id UUID NOT NULL REFERENCES organisations(id),
        site_id UUID NOT NULL REFERENCES sites(id), technician_id UUID NOT NULL REFERENCES users(id),
        day DATE NOT NULL, purpose VARCHAR(400) NULL, INDEX visits_by_day (organisation_id, day, id))`,
      `CREATE TABLE visit_controls (
        visit_id UUID NOT NULL REFERENCES visits(id), control_id UUID NOT NULL REFERENCES controls(id),
        position INT NOT NULL, PRIMARY KEY (visit_id, control_id))`,
      `CREATE TABLE jobs (
        id UUID PRIMARY KEY, organisation_id UUID NOT NULL REFERENCES organisations(id),
        control_id UUID NOT NULL REFERENCES controls(id), visit_id UUID NULL REFERENCES visits(id),
        opened_by UUID NOT NULL REFERENCES users(id), opened_at DATETIME(3) NOT NULL, seq INT NOT NULL DEFAULT 0,
        head CHAR(64) CHARACTER SET ascii NOT NULL, signed_at DATETIME(3) NULL,
        INDEX jobs_by_control (organisation_id, control_id, opened_at), INDEX jobs_by_visit (visit_id))`,
      `CREATE TABLE job_events (
        job_id UUID NOT NULL REFERENCES jobs(id), seq INT NOT NULL, id UUID NOT NULL,
        kind VARCHAR(20) NOT NULL, author_id UUID NOT NULL, received_at DATETIME(3) NOT NULL,
        text MEDIUMTEXT ${TEXT} NOT NULL, hash CHAR(64) CHARACTER SET ascii NOT NULL,
        PRIMARY KEY (job_id, seq), UNIQUE KEY event_id (id))`,
      `CREATE TABLE job_results (
        job_id UUID PRIMARY KEY REFERENCES jobs(id), organisation_id UUID NOT NULL REFERENCES organisations(id),
        control_id UUID NOT NULL REFERENCES controls(id), through_seq INT NOT NULL, outcome VARCHAR(20) NULL,
        signed_at DATETIME(3) NULL, result JSON NOT NULL, INDEX results_by_control (organisation_id, control_id, signed_at))`,
    ],
  },
  {
    name: '002-gauge-checks',
    up: [
      `CREATE TABLE gauge_checks (
        id UUID PRIMARY KEY, organisation_id UUID NOT NULL REFERENCES organisations(id),
        gauge_id UUID NOT NULL REFERENCES gauges(id), job_id UUID NOT NULL REFERENCES jobs(id), at DATETIME(3) NOT NULL,
        before_pa DOUBLE NOT NULL, after_pa DOUBLE NOT NULL, handling VARCHAR(12) NOT NULL,
        INDEX checks_of_gauge (gauge_id, at))`,
    ],
  },
  {
    name: '003-gauge-spans',
    up: [
      `ALTER TABLE controls ADD COLUMN gauge_id UUID NULL UNIQUE REFERENCES gauges(id)`,
      `CREATE TABLE gauge_spans (
        job_id UUID NOT NULL REFERENCES jobs(id), gauge_id UUID NOT NULL REFERENCES gauges(id),
        organisation_id UUID NOT NULL REFERENCES organisations(id), at DATETIME(3) NOT NULL,
        outcome VARCHAR(16) NOT NULL, errors JSON NOT NULL,
        PRIMARY KEY (job_id, gauge_id), INDEX spans_of_gauge (gauge_id, at))`,
      `CREATE TABLE job_flags (
        job_id UUID NOT NULL REFERENCES jobs(id), by_job_id UUID NOT NULL REFERENCES jobs(id),
        gauge_id UUID NOT NULL REFERENCES gauges(id), at DATETIME(3) NOT NULL, text VARCHAR(400) ${TEXT} NOT NULL,
        PRIMARY KEY (job_id, by_job_id, gauge_id))`,
    ],
  },
  {
    name: '004-traces',
    up: [
      `CREATE TABLE traces (
        id UUID PRIMARY KEY, organisation_id UUID NOT NULL REFERENCES organisations(id),
        control_id UUID NULL REFERENCES controls(id), job_id UUID NULL REFERENCES jobs(id),
        author_id UUID NOT NULL REFERENCES users(id), name VARCHAR(200) ${TEXT} NOT NULL, kind VARCHAR(20) NOT NULL,
        unit VARCHAR(20) NOT NULL, channels JSON NOT NULL, samples INT NOT NULL, from_s DOUBLE NOT NULL, to_s DOUBLE NOT NULL,
        clock_offset_s DOUBLE NOT NULL DEFAULT 0, created_at DATETIME(3) NOT NULL,
        INDEX traces_by_time (organisation_id, id), INDEX traces_of_control (control_id, id), INDEX traces_of_job (job_id))`,
      `CREATE TABLE trace_blocks (
        trace_id UUID NOT NULL REFERENCES traces(id), block INT NOT NULL, samples INT NOT NULL,
        packed MEDIUMBLOB NOT NULL, PRIMARY KEY (trace_id, block))`,
      `CREATE TABLE trace_corrections (
        id UUID PRIMARY KEY, trace_id UUID NOT NULL REFERENCES traces(id), author_id UUID NOT NULL REFERENCES users(id),
        at DATETIME(3) NOT NULL, body JSON NOT NULL, INDEX corrections_of_trace (trace_id, at))`,
    ],
  },
];

/** Brings the schema up to date; safe to call again. Returns the names of what was applied. */
export async function migrate(sequelize: Sequelize): Promise<readonly string[]> {
  const umzug = new Umzug({
    migrations: MIGRATIONS.map((m) => ({
      name: m.name,
      up: async ({ context }: { context: QueryInterface }) => {
        for (const sql of m.up) await context.sequelize.query(sql);
      },
    })),
    context: sequelize.getQueryInterface(),
    storage: new SequelizeStorage({ sequelize, tableName: 'migrations' }),
    logger: undefined,
  });
  return (await umzug.up()).map((m) => m.name);
}
