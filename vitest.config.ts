import { defineConfig } from 'vitest/config';

const conditions = ['norther-source'];

export default defineConfig({
  resolve: { conditions: [...conditions, 'module'] },
  ssr: { resolve: { conditions: [...conditions, 'node'] } },
  oxc: { decorator: { legacy: true, emitDecoratorMetadata: true } },
  test: {
    projects: [
      {
        extends: true,
        test: {
          name: 'core',
          setupFiles: ['scripts/testing/seed.ts'],
          include: ['packages/*/src/**/*.test.ts', 'apps/web/src/**/*.test.ts'],
          // property tests over hundreds of windings: slow machines under load need their time
          testTimeout: 60_000,
        },
      },
      {
        extends: true,
        test: {
          name: 'server',
          include: ['apps/server/src/**/*.test.ts'],
          globalSetup: ['apps/server/src/testing/cluster.ts'],
          testTimeout: 30_000,
          hookTimeout: 60_000,
          fileParallelism: false,
        },
      },
    ],
  },
});
