import { type ChildProcess, spawn, spawnSync } from 'node:child_process';
import { chmodSync, mkdtempSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = fileURLToPath(new URL('../../../..', import.meta.url));

/** `npm start` on a data folder of its own, and what one wants to know of it. */
export function startKit(prefix: string) {
  const folder = mkdtempSync(join(tmpdir(), prefix));
  chmodSync(folder, 0o755);
  return {
    folder,
    /** Processes whose command line names the data folder. */
    left: (): string[] =>
      spawnSync('ps', ['-eo', 'pid,args'], { encoding: 'utf8' })
        .stdout.split('\n')
        .filter((l) => l.includes(folder)),
    start(
      port: number,
      args: string[] = [],
      env: Record<string, string> = {},
    ): { child: ChildProcess; said: () => string } {
      const child = spawn(process.execPath, [join(root, 'scripts/start.mjs'), ...args], {
        cwd: root,
        env: {
          ...process.env,
          DATABASE_URL: '',
          DATABASE_OWNER_URL: '',
          PORT: String(port),
          NORTHER_DATA: folder,
          ...env,
        },
      });
      let out = '';
      child.stdout.on('data', (d) => (out += String(d)));
      child.stderr.on('data', (d) => (out += String(d)));
      return { child, said: () => out };
    },
    freePort: (): Promise<number> =>
      new Promise((resolve) => {
        const server = createServer();
        server.listen(0, '127.0.0.1', () => {
          const address = server.address();
          server.close(() => resolve(typeof address === 'object' && address ? address.port : 0));
        });
      }),
    /** How long it took until Norther answered. */
    async answers(port: number): Promise<number> {
      const from = Date.now();
      while (Date.now() - from < 150_000) {
        if (await healthy(port)) return Date.now() - from;
        await new Promise((r) => setTimeout(r, 100));
      }
      throw new Error('Norther did not answer.');
    },
    /** Waits until nothing answers any more. */
    async silent(port: number): Promise<void> {
      for (let i = 0; i < 100; i++) {
        if (!(await healthy(port))) return;
        await new Promise((r) => setTimeout(r, 100));
      }
      throw new Error('Norther still answers.');
    },
    /** Waits until nobody listens any more. */
    async gone(port: number): Promise<void> {
      for (let i = 0; i < 100; i++) {
        try {
          await fetch(`http://127.0.0.1:${port}/api/health`);
        } catch {
          return;
        }
        await new Promise((r) => setTimeout(r, 100));
      }
      throw new Error('Somebody still listens.');
    },
    ended: (child: ChildProcess): Promise<number | null> =>
      new Promise((resolve) =>
        child.exitCode !== null ? resolve(child.exitCode) : child.once('exit', (code) => resolve(code)),
      ),
  };
}

async function healthy(port: number): Promise<boolean> {
  try {
    return (await fetch(`http://127.0.0.1:${port}/api/ready`)).ok;
  } catch {
    return false;
  }
}
