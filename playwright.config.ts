import { defineConfig } from '@playwright/test';
import { chromiumFlags, chromiumPath } from './scripts/lib/browser.mjs';

export default defineConfig({
  testDir: 'e2e',
  outputDir: 'test-results/browser',
  workers: 1,
  timeout: 60_000,
  expect: { timeout: 10_000 },
  retries: process.env['CI'] ? 1 : 0,
  reporter: [['list'], ['json', { outputFile: 'test-results/playwright.json' }]],
  use: {
    browserName: 'chromium',
    viewport: { width: 1280, height: 800 },
    launchOptions: { executablePath: chromiumPath, args: chromiumFlags },
  },
});
