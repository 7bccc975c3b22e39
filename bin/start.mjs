#!/usr/bin/env node
// npm start: everything, with demo data, on one URL; npm start -- --empty: without the demo, for a firm of one's own.
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { startDatabase } from './lib/database.mjs';
import {
  build,
  checkNode,
  ended,
  freePort,
  give,
  installModules,
  launch,
  MARIADB,
  needPackages,
  ROOT,
  say,
} from './lib/tools.mjs';

const unknown = process.argv.slice(2).filter((a) => a !== '--empty');
if (unknown.length > 0) give(`npm start knows --empty, and not ${unknown.join(' ')}.`);
// A database of one's own is neither started nor stopped here, and no demo is put into it.
const elsewhere = process.env.DATABASE_URL;
const empty =
  process.argv.includes('--empty') || process.env.FIRM_NEEDLE_DEMO === '0' || elsewhere !== undefined;

checkNode();
if (!elsewhere) needPackages(MARIADB);
installModules();
build();

// A firm's own book stands beside the demo's, never in it.
const home = process.env.FIRM_NEEDLE_DATA ?? join(ROOT, empty ? '.data-own' : '.data');
const wanted = Number(process.env.PORT ?? 4180);
const port = await freePort(wanted);
if (port !== wanted) say(`Port ${wanted} is taken; using ${port}.`);
const database = elsewhere ? undefined : await startDatabase(home);
const env = {
  ...process.env,
  ...database?.env,
  ...(empty ? { FIRM_NEEDLE_DEMO: '0' } : {}),
  PORT: String(port),
  NODE_ENV: 'production',
};

const prepared = spawnSync(process.execPath, [join(ROOT, 'apps/server/dist/prepare.js')], {
  cwd: ROOT,
  env,
  stdio: 'inherit',
});
if (prepared.status !== 0) {
  await database?.stop();
  give('The database could not be brought up to date.');
}

let stopping = false;
// A database that dies is started again, and it is said.
database?.keep(() => stopping, say);
let server = startServer();

function startServer() {
  const child = launch(process.execPath, [join(ROOT, 'apps/server/dist/main.js')], {
    env,
    stdio: ['ignore', 'inherit', 'inherit'],
  });
  child.once('exit', (code) => {
    if (stopping) return;
    say(`The server ended (${code}); starting it again.`);
    setTimeout(() => {
      if (!stopping) server = startServer();
    }, 500);
  });
  return child;
}

async function stop() {
  if (stopping) return;
  stopping = true;
  server.kill('SIGTERM');
  await ended(server);
  await database?.stop();
  process.exit(0);
}
process.on('SIGINT', stop);
process.on('SIGTERM', stop);

for (let i = 0; ; i++) {
  try {
    if ((await fetch(`http://127.0.0.1:${port}/health/ready`)).ok) break;
  } catch {
    // not listening yet
  }
  if (i > 300) give('The server did not answer in 30 s.');
  await new Promise((r) => setTimeout(r, 100));
}
say(`\nFirm Needle is at http://localhost:${port}  (Ctrl-C stops it)`);
const { needed } = await (await fetch(`http://127.0.0.1:${port}/api/v1/setup`)).json();
if (needed) say('The first page makes the firm and its first supervisor; nothing else is there yet.');
