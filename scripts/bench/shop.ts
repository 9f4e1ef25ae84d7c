import { type ChildProcess, spawn } from 'node:child_process';
import { chmodSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = fileURLToPath(new URL('../..', import.meta.url));

interface Cluster {
  url: string;
  ownerUrl: string;
  stop: () => Promise<void>;
}
export interface BenchShop {
  /** where the interface answers, without a slash at its end */
  origin: string;
  url: string;
  ownerUrl: string;
  /** memory that the serving process holds now, bytes */
  heldBytes: () => number;
}

/** The built server with the demo shop on a throw-away cluster, for as long as `work` takes. */
export async function inDemoShop<T>(work: (shop: BenchShop) => Promise<T>): Promise<T> {
  const path = new URL('../setup/cluster.mjs', import.meta.url).href;
  const { startCluster, ensureDatabase, freePort } = (await import(path)) as {
    startCluster: (f: string, o: object) => Promise<Cluster>;
    ensureDatabase: (c: Cluster) => Promise<void>;
    freePort: () => Promise<number>;
  };
  const folder = mkdtempSync(join(tmpdir(), 'norther-bench-'));
  chmodSync(folder, 0o755);
  const cluster = await startCluster(folder, { throwAway: true });
  let server: ChildProcess | undefined;
  let worker: ChildProcess | undefined;
  try {
    await ensureDatabase(cluster);
    const port = await freePort();
    const run = (file: string) =>
      spawn(process.execPath, [join(root, 'apps/server/dist', file)], {
        env: {
          ...process.env,
          DATABASE_URL: cluster.url,
          DATABASE_OWNER_URL: cluster.ownerUrl,
          PORT: String(port),
          HOST: '127.0.0.1',
          NORTHER_DEMO: 'yes',
          NODE_ENV: 'production',
        },
        stdio: ['ignore', 'ignore', 'inherit'],
      });
    server = run('main.js');
    worker = run('worker.js');
    const origin = `http://127.0.0.1:${port}`;
    for (let i = 0; ; i++) {
      if (i > 300) throw new Error('The server did not start; build first: npx tsc -b');
      try {
        if ((await fetch(`${origin}/api/health`)).ok) break;
      } catch {
        // not listening yet
      }
      await new Promise((r) => setTimeout(r, 200));
    }
    const { pid } = server;
    const heldBytes = () => 1024 * Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1]);
    return await work({ origin, url: cluster.url, ownerUrl: cluster.ownerUrl, heldBytes });
  } finally {
    server?.kill('SIGTERM');
    worker?.kill('SIGTERM');
    await new Promise((r) => setTimeout(r, 500));
    await cluster.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}
