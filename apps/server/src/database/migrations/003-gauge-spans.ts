import { BINARY, type Migration } from './migration.js';

export const migration: Migration = {
  name: '003-gauge-spans',
  up: [
    `ALTER TABLE controls ADD COLUMN IF NOT EXISTS gauge_id UUID NULL UNIQUE REFERENCES gauges(id)`,
    `CREATE TABLE IF NOT EXISTS gauge_spans (
      job_id UUID NOT NULL REFERENCES jobs(id), gauge_id UUID NOT NULL REFERENCES gauges(id),
      organisation_id UUID NOT NULL REFERENCES organisations(id), at DATETIME(3) NOT NULL,
      outcome VARCHAR(16) NOT NULL, errors JSON NOT NULL,
      PRIMARY KEY (job_id, gauge_id), INDEX spans_of_gauge (gauge_id, at))`,
    `CREATE TABLE IF NOT EXISTS job_flags (
      job_id UUID NOT NULL REFERENCES jobs(id), by_job_id UUID NOT NULL REFERENCES jobs(id),
      gauge_id UUID NOT NULL REFERENCES gauges(id), at DATETIME(3) NOT NULL, text VARCHAR(400) ${BINARY} NOT NULL,
      PRIMARY KEY (job_id, by_job_id, gauge_id))`,
  ],
};
