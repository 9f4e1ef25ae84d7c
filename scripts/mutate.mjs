#!/usr/bin/env node
// Changes the code of a folder, one small change at a time, and tells how many of the changes its tests notice.
//   npm run mutate -- evaluate             what changed since the last run, and the tests that changed
//   npm run mutate -- evaluate surge       one file of it
//   npm run mutate -- evaluate --left      the changes that nobody noticed, from the last run
//   npm run mutate -- evaluate --static    also the tables that a file makes when it is read: every test runs for each of them
// Results are kept in .mutation/, a file a folder.
import { existsSync, mkdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Stryker } from '@stryker-mutator/core';
import { AT_LEAST, FOLDERS } from './mutation/folders.mjs';
import { root } from './setup/paths.mjs';

const words = process.argv.slice(2);
const [folder, ...names] = words.filter((word) => !word.startsWith('--'));
const set = FOLDERS[folder];
if (!set) {
  console.error(`npm run mutate -- FOLDER, one of: ${Object.keys(FOLDERS).join(', ')}.`);
  process.exit(2);
}
const kept = join(root, '.mutation', `${folder}.json`);
const NOTICED = ['Killed', 'Timeout'];
const COUNTED = [...NOTICED, 'Survived', 'NoCoverage'];

const change = names.length ? names.map((name) => set.change[0].replace(/[^/]*$/, `${name}.ts`)) : set.change;
if (!words.includes('--left')) {
  mkdirSync(join(root, '.mutation'), { recursive: true });
  process.env.NORTHER_DRAWS = 'few';
  process.env.NORTHER_MUTATE_TESTS = set.tests.join(',');
  process.env.NORTHER_MUTATE_WITHOUT = set.without.join(',');
  await new Stryker({
    mutate: [...change, '!**/*.test.ts'],
    testRunner: 'vitest',
    plugins: ['@stryker-mutator/vitest-runner'],
    vitest: { configFile: 'scripts/mutation/vitest.config.ts', related: false },
    mutator: { excludedMutations: ['StringLiteral', 'ObjectLiteral'] },
    coverageAnalysis: 'perTest',
    ignoreStatic: !words.includes('--static'),
    incremental: true,
    incrementalFile: kept,
    force: words.includes('--force'),
    ignorePatterns: ['demo', 'docs', 'data', '.ci', '.mutation', 'dist', 'packages/*/dist'],
    tempDirName: '.mutation/work',
    reporters: ['progress-append-only'],
    concurrency: 2,
    timeoutMS: 8000,
    logLevel: process.env.NORTHER_TELL ? 'debug' : 'warn',
    allowConsoleColors: false,
    // types are checked by npm run types
    disableTypeChecks: false,
    checkers: [],
  }).runMutationTest();
}

if (!existsSync(kept)) {
  console.error(`Nothing kept of ${folder} yet: npm run mutate -- ${folder}`);
  process.exit(2);
}
const { files } = JSON.parse(readFileSync(kept, 'utf8'));
const rows = Object.entries(files)
  .map(([file, { mutants }]) => ({
    file: file.replace('packages/core/src/', ''),
    mutants: mutants.filter((mutant) => COUNTED.includes(mutant.status)),
  }))
  .filter(({ mutants, file }) => mutants.length > 0 && (!names.length || names.some((n) => file.endsWith(`/${n}.ts`))))
  .map((row) => ({ ...row, left: row.mutants.filter((mutant) => !NOTICED.includes(mutant.status)) }))
  .sort((a, b) => b.left.length - a.left.length);
const say = (name, left, of) =>
  console.log(
    `${(100 * (1 - left / of)).toFixed(1).padStart(6)} %  ${String(left).padStart(4)} of ${String(of).padStart(5)} unseen  ${name}`,
  );
if (words.includes('--left'))
  for (const { file, left } of rows)
    for (const { location, mutatorName, replacement, status } of left.sort(
      (a, b) => a.location.start.line - b.location.start.line,
    ))
      console.log(
        `${file}:${location.start.line}:${location.start.column}  ${mutatorName}${status === 'NoCoverage' ? ' (not run)' : ''}  ${String(
          replacement ?? '',
        )
          .replace(/\s+/g, ' ')
          .slice(0, 90)}`,
      );
for (const { file, left, mutants } of rows) say(file, left.length, mutants.length);
const left = rows.reduce((sum, row) => sum + row.left.length, 0);
const of = rows.reduce((sum, row) => sum + row.mutants.length, 0);
say(folder, left, of);
process.exit(100 * (1 - left / of) >= AT_LEAST || words.includes('--left') ? 0 : 1);
