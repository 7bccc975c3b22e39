#!/usr/bin/env node
// npm test: lint, unit, reference, API and browser tests, on a throw-away database and free ports.
// npm test -- unit api … runs only those parts.
import { spawn } from 'node:child_process';
import { cpSync, existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { prepared } from '../e2e/prepare.mjs';
import { startDatabase } from './lib/database.mjs';
import {
  bin,
  build,
  checkNode,
  CHROMIUM,
  freePort,
  installModules,
  MARIADB,
  needPackages,
  READERS,
  REFERENCES,
  ROOT,
  say,
  TSC,
} from './lib/tools.mjs';

const PARTS = ['lint', 'unit', 'reference', 'api', 'e2e'];
const wanted = process.argv.slice(2).filter((a) => PARTS.includes(a));
const parts = wanted.length > 0 ? wanted : PARTS;
const totals = { passed: 0, failed: 0, skipped: 0 };
const broken = [];
const scratch = mkdtempSync(join(tmpdir(), 'fn-test-'));

checkNode();
needPackages([...MARIADB, ...(parts.includes('e2e') ? CHROMIUM : [])]);
if (parts.includes('reference')) needPackages(REFERENCES);
if (parts.includes('api')) needPackages(READERS);
installModules();
build();

function add(name, { passed = 0, failed = 0, skipped = 0 }) {
  totals.passed += passed;
  totals.failed += failed;
  totals.skipped += skipped;
  say(`${name}: ${passed} passed, ${failed} failed`);
}

/** Runs a command to its end; what it says comes out whole, so that two at once do not mix. */
const run = (command, args, { env = {}, show = true } = {}) =>
  new Promise((resolve) => {
    const child = spawn(command, args, {
      cwd: ROOT,
      env: { ...process.env, ...env },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    const out = [];
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (chunk) => out.push(chunk));
    child.once('close', (code) => {
      if (show && code !== 0) process.stderr.write(Buffer.concat(out));
      resolve(code);
    });
  });

/** A command that is one check: it passes or it does not. */
async function check(name, command, args) {
  add(name, (await run(command, args)) === 0 ? { passed: 1 } : { failed: 1 });
}

async function jest(name, projects, { env = {}, workers = 2 } = {}) {
  const out = join(scratch, `${name}.json`);
  const code = await run(
    bin('jest'),
    [
      '--selectProjects',
      ...projects,
      '--maxWorkers',
      String(workers),
      '--silent',
      '--json',
      `--outputFile=${out}`,
    ],
    { env },
  );
  if (!existsSync(out)) return broken.push(`${name} did not report (exit ${code})`);
  const j = JSON.parse(readFileSync(out, 'utf8'));
  // A suite that cannot even load counts as a failure of its own.
  add(name, {
    passed: j.numPassedTests,
    failed: j.numFailedTests + j.numRuntimeErrorTestSuites,
    skipped: j.numPendingTests,
  });
}

async function playwright(env) {
  const out = join(scratch, 'e2e.json');
  const child = spawn(bin('playwright'), ['test', '-c', 'e2e/playwright.config.ts'], {
    cwd: ROOT,
    stdio: ['ignore', 'inherit', 'inherit'],
    env: { ...process.env, ...env, FN_REPORT: out },
  });
  const code = await new Promise((resolve) => child.once('close', resolve));
  if (!existsSync(out)) return broken.push(`the browser tests did not report (exit ${code})`);
  const { stats } = JSON.parse(readFileSync(out, 'utf8'));
  if (stats.flaky > 0) say(`browser: ${stats.flaky} passed only when tried again`);
  add('browser', { passed: stats.expected + stats.flaky, failed: stats.unexpected, skipped: stats.skipped });
}

/** Types of everything at once, tests among it. */
async function lint() {
  await check('types', TSC, ['-p', 'tsconfig.whole.json']);
  await check('layers', bin('depcruise'), ['--config', '.dependency-cruiser.cjs', 'packages', 'apps']);
  await check('format', bin('prettier'), ['--check', '--log-level', 'warn', '.']);
  await check('eslint', bin('eslint'), ['.']);
}

async function api(prepared) {
  const home = join(scratch, 'api');
  cpSync(prepared, home, { recursive: true });
  const database = await startDatabase(home, {
    wantedPort: await freePort(10000 + Math.floor(Math.random() * 22000)),
  });
  // One after another: they share the database.
  await jest('api', ['api'], { env: { ...database.env, TZ: 'UTC' }, workers: 1 });
  await database.stop();
}

// One data directory with the demo in it, made once and copied by everything that wants one.
const has = (part) => parts.includes(part);
const data =
  has('api') || has('e2e') ? await prepared().catch((error) => void broken.push(String(error))) : undefined;
// Side by side, so that neither core waits for the other, nor for the disk; the browser alone, since people's clocks run in it.
await Promise.all([
  (async () => {
    if (has('lint')) await lint();
    if (has('api') && data) await api(data);
  })(),
  (async () => {
    if (has('unit')) await jest('unit', ['core', 'web']);
    if (has('reference')) await jest('reference', ['reference']);
  })(),
]);
if (has('e2e') && data) await playwright({ FN_PREPARED: data });
if (data) rmSync(data, { recursive: true, force: true });

rmSync(scratch, { recursive: true, force: true });
for (const b of broken) say(`broken: ${b}`);
say(
  `\n${totals.passed} passed, ${totals.failed + broken.length} failed${totals.skipped ? `, ${totals.skipped} skipped` : ''}`,
);
process.exit(totals.failed + broken.length > 0 || totals.passed === 0 ? 1 : 0);
