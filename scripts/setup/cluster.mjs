import { spawn } from 'node:child_process';
import { chownSync, existsSync, mkdirSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { createServer, connect as netConnect } from 'node:net';
import { dirname, join } from 'node:path';
import { ensureDebianPackages } from './packages.mjs';
import { run } from './run.mjs';
import { say, SetupError } from './say.mjs';

/** Folder with initdb and postgres, newest version first; undefined when PostgreSQL is not installed. */
function findPostgres() {
  const base = '/usr/lib/postgresql';
  if (!existsSync(base)) return undefined;
  const versions = readdirSync(base)
    .filter((v) => existsSync(join(base, v, 'bin', 'initdb')))
    .sort((a, b) => Number(b) - Number(a));
  return versions[0] ? join(base, versions[0], 'bin') : undefined;
}

/** A loopback port that nobody listens on. */
export function freePort() {
  return new Promise((resolve, reject) => {
    const server = createServer();
    server.on('error', reject);
    server.listen(0, '127.0.0.1', () => {
      const { port } = server.address();
      server.close(() => resolve(port));
    });
  });
}

/** As root the database runs as Debian's postgres user, otherwise as whoever starts it. */
async function databaseUser() {
  if (process.getuid?.() !== 0) return undefined;
  const uid = await run('id', ['-u', 'postgres']);
  const gid = await run('id', ['-g', 'postgres']);
  if (uid.code !== 0)
    throw new SetupError(
      'The user "postgres" is missing; it comes with Debian\'s package postgresql. Reinstall that package.',
    );
  return { uid: Number(uid.out.trim()), gid: Number(gid.out.trim()) };
}

async function canEnter(folder, user) {
  if (!user) return true;
  const test = await run('sh', ['-c', 'test -x "$1"', 'sh', folder], {
    spawn: { uid: user.uid, gid: user.gid, cwd: '/' },
  });
  return test.code === 0;
}

function alive(pid) {
  try {
    process.kill(pid, 0);
    return true;
  } catch {
    return false;
  }
}

function answers(port) {
  return new Promise((resolve) => {
    const socket = netConnect({ host: '127.0.0.1', port, timeout: 500 });
    const done = (yes) => {
      socket.destroy();
      resolve(yes);
    };
    socket.on('connect', () => done(true));
    socket.on('error', () => done(false));
    socket.on('timeout', () => done(false));
  });
}

/**
 * Creates (if needed) and starts a PostgreSQL cluster in `folder`, on loopback and a free port. A cluster left running by
 * a killed process is taken over. `stop()` ends it.
 */
export async function startCluster(folder, options = {}) {
  let bin = findPostgres();
  if (!bin) {
    await ensureDebianPackages(['postgresql'], "Norther's database");
    bin = findPostgres();
    if (!bin)
      throw new SetupError(
        "PostgreSQL was installed but its programs are not below /usr/lib/postgresql. Install Debian's package postgresql.",
      );
  }
  const user = await databaseUser();
  const cluster = join(folder, 'postgres');
  mkdirSync(folder, { recursive: true });
  mkdirSync(cluster, { recursive: true, mode: 0o700 });
  if (user) chownSync(cluster, user.uid, user.gid);
  let parent = dirname(cluster);
  while (parent !== '/') {
    if (!(await canEnter(parent, user))) {
      throw new SetupError(
        `The database user "postgres" cannot enter ${parent} (its permissions shut others out). Choose another data folder: NORTHER_DATA=/var/lib/norther npm start`,
      );
    }
    parent = dirname(parent);
  }
  const as = {
    cwd: '/',
    ...(user ? { uid: user.uid, gid: user.gid } : {}),
    env: { PATH: process.env.PATH, LANG: 'C.UTF-8', LC_ALL: 'C.UTF-8' },
  };
  if (!existsSync(join(cluster, 'PG_VERSION'))) {
    say('creating the database cluster …');
    const made = await run(
      join(bin, 'initdb'),
      [
        '-D',
        cluster,
        '-U',
        'norther',
        '-A',
        'trust',
        '-E',
        'UTF8',
        '--no-locale',
        '--no-instructions',
        ...(options.throwAway ? ['-N'] : []),
      ],
      { spawn: as },
    );
    if (made.code !== 0)
      throw new SetupError(`The database cluster could not be created in ${cluster}.\n${made.out.slice(-1500)}`);
  } else {
    const version = readFileSync(join(cluster, 'PG_VERSION'), 'utf8').trim();
    if (!bin.includes(`/${version}/`)) {
      const own = join('/usr/lib/postgresql', version, 'bin');
      if (!existsSync(own))
        throw new SetupError(
          `The data in ${cluster} were made by PostgreSQL ${version}, which is not installed. Install postgresql-${version}, or choose another data folder with NORTHER_DATA.`,
        );
      bin = own;
    }
  }
  const pidFile = join(cluster, 'postmaster.pid');
  if (existsSync(pidFile)) {
    const lines = readFileSync(pidFile, 'utf8').split('\n');
    const pid = Number(lines[0]);
    const port = Number(lines[3]);
    if (alive(pid) && (await answers(port))) {
      say(`taking over the database left running by an earlier start (process ${pid}).`);
      return made(port, pid, undefined);
    }
    if (!alive(pid)) rmSync(pidFile, { force: true });
  }
  const port = await freePort();
  const settings = [
    'listen_addresses=127.0.0.1',
    'unix_socket_directories=',
    `port=${port}`,
    'max_connections=100',
    'shared_buffers=128MB',
    'log_min_messages=fatal',
  ];
  if (options.throwAway) settings.push('fsync=off', 'synchronous_commit=off', 'full_page_writes=off');
  const child = spawn(join(bin, 'postgres'), ['-D', cluster, ...settings.flatMap((s) => ['-c', s])], {
    ...as,
    stdio: ['ignore', 'ignore', 'pipe'],
    detached: true,
  });
  let errors = '';
  child.stderr.on('data', (d) => (errors = (errors + d).slice(-2000)));
  for (let i = 0; i < 200; i++) {
    if (child.exitCode !== null) throw new SetupError(`The database did not start.\n${errors}`);
    if (await answers(port)) return made(port, child.pid, child);
    await new Promise((r) => setTimeout(r, 50));
  }
  throw new SetupError(`The database did not answer within 10 seconds.\n${errors}`);

  function made(listening, pid, started) {
    started?.unref();
    started?.stderr?.unref?.();
    return {
      port: listening,
      url: `postgres://norther@127.0.0.1:${listening}/norther`,
      adminUrl: `postgres://norther@127.0.0.1:${listening}/postgres`,
      /** Fast shutdown: open sessions are ended, data are written. */
      async stop() {
        if (!alive(pid)) return;
        process.kill(pid, 'SIGINT');
        for (let i = 0; i < 200 && alive(pid); i++) await new Promise((r) => setTimeout(r, 50));
        if (alive(pid)) process.kill(pid, 'SIGQUIT');
      },
    };
  }
}

/** Makes sure that a database of that name exists in the cluster. */
export async function ensureDatabase(cluster, name = 'norther') {
  const { default: pg } = await import('pg');
  const client = new pg.Client({ connectionString: cluster.adminUrl });
  for (let i = 0; ; i++) {
    try {
      await client.connect();
      break;
    } catch (error) {
      if (i > 100 || !/starting up/.test(String(error))) throw error;
      await new Promise((r) => setTimeout(r, 100));
    }
  }
  try {
    const found = await client.query('select 1 from pg_database where datname = $1', [name]);
    if (found.rowCount === 0) await client.query(`create database "${name}"`);
  } finally {
    await client.end();
  }
}
