import { defineConfig } from '@playwright/test';
import { chromiumFlags, chromiumPath } from './scripts/lib/browser.mjs';

const UNTIMED =
  /(accessibility|apps|back|calls|cancel|changes|compare|desk|exact|frames|hostile|labels|lan|libraries|noticed|own-bytes|package|pages|phone|replay|secrets|shelf|shell|survives|tag|threads|timeline|waiting|wrapping)\.spec\.ts$/;

export default defineConfig({
  testDir: 'e2e',
  outputDir: 'test-results/browser',
  workers: 1,
  projects: [
    // Whether something happens, not how long it takes: several of them at a time.
    { name: 'untimed', testMatch: UNTIMED, fullyParallel: true },
    { name: 'timed', testIgnore: UNTIMED },
  ],
  timeout: 120_000,
  expect: { timeout: 20_000 },
  retries: process.env['CI'] ? 2 : 0,
  reporter: [
    ['list'],
    ['json', { outputFile: process.env['BROWSER_RESULTS'] ?? 'test-results/playwright.json' }],
  ],
  use: {
    browserName: 'chromium',
    viewport: { width: 1280, height: 800 },
    launchOptions: { executablePath: chromiumPath, args: chromiumFlags },
  },
});
