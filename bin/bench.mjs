#!/usr/bin/env node
// npm run bench: what the product costs, as JSON; every ratio is taken within this one run.
import { spawn, spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { cpus, tmpdir } from 'node:os';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { startDatabase } from './lib/database.mjs';
import {
  build,
  checkNode,
  CHROMIUM,
  ended,
  freePort,
  installModules,
  MARIADB,
  needPackages,
  ROOT,
} from './lib/tools.mjs';

checkNode();
needPackages([...MARIADB, ...CHROMIUM]);
installModules();
build();

const { core } = await import('../bench/parts.mjs');
const { coreFigures } = await import('../bench/core.mjs');
const { appendFigures } = await import('../bench/append.mjs');
const { handoverFigures } = await import('../bench/handover.mjs');
const { bookFigures } = await import('../bench/book.mjs');
const { advisorFigures, learnedFigures } = await import('../bench/advisor.mjs');
const { clumsyFigures, pairFigures, sizeFigures } = await import('../bench/clumsy.mjs');
const { coupledFigures } = await import('../bench/coupled.mjs');
const { firmnessFigures } = await import('../bench/firmness.mjs');
const { practiceFigures, practiceScreenFigures } = await import('../bench/practice.mjs');
const { screenFigures } = await import('../bench/screen.mjs');
const { traceFigures } = await import('../bench/traces.mjs');
const { startStack } = await import('../e2e/stack.mjs');
const scratch = mkdtempSync(join(tmpdir(), 'fn-bench-'));
const port = await freePort(10000 + Math.floor(Math.random() * 22000));

async function firstPage() {
  const from = performance.now();
  const child = spawn(process.execPath, [join(ROOT, 'bin/start.mjs')], {
    cwd: ROOT,
    env: { ...process.env, FIRM_NEEDLE_DATA: join(scratch, 'start'), PORT: String(port) },
    stdio: 'ignore',
  });
  for (;;) {
    try {
      const r = await fetch(`http://127.0.0.1:${port}/`);
      if (r.ok && (await r.text()).includes('id="root"')) break;
    } catch {
      // not listening yet
    }
    if (child.exitCode !== null) throw new Error('start ended');
    await new Promise((r) => setTimeout(r, 20));
  }
  const ms = performance.now() - from;
  child.kill('SIGTERM');
  await ended(child, 30000);
  return Math.round(ms);
}

function initialJavaScript() {
  const dist = join(ROOT, 'apps/web/dist');
  const html = readFileSync(join(dist, 'index.html'), 'utf8');
  const files = [...html.matchAll(/(?:src|href)="(\/assets\/[^"]+\.js)"/g)].map((m) => m[1]);
  const bytes = files.reduce((sum, f) => sum + gzipSync(readFileSync(join(dist, f)), { level: 9 }).length, 0);
  return { files: files.length, gzip_kB: Math.round(bytes / 102.4) / 10, bound_kB: 250 };
}

let running;
/** One database with the demo in it for all that want one. */
async function database() {
  if (running) return running;
  const db = await startDatabase(join(scratch, 'api'), {
    wantedPort: await freePort(10000 + Math.floor(Math.random() * 22000)),
  });
  const env = { ...process.env, ...db.env };
  const prepare = join(ROOT, 'apps/server/dist/prepare.js');
  if (spawnSync(process.execPath, [prepare], { env, stdio: 'ignore' }).status !== 0)
    throw new Error('prepare failed');
  return (running = { db, env });
}

async function withStack(figures) {
  const stack = await startStack();
  try {
    return await figures(stack);
  } finally {
    await stack.stop();
  }
}

/** Each by itself: what one costs, or that it broke, is kept whatever becomes of the others. */
const PARTS = {
  core: () => coreFigures(core),
  coupled: () => coupledFigures(core),
  clumsy: () => clumsyFigures(core),
  twoFaults: () => pairFigures(core),
  faultsOfHalfSize: () => sizeFigures(core, 0.5),
  faultsOfOneAndAHalf: () => sizeFigures(core, 1.5),
  advisor: () => advisorFigures(core),
  learned: () => learnedFigures(core),
  firmness: () => firmnessFigures(core),
  traces: () => traceFigures(core),
  append: async () => {
    const { db, env } = await database();
    return appendFigures(db, env, core);
  },
  practice: async () => ({
    ...(await practiceFigures()),
    screen: await withStack(practiceScreenFigures),
  }),
  handover: async () => handoverFigures((await database()).env),
  book: async () => {
    const { db, env } = await database();
    return bookFigures(db, env);
  },
  screen: () => withStack(screenFigures),
  start: async () => ({ first_ms: await firstPage(), second_ms: await firstPage() }),
  initialJavaScript: () => initialJavaScript(),
};

const asked = process.argv.slice(2);
const unknown = asked.filter((a) => !(a in PARTS));
if (unknown.length > 0) {
  console.error(`No such part: ${unknown.join(', ')}. There are: ${Object.keys(PARTS).join(', ')}.`);
  process.exit(2);
}
const out = { machine: { cores: cpus().length, cpu: cpus()[0]?.model, node: process.version } };
const file = join(ROOT, 'bench/last.json');
for (const [name, figures] of Object.entries(PARTS)) {
  if (asked.length > 0 && !asked.includes(name)) continue;
  const from = performance.now();
  try {
    const got = await figures();
    // What the core costs stands by its own names.
    Object.assign(out, name === 'core' ? got : { [name]: got });
  } catch (error) {
    out[name] = { broke: String(error) };
    process.exitCode = 1;
  }
  console.error(
    `${name}: ${Math.round((performance.now() - from) / 1000)} s${out[name]?.broke ? `, ${out[name].broke}` : ''}`,
  );
  writeFileSync(file, `${JSON.stringify(out, null, 2)}\n`);
}
await running?.db.stop();
rmSync(scratch, { recursive: true, force: true });
console.log(JSON.stringify(out, null, 2));
