import type { QueryInterface, Sequelize } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';
import { alone } from './lock.js';
import { migration as m001 } from './migrations/001-initial.js';
import { migration as m002 } from './migrations/002-gauge-checks.js';
import { migration as m003 } from './migrations/003-gauge-spans.js';
import { migration as m004 } from './migrations/004-traces.js';
import { migration as m005 } from './migrations/005-one-judge.js';
import { migration as m006 } from './migrations/006-links.js';
import { migration as m007 } from './migrations/007-firm.js';
import { migration as m008 } from './migrations/008-handover.js';
import { migration as m009 } from './migrations/009-practice.js';
import type { Migration } from './migrations/migration.js';

/** In order. */
export const MIGRATIONS: readonly Migration[] = [m001, m002, m003, m004, m005, m006, m007, m008, m009];

const LOCK = 'firm-needle-migrations';
const LOCK_WAIT_S = 120;

/**
 * Brings the schema up to date; safe to call again, after a run that ended half way, and from several servers at once: one works, the
 * others wait for it. Returns the names of what was applied.
 */
export const migrate = (sequelize: Sequelize): Promise<readonly string[]> =>
  alone(sequelize, LOCK, LOCK_WAIT_S, async () => {
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
  });
