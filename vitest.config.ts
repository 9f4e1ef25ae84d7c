import { defineConfig } from 'vitest/config';

const conditions = ['norther-source'];

const inServer = (names: string[]): string[] => names.map((name) => `apps/server/src/${name}.test.ts`);
const PROCESSES = inServer(['many', 'start', 'database/database']);
const ALONE = inServer(['storm', 'setup']);

export default defineConfig({
  resolve: { conditions: [...conditions, 'module'] },
  ssr: { resolve: { conditions: [...conditions, 'node'] } },
  oxc: { decorator: { legacy: true, emitDecoratorMetadata: true } },
  test: {
    maxWorkers: 2,
    projects: [
      {
        extends: true,
        test: {
          name: 'core',
          setupFiles: ['scripts/testing/seed.ts'],
          include: ['packages/*/src/**/*.test.ts', 'apps/web/src/**/*.test.ts'],
          // property tests over hundreds of windings: slow machines under load need their time
          testTimeout: process.env['NORTHER_LONG'] === 'yes' ? 1_200_000 : 60_000,
        },
      },
      {
        extends: true,
        test: {
          name: 'server',
          include: ['apps/server/src/**/*.test.ts'],
          exclude: [...PROCESSES, ...ALONE],
          globalSetup: ['apps/server/src/testing/cluster.ts'],
          testTimeout: 60_000,
          hookTimeout: 120_000,
          // every file makes a server and a database of its own; the modules they are made of are read once a worker
          isolate: false,
        },
      },
      {
        extends: true,
        test: {
          // what kills and starts whole Northers: beside each other, for they wait more than they work
          name: 'processes',
          include: PROCESSES,
          globalSetup: ['apps/server/src/testing/cluster.ts'],
          testTimeout: 60_000,
          hookTimeout: 120_000,
        },
      },
      {
        extends: true,
        test: {
          // what measures time under load has the machine to itself
          name: 'alone',
          include: ALONE,
          globalSetup: ['apps/server/src/testing/cluster.ts'],
          testTimeout: 60_000,
          hookTimeout: 120_000,
          fileParallelism: false,
        },
      },
    ],
  },
});
