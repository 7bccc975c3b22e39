#!/usr/bin/env node
// npm run db -- migrate | verify | rebuild: work on the data of this checkout while it is not running.
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { startDatabase } from './lib/database.mjs';
import { build, checkNode, installModules, MARIADB, needPackages, ROOT, give } from './lib/tools.mjs';

const COMMANDS = { migrate: 'prepare.js', verify: 'verify.js', rebuild: 'rebuild.js' };
const script = COMMANDS[process.argv[2]];
if (!script) give(`npm run db -- ${Object.keys(COMMANDS).join(' | ')}`);
checkNode();
needPackages(MARIADB);
installModules();
build();
const database = await startDatabase(process.env.FIRM_NEEDLE_DATA ?? join(ROOT, '.data'));
const r = spawnSync(process.execPath, [join(ROOT, 'apps/server/dist', script)], {
  cwd: ROOT,
  env: { ...process.env, ...database.env },
  stdio: 'inherit',
});
await database.stop();
process.exit(r.status ?? 1);
