import { BINARY, type Migration } from './migration.js';

export const migration: Migration = {
  name: '001-initial',
  up: [
    `CREATE TABLE IF NOT EXISTS organisations (
      id UUID PRIMARY KEY, name VARCHAR(120) NOT NULL, demo BOOLEAN NOT NULL DEFAULT FALSE,
      rule VARCHAR(12) NOT NULL DEFAULT 'guarded', created_at DATETIME(3) NOT NULL)`,
    `CREATE TABLE IF NOT EXISTS sites (
      id UUID PRIMARY KEY, organisation_id UUID NOT NULL REFERENCES organisations(id),
      name VARCHAR(120) NOT NULL, altitude_m DOUBLE NOT NULL DEFAULT 0, notes TEXT NULL,
      INDEX sites_by_name (organisation_id, name, id))`,
    `CREATE TABLE IF NOT EXISTS users (
      id UUID PRIMARY KEY, organisation_id UUID NOT NULL REFERENCES organisations(id),
      login VARCHAR(60) NOT NULL UNIQUE, name VARCHAR(120) NOT NULL, role VARCHAR(12) NOT NULL,
      permits JSON NOT NULL, site_id UUID NULL REFERENCES sites(id), password_hash VARCHAR(200) NOT NULL)`,
    `CREATE TABLE IF NOT EXISTS sessions (
      token_hash CHAR(64) CHARACTER SET ascii PRIMARY KEY, user_id UUID NOT NULL REFERENCES users(id),
      created_at DATETIME(3) NOT NULL, expires_at DATETIME(3) NOT NULL, INDEX (user_id))`,
    `CREATE TABLE IF NOT EXISTS login_attempts (
      key_hash CHAR(64) CHARACTER SET ascii PRIMARY KEY, tries INT NOT NULL, window_start DATETIME(3) NOT NULL)`,
    `CREATE TABLE IF NOT EXISTS equipment (
      id UUID PRIMARY KEY, organisation_id UUID NOT NULL REFERENCES organisations(id),
      site_id UUID NOT NULL REFERENCES sites(id), name VARCHAR(120) NOT NULL, notes TEXT NULL,
      INDEX equipment_by_site (organisation_id, site_id, name))`,
    `CREATE TABLE IF NOT EXISTS controls (
      id UUID PRIMARY KEY, organisation_id UUID NOT NULL REFERENCES organisations(id),
      equipment_id UUID NOT NULL REFERENCES equipment(id), name VARCHAR(120) NOT NULL,
      family VARCHAR(60) NOT NULL, plan_version INT NOT NULL DEFAULT 0, due DATE NULL, story VARCHAR(400) NULL,
      INDEX controls_by_equipment (organisation_id, equipment_id), INDEX controls_due (organisation_id, due))`,
    `CREATE TABLE IF NOT EXISTS control_plans (
      id UUID PRIMARY KEY, organisation_id UUID NOT NULL REFERENCES organisations(id),
      control_id UUID NOT NULL REFERENCES controls(id), version INT NOT NULL, plan JSON NOT NULL,
      author_id UUID NOT NULL REFERENCES users(id), created_at DATETIME(3) NOT NULL,
      UNIQUE KEY plan_version (control_id, version))`,
    `CREATE TABLE IF NOT EXISTS fitted_devices (
      id UUID PRIMARY KEY, organisation_id UUID NOT NULL REFERENCES organisations(id),
      control_id UUID NOT NULL REFERENCES controls(id), label VARCHAR(120) NOT NULL, fitted_on DATE NOT NULL,
      removed_on DATE NULL, learned JSON NOT NULL, rig JSON NULL, INDEX device_of (control_id, removed_on))`,
    `CREATE TABLE IF NOT EXISTS gauges (
      id UUID PRIMARY KEY, organisation_id UUID NOT NULL REFERENCES organisations(id),
      label VARCHAR(60) NOT NULL, owner VARCHAR(120) NULL, body JSON NOT NULL, due DATE NULL,
      INDEX gauges_by_label (organisation_id, label, id))`,
    `CREATE TABLE IF NOT EXISTS visits (
      id UUID PRIMARY KEY, organisation_id UUID NOT NULL REFERENCES organisations(id),
      site_id UUID NOT NULL REFERENCES sites(id), technician_id UUID NOT NULL REFERENCES users(id),
      day DATE NOT NULL, purpose VARCHAR(400) NULL, INDEX visits_by_day (organisation_id, day, id))`,
    `CREATE TABLE IF NOT EXISTS visit_controls (
      visit_id UUID NOT NULL REFERENCES visits(id), control_id UUID NOT NULL REFERENCES controls(id),
      position INT NOT NULL, PRIMARY KEY (visit_id, control_id))`,
    `CREATE TABLE IF NOT EXISTS jobs (
      id UUID PRIMARY KEY, organisation_id UUID NOT NULL REFERENCES organisations(id),
      control_id UUID NOT NULL REFERENCES controls(id), visit_id UUID NULL REFERENCES visits(id),
      opened_by UUID NOT NULL REFERENCES users(id), opened_at DATETIME(3) NOT NULL, seq INT NOT NULL DEFAULT 0,
      head CHAR(64) CHARACTER SET ascii NOT NULL, signed_at DATETIME(3) NULL,
      INDEX jobs_by_control (organisation_id, control_id, opened_at), INDEX jobs_by_visit (visit_id))`,
    `CREATE TABLE IF NOT EXISTS job_events (
      job_id UUID NOT NULL REFERENCES jobs(id), seq INT NOT NULL, id UUID NOT NULL,
      kind VARCHAR(20) NOT NULL, author_id UUID NOT NULL, received_at DATETIME(3) NOT NULL,
      text MEDIUMTEXT ${BINARY} NOT NULL, hash CHAR(64) CHARACTER SET ascii NOT NULL,
      PRIMARY KEY (job_id, seq), UNIQUE KEY event_id (id))`,
    `CREATE TABLE IF NOT EXISTS job_results (
      job_id UUID PRIMARY KEY REFERENCES jobs(id), organisation_id UUID NOT NULL REFERENCES organisations(id),
      control_id UUID NOT NULL REFERENCES controls(id), through_seq INT NOT NULL, outcome VARCHAR(20) NULL,
      signed_at DATETIME(3) NULL, result JSON NOT NULL, INDEX results_by_control (organisation_id, control_id, signed_at))`,
  ],
};
