// A whole Firm Needle of its own for a test file: database, server, demo data, in a throw-away directory.
import { spawn, spawnSync } from 'node:child_process';
import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startDatabase } from '../bin/lib/database.mjs';
import { ended, freePort, ROOT } from '../bin/lib/tools.mjs';

/** Random high ports, so that test files that start at the same moment do not meet. */
const somePort = () => freePort(10000 + Math.floor(Math.random() * 22000));

/** @param options.empty without the demo, as `npm start -- --empty` begins */
export async function startStack({ empty = false } = {}) {
  const home = mkdtempSync(join(tmpdir(), 'fn-e2e-'));
  const from = empty ? undefined : process.env.FN_PREPARED;
  if (from) cpSync(from, home, { recursive: true });
  const database = await startDatabase(home, { wantedPort: await somePort() });
  const port = await somePort();
  const env = {
    ...process.env,
    ...database.env,
    ...(empty ? { FIRM_NEEDLE_DEMO: '0' } : {}),
    PORT: String(port),
    NODE_ENV: 'production',
  };
  if (!from) {
    const done = spawnSync(process.execPath, [join(ROOT, 'apps/server/dist/prepare.js')], {
      env,
      encoding: 'utf8',
    });
    if (done.status !== 0) throw new Error(`prepare failed: ${done.stderr}`);
  }
  let server;
  const url = `http://localhost:${port}`;
  const stack = {
    url,
    database,
    async startServer() {
      server = spawn(process.execPath, [join(ROOT, 'apps/server/dist/main.js')], {
        env,
        stdio: ['ignore', 'ignore', 'inherit'],
      });
      for (let i = 0; i < 200; i++) {
        try {
          if ((await fetch(`${url}/health/live`)).ok) return;
        } catch {
          // not listening yet
        }
        await new Promise((r) => setTimeout(r, 100));
      }
      throw new Error('the server did not answer');
    },
    /** At once, as a crash would. */
    async killServer() {
      server.kill('SIGKILL');
      await ended(server);
    },
    async stop() {
      server.kill('SIGKILL');
      await ended(server);
      await database.stop();
      rmSync(home, { recursive: true, force: true });
    },
  };
  await stack.startServer();
  return stack;
}
