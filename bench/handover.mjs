// What is handed over: the PDF of a sheet once it is warm; a file of 10 000 lines looked at, stopped and taken in, with the server's memory;
// a dossier of a site with a thousand jobs out and in, against mariadb-dump and mariadb of the same rows, in one run.
import { spawnSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { createRequire } from 'node:module';
import { clearInterval, setInterval } from 'node:timers';
import { join } from 'node:path';
import { startDatabase } from '../bin/lib/database.mjs';
import { freePort, ROOT } from '../bin/lib/tools.mjs';
import { accessOf, startServer } from './server.mjs';

const require = createRequire(join(ROOT, 'apps/server/package.json'));
const mysql = require('mysql2/promise');
const round = (x, digits = 3) => Number(x.toPrecision(digits));
const median = (xs) => xs.toSorted((a, b) => a - b)[Math.floor(xs.length / 2)];
const timed = async (work) => {
  const from = performance.now();
  const value = await work();
  return { ms: performance.now() - from, value };
};
const LINES = 10_000;
const JOBS = 1000;

/** Resident memory of a process, MB. */
const memory = (pid) =>
  Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1]) / 1024;

async function sheets(base, headers, db) {
  const [rows] = await db.query(
    'SELECT j.id, c.family FROM jobs j JOIN controls c ON c.id = j.control_id WHERE j.signed_at IS NOT NULL GROUP BY c.family ORDER BY c.family',
  );
  const out = {};
  for (const { id, family } of rows) {
    const times = [];
    for (let i = 0; i < 8; i++)
      times.push(
        (await timed(async () => (await fetch(`${base}/jobs/${id}/sheet.pdf`, { headers })).arrayBuffer()))
          .ms,
      );
    out[family] = Math.round(median(times.slice(2)));
  }
  return out;
}

async function imports(base, headers, pid) {
  const table = ['site,altitude_m,customer,equipment,control,kind,months']
    .concat(
      Array.from(
        { length: LINES },
        (_, i) =>
          `Bench ${i % 400},${(i % 400) % 90},Customer ${(i % 400) % 40},Unit ${i},Switch ${i},well-switch,12`,
      ),
    )
    .join('\n');
  const send = (id, body) =>
    fetch(`${base}/imports/${id}`, {
      method: 'PUT',
      headers: { ...headers, 'content-type': 'text/csv' },
      body,
    });
  const state = async (id) => (await fetch(`${base}/imports/${id}`, { headers })).json();
  const warm = randomUUID();
  await send(warm, table.split('\n').slice(0, 500).join('\n'));
  const before = memory(pid);
  let most = before;
  let progress = 0;
  const watching = (id) => {
    const seen = new Set();
    const timer = setInterval(() => {
      most = Math.max(most, memory(pid));
      void state(id).then((s) => seen.add(s.lines));
    }, 50);
    return () => {
      clearInterval(timer);
      progress = Math.max(progress, seen.size);
    };
  };
  const id = randomUUID();
  let stop = watching(id);
  const look = await timed(async () => (await send(id, table)).json());
  stop();
  if (look.value.state !== 'ready' || look.value.counts.new !== LINES)
    throw new Error(JSON.stringify(look.value));
  stop = watching(id);
  const take = await timed(async () =>
    (await fetch(`${base}/imports/${id}/take`, { method: 'POST', headers })).json(),
  );
  stop();
  if (take.value.state !== 'done') throw new Error(JSON.stringify(take.value));
  // Stopped half way: how soon, and that nothing is left of it.
  const halted = randomUUID();
  const going = send(halted, table.replaceAll('Bench', 'Halted'));
  await new Promise((r) => setTimeout(r, look.ms / 3));
  const cancel = await timed(() => fetch(`${base}/imports/${halted}`, { method: 'DELETE', headers }));
  await going;
  return {
    lines: LINES,
    look_ms: Math.round(look.ms),
    take_ms: Math.round(take.ms),
    times_told_how_far: progress,
    memory_before_MB: Math.round(before),
    memory_most_MB: Math.round(most),
    stop_ms: Math.round(cancel.ms),
    stopped_as: (await state(halted)).state,
  };
}

/** A site grown to so many signed jobs, each a copy of a real one under other ids, its chain made anew. */
async function grow(db, createHash) {
  const [[model]] = await db.query(
    'SELECT j.*, r.result, r.outcome, r.objections FROM jobs j JOIN job_results r ON r.job_id = j.id WHERE j.signed_at IS NOT NULL AND j.visit_id IS NULL ORDER BY j.seq DESC LIMIT 1',
  );
  const [events] = await db.query('SELECT * FROM job_events WHERE job_id = ? ORDER BY seq', [model.id]);
  const [[{ site }]] = await db.query(
    'SELECT e.site_id AS site FROM controls c JOIN equipment e ON e.id = c.equipment_id WHERE c.id = ?',
    [model.control_id],
  );
  for (let i = 0; i < JOBS; i++) {
    const job = randomUUID();
    const ids = new Map(events.map((e) => [e.id, randomUUID()]));
    const renamed = (text) =>
      [...ids].reduce((t, [a, b]) => t.replaceAll(a, b), text.replaceAll(model.id, job));
    let head = '0'.repeat(64);
    const rows = events.map((e) => {
      const text = renamed(e.text);
      head = createHash('sha256').update(`${head}\n${text}`).digest('hex');
      return [job, e.seq, ids.get(e.id), e.kind, e.author_id, e.received_at, text, head];
    });
    await db.query(
      'INSERT INTO jobs (id, organisation_id, control_id, opened_by, opened_at, seq, head, signed_at) VALUES (?)',
      [
        [
          job,
          model.organisation_id,
          model.control_id,
          model.opened_by,
          model.opened_at,
          events.length,
          head,
          model.signed_at,
        ],
      ],
    );
    await db.query(
      'INSERT INTO job_events (job_id, seq, id, kind, author_id, received_at, text, hash) VALUES ?',
      [rows],
    );
    await db.query(
      'INSERT INTO job_results (job_id, organisation_id, control_id, through_seq, outcome, signed_at, result, objections, settled, counts) VALUES (?)',
      [
        [
          job,
          model.organisation_id,
          model.control_id,
          events.length,
          model.outcome,
          model.signed_at,
          JSON.stringify(typeof model.result === 'string' ? JSON.parse(model.result) : model.result),
          JSON.stringify(
            typeof model.objections === 'string' ? JSON.parse(model.objections) : model.objections,
          ),
          1,
          1,
        ],
      ],
    );
  }
  return site;
}

async function dossiers(base, headers, db, env, second) {
  const { createHash } = await import('node:crypto');
  const site = await grow(db, createHash);
  const out = await timed(async () =>
    (await fetch(`${base}/sites/${site}/dossier.json`, { headers })).text(),
  );
  const tables = [
    'sites',
    'equipment',
    'controls',
    'control_plans',
    'jobs',
    'job_events',
    'job_results',
    'job_findings',
  ];
  const access = [
    `--host=${env.DB_HOST}`,
    `--port=${env.DB_PORT}`,
    `--user=${env.DB_USER}`,
    `--password=${env.DB_PASSWORD}`,
    '--protocol=tcp',
  ];
  const dump = await timed(() =>
    spawnSync(
      'mariadb-dump',
      ['--no-defaults', ...access, '--no-create-info', '--single-transaction', env.DB_NAME, ...tables],
      {
        maxBuffer: 1024 ** 3,
      },
    ),
  );
  if (dump.value.status !== 0) throw new Error(String(dump.value.stderr));
  const into = await timed(async () =>
    (
      await fetch(`${second.base}/dossiers`, {
        method: 'POST',
        headers: { ...second.headers, 'content-type': 'application/vnd.firm-needle.dossier+json' },
        body: out.value,
      })
    ).json(),
  );
  if (into.value.jobs === undefined) throw new Error(JSON.stringify(into.value));
  return {
    jobs: into.value.jobs,
    events: into.value.events,
    differ: into.value.differ,
    dossier_MB: round(out.value.length / 1e6),
    out_ms: Math.round(out.ms),
    dump_ms: Math.round(dump.ms),
    out_to_dump: round(out.ms / dump.ms),
    in_ms: Math.round(into.ms),
    in_to_dump: round(into.ms / dump.ms),
  };
}

/** An installation with nothing in it, for what was taken out of another. */
async function emptyInstallation() {
  const home = mkdtempSync(join(tmpdir(), 'fn-bench-empty-'));
  const database = await startDatabase(home, {
    wantedPort: await freePort(10000 + Math.floor(Math.random() * 22000)),
  });
  const env = { ...process.env, ...database.env, FIRM_NEEDLE_DEMO: '0' };
  const prepared = spawnSync(process.execPath, [join(ROOT, 'apps/server/dist/prepare.js')], {
    env,
    encoding: 'utf8',
  });
  if (prepared.status !== 0) throw new Error(prepared.stderr);
  const server = await startServer(env, {
    firm: 'Second Firm',
    name: 'Una Sorrel',
    login: 'sorrel',
    password: 'a long enough one',
  });
  return {
    ...server,
    async stop() {
      await server.stop();
      await database.stop();
      rmSync(home, { recursive: true, force: true });
    },
  };
}

/** @param env where the demo's database is */
export async function handoverFigures(env) {
  const db = await mysql.createConnection({
    ...accessOf(env),
  });
  const server = await startServer(env, 'lowmarch');
  const second = await emptyInstallation();
  try {
    return {
      sheet_pdf_ms: await sheets(server.base, server.headers, db),
      import: await imports(server.base, server.headers, server.pid),
      dossier: await dossiers(server.base, server.headers, db, env, second),
    };
  } finally {
    await second.stop();
    await server.stop();
    await db.end();
  }
}
