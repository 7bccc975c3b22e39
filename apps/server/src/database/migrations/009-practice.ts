import type { Migration } from './migration.js';

/**
 * Practice stands in tables of its own: no query over jobs, gauges, dates or turns can meet it. Kept two years.
 */
export const migration: Migration = {
  name: '009-practice',
  up: [
    `CREATE TABLE IF NOT EXISTS practice_tests (
      id UUID PRIMARY KEY, organisation_id UUID NOT NULL REFERENCES organisations(id),
      family VARCHAR(60) NOT NULL, variant VARCHAR(100) NOT NULL, level INT NOT NULL, sealed VARCHAR(600) NOT NULL,
      until DATE NOT NULL, note VARCHAR(200) NULL, created_by UUID NOT NULL REFERENCES users(id), created_at DATETIME(3) NOT NULL,
      INDEX tests_of_firm (organisation_id, until))`,
    `CREATE TABLE IF NOT EXISTS practice_tries (
      test_id UUID NOT NULL REFERENCES practice_tests(id), user_id UUID NOT NULL REFERENCES users(id),
      run_id UUID NOT NULL, started_at DATETIME(3) NOT NULL, PRIMARY KEY (test_id, user_id), UNIQUE KEY try_of_run (run_id))`,
    `CREATE TABLE IF NOT EXISTS practice_runs (
      id UUID PRIMARY KEY, organisation_id UUID NOT NULL REFERENCES organisations(id),
      user_id UUID NOT NULL REFERENCES users(id), kind VARCHAR(10) NOT NULL, family VARCHAR(60) NOT NULL,
      variant VARCHAR(100) NOT NULL, level INT NOT NULL, help VARCHAR(10) NOT NULL, test_id UUID NULL REFERENCES practice_tests(id),
      started_at DATETIME(3) NOT NULL, ended_at DATETIME(3) NOT NULL, word VARCHAR(20) NOT NULL, judged JSON NOT NULL,
      record LONGTEXT NOT NULL, hash CHAR(64) NOT NULL, shared BOOLEAN NOT NULL DEFAULT FALSE, unfair VARCHAR(400) NULL,
      created_at DATETIME(3) NOT NULL,
      INDEX runs_of_person (organisation_id, user_id, started_at), INDEX runs_of_firm (organisation_id, ended_at))`,
    `CREATE TABLE IF NOT EXISTS practice_looks (
      run_id UUID NOT NULL REFERENCES practice_runs(id) ON DELETE CASCADE, user_id UUID NOT NULL REFERENCES users(id),
      at DATETIME(3) NOT NULL, PRIMARY KEY (run_id, user_id))`,
  ],
};
