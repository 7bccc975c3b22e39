import { BINARY, type Migration } from './migration.js';

/** Which control stands beside which, in a role. */
export const migration: Migration = {
  name: '006-links',
  up: [
    `CREATE TABLE IF NOT EXISTS control_links (
      control_id UUID NOT NULL REFERENCES controls(id), role VARCHAR(60) ${BINARY} NOT NULL,
      to_id UUID NOT NULL REFERENCES controls(id),
      PRIMARY KEY (control_id, role), INDEX links_to (to_id))`,
  ],
};
