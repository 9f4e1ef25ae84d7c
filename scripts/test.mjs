#!/usr/bin/env node
// Everything that CI asks: set-up, format, lint, types, unit, server and browser tests. Ends with "N passed, N failed".
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { ensureDebianPackages, ensureNodePackages } from './setup/packages.mjs';
import { root } from './setup/paths.mjs';
import { run } from './setup/run.mjs';
import { say, stopWith } from './setup/say.mjs';

let passed = 0;
let failed = 0;
const results = join(root, 'test-results');

async function check(name, command, args) {
  const start = Date.now();
  const { code, out } = await run(command, args, { spawn: { cwd: root } });
  const seconds = ((Date.now() - start) / 1000).toFixed(0);
  if (code === 0) passed += 1;
  else {
    failed += 1;
    process.stdout.write(`${out.slice(-8000)}\n`);
  }
  process.stdout.write(`${code === 0 ? 'ok  ' : 'FAIL'} ${name} (${seconds} s)\n`);
  return code === 0;
}

/** Runs a suite that writes a JSON report and adds its counts; a suite that cannot start counts as one failure. */
async function suite(name, command, args, file, read) {
  const start = Date.now();
  rmSync(file, { force: true });
  const { code, out } = await run(command, args, { spawn: { cwd: root } });
  const seconds = ((Date.now() - start) / 1000).toFixed(0);
  let counts;
  try {
    counts = read(JSON.parse(readFileSync(file, 'utf8')));
  } catch {
    counts = { passed: 0, failed: 1 };
  }
  if (code !== 0 && counts.failed === 0) counts.failed = 1;
  passed += counts.passed;
  failed += counts.failed;
  if (counts.failed > 0) process.stdout.write(`${out.slice(-12000)}\n`);
  process.stdout.write(
    `${counts.failed === 0 ? 'ok  ' : 'FAIL'} ${name}: ${counts.passed} passed, ${counts.failed} failed (${seconds} s)\n`,
  );
}

try {
  await ensureNodePackages();
  if (!existsSync('/usr/lib/postgresql')) await ensureDebianPackages(['postgresql'], 'The server tests');
  if (!existsSync(process.env.CHROMIUM ?? '/usr/bin/chromium'))
    await ensureDebianPackages(['chromium'], 'The browser tests');
  mkdirSync(results, { recursive: true });
  await check('format', 'npx', ['--no-install', 'prettier', '--check', '.']);
  await check('lint', 'npx', ['--no-install', 'eslint', '.']);
  const types = await check('types and build', 'npx', ['--no-install', 'tsc', '-b']);
  await check('types of tests', 'npx', ['--no-install', 'tsc', '-p', 'tsconfig.tests.json']);
  const vitest = join(results, 'vitest.json');
  await suite(
    'unit and server tests',
    'npx',
    ['--no-install', 'vitest', 'run', '--reporter=default', '--reporter=json', `--outputFile.json=${vitest}`],
    vitest,
    (r) => ({
      passed: r.numPassedTests,
      failed: r.numFailedTests + (r.numFailedTestSuites > 0 && r.numFailedTests === 0 ? 1 : 0),
    }),
  );
  const built = types && (await check('web build', 'npm', ['run', 'build', '-w', 'apps/web', '--silent']));
  const e2e = join(results, 'e2e.json');
  if (built)
    await suite('browser tests', 'npx', ['--no-install', 'playwright', 'test'], e2e, (r) => ({
      passed: r.stats.expected,
      failed: r.stats.unexpected + r.stats.flaky,
    }));
  else {
    failed += 1;
    say('the browser tests were not run: nothing was built.');
  }
} catch (error) {
  failed += 1;
  stopWith(error);
}
process.stdout.write(`${passed} passed, ${failed} failed\n`);
process.exitCode = failed === 0 && passed > 0 ? 0 : 1;
