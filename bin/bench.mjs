#!/usr/bin/env node
// npm run bench: what the product costs, as JSON; every ratio is taken within this one run.
import { spawn, spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
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

const database = await startDatabase(join(scratch, 'api'), {
  wantedPort: await freePort(10000 + Math.floor(Math.random() * 22000)),
});
const env = { ...process.env, ...database.env };
if (
  spawnSync(process.execPath, [join(ROOT, 'apps/server/dist/prepare.js')], { env, stdio: 'ignore' })
    .status !== 0
)
  throw new Error('prepare failed');

const out = {
  machine: { cores: cpus().length, cpu: cpus()[0]?.model, node: process.version },
  ...(await coreFigures(core)),
  coupled: await coupledFigures(core),
  clumsy: await clumsyFigures(core),
  twoFaults: await pairFigures(core),
  faultsOfHalfSize: await sizeFigures(core, 0.5),
  faultsOfOneAndAHalf: await sizeFigures(core, 1.5),
  advisor: advisorFigures(core),
  learned: learnedFigures(core),
  firmness: firmnessFigures(core),
  traces: await traceFigures(core),
  append: await appendFigures(database, env, core),
  practice: await practiceFigures(),
  handover: await handoverFigures(env),
  book: await bookFigures(database, env),
};
await database.stop();
const stack = await startStack();
try {
  out.screen = await screenFigures(stack);
  out.practice.screen = await practiceScreenFigures(stack);
} finally {
  await stack.stop();
}
out.start = { first_ms: await firstPage(), second_ms: await firstPage() };
out.initialJavaScript = initialJavaScript();
rmSync(scratch, { recursive: true, force: true });
mkdirSync(join(ROOT, 'bench'), { recursive: true });
writeFileSync(join(ROOT, 'bench/last.json'), `${JSON.stringify(out, null, 2)}\n`);
console.log(JSON.stringify(out, null, 2));
