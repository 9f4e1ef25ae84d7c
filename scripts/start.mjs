#!/usr/bin/env node
// One command from a fresh Debian machine to a running shop: packages, build, database, migration, demo, server.
import { spawn } from 'node:child_process';
import { createHash, randomBytes } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { DEMO_PROGRAMS, demoKeyFile } from './instruments/demoPrograms.mjs';
import { checkedUrl } from './setup/checkedUrl.mjs';
import { ensureNodePackages } from './setup/packages.mjs';
import { dataFolder, root } from './setup/paths.mjs';
import { run } from './setup/run.mjs';
import { say, SetupError, stopWith } from './setup/say.mjs';

const args = process.argv.slice(2);
const host = process.env.HOST || '127.0.0.1';
const port = Number(process.env.PORT || 4310);
let cluster;
let alive;
let user;
let server;
let worker;
let instruments;
let stopping = false;

/** Fingerprint of every source file, so that a second start builds only what has changed. */
function sourceStamp() {
  const hash = createHash('sha256');
  const walk = (folder) => {
    for (const entry of readdirSync(folder, { withFileTypes: true }).sort((a, b) => a.name.localeCompare(b.name))) {
      if (entry.name === 'node_modules' || entry.name === 'dist') continue;
      const path = join(folder, entry.name);
      if (entry.isDirectory()) walk(path);
      else {
        const { size, mtimeMs } = statSync(path);
        hash.update(`${path}:${size}:${mtimeMs};`);
      }
    }
  };
  for (const folder of ['packages', 'apps']) walk(join(root, folder));
  hash.update(readFileSync(join(root, 'package-lock.json')));
  return hash.digest('hex');
}

export async function build() {
  const stampFile = join(root, 'apps', 'server', 'dist', '.norther-built');
  const stamp = sourceStamp();
  if (
    existsSync(stampFile) &&
    readFileSync(stampFile, 'utf8') === stamp &&
    existsSync(join(root, 'apps/web/dist/index.html'))
  )
    return;
  say('building (about half a minute) …');
  const tsc = await run('npx', ['--no-install', 'tsc', '-b', 'apps/server'], { spawn: { cwd: root } });
  if (tsc.code !== 0) throw new SetupError(`The server could not be built.\n${tsc.out.slice(-3000)}`);
  const vite = await run('npx', ['--no-install', 'vite', 'build', '--logLevel', 'warn'], {
    // whatever the shell it is started from says: a development build is half as large again and slower
    spawn: { cwd: join(root, 'apps', 'web'), env: { ...process.env, NODE_ENV: 'production' } },
  });
  if (vite.code !== 0) throw new SetupError(`The interface could not be built.\n${vite.out.slice(-3000)}`);
  writeFileSync(stampFile, stamp);
}

function portIsFree() {
  return new Promise((resolve) => {
    const probe = createServer();
    probe.once('error', () => resolve(false));
    probe.listen(port, host, () => probe.close(() => resolve(true)));
  });
}

/** Ends a process of ours and waits for it. */
async function ended(child) {
  if (!child || child.exitCode !== null || child.signalCode !== null) return;
  child.kill('SIGTERM');
  await new Promise((r) => {
    const late = setTimeout(() => child.kill('SIGKILL'), 8000);
    child.once('exit', () => {
      clearTimeout(late);
      r();
    });
  });
}

/** The keys of the demo's simulated instruments, kept in the data folder for its owner. */
function demoKeys() {
  const keyOf = (file) => {
    if (!existsSync(file)) writeFileSync(file, `ni_${randomBytes(24).toString('base64url')}`, { mode: 0o600 });
    return readFileSync(file, 'utf8').trim();
  };
  return Object.fromEntries(DEMO_PROGRAMS.map((p) => [p, keyOf(join(dataFolder, demoKeyFile(p)))]));
}

/** The simulated instruments of the demo shop; where it has none any more they end by themselves. */
function startInstruments(env) {
  instruments = spawn(process.execPath, [join(root, 'scripts/instruments.mjs'), ...DEMO_PROGRAMS, '--behind'], {
    stdio: 'ignore',
    env: { ...env, NORTHER_SERVER: `http://127.0.0.1:${port}` },
  });
}

/** The worker beside the server; one that ends is started again, its work waits meanwhile. */
function startWorker(env) {
  worker = spawn(process.execPath, [join(root, 'apps/server/dist/worker.js')], { stdio: 'inherit', env });
  worker.once('exit', () => {
    if (!stopping) setTimeout(() => stopping || startWorker(env), 2000);
  });
}

async function stop(code) {
  if (stopping) return;
  stopping = true;
  await Promise.all([ended(server), ended(worker), ended(instruments)]);
  // another start on the same data folder goes on with the database; the last one to leave stops it
  if (!user || user.leave()) await cluster?.stop();
  process.exit(code);
}

/** A database that crashes is started again where it was, so that the server finds it; it recovers by itself. */
function keepUp(startCluster) {
  let starting = false;
  setInterval(() => {
    if (stopping || starting || !server || alive(cluster.pid)) return;
    starting = true;
    say('the database went away; it is started again …');
    startCluster(dataFolder, { port: cluster.port })
      .then((again) => (cluster = again))
      .catch((error) => {
        stopWith(error);
        return stop(1);
      })
      .finally(() => (starting = false));
  }, 1000).unref();
}

process.on('SIGINT', () => void stop(0));
process.on('SIGTERM', () => void stop(0));
process.on('SIGHUP', () => void stop(0));
// a killed npm (or terminal) takes nothing down with it by itself: notice that the parent is gone
const parent = process.ppid;
setInterval(() => {
  if (process.ppid !== parent) void stop(0);
}, 500).unref();

try {
  if (!Number.isInteger(port) || port < 1 || port > 65535)
    throw new SetupError(`PORT must be a number from 1 to 65535, not "${process.env.PORT}".`);
  if (process.env.DATABASE_URL) checkedUrl('DATABASE_URL');
  if (process.env.DATABASE_OWNER_URL) checkedUrl('DATABASE_OWNER_URL');
  await ensureNodePackages();
  if (!(await portIsFree()))
    throw new SetupError(`Port ${port} on ${host} is in use. Choose another: PORT=${port + 1} npm start`);
  await build();
  const clusters = await import('./setup/cluster.mjs');
  alive = clusters.alive;
  const database = {};
  if (!process.env.DATABASE_URL) {
    const { startCluster, ensureDatabase, ensureFolder } = clusters;
    const { useFolder } = await import('./setup/users.mjs');
    ensureFolder(dataFolder);
    user = useFolder(dataFolder);
    if (user.others().length > 0) say('another Norther runs on this data folder; both use its database.');
    cluster = await startCluster(dataFolder);
    keepUp(startCluster);
    await ensureDatabase(cluster);
    database.DATABASE_URL = cluster.url;
    database.DATABASE_OWNER_URL = cluster.ownerUrl;
  } else {
    database.DATABASE_URL = checkedUrl('DATABASE_URL');
    if (process.env.DATABASE_OWNER_URL) database.DATABASE_OWNER_URL = checkedUrl('DATABASE_OWNER_URL');
    say('using the database of DATABASE_URL; no cluster is touched.');
  }
  if (!stopping) {
    const env = {
      ...process.env,
      NODE_ENV: 'production',
      NORTHER_STARTED: 'yes',
      // of its own database Norther keeps backups; of another's where NORTHER_BACKUPS says so
      ...(cluster
        ? { NORTHER_BACKUPS: join(dataFolder, 'backups'), NORTHER_INSTRUMENT_KEYS: JSON.stringify(demoKeys()) }
        : {}),
      ...database,
      HOST: host,
      PORT: String(port),
      NORTHER_DEMO: args.includes('--empty') ? 'no' : 'yes',
    };
    server = spawn(process.execPath, [join(root, 'apps/server/dist/main.js')], { stdio: 'inherit', env });
    startWorker(env);
    if (cluster && !args.includes('--empty')) startInstruments(env);
    server.once('exit', (code, signal) => {
      if (!stopping && signal)
        say(`the server was ended by ${signal}; everything is stopped. Start again with npm start.`);
      void stop(code ?? 1);
    });
  }
} catch (error) {
  stopWith(error);
  await stop(1);
}
