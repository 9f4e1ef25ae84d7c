import { type ChildProcess, spawn } from 'node:child_process';
import { createServer, request, type Server } from 'node:http';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

const dist = fileURLToPath(new URL('../../dist', import.meta.url));

export interface Running {
  child: ChildProcess;
  /** killed, not asked */
  kill: () => Promise<void>;
  end: () => Promise<void>;
}

/** A process of the built server: `main.js` or `worker.js`. */
export function runBuilt(file: 'main.js' | 'worker.js', env: Record<string, string>): Running {
  const child = spawn(process.execPath, [join(dist, file)], {
    env: { ...process.env, NODE_ENV: 'production', NORTHER_TESTS: 'yes', HOST: '127.0.0.1', ...env },
    stdio: ['ignore', 'ignore', process.env['NORTHER_TELL'] ? 'inherit' : 'ignore'],
  });
  const stop = (signal: NodeJS.Signals) =>
    new Promise<void>((resolve) => {
      if (child.exitCode !== null || child.signalCode !== null) return resolve();
      child.once('exit', () => resolve());
      child.kill(signal);
    });
  return { child, kill: () => stop('SIGKILL'), end: () => stop('SIGTERM') };
}

/** Waits until a server of its own answers. */
export async function answering(base: string): Promise<void> {
  for (let i = 0; i < 1500; i++) {
    try {
      if ((await fetch(`${base}/api/health`)).ok) return;
    } catch {
      // not listening yet
    }
    await new Promise((r) => setTimeout(r, 100));
  }
  throw new Error('the server does not answer');
}

/** A plain proxy: every request to the next server in turn; one that does not answer gives 502. */
export function plainProxy(ports: readonly number[]): Promise<{ base: string; server: Server }> {
  let turn = 0;
  const server = createServer((incoming, outgoing) => {
    const port = ports[turn++ % ports.length];
    const onward = request(
      { host: '127.0.0.1', port, path: incoming.url, method: incoming.method, headers: incoming.headers },
      (answer) => {
        outgoing.writeHead(answer.statusCode ?? 502, answer.headers);
        answer.pipe(outgoing);
      },
    );
    onward.on('error', () => {
      if (!outgoing.headersSent) outgoing.writeHead(502);
      outgoing.end();
    });
    incoming.pipe(onward);
  });
  return new Promise((resolve) =>
    server.listen(0, '127.0.0.1', () => {
      const address = server.address() as { port: number };
      resolve({ base: `http://127.0.0.1:${address.port}`, server });
    }),
  );
}
