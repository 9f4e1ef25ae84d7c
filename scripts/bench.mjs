#!/usr/bin/env node
// Benchmarks as ratios within one run; the ratio passes or fails, the times say what is meant.
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { ensureNodePackages } from './setup/packages.mjs';
import { root } from './setup/paths.mjs';
import { stopWith } from './setup/say.mjs';

try {
  await ensureNodePackages();
  const result = spawnSync(
    process.execPath,
    [
      '--conditions=norther-source',
      '--import',
      'tsx',
      join(root, 'scripts', 'bench', 'all.ts'),
      ...process.argv.slice(2),
    ],
    { stdio: 'inherit', cwd: root },
  );
  process.exitCode = result.status ?? 1;
} catch (error) {
  stopWith(error);
}
