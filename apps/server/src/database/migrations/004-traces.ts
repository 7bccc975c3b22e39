import { BINARY, type Migration } from './migration.js';

export const migration: Migration = {
  name: '004-traces',
  up: [
    `CREATE TABLE IF NOT EXISTS traces (
      id UUID PRIMARY KEY, organisation_id UUID NOT NULL REFERENCES organisations(id),
      control_id UUID NULL REFERENCES controls(id), job_id UUID NULL REFERENCES jobs(id),
      author_id UUID NOT NULL REFERENCES users(id), name VARCHAR(200) ${BINARY} NOT NULL, kind VARCHAR(20) NOT NULL,
      unit VARCHAR(20) NOT NULL, channels JSON NOT NULL, samples INT NOT NULL, from_s DOUBLE NOT NULL, to_s DOUBLE NOT NULL,
      clock_offset_s DOUBLE NOT NULL DEFAULT 0, created_at DATETIME(3) NOT NULL,
      INDEX traces_by_time (organisation_id, id), INDEX traces_of_control (control_id, id), INDEX traces_of_job (job_id))`,
    `CREATE TABLE IF NOT EXISTS trace_blocks (
      trace_id UUID NOT NULL REFERENCES traces(id), block INT NOT NULL, samples INT NOT NULL,
      packed MEDIUMBLOB NOT NULL, PRIMARY KEY (trace_id, block))`,
    `CREATE TABLE IF NOT EXISTS trace_corrections (
      id UUID PRIMARY KEY, trace_id UUID NOT NULL REFERENCES traces(id), author_id UUID NOT NULL REFERENCES users(id),
      at DATETIME(3) NOT NULL, body JSON NOT NULL, INDEX corrections_of_trace (trace_id, at))`,
  ],
};
