import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: 'e2e/tests',
  timeout: 360_000,
  expect: { timeout: 30_000 },
  // two workers, each with a server and a database of its own (e2e/norther.ts)
  workers: 2,
  retries: 0,
  reporter: [['line'], ['json', { outputFile: 'test-results/e2e.json' }]],
  outputDir: 'test-results/e2e',
  globalSetup: './e2e/globalSetup.ts',
  use: {
    actionTimeout: 30_000,
    viewport: { width: 1280, height: 800 },
    launchOptions: {
      executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium',
      args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-dev-shm-usage'],
    },
    trace: 'off',
    screenshot: 'only-on-failure',
  },
});
