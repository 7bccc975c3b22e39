import type { Migration } from './migration.js';

/** What is handed over: photos, links to a sheet that expire, calendars that can be withdrawn. */
export const migration: Migration = {
  name: '008-handover',
  up: [
    `CREATE TABLE IF NOT EXISTS photos (
      organisation_id UUID NOT NULL REFERENCES organisations(id), hash CHAR(64) NOT NULL,
      width INT NOT NULL, height INT NOT NULL, bytes INT NOT NULL, data MEDIUMBLOB NOT NULL,
      created_by UUID NOT NULL REFERENCES users(id), created_at DATETIME(3) NOT NULL,
      PRIMARY KEY (organisation_id, hash))`,
    `CREATE TABLE IF NOT EXISTS control_photos (
      id UUID PRIMARY KEY, organisation_id UUID NOT NULL REFERENCES organisations(id),
      control_id UUID NOT NULL REFERENCES controls(id), hash CHAR(64) NOT NULL, width INT NOT NULL, height INT NOT NULL,
      text VARCHAR(400) NOT NULL, created_by UUID NOT NULL REFERENCES users(id), created_at DATETIME(3) NOT NULL,
      removed_at DATETIME(3) NULL, INDEX photos_of_control (control_id))`,
    `CREATE TABLE IF NOT EXISTS shares (
      id UUID PRIMARY KEY, organisation_id UUID NOT NULL REFERENCES organisations(id),
      job_id UUID NOT NULL REFERENCES jobs(id), token_hash CHAR(64) NOT NULL, unit VARCHAR(12) NULL, zone VARCHAR(60) NULL,
      created_by UUID NOT NULL REFERENCES users(id), created_at DATETIME(3) NOT NULL, expires_at DATETIME(3) NOT NULL,
      withdrawn_at DATETIME(3) NULL, opened INT NOT NULL DEFAULT 0,
      UNIQUE KEY share_token (token_hash), INDEX shares_of_job (job_id))`,
    `CREATE TABLE IF NOT EXISTS calendars (
      id UUID PRIMARY KEY, organisation_id UUID NOT NULL REFERENCES organisations(id),
      user_id UUID NOT NULL REFERENCES users(id), token_hash CHAR(64) NOT NULL, own BOOLEAN NOT NULL,
      created_at DATETIME(3) NOT NULL, withdrawn_at DATETIME(3) NULL,
      UNIQUE KEY calendar_token (token_hash), INDEX calendars_of_user (user_id))`,
    `CREATE TABLE IF NOT EXISTS imports (
      id UUID PRIMARY KEY, organisation_id UUID NOT NULL REFERENCES organisations(id),
      user_id UUID NOT NULL REFERENCES users(id), name VARCHAR(200) NOT NULL, state VARCHAR(12) NOT NULL,
      line_count INT NOT NULL DEFAULT 0, counts JSON NOT NULL, said JSON NOT NULL, problem VARCHAR(600) NULL, beat_at DATETIME(3) NOT NULL,
      created_at DATETIME(3) NOT NULL, INDEX imports_of_firm (organisation_id, created_at))`,
    `CREATE TABLE IF NOT EXISTS import_lines (
      import_id UUID NOT NULL REFERENCES imports(id) ON DELETE CASCADE, line INT NOT NULL,
      fate VARCHAR(10) NOT NULL, message VARCHAR(400) NOT NULL, cells JSON NOT NULL,
      PRIMARY KEY (import_id, line), INDEX lines_by_fate (import_id, fate, line))`,
  ],
};
