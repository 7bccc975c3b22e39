// A server of its own for a figure, and somebody signed in to it.
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { ended, freePort, ROOT } from '../bin/lib/tools.mjs';

/** @param env where its database is @param login of the demo's people, or the form by which a firm begins in an empty one */
export async function startServer(env, login) {
  const port = await freePort(10000 + Math.floor(Math.random() * 22000));
  const server = spawn(process.execPath, [join(ROOT, 'apps/server/dist/main.js')], {
    env: { ...env, PORT: String(port), NODE_ENV: 'production' },
    stdio: 'ignore',
  });
  const base = `http://127.0.0.1:${port}/api/v1`;
  for (let i = 0; i < 300; i++) {
    try {
      if ((await fetch(`http://127.0.0.1:${port}/health/ready`)).ok) break;
    } catch {
      // not listening yet
    }
    await new Promise((r) => setTimeout(r, 50));
  }
  const headers = { 'content-type': 'application/json', 'x-firm-needle': '1' };
  const begins = typeof login === 'object';
  const signed = await fetch(`${base}/${begins ? 'setup' : 'auth/sign-in'}`, {
    method: 'POST',
    headers,
    body: JSON.stringify(begins ? login : { login, password: 'ostrey-demo' }),
  });
  headers.cookie = signed.headers.get('set-cookie').split(';')[0];
  return {
    base,
    headers,
    pid: server.pid,
    me: await signed.json(),
    async stop() {
      server.kill('SIGKILL');
      await ended(server);
    },
  };
}

/** Where a database is, for the driver. */
export const accessOf = (env) => ({
  host: env.DB_HOST,
  port: Number(env.DB_PORT),
  user: env.DB_USER,
  password: env.DB_PASSWORD,
  database: env.DB_NAME,
  timezone: 'Z',
});
