import { defineConfig } from 'vitest/config';

/** The tests of the folder whose code is changed, and no others: what they let pass is what they do not prove. */
export default defineConfig({
  resolve: { conditions: ['norther-source', 'module'] },
  ssr: { resolve: { conditions: ['norther-source', 'node'] } },
  test: {
    setupFiles: ['scripts/testing/seed.ts'],
    include: (process.env['NORTHER_MUTATE_TESTS'] ?? '').split(','),
    exclude: ['**/node_modules/**', ...(process.env['NORTHER_MUTATE_WITHOUT'] ?? '').split(',').filter(Boolean)],
    testTimeout: 60_000,
  },
});
