import { createHash } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './paths.mjs';
import { onPath, run } from './run.mjs';
import { say, SetupError } from './say.mjs';

const stamp = join(root, 'node_modules', '.norther-lock');

/** Installs the npm packages from the lock file when they are missing or the lock file has changed. */
export async function ensureNodePackages() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19)) {
    throw new SetupError(`Node.js 20.19 or newer is needed; this is ${process.versions.node}.`);
  }
  const lock = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return;
  say('installing the npm packages from the lock file (about a minute) …');
  const { code, out } = await run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], {
    spawn: { cwd: root },
  });
  if (code !== 0)
    throw new SetupError(
      `The npm packages could not be installed. Check the network, then try again.\n${out.slice(-2000)}`,
    );
  writeFileSync(stamp, lock);
}

/** Installs Debian packages that are missing; as root, or with sudo. */
export async function ensureDebianPackages(names, why) {
  if (!(await onPath('apt-get'))) {
    throw new SetupError(
      `${why} needs ${names.join(' and ')}. This is not a Debian machine with apt-get: install ${names.join(' and ')} and start again.`,
    );
  }
  const asRoot = process.getuid?.() === 0;
  const sudo = !asRoot && (await onPath('sudo')) && (await run('sudo', ['-n', 'true'])).code === 0;
  if (!asRoot && !sudo) {
    throw new SetupError(
      `${why} needs the package ${names.join(' and ')}. Ask an administrator for: apt-get install ${names.join(' ')}`,
    );
  }
  say(`installing ${names.join(', ')} from Debian's packages …`);
  const apt = async (...args) => {
    const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
    return asRoot
      ? run('apt-get', args, { spawn: { env } })
      : run('sudo', ['-n', 'env', 'DEBIAN_FRONTEND=noninteractive', 'apt-get', ...args], {});
  };
  await apt('update', '-q');
  const { code, out } = await apt('install', '-y', '-q', '--no-install-recommends', ...names);
  if (code !== 0)
    throw new SetupError(
      `apt-get could not install ${names.join(', ')}. Check the network and the package sources.\n${out.slice(-1500)}`,
    );
}
