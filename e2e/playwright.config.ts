import { defineConfig } from '@playwright/test';

const ARGS = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  // A page that is opened after another one has what that one has fetched and compiled.
  '--process-per-site',
];

/**
 * Files of tests that open more than one page, or touch, as tests with the tag do in others: they have the browser with windows, as
 * without them a press on a second page once waited without end. All others are done faster without windows.
 */
const SEVERAL = /(comments|held|in-step|pad|people|review|saving|touch)\.spec\.ts$/;
const TAGGED = /@several/;

const by = (executablePath: string) => ({ launchOptions: { executablePath, args: ARGS } });

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
  },
  projects: [
    { name: 'one page', testIgnore: SEVERAL, grepInvert: TAGGED, use: by(process.env['ZANY_BROWSER'] ?? '/usr/bin/chromium') },
    { name: 'several', testMatch: SEVERAL, use: by('/usr/bin/chromium') },
    { name: 'several in others', testIgnore: SEVERAL, grep: TAGGED, use: by('/usr/bin/chromium') },
  ],
});
