import { BINARY, type Migration } from './migration.js';

/** What the server itself makes of a sign-off, every gauge that was used, and the keys that lists and doubts are asked by. */
export const migration: Migration = {
  name: '005-one-judge',
  up: [
    `ALTER TABLE job_results
      ADD COLUMN IF NOT EXISTS objections JSON NOT NULL DEFAULT '[]',
      ADD COLUMN IF NOT EXISTS settled BOOLEAN NOT NULL DEFAULT FALSE`,
    `UPDATE job_results SET settled = TRUE WHERE signed_at IS NOT NULL AND settled = FALSE`,
    `CREATE TABLE IF NOT EXISTS job_gauges (
      job_id UUID NOT NULL REFERENCES jobs(id), gauge_id UUID NOT NULL REFERENCES gauges(id),
      slot VARCHAR(60) ${BINARY} NOT NULL, at DATETIME(3) NOT NULL,
      PRIMARY KEY (job_id, gauge_id, slot), INDEX jobs_of_gauge (gauge_id, at))`,
    `INSERT IGNORE INTO job_gauges (job_id, gauge_id, slot, at)
      SELECT job_id, gauge_id, '', MIN(at) FROM gauge_checks GROUP BY job_id, gauge_id`,
    `CREATE INDEX IF NOT EXISTS visits_of_site ON visits (organisation_id, site_id, day)`,
    `CREATE INDEX IF NOT EXISTS visits_of_control ON visit_controls (control_id)`,
    `CREATE INDEX IF NOT EXISTS results_of_control ON job_results (control_id)`,
    `CREATE INDEX IF NOT EXISTS sessions_by_end ON sessions (expires_at)`,
    `CREATE INDEX IF NOT EXISTS attempts_by_start ON login_attempts (window_start)`,
    `CREATE UNIQUE INDEX IF NOT EXISTS gauge_label ON gauges (organisation_id, label)`,
    `CREATE UNIQUE INDEX IF NOT EXISTS visit_position ON visit_controls (visit_id, position)`,
  ],
};
