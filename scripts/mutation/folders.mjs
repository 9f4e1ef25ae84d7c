// Folders whose tests are measured, the files of them that judge or count, and the tests that are to notice.
const core = 'packages/core/src';
const all = (folder) => ({ change: [`${core}/${folder}/**/*.ts`], tests: [`${core}/${folder}/**/*.test.ts`] });
const some = (folder, files) => ({
  change: files.map((file) => `${core}/${folder}/${file}.ts`),
  tests: [`${core}/${folder}/**/*.test.ts`],
});

export const AT_LEAST = 80;

export const FOLDERS = {
  evaluate: all('evaluate'),
  limits: all('limits'),
  process: all('process'),
  balance: all('balance'),
  machine: all('machine'),
  insulation: all('insulation'),
  network: some('network', ['check', 'explain', 'findings', 'linkCheck', 'mistakes', 'naming', 'equality']),
  checks: some('winding', ['checks', '*Checks']),
  layout: some('winding', ['layout', 'connection', 'coilList', 'mixedLayers', 'barWave', 'toothPath']),
  redesign: some('redesign', ['judge']),
};
