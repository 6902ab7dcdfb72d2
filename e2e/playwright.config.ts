import { defineConfig } from '@playwright/test';

/** The studio, its database and where both are come from the test command, in the environment. */
export default defineConfig({
  testDir: 'tests',
  workers: 2,
  timeout: 120_000,
  expect: { timeout: 12_000 },
  reporter: [['list'], ['json', { outputFile: 'test-results/report.json' }]],
  outputDir: 'test-results/files',
  use: {
    baseURL: process.env['ZANY_URL'] ?? 'http://localhost:5180',
    viewport: { width: 1280, height: 800 },
    screenshot: 'only-on-failure',
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
});
