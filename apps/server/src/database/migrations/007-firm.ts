import type { Migration } from './migration.js';

/** A firm of its own: versions of records, customers, plates, intervals, people that come and go, visits that move, and what is due and why. */
export const migration: Migration = {
  name: '007-firm',
  up: [
    `ALTER TABLE sites
      ADD COLUMN IF NOT EXISTS customer VARCHAR(120) NULL,
      ADD COLUMN IF NOT EXISTS address VARCHAR(400) NULL,
      ADD COLUMN IF NOT EXISTS contact VARCHAR(200) NULL,
      ADD COLUMN IF NOT EXISTS access VARCHAR(400) NULL,
      ADD COLUMN IF NOT EXISTS hazards VARCHAR(400) NULL,
      ADD COLUMN IF NOT EXISTS unit VARCHAR(12) NULL,
      ADD COLUMN IF NOT EXISTS version INT NOT NULL DEFAULT 1,
      ADD COLUMN IF NOT EXISTS retired_at DATETIME(3) NULL`,
    `ALTER TABLE equipment
      ADD COLUMN IF NOT EXISTS maker VARCHAR(60) NULL,
      ADD COLUMN IF NOT EXISTS model VARCHAR(60) NULL,
      ADD COLUMN IF NOT EXISTS serial VARCHAR(60) NULL,
      ADD COLUMN IF NOT EXISTS made INT NULL,
      ADD COLUMN IF NOT EXISTS version INT NOT NULL DEFAULT 1,
      ADD COLUMN IF NOT EXISTS retired_at DATETIME(3) NULL`,
    `ALTER TABLE controls
      ADD COLUMN IF NOT EXISTS version INT NOT NULL DEFAULT 1,
      ADD COLUMN IF NOT EXISTS months INT NULL,
      ADD COLUMN IF NOT EXISTS law_months INT NULL,
      ADD COLUMN IF NOT EXISTS law_by VARCHAR(120) NULL,
      ADD COLUMN IF NOT EXISTS customer_day DATE NULL,
      ADD COLUMN IF NOT EXISTS created_at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
      ADD COLUMN IF NOT EXISTS retired_at DATETIME(3) NULL`,
    `ALTER TABLE gauges ADD COLUMN IF NOT EXISTS retired_at DATETIME(3) NULL`,
    `ALTER TABLE users
      ADD COLUMN IF NOT EXISTS version INT NOT NULL DEFAULT 1,
      ADD COLUMN IF NOT EXISTS disabled_at DATETIME(3) NULL`,
    `ALTER TABLE sessions
      ADD COLUMN IF NOT EXISTS agent VARCHAR(200) NULL,
      ADD COLUMN IF NOT EXISTS seen_at DATETIME(3) NULL`,
    `ALTER TABLE visits
      ADD COLUMN IF NOT EXISTS stop INT NOT NULL DEFAULT 1,
      ADD COLUMN IF NOT EXISTS packed JSON NOT NULL DEFAULT '[]',
      ADD COLUMN IF NOT EXISTS version INT NOT NULL DEFAULT 1,
      ADD COLUMN IF NOT EXISTS cancelled VARCHAR(400) NULL`,
    `ALTER TABLE job_results ADD COLUMN IF NOT EXISTS counts BOOLEAN NOT NULL DEFAULT FALSE,
      ADD COLUMN IF NOT EXISTS practice BOOLEAN NOT NULL DEFAULT FALSE`,
    `UPDATE job_results SET counts = TRUE
      WHERE signed_at IS NOT NULL AND outcome IN ('set', 'left-as-found', 'restricted') AND objections = '[]' AND counts = FALSE`,
    `CREATE TABLE IF NOT EXISTS due_reasons (
      control_id UUID NOT NULL REFERENCES controls(id), kind VARCHAR(20) NOT NULL,
      organisation_id UUID NOT NULL REFERENCES organisations(id), day DATE NOT NULL, because VARCHAR(300) NOT NULL,
      PRIMARY KEY (control_id, kind), INDEX reasons_by_kind (organisation_id, kind, day))`,
    `CREATE TABLE IF NOT EXISTS job_findings (
      id BIGINT AUTO_INCREMENT PRIMARY KEY, organisation_id UUID NOT NULL REFERENCES organisations(id),
      job_id UUID NOT NULL REFERENCES jobs(id), control_id UUID NOT NULL REFERENCES controls(id),
      signed_at DATETIME(3) NOT NULL, code VARCHAR(60) NOT NULL, message VARCHAR(600) NOT NULL,
      UNIQUE KEY finding_of_job (job_id, code), FULLTEXT KEY finding_words (message))`,
    `INSERT IGNORE INTO job_findings (organisation_id, job_id, control_id, signed_at, code, message)
      SELECT r.organisation_id, r.job_id, r.control_id, r.signed_at, f.code, f.message
      FROM job_results r, JSON_TABLE(r.result, '$.findings[*]'
        COLUMNS (code VARCHAR(60) PATH '$.code', message VARCHAR(600) PATH '$.message')) f
      WHERE r.signed_at IS NOT NULL AND f.code IS NOT NULL AND f.message IS NOT NULL`,
  ],
};
