import { defineConfig } from '@playwright/test'
import { chromiumOptions } from './scripts/lib/chromium.mjs'

/** Tests run two files at a time, each against a server and a sample of its own. */
const WORKERS = 2
const portOf = (worker: number) => 4830 + 10 * worker

export default defineConfig({
  testDir: 'tests/e2e',
  outputDir: 'test-results',
  timeout: 240_000,
  expect: { timeout: 30_000 },
  workers: WORKERS,
  // A whole check on a shared, noisy machine gives a failed test one more try; `npm test` says which needed it.
  retries: process.env.HAPLON_E2E_JSON ? 1 : 0,
  reporter: process.env.HAPLON_E2E_JSON
    ? [['list'], ['json', { outputFile: process.env.HAPLON_E2E_JSON }]]
    : 'list',
  use: {
    // Read anew by each worker, which is told which one it is.
    baseURL: `http://127.0.0.1:${portOf(Number(process.env.TEST_PARALLEL_INDEX ?? 0))}`,
    viewport: { width: 1280, height: 800 },
    locale: 'en-GB',
    // What is kept for use without a network would stand between a test and the server; one test allows it.
    serviceWorkers: 'block',
    // A trace makes every test a quarter slower; ask for one where a failure has to be looked into.
    trace: process.env.HAPLON_TRACE ? 'retain-on-failure' : 'off',
    launchOptions: chromiumOptions(),
  },
  webServer: Array.from({ length: WORKERS }, (_, worker) => ({
    command: 'node --enable-source-maps dist/server/demo.js',
    url: `http://127.0.0.1:${portOf(worker)}/healthz`,
    env: { PORT: String(portOf(worker)), HAPLON_DB: `test-results/e2e-${worker}.db` },
    reuseExistingServer: false,
    gracefulShutdown: { signal: 'SIGTERM', timeout: 5_000 } as const,
  })),
})
