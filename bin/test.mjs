#!/usr/bin/env node
// npm test: lint, unit, reference, API and browser tests, on a throw-away database and free ports.
// npm test -- unit api … runs only those parts.
import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
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
  REFERENCES,
  ROOT,
  say,
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
installModules();
build();

function add(name, { passed = 0, failed = 0, skipped = 0 }) {
  totals.passed += passed;
  totals.failed += failed;
  totals.skipped += skipped;
  say(`${name}: ${passed} passed, ${failed} failed`);
}

/** A command that is one check: it passes or it does not. */
function check(name, command, args) {
  const r = spawnSync(command, args, { cwd: ROOT, stdio: 'inherit' });
  add(name, r.status === 0 ? { passed: 1 } : { failed: 1 });
}

function jest(name, projects, env = {}) {
  const out = join(scratch, `${name}.json`);
  const r = spawnSync(
    bin('jest'),
    ['--selectProjects', ...projects, '--json', `--outputFile=${out}`, '--silent', '--passWithNoTests=false'],
    {
      cwd: ROOT,
      stdio: ['ignore', 'ignore', 'inherit'],
      env: { ...process.env, ...env },
    },
  );
  if (!existsSync(out)) return broken.push(`${name} did not report (exit ${r.status})`);
  const j = JSON.parse(readFileSync(out, 'utf8'));
  // A suite that cannot even load counts as a failure of its own.
  add(name, {
    passed: j.numPassedTests,
    failed: j.numFailedTests + j.numRuntimeErrorTestSuites,
    skipped: j.numPendingTests,
  });
}

function playwright() {
  const out = join(scratch, 'e2e.json');
  const r = spawnSync(bin('playwright'), ['test', '-c', 'e2e/playwright.config.ts'], {
    cwd: ROOT,
    stdio: ['ignore', 'inherit', 'inherit'],
    env: { ...process.env, FN_REPORT: out },
  });
  if (!existsSync(out)) return broken.push(`the browser tests did not report (exit ${r.status})`);
  const { stats } = JSON.parse(readFileSync(out, 'utf8'));
  add('browser', { passed: stats.expected + stats.flaky, failed: stats.unexpected, skipped: stats.skipped });
}

if (parts.includes('lint')) {
  check('types', bin('tsc'), ['-p', 'apps/web']);
  check('eslint', bin('eslint'), ['.']);
  check('layers', bin('depcruise'), ['--config', '.dependency-cruiser.cjs', 'packages', 'apps']);
  check('format', bin('prettier'), ['--check', '--log-level', 'warn', '.']);
}
if (parts.includes('unit')) jest('unit', ['core', 'web']);
if (parts.includes('reference')) jest('reference', ['reference']);
if (parts.includes('api')) {
  const database = await startDatabase(join(scratch, 'api'), {
    wantedPort: await freePort(20000 + Math.floor(Math.random() * 20000)),
  });
  const env = { ...database.env, TZ: 'UTC' };
  const prepared = spawnSync(process.execPath, [join(ROOT, 'apps/server/dist/prepare.js')], {
    env: { ...process.env, ...env },
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  if (prepared.status === 0) jest('api', ['api'], env);
  else broken.push('the throw-away database could not be prepared');
  await database.stop();
}
if (parts.includes('e2e')) playwright();

rmSync(scratch, { recursive: true, force: true });
for (const b of broken) say(`broken: ${b}`);
say(
  `\n${totals.passed} passed, ${totals.failed + broken.length} failed${totals.skipped ? `, ${totals.skipped} skipped` : ''}`,
);
process.exit(totals.failed + broken.length > 0 || totals.passed === 0 ? 1 : 0);
