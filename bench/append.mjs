// Appending events through the whole server, against a plain multi-row INSERT of the same rows by the same driver.
import { createRequire } from 'node:module';
import { join } from 'node:path';
import { ROOT } from '../bin/lib/tools.mjs';
import { startServer } from './server.mjs';

const require = createRequire(join(ROOT, 'apps/server/package.json'));
const { v7: uuid } = require('uuid');
const mysql = require('mysql2/promise');
const BATCHES = 30;
const SIZE = 50;
const round = (x, digits = 3) => Number(x.toPrecision(digits));

export async function appendFigures(database, env, core) {
  const { base, headers, me, stop } = await startServer(env, 'marrable');
  const visits = await (await fetch(`${base}/visits`, { headers })).json();
  const control = visits.items.flatMap((v) => v.controls).find((c) => c.available);
  const job = uuid();
  await fetch(`${base}/jobs/${job}`, {
    method: 'PUT',
    headers,
    body: JSON.stringify({ controlId: control.id }),
  });
  const event = (i) => ({
    id: uuid(),
    job,
    version: 1,
    after: null,
    device: 'bench',
    author: me.id,
    wall: '2030-01-01T08:00:00.000Z',
    mono: i,
    body: { kind: 'note', text: `note ${i}` },
  });
  const batches = Array.from({ length: BATCHES }, (_, b) =>
    Array.from({ length: SIZE }, (_, i) => event(b * SIZE + i)),
  );
  const throughHttp = [];
  for (const events of batches) {
    const from = performance.now();
    const r = await fetch(`${base}/jobs/${job}/events`, {
      method: 'POST',
      headers,
      body: JSON.stringify({ events }),
    });
    if (!r.ok) throw new Error(await r.text());
    await r.json();
    throughHttp.push(performance.now() - from);
  }
  const db = await mysql.createConnection({
    host: '127.0.0.1',
    port: database.port,
    user: env.DB_USER,
    password: env.DB_PASSWORD,
    database: env.DB_NAME,
  });
  await db.query('CREATE TABLE bench_events LIKE job_events');
  const plain = [];
  let seq = 0;
  for (const events of batches) {
    const rows = events.map((e) => [
      job,
      ++seq,
      uuid(),
      'note',
      me.id,
      new Date(),
      core.canonicalJson(e),
      core.CHAIN_START,
    ]);
    const from = performance.now();
    await db.query(
      'INSERT INTO bench_events (job_id, seq, id, kind, author_id, received_at, text, hash) VALUES ?',
      [rows],
    );
    plain.push(performance.now() - from);
  }
  await db.query('DROP TABLE bench_events');
  await db.end();
  await stop();
  const median = (l) => [...l].sort((a, b) => a - b)[Math.floor(l.length / 2)];
  const a = median(throughHttp.slice(5));
  const b = median(plain.slice(5));
  return {
    batches: BATCHES,
    eventsABatch: SIZE,
    http_ms: round(a),
    plainInsert_ms: round(b),
    ratio: round(a / b),
    perEvent_ms: round(a / SIZE),
  };
}
