import { defineConfig } from '@playwright/test'
import { chromiumOptions } from './scripts/lib/chromium.mjs'

const port = 4830

export default defineConfig({
  testDir: 'tests/e2e',
  outputDir: 'test-results',
  timeout: 240_000,
  expect: { timeout: 30_000 },
  workers: 1,
  // A whole check on a shared, noisy machine gives a failed test one more try; `npm test` says which needed it.
  retries: process.env.HAPLON_E2E_JSON ? 1 : 0,
  reporter: process.env.HAPLON_E2E_JSON
    ? [['list'], ['json', { outputFile: process.env.HAPLON_E2E_JSON }]]
    : 'list',
  use: {
    baseURL: `http://127.0.0.1:${port}`,
    viewport: { width: 1280, height: 800 },
    locale: 'en-GB',
    // What is kept for use without a network would stand between a test and the server; one test allows it.
    serviceWorkers: 'block',
    // A trace makes every test a quarter slower; ask for one where a failure has to be looked into.
    trace: process.env.HAPLON_TRACE ? 'retain-on-failure' : 'off',
    launchOptions: chromiumOptions(),
  },
  webServer: {
    command: 'node --enable-source-maps dist/server/demo.js',
    url: `http://127.0.0.1:${port}/healthz`,
    env: { PORT: String(port), HAPLON_DB: 'test-results/e2e.db' },
    reuseExistingServer: false,
    gracefulShutdown: { signal: 'SIGTERM', timeout: 5_000 },
  },
})
