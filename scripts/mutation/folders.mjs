// Folders whose tests are measured, the files of them that judge or count, and the tests that are to notice.
const core = 'packages/core/src';
const tests = (folder, without = []) => ({
  tests: [`${core}/${folder}/**/*.test.ts`],
  // rates over hundreds of cases: too slow to run for each change, and a rate notices little
  without: without.map((name) => `${core}/${folder}/${name}.test.ts`),
});
const all = (folder, without) => ({ change: [`${core}/${folder}/**/*.ts`], ...tests(folder, without) });
const some = (folder, files, without) => ({
  change: files.map((file) => `${core}/${folder}/${file}.ts`),
  ...tests(folder, without),
});

export const AT_LEAST = 80;

export const FOLDERS = {
  evaluate: all('evaluate'),
  surge: {
    ...all('surge', ['manyWindings']),
    tests: [`${core}/surge/**/*.test.ts`, `${core}/evaluate/surge*.test.ts`],
  },
  diagnose: {
    ...all('diagnose'),
    tests: [`${core}/diagnose/**/*.test.ts`, `${core}/evaluate/surge*.test.ts`, `${core}/bench/analyser.test.ts`],
  },
  load: all('load'),
  assemble: all('assemble'),
  limits: all('limits'),
  process: all('process'),
  balance: all('balance'),
  machine: all('machine'),
  insulation: all('insulation'),
  network: some(
    'network',
    [
      'check',
      'explain',
      'dictionary',
      'findings',
      'linkCheck',
      'mistakes',
      'naming',
      'equality',
      'solve',
      'solvedNetwork',
    ],
    ['planted'],
  ),
  checks: {
    ...some('winding', ['checks', '*Checks']),
    tests: ['*Checks', 'checks', 'endTurn', 'formCoil', 'coilList', 'mixedLayers'].map(
      (name) => `${core}/winding/${name}.test.ts`,
    ),
  },
  layout: {
    ...some('winding', ['layout', 'connection']),
    tests: ['layout', 'layoutCases', 'connection', 'coilList', 'mixedLayers', 'barWave', 'toothPath'].map(
      (name) => `${core}/winding/${name}.test.ts`,
    ),
  },
  redesign: { ...some('redesign', ['judge']), tests: [`${core}/redesign/judge.test.ts`] },
};
