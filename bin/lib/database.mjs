// A private mariadbd on loopback, with a data directory of its own; never the system's.
import { spawnSync } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { chmodSync, existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ended, freePort, give, isRoot, launch } from './tools.mjs';

const daemon = () => (existsSync('/usr/sbin/mariadbd') ? '/usr/sbin/mariadbd' : 'mariadbd');
const asRoot = isRoot ? ['--user=root'] : [];

const alive = (pid) => {
  try {
    process.kill(pid, 0);
    return true;
  } catch {
    return false;
  }
};

/**
 * Starts the database server in a directory, creating it the first time.
 * @param home where data, pid and password live
 * @returns connection settings for the application and a way to stop it
 */
export async function startDatabase(home, { wantedPort = 33306 } = {}) {
  const data = join(home, 'mariadb');
  const pidFile = join(home, 'mariadb.pid');
  const log = join(home, 'mariadb.log');
  const secretFile = join(home, 'database-password');
  mkdirSync(home, { recursive: true });
  if (existsSync(pidFile)) {
    const pid = Number(readFileSync(pidFile, 'utf8'));
    if (pid > 0 && alive(pid))
      give(
        `Another Firm Needle already uses ${home} (database process ${pid}). Stop it first, with Ctrl-C where it runs.`,
      );
    rmSync(pidFile, { force: true });
  }
  // A starting server clears the temporary tables of its directory: it must be nobody else's.
  const scratch = join(home, 'database-tmp');
  mkdirSync(scratch, { recursive: true });
  const fresh = !existsSync(join(data, 'mysql'));
  if (fresh) {
    const made = spawnSync(
      'mariadb-install-db',
      [
        '--no-defaults',
        ...asRoot,
        `--datadir=${data}`,
        '--auth-root-authentication-method=normal',
        '--skip-test-db',
        '--skip-name-resolve',
      ],
      { env: { ...process.env, TMPDIR: scratch } },
    );
    if (made.status !== 0) give(`The database could not be created: ${made.stderr}`);
    writeFileSync(secretFile, randomBytes(18).toString('base64url'));
    chmodSync(secretFile, 0o600);
  }
  const password = readFileSync(secretFile, 'utf8');
  const port = await freePort(wantedPort);
  // A socket path longer than 107 bytes is refused, so it lives in the temporary directory.
  const socketDir = mkdtempSync(join(tmpdir(), 'fn-'));
  const socket = join(socketDir, 's');
  const launchServer = () =>
    launch(daemon(), [
      '--no-defaults',
      ...asRoot,
      `--datadir=${data}`,
      `--tmpdir=${scratch}`,
      `--socket=${socket}`,
      `--pid-file=${pidFile}`,
      '--bind-address=127.0.0.1',
      `--port=${port}`,
      '--skip-name-resolve',
      '--innodb-flush-log-at-trx-commit=1',
      '--character-set-server=utf8mb4',
      `--log-error=${log}`,
    ]);
  const ready = async (user, pass) => {
    for (let i = 0; i < 200; i++) {
      const ping = spawnSync('mariadb-admin', [
        '--no-defaults',
        `--socket=${socket}`,
        `-u${user}`,
        ...(pass ? [`-p${pass}`] : []),
        'ping',
      ]);
      if (ping.status === 0) return;
      await new Promise((r) => setTimeout(r, 100));
    }
    give(`The database did not start; see ${log}.`);
  };
  let child = launchServer();
  if (fresh) {
    await ready('root', '');
    // Root starts with no password: the application gets a user of its own, and root is shut.
    const sql = [
      'CREATE DATABASE firm_needle CHARACTER SET utf8mb4 COLLATE utf8mb4_uca1400_ai_ci;',
      `CREATE USER 'firm'@'127.0.0.1' IDENTIFIED BY '${password}';`,
      `CREATE USER 'firm'@'localhost' IDENTIFIED BY '${password}';`,
      "GRANT ALL ON firm_needle.* TO 'firm'@'127.0.0.1', 'firm'@'localhost';",
      // Beside it, whatever begins with its name: a copy that is restored to be looked at, a test's own.
      "GRANT ALL ON `firm\\_needle\\_%`.* TO 'firm'@'127.0.0.1', 'firm'@'localhost';",
      `GRANT SHUTDOWN ON *.* TO 'firm'@'localhost';`,
      "DROP USER IF EXISTS 'root'@'127.0.0.1', 'root'@'::1';",
      `ALTER USER 'root'@'localhost' IDENTIFIED BY '${randomBytes(18).toString('base64url')}';`,
    ].join('\n');
    const made = spawnSync('mariadb', ['--no-defaults', `--socket=${socket}`, '-uroot'], { input: sql });
    if (made.status !== 0) give(`The database user could not be made: ${made.stderr}`);
  } else await ready('firm', password);
  return {
    fresh,
    env: {
      DB_HOST: '127.0.0.1',
      DB_PORT: String(port),
      DB_USER: 'firm',
      DB_PASSWORD: password,
      DB_NAME: 'firm_needle',
    },
    port,
    get pid() {
      return child.pid;
    },
    /** Ends it at once, as a power cut would; for tests. */
    async kill() {
      child.kill('SIGKILL');
      await ended(child);
      rmSync(pidFile, { force: true });
    },
    /** Starts it again whenever it ends by itself, until `over()` holds. */
    keep(over, tell) {
      const watch = () =>
        child.once('exit', (code, signal) => {
          if (over()) return;
          tell(`The database ended (${signal ?? code}); starting it again.`);
          setTimeout(() => {
            if (over()) return;
            rmSync(pidFile, { force: true });
            child = launchServer();
            watch();
          }, 300);
        });
      watch();
    },
    async restart() {
      child = launchServer();
      await ready('firm', password);
    },
    async stop() {
      child.kill('SIGTERM');
      await ended(child, 20000);
      rmSync(socketDir, { recursive: true, force: true });
    },
  };
}
