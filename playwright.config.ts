import { defineConfig } from '@playwright/test';

/** Files of tests that use the sample shoot, which is there once. */
const onSample = ['access', 'extract', 'path', 'place', 'shoots', 'touches'].map((name) => `${name}.spec.ts`);

export default defineConfig({
  testDir: 'e2e',
  // Its own folder: Playwright empties it.
  outputDir: 'test-results/e2e',
  globalSetup: './e2e/server.ts',
  workers: 2,
  projects: [
    // These work on the sample shoot, some on its settings: one after the other.
    { name: 'sample', testMatch: onSample, workers: 1 },
    { name: 'own', testIgnore: onSample },
  ],
  retries: 0,
  // No test is about speed: a machine that others keep busy takes seven times as long as a free one.
  timeout: 600_000,
  expect: { timeout: 200_000 },
  reporter: [['list'], ['json', { outputFile: 'test-results/e2e.json' }]],
  use: {
    viewport: { width: 1280, height: 800 },
    acceptDownloads: true,
    screenshot: 'only-on-failure',
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-background-networking',
        '--no-first-run',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
});
