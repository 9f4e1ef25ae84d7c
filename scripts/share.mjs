#!/usr/bin/env node
// How large a share of the code is tests: lines of *.test, *.spec, e2e and testing folders over all .ts, .tsx, .mjs and .css lines.
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './setup/paths.mjs';

const isTest = (file) => /\.(test|spec)\.tsx?$/.test(file) || file.startsWith('e2e/') || /(^|\/)testing\//.test(file);
const files = execFileSync('git', ['ls-files', '*.ts', '*.tsx', '*.mjs', '*.css'], { cwd: root, encoding: 'utf8' })
  .split('\n')
  .filter(Boolean);
const places = new Map();
for (const file of files) {
  const lines = readFileSync(join(root, file), 'utf8').split('\n').length - 1;
  const place = file.split('/').slice(0, 2).join('/');
  const of = places.get(place) ?? { tests: 0, all: 0 };
  of.all += lines;
  if (isTest(file)) of.tests += lines;
  places.set(place, of);
}
const say = (name, { tests, all }) =>
  process.stdout.write(
    `${((100 * tests) / all).toFixed(1).padStart(5)} %  ${String(tests).padStart(6)} of ${String(all).padStart(6)}  ${name}\n`,
  );
for (const [name, of] of [...places].filter(([, of]) => of.all > 500).sort((a, b) => b[1].all - a[1].all))
  say(name, of);
const total = [...places.values()].reduce((a, b) => ({ tests: a.tests + b.tests, all: a.all + b.all }));
say('all', total);
