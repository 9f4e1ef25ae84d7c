#!/usr/bin/env node
// Everything that CI asks: set-up, format, lint, types, unit, server and browser tests. Ends with "N passed, N failed".
// npm run test:long adds what takes long; npm run test:calendar runs the tests some days on.
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { ensureDebianPackages, ensureNodePackages } from './setup/packages.mjs';
import { root } from './setup/paths.mjs';
import { run } from './setup/run.mjs';
import { say, stopWith } from './setup/say.mjs';

let passed = 0;
let failed = 0;
const results = join(root, 'test-results');
const long = process.argv.includes('--long');
const calendar = process.argv.includes('--calendar');
const slow = [];

const seconds = (since) => ((Date.now() - since) / 1000).toFixed(0);

async function check(name, command, args) {
  const start = Date.now();
  const { code, out } = await run(command, args, { spawn: { cwd: root } });
  if (code === 0) passed += 1;
  else {
    failed += 1;
    process.stdout.write(`${out.slice(-8000)}\n`);
  }
  process.stdout.write(`${code === 0 ? 'ok  ' : 'FAIL'} ${name} (${seconds(start)} s)\n`);
  return code === 0;
}

/** Runs a suite that writes a JSON report and adds its counts; a suite that cannot start counts as one failure. */
async function suite(name, args, file, read, env = {}) {
  const start = Date.now();
  rmSync(file, { force: true });
  const { code, out } = await run('npx', ['--no-install', ...args], {
    spawn: { cwd: root, env: { ...process.env, ...env } },
  });
  let counts;
  try {
    counts = read(JSON.parse(readFileSync(file, 'utf8')));
  } catch {
    counts = { passed: 0, failed: 1, tests: [] };
  }
  if (code !== 0 && counts.failed === 0) counts.failed = 1;
  passed += counts.passed;
  failed += counts.failed;
  slow.push(...counts.tests);
  if (counts.failed > 0) process.stdout.write(`${out.slice(-12000)}\n`);
  process.stdout.write(
    `${counts.failed === 0 ? 'ok  ' : 'FAIL'} ${name}: ${counts.passed} passed, ${counts.failed} failed (${seconds(start)} s)\n`,
  );
}

/** A Vitest project, or several. */
function vitest(name, projects, env) {
  const file = join(results, `${name.replaceAll(/\W+/g, '-')}.json`);
  return suite(
    name,
    [
      'vitest',
      'run',
      ...projects.flatMap((p) => ['--project', p]),
      '--reporter=default',
      '--reporter=json',
      `--outputFile.json=${file}`,
    ],
    file,
    (r) => ({
      passed: r.numPassedTests,
      failed: r.numFailedTests + (r.numFailedTestSuites > 0 && r.numFailedTests === 0 ? 1 : 0),
      tests: r.testResults.flatMap((f) =>
        f.assertionResults.map((t) => ({ ms: t.duration ?? 0, name: `${f.name.slice(root.length + 1)}: ${t.title}` })),
      ),
    }),
    env,
  );
}

function browser(name, env) {
  const file = join(results, 'e2e.json');
  return suite(
    name,
    ['playwright', 'test'],
    file,
    (r) => ({
      passed: r.stats.expected,
      failed: r.stats.unexpected + r.stats.flaky,
      tests: specsOf(r).map((s) => ({ ms: s.tests[0]?.results[0]?.duration ?? 0, name: `${s.file}: ${s.title}` })),
    }),
    env,
  );
}
const specsOf = (suiteOrReport) => [...(suiteOrReport.specs ?? []), ...(suiteOrReport.suites ?? []).flatMap(specsOf)];

/** Days from today to the last day of the year, and to the first of the next. */
function daysToNewYear() {
  const now = new Date();
  const end = Date.UTC(now.getUTCFullYear(), 11, 31);
  const days = Math.round((end - Date.UTC(now.getUTCFullYear(), now.getUTCMonth(), now.getUTCDate())) / 86_400_000);
  return [days, days + 1];
}

const begun = Date.now();
try {
  await ensureNodePackages();
  if (!existsSync('/usr/lib/postgresql')) await ensureDebianPackages(['postgresql'], 'The server tests');
  if (!existsSync(process.env.CHROMIUM ?? '/usr/bin/chromium'))
    await ensureDebianPackages(['chromium'], 'The browser tests');
  mkdirSync(results, { recursive: true });
  if (calendar) {
    await check('types and build', 'npx', ['--no-install', 'tsc', '-b']);
    await check('web build', 'npm', ['run', 'build', '-w', 'apps/web', '--silent']);
    for (const days of [40, 400, ...daysToNewYear()]) {
      const env = { NORTHER_CLOCK_DAYS: String(days), NORTHER_TESTS: 'yes' };
      await vitest(`core and server tests, ${days} days on`, ['core', 'server'], env);
      await browser(`browser tests, ${days} days on`, env);
    }
  } else {
    // two chains beside each other: what only reads, and what builds and computes
    let built = false;
    await Promise.all([
      (async () => {
        await check('format', 'npx', ['--no-install', 'prettier', '--check', '.']);
        await check('lint', 'npx', ['--no-install', 'eslint', '.']);
        // no file imports itself round a corner, types included
        const entries = [
          'packages/core/src/index.ts',
          'packages/contracts/src/index.ts',
          'apps/server/src/main.ts',
          'apps/web/src/main.tsx',
        ];
        await check('no import circles', 'npx', [
          '--no-install',
          'dpdm',
          '--no-tree',
          '--no-warning',
          '-T',
          'false',
          '--exit-code',
          'circular:1',
          ...entries,
        ]);
      })(),
      (async () => {
        const types = await check('types and build', 'npx', ['--no-install', 'tsc', '-b']);
        built = types && (await check('web build', 'npm', ['run', 'build', '-w', 'apps/web', '--silent']));
        await check('types of tests', 'npx', ['--no-install', 'tsc', '-p', 'tsconfig.tests.json']);
      })(),
    ]);
    const env = long ? { NORTHER_LONG: 'yes' } : {};
    await vitest('core tests', ['core'], env);
    await vitest('server tests', ['server'], env);
    await vitest('tests of whole Northers, started and killed', ['processes'], env);
    await vitest('server tests that need the machine', ['alone'], env);
    if (built) await browser('browser tests', env);
    else {
      failed += 1;
      say('the browser tests were not run: nothing was built.');
    }
  }
  process.stdout.write('slowest tests:\n');
  for (const t of slow.sort((a, b) => b.ms - a.ms).slice(0, 10))
    process.stdout.write(`  ${(t.ms / 1000).toFixed(1)} s  ${t.name}\n`);
} catch (error) {
  failed += 1;
  stopWith(error);
}
process.stdout.write(`whole run: ${seconds(begun)} s\n`);
process.stdout.write(`${passed} passed, ${failed} failed\n`);
process.exitCode = failed === 0 && passed > 0 ? 0 : 1;
