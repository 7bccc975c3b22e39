import type { Migration } from './migration.js';

export const migration: Migration = {
  name: '002-gauge-checks',
  up: [
    `CREATE TABLE IF NOT EXISTS gauge_checks (
      id UUID PRIMARY KEY, organisation_id UUID NOT NULL REFERENCES organisations(id),
      gauge_id UUID NOT NULL REFERENCES gauges(id), job_id UUID NOT NULL REFERENCES jobs(id), at DATETIME(3) NOT NULL,
      before_pa DOUBLE NOT NULL, after_pa DOUBLE NOT NULL, handling VARCHAR(12) NOT NULL,
      INDEX checks_of_gauge (gauge_id, at))`,
  ],
};
