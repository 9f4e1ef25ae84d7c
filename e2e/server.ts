import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = fileURLToPath(new URL('..', import.meta.url));

interface Cluster {
  url: string;
  ownerUrl: string;
  stop: () => Promise<void>;
}

export interface RunningNorther {
  base: string;
  databaseUrl: string;
  kill: () => Promise<void>;
  start: () => Promise<void>;
  stop: () => Promise<void>;
}

/** The built server, as people run it, on a throw-away cluster. */
export async function runNorther(port: number): Promise<RunningNorther> {
  const path = new URL('../scripts/setup/cluster.mjs', import.meta.url).href;
  const { startCluster, ensureDatabase } = (await import(path)) as {
    startCluster: (f: string, o: object) => Promise<Cluster>;
    ensureDatabase: (c: Cluster) => Promise<void>;
  };
  const folder = mkdtempSync(join(tmpdir(), 'norther-e2e-'));
  const { chmodSync } = await import('node:fs');
  chmodSync(folder, 0o755);
  const cluster = await startCluster(folder, { throwAway: true });
  await ensureDatabase(cluster);
  let child: ChildProcess | undefined;
  const base = `http://127.0.0.1:${port}`;
  const start = async (): Promise<void> => {
    child = spawn(process.execPath, [join(root, 'apps/server/dist/main.js')], {
      env: {
        ...process.env,
        NODE_ENV: 'production',
        DATABASE_URL: cluster.url,
        DATABASE_OWNER_URL: cluster.ownerUrl,
        NORTHER_TESTS: 'yes',
        PORT: String(port),
        HOST: '127.0.0.1',
        NORTHER_DEMO: 'yes',
      },
      stdio: ['ignore', 'ignore', 'inherit'],
    });
    for (let i = 0; i < 300; i++) {
      try {
        if ((await fetch(`${base}/api/health`)).ok) return;
      } catch {
        // not listening yet
      }
      await new Promise((r) => setTimeout(r, 200));
    }
    throw new Error('Norther did not start within a minute.');
  };
  const kill = (): Promise<void> =>
    new Promise((resolve) => {
      if (!child || child.exitCode !== null) return resolve();
      child.once('exit', () => resolve());
      child.kill('SIGKILL');
    });
  await start();
  return {
    base,
    databaseUrl: cluster.ownerUrl,
    kill,
    start,
    stop: async () => {
      await kill();
      await cluster.stop();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
