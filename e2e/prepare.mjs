// Before the browser tests: one data directory with the demo in it, which every test file's own Firm Needle copies.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startDatabase } from '../bin/lib/database.mjs';
import { freePort, ROOT } from '../bin/lib/tools.mjs';

export default async function prepare() {
  // Whoever runs all tests has one already.
  if (process.env.FN_PREPARED) return undefined;
  const home = await prepared();
  process.env.FN_PREPARED = home;
  return () => rmSync(home, { recursive: true, force: true });
}

/** A data directory with schema and demo, its database stopped. */
export async function prepared() {
  const home = mkdtempSync(join(tmpdir(), 'fn-prepared-'));
  const database = await startDatabase(home, {
    wantedPort: await freePort(10000 + Math.floor(Math.random() * 22000)),
  });
  const done = spawnSync(process.execPath, [join(ROOT, 'apps/server/dist/prepare.js')], {
    env: { ...process.env, ...database.env },
    encoding: 'utf8',
  });
  await database.stop();
  if (done.status !== 0) throw new Error(`prepare failed: ${done.stderr}`);
  return home;
}
