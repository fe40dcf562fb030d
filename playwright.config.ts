import { defineConfig } from '@playwright/test';
import { chromiumFlags, chromiumPath } from './scripts/lib/browser.mjs';

const UNTIMED =
  /(accessibility|apps|back|calls|cancel|changes|compare|desk|exact|frames|hostile|itself|labels|lan|keyboard|libraries|noticed|own-bytes|package|pages|panes|phone|replay|secrets|shelf|shell|strip|survives|tag|threads|timeline|trend|waiting|wrapping)\.spec\.ts$/;

/** Tests of `npm run test:engines`: those in other engines, by their titles, and those that wait in real time. */
const LATER = /\b(firefox|webkit)\b|@waits/;

export default defineConfig({
  testDir: 'e2e',
  outputDir: 'test-results/browser',
  workers: 1,
  projects: [
    // Whether something happens, not how long it takes: several of them at a time.
    { name: 'untimed', testMatch: UNTIMED, grepInvert: LATER, fullyParallel: true },
    { name: 'timed', testIgnore: UNTIMED, grepInvert: LATER },
    { name: 'engines', testMatch: UNTIMED, grep: LATER, fullyParallel: true },
    { name: 'engines-timed', testIgnore: UNTIMED, grep: LATER },
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
