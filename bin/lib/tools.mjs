// What must be on the machine before anything else runs. Plain Node, nothing installed.
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, readFileSync, statSync, readdirSync, mkdirSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { createHash } from 'node:crypto';

export const ROOT = join(dirname(fileURLToPath(import.meta.url)), '..', '..');
export const isRoot = process.getuid?.() === 0;

export const say = (text) => console.log(text);
/** Progress, kept out of what a command answers. */
const progress = (text) => console.error(text);

/** Ends with one clear line. */
export function give(text) {
  console.error(text);
  process.exit(1);
}

const has = (command) => spawnSync('sh', ['-c', `command -v ${command}`]).status === 0;

export function checkNode() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19))
    give(`Firm Needle needs Node 20.19 or newer; this is ${process.versions.node}.`);
}

/** Installs Debian packages that are missing, or says in one line what to install. */
export function needPackages(wanted) {
  const missing = wanted.filter((w) => !w.found());
  if (missing.length === 0) return;
  const names = missing.map((m) => m.debian).join(' ');
  if (!isRoot || !has('apt-get'))
    give(
      `Missing: ${missing.map((m) => m.what).join(', ')}. Install with: sudo apt-get install --no-install-recommends ${names}`,
    );
  progress(`Installing from Debian's packages: ${names}`);
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  spawnSync('apt-get', ['update', '-qq'], { stdio: ['ignore', 'ignore', 'inherit'], env });
  const r = spawnSync('apt-get', ['install', '-y', '-qq', '--no-install-recommends', ...names.split(' ')], {
    stdio: ['ignore', 'ignore', 'inherit'],
    env,
  });
  if (r.status !== 0) give(`Could not install ${names}; install it by hand and start again.`);
}

const onPath = (name) => () => has(name) || existsSync(`/usr/sbin/${name}`);
export const MARIADB = [
  { what: 'MariaDB server', debian: 'mariadb-server-core', found: onPath('mariadbd') },
  { what: 'MariaDB client', debian: 'mariadb-client', found: onPath('mariadb-admin') },
];
export const CHROMIUM = [
  {
    what: 'headless Chromium',
    debian: 'chromium-headless-shell',
    found: onPath('chromium-headless-shell'),
  },
];
const pythonModule = (name) => () => spawnSync('/usr/bin/python3', ['-c', `import ${name}`]).status === 0;
export const REFERENCES = [
  { what: 'GNU Units', debian: 'units', found: onPath('units') },
  { what: 'python3-fluids', debian: 'python3-fluids', found: pythonModule('fluids') },
  { what: 'python3-iapws', debian: 'python3-iapws', found: pythonModule('iapws') },
  { what: 'python3-scipy', debian: 'python3-scipy', found: pythonModule('scipy') },
  { what: 'python3-openpyxl', debian: 'python3-openpyxl', found: pythonModule('openpyxl') },
];

/** Other programs that read what is handed over, in the API tests. */
export const READERS = [
  { what: 'qpdf', debian: 'qpdf', found: onPath('qpdf') },
  { what: 'pdftotext', debian: 'poppler-utils', found: onPath('pdftotext') },
  { what: 'zbarimg', debian: 'zbar-tools', found: onPath('zbarimg') },
  { what: 'python3-icalendar', debian: 'python3-icalendar', found: pythonModule('icalendar') },
  { what: 'python3-jsonschema', debian: 'python3-jsonschema', found: pythonModule('jsonschema') },
];

const stamp = (name) => join(ROOT, '.cache', name);
const hashOf = (text) => createHash('sha256').update(text).digest('hex');
const stamped = (name) => (existsSync(stamp(name)) ? readFileSync(stamp(name), 'utf8') : '');
function setStamp(name, value) {
  mkdirSync(join(ROOT, '.cache'), { recursive: true });
  writeFileSync(stamp(name), value);
}

/** npm ci, once per lockfile. */
export function installModules() {
  const lock = hashOf(readFileSync(join(ROOT, 'package-lock.json')));
  if (existsSync(join(ROOT, 'node_modules', 'typescript')) && stamped('modules') === lock) return;
  progress('Installing packages (about a minute the first time) …');
  run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error']);
  setStamp('modules', lock);
}

/** Newest modification time below some folders, as text. */
function freshness(paths) {
  let newest = 0;
  let count = 0;
  const visit = (path) => {
    const s = statSync(path, { throwIfNoEntry: false });
    if (!s) return;
    if (s.isDirectory()) {
      for (const n of readdirSync(path))
        if (!['node_modules', 'dist', '.data'].includes(n)) visit(join(path, n));
    } else {
      newest = Math.max(newest, s.mtimeMs);
      count++;
    }
  };
  for (const p of paths) visit(join(ROOT, p));
  return `${count} ${newest}`;
}

/** Builds only what is stale. */
export function build() {
  const all = freshness([
    'packages',
    'apps',
    'demo',
    'tsconfig.json',
    'tsconfig.base.json',
    'package-lock.json',
  ]);
  if (
    stamped('build') === all &&
    existsSync(join(ROOT, 'apps/web/dist/index.html')) &&
    existsSync(join(ROOT, 'apps/server/dist/main.js'))
  )
    return;
  progress('Building …');
  run(TSC, ['-b']);
  run(bin('vite'), ['build', '--logLevel', 'error'], { cwd: join(ROOT, 'apps/web') });
  setStamp('build', all);
}

/** Builds the core and the command line alone, when they are stale. */
export function buildCommandLine() {
  const all = freshness(['packages', 'tsconfig.base.json', 'package-lock.json']);
  if (stamped('needle') === all && existsSync(join(ROOT, 'packages/cli/dist/main.js'))) return;
  run(TSC, ['-b', 'packages/cli']);
  setStamp('needle', all);
}

/** The compiler of types: the one written for speed. ESLint goes by the one before it, whose inside it reads. */
export const TSC = join(ROOT, 'node_modules/typescript-7/bin/tsc');

export function bin(name) {
  const own = join(ROOT, 'node_modules', '.bin', name);
  return existsSync(own) ? own : join(ROOT, 'apps/web/node_modules/.bin', name);
}

export function run(command, args, options = {}) {
  const r = spawnSync(command, args, { cwd: ROOT, stdio: ['inherit', 2, 2], ...options });
  if (r.status !== 0) give(`${command.split('/').pop()} ${args.join(' ')} failed.`);
}

/** A port that is free now: the wanted one, or the next that is; 0 takes any. Ask below 32768: from there on a system takes its own for going out. */
export async function freePort(wanted) {
  for (let p = wanted; p < wanted + 50; p++) {
    const got = await new Promise((resolve) => {
      const probe = createServer();
      probe.once('error', () => resolve(undefined));
      probe.listen(p, '127.0.0.1', () => {
        const { port } = probe.address();
        probe.close(() => resolve(port));
      });
    });
    if (got !== undefined) return got;
    if (wanted === 0) break;
  }
  return give(`No free port from ${wanted} on.`);
}

export const children = new Set();

/** A long-running child that ends with this process. */
export function launch(command, args, options = {}) {
  const child = spawn(command, args, { cwd: ROOT, stdio: ['ignore', 'pipe', 'pipe'], ...options });
  children.add(child);
  child.once('exit', () => children.delete(child));
  return child;
}

export async function ended(child, ms = 8000) {
  if (child.exitCode !== null || child.signalCode !== null) return;
  await new Promise((resolve) => {
    const t = setTimeout(() => {
      child.kill('SIGKILL');
      resolve();
    }, ms);
    child.once('exit', () => {
      clearTimeout(t);
      resolve();
    });
  });
}
