// The firm's book at two sizes: due list, search, a control's page, its life and a week of plans through the whole server, each against
// the best SQL we could write by hand for the same rows, by the same driver, in turns, in one run.
import { createRequire } from 'node:module';
import { join } from 'node:path';
import { ROOT } from '../bin/lib/tools.mjs';
import { accessOf, startServer } from './server.mjs';

const require = createRequire(join(ROOT, 'apps/server/package.json'));
const mysql = require('mysql2/promise');
const ROUNDS = 40;
/** Events a job, jobs a control: so many controls are there at a size. */
const EVENTS = 25;
const JOBS = 4;
const round = (x, digits = 3) => Number(x.toPrecision(digits));
const median = (xs) => xs.toSorted((a, b) => a - b)[Math.floor(xs.length / 2)];

/** The same firm every time: ids and names follow from a count. */
const idOf = (kind, n) => `00000000-0000-7000-${kind}-${String(n).padStart(12, '0')}`;
const [SITE, EQUIPMENT, CONTROL, JOB, VISIT, PLAN, DEVICE] = [
  '8001',
  '8002',
  '8003',
  '8004',
  '8005',
  '8006',
  '8007',
];
function seeded(seed) {
  let x = seed;
  return () => {
    x = (x * 1664525 + 1013904223) % 4294967296;
    return x / 4294967296;
  };
}
const day = (n) => new Date(Date.UTC(2030, 0, 1) + n * 86400e3).toISOString().slice(0, 10);

async function insert(db, table, columns, rows) {
  for (let i = 0; i < rows.length; i += 500)
    await db.query(`INSERT INTO ${table} (${columns}) VALUES ?`, [rows.slice(i, i + 500)]);
}

/** Grows the demo's firm by as many controls, with their past, as make so many events. */
async function grow(db, from, to) {
  const [[organisation]] = await db.query('SELECT id FROM organisations LIMIT 1');
  const [[who]] = await db.query("SELECT id FROM users WHERE login = 'quenby'");
  const [[sheet]] = await db.query(
    `SELECT r.result, p.plan FROM job_results r JOIN controls c ON c.id = r.control_id JOIN control_plans p ON p.control_id = c.id
     WHERE c.family = 'well-switch' AND r.signed_at IS NOT NULL LIMIT 1`,
  );
  const org = organisation.id;
  const random = seeded(11 + from);
  const count = (events) => Math.round(events / EVENTS / JOBS);
  const each = (make) => Array.from({ length: count(to) - count(from) }, (_, i) => make(count(from) + i));
  const text = (v) => (typeof v === 'string' ? v : JSON.stringify(v));
  const now = '2030-01-01 08:00:00';
  await insert(
    db,
    'sites',
    'id, organisation_id, name, altitude_m, customer',
    each((n) => [idOf(SITE, n), org, `Place ${n}`, 10, `Customer ${n % 50}`]).filter((_, i) => i % 5 === 0),
  );
  const siteOf = (n) => idOf(SITE, count(from) + Math.floor((n - count(from)) / 5) * 5);
  await insert(
    db,
    'equipment',
    'id, organisation_id, site_id, name, serial',
    each((n) => [idOf(EQUIPMENT, n), org, siteOf(n), `Unit ${n}`, `S ${n * 7919}`]),
  );
  await insert(
    db,
    'controls',
    'id, organisation_id, equipment_id, name, family, plan_version, due',
    each((n) => [
      idOf(CONTROL, n),
      org,
      idOf(EQUIPMENT, n),
      `Switch ${n}`,
      'well-switch',
      1,
      day(Math.floor(random() * 300)),
    ]),
  );
  await insert(
    db,
    'control_plans',
    'id, organisation_id, control_id, version, plan, author_id, created_at',
    each((n) => [idOf(PLAN, n), org, idOf(CONTROL, n), 1, text(sheet.plan), who.id, now]),
  );
  await insert(
    db,
    'fitted_devices',
    'id, organisation_id, control_id, label, fitted_on, learned',
    each((n) => [idOf(DEVICE, n), org, idOf(CONTROL, n), 'A device', '2020-01-01', '{}']),
  );
  const due = each((n) => n);
  await insert(
    db,
    'due_reasons',
    'control_id, kind, organisation_id, day, because',
    due.flatMap((n) => [
      [idOf(CONTROL, n), 'rule', org, day(n % 300), 'yearly'],
      [idOf(CONTROL, n), 'law', org, day((n % 300) + 90), 'every 18 months, by an insurer'],
    ]),
  );
  const jobs = due.flatMap((n) =>
    Array.from({ length: JOBS }, (_, k) => ({ n, k, id: idOf(JOB, n * JOBS + k) })),
  );
  const signed = (k) => `202${5 + k}-05-01 09:30:00`;
  await insert(
    db,
    'jobs',
    'id, organisation_id, control_id, opened_by, opened_at, seq, head, signed_at',
    jobs.map((j) => [
      j.id,
      org,
      idOf(CONTROL, j.n),
      who.id,
      `202${5 + j.k}-05-01 08:30:00`,
      EVENTS,
      '0'.repeat(64),
      signed(j.k),
    ]),
  );
  let event = from;
  await insert(
    db,
    'job_events',
    'job_id, seq, id, kind, author_id, received_at, text, hash',
    jobs.flatMap((j) =>
      Array.from({ length: EVENTS }, (_, i) => [
        j.id,
        i + 1,
        idOf('8009', event++),
        'note',
        who.id,
        signed(j.k),
        `{"kind":"note","text":"note ${i} of the bench"}`,
        '0'.repeat(64),
      ]),
    ),
  );
  await insert(
    db,
    'job_results',
    'job_id, organisation_id, control_id, through_seq, outcome, signed_at, result, settled, counts',
    jobs.map((j) => [j.id, org, idOf(CONTROL, j.n), EVENTS, 'set', signed(j.k), text(sheet.result), 1, 1]),
  );
  const WORDS = [
    'waterlogged',
    'worn contacts',
    'leaking seat',
    'shut cock',
    'drifted',
    'dirty filter',
    'loose nut',
  ];
  await insert(
    db,
    'job_findings',
    'organisation_id, job_id, control_id, signed_at, code, message',
    jobs.map((j) => [
      org,
      j.id,
      idOf(CONTROL, j.n),
      signed(j.k),
      'bench',
      `Tank ${WORDS[Math.floor(random() * WORDS.length)]}, seen ${j.n}`,
    ]),
  );
  const visits = due.filter((n) => n % 5 === 0);
  await insert(
    db,
    'visits',
    'id, organisation_id, site_id, technician_id, day, purpose',
    visits.map((n) => [idOf(VISIT, n), org, siteOf(n), who.id, day(n % 300), 'Yearly checks']),
  );
  await insert(
    db,
    'visit_controls',
    'visit_id, control_id, position',
    visits.flatMap((n) =>
      [0, 1, 2].filter((k) => n + k < count(to)).map((k) => [idOf(VISIT, n), idOf(CONTROL, n + k), k + 1]),
    ),
  );
  await db.query(
    'ANALYZE TABLE sites, equipment, controls, jobs, job_results, job_findings, visits, visit_controls, due_reasons',
  );
  return { org, controls: count(to) };
}

const read = (v) => (typeof v === 'string' ? JSON.parse(v) : v);

/** What each page needs, by hand: one statement where one does, and JSON read as a page must. */
const BY_HAND = {
  due: async (db, { org }) => {
    const [rows] = await db.query(
      `SELECT c.id, c.name, c.family, c.due, e.name AS equipment, s.id AS site_id, s.name AS site, s.altitude_m,
         (SELECT JSON_ARRAYAGG(JSON_OBJECT('kind', d.kind, 'day', d.day, 'because', d.because) ORDER BY d.day)
            FROM due_reasons d WHERE d.control_id = c.id) AS reasons,
         (SELECT JSON_OBJECT('id', v.id, 'day', v.day, 'who', u.name) FROM visit_controls l JOIN visits v ON v.id = l.visit_id
            JOIN users u ON u.id = v.technician_id
            WHERE l.control_id = c.id AND v.cancelled IS NULL AND v.day >= UTC_DATE() ORDER BY v.day LIMIT 1) AS visit
       FROM controls c JOIN equipment e ON e.id = c.equipment_id JOIN sites s ON s.id = e.site_id
       WHERE c.organisation_id = ? AND c.retired_at IS NULL AND c.due IS NOT NULL AND e.retired_at IS NULL AND s.retired_at IS NULL
       ORDER BY c.due, c.id LIMIT 51`,
      [org],
    );
    return JSON.stringify(rows.map((r) => ({ ...r, reasons: read(r.reasons), visit: read(r.visit) })));
  },
  search: async (db, { org }) => {
    const like = '%leaking%';
    const [rows] = await db.query(
      `(SELECT 'site' AS kind, s.id, s.name AS title, s.customer AS beside FROM sites s
          WHERE s.organisation_id = ? AND s.retired_at IS NULL AND (s.name LIKE ? OR s.customer LIKE ? OR s.address LIKE ?) ORDER BY s.name LIMIT 8)
       UNION ALL (SELECT 'control', c.id, c.name, CONCAT(s.name, ' · ', e.name) FROM controls c JOIN equipment e ON e.id = c.equipment_id
          JOIN sites s ON s.id = e.site_id WHERE c.organisation_id = ? AND c.retired_at IS NULL AND c.name LIKE ? ORDER BY c.name LIMIT 8)
       UNION ALL (SELECT 'equipment', e.id, e.name, s.name FROM equipment e JOIN sites s ON s.id = e.site_id
          WHERE e.organisation_id = ? AND e.retired_at IS NULL AND (e.name LIKE ? OR e.serial LIKE ? OR e.model LIKE ? OR e.maker LIKE ?) ORDER BY e.name LIMIT 8)
       UNION ALL (SELECT 'gauge', g.id, g.label, JSON_VALUE(g.body, '$.serial') FROM gauges g
          WHERE g.organisation_id = ? AND g.retired_at IS NULL AND (g.label LIKE ? OR JSON_VALUE(g.body, '$.serial') LIKE ?) LIMIT 8)
       UNION ALL (SELECT 'finding', f.job_id, f.message, CONCAT(s.name, ' · ', c.name) FROM
            (SELECT * FROM job_findings WHERE organisation_id = ? AND MATCH(message) AGAINST('+leaking*' IN BOOLEAN MODE)
             ORDER BY signed_at DESC LIMIT 8) f
          JOIN controls c ON c.id = f.control_id JOIN equipment e ON e.id = c.equipment_id JOIN sites s ON s.id = e.site_id)`,
      [org, like, like, like, org, like, org, like, like, like, like, org, like, like, org],
    );
    return JSON.stringify(rows);
  },
  control: async (db, { one }) => {
    const [[[head]], [jobs]] = await Promise.all([
      db.query(
        `SELECT c.*, e.name AS equipment, e.notes, s.id AS site_id, s.name AS site, s.altitude_m,
           (SELECT p.plan FROM control_plans p WHERE p.control_id = c.id ORDER BY p.version DESC LIMIT 1) AS plan,
           (SELECT JSON_OBJECT('id', d.id, 'label', d.label, 'learned', d.learned) FROM fitted_devices d
              WHERE d.control_id = c.id AND d.removed_on IS NULL LIMIT 1) AS device,
           (SELECT JSON_ARRAYAGG(JSON_OBJECT('kind', d.kind, 'day', d.day, 'because', d.because) ORDER BY d.day)
              FROM due_reasons d WHERE d.control_id = c.id) AS reasons
         FROM controls c JOIN equipment e ON e.id = c.equipment_id JOIN sites s ON s.id = e.site_id WHERE c.id = ?`,
        [one],
      ),
      db.query(
        `SELECT j.id, j.opened_at, j.signed_at, j.visit_id, r.outcome, r.objections, r.result FROM jobs j
         LEFT JOIN job_results r ON r.job_id = j.id WHERE j.control_id = ? ORDER BY j.opened_at DESC LIMIT 50`,
        [one],
      ),
    ]);
    return JSON.stringify({
      ...head,
      plan: read(head.plan),
      jobs: jobs.map(({ result, ...j }) => ({ ...j, rows: read(result).rows, turns: read(result).turns })),
    });
  },
  week: async (db, { org }) => {
    const [[people], [rows]] = await Promise.all([
      db.query(
        "SELECT id, name, role, permits, site_id, version FROM users WHERE organisation_id = ? AND disabled_at IS NULL AND role <> 'reader' ORDER BY name",
        [org],
      ),
      db.query(
        `SELECT v.id, v.day, v.stop, v.purpose, v.packed, v.version, v.technician_id, u.name AS technician, s.id AS site_id, s.name AS site,
           s.altitude_m, l.position, c.id AS control_id, c.name AS control, c.family, c.story, e.name AS equipment,
           (SELECT AVG(TIMESTAMPDIFF(MINUTE, j.opened_at, j.signed_at)) FROM jobs j WHERE j.control_id = c.id AND j.signed_at IS NOT NULL
              AND TIMESTAMPDIFF(MINUTE, j.opened_at, j.signed_at) BETWEEN 1 AND 480) AS minutes,
           (SELECT JSON_OBJECT('id', j.id, 'signed', j.signed_at) FROM jobs j WHERE j.visit_id = v.id AND j.control_id = c.id
              ORDER BY j.opened_at DESC LIMIT 1) AS job
         FROM visits v JOIN sites s ON s.id = v.site_id JOIN users u ON u.id = v.technician_id
         JOIN visit_controls l ON l.visit_id = v.id JOIN controls c ON c.id = l.control_id JOIN equipment e ON e.id = c.equipment_id
         WHERE v.organisation_id = ? AND v.cancelled IS NULL AND v.day >= '2030-03-04' AND v.day < '2030-03-11'
         ORDER BY v.day, v.stop, v.id, l.position`,
        [org],
      ),
    ]);
    return JSON.stringify({ people, rows });
  },
};

/** Times through the whole server beside those of the statements alone, at each size. */
export async function bookFigures(database, env) {
  const db = await mysql.createPool({
    ...accessOf(env),
    connectionLimit: 4,
  });
  const { base, headers, stop } = await startServer(env, 'lowmarch');
  try {
    const out = {};
    let from = 0;
    for (const size of [1e4, 1e5]) {
      const { org, controls } = await grow(db, from, size);
      from = size;
      const one = idOf(CONTROL, Math.floor(controls / 2));
      const paths = {
        due: '/due?limit=50',
        search: '/search?q=leaking',
        control: `/controls/${one}`,
        week: '/visits/week?from=2030-03-04',
      };
      out[`events_${size}`] = {};
      for (const [name, path] of Object.entries(paths)) {
        const [ours, theirs, bare] = [[], [], []];
        // In turns, so that whatever else the machine does falls on both.
        for (let i = 0; i < ROUNDS; i++) {
          let t = performance.now();
          const r = await fetch(base + path, { headers });
          const body = await r.text();
          if (!r.ok) throw new Error(`${path}: ${body}`);
          ours.push(performance.now() - t);
          // A request that asks nothing of the database: what HTTP alone costs here.
          t = performance.now();
          await (await fetch(new URL('/health/live', base))).text();
          bare.push(performance.now() - t);
          t = performance.now();
          await BY_HAND[name](db, { org, one });
          theirs.push(performance.now() - t);
        }
        out[`events_${size}`][name] = {
          server_ms: round(median(ours)),
          sql_ms: round(median(theirs)),
          http_ms: round(median(bare)),
          ratio: round(median(ours) / median(theirs)),
          ratio_less_http: round((median(ours) - median(bare)) / median(theirs)),
          bound: 3,
        };
      }
    }
    return out;
  } finally {
    await stop();
    await db.end();
  }
}
