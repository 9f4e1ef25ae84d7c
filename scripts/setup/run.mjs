import { spawn } from 'node:child_process';

/** Runs a command to its end; resolves with its exit code and what it printed. `input` goes to its standard input. */
export function run(command, args, options = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, {
      stdio: options.show ? 'inherit' : [options.input === undefined ? 'ignore' : 'pipe', 'pipe', 'pipe'],
      ...options.spawn,
    });
    let out = '';
    child.stdout?.on('data', (d) => (out += d));
    child.stderr?.on('data', (d) => (out += d));
    child.stdin?.on('error', () => undefined);
    if (options.input !== undefined) child.stdin?.end(options.input);
    child.on('error', reject);
    child.on('close', (code) => resolve({ code: code ?? 1, out }));
  });
}

/** Whether a command can be found on the PATH. */
export async function onPath(name) {
  return (await run('sh', ['-c', `command -v ${name}`])).code === 0;
}
