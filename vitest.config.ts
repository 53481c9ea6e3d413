import { defineConfig } from 'vitest/config'

export default defineConfig({
  test: {
    include: [
      'src/**/*.test.ts',
      'tests/http/**/*.test.ts',
      'tests/rooms/**/*.test.ts',
      'tests/crash/**/*.test.ts',
      'tests/files/**/*.test.ts',
      'tests/plan/**/*.test.ts',
      'tests/wishes/**/*.test.ts',
      'tests/fuzz/**/*.test.ts',
      'tests/storm/**/*.test.ts',
      'scripts/**/*.test.mjs',
    ],
    testTimeout: 60_000,
    hookTimeout: 60_000,
    pool: 'forks',
    // Files share a process one after another, so that the server is loaded once and not a hundred times.
    isolate: false,
    // Both processors of a small machine: left to itself the runner keeps one back.
    maxWorkers: 2,
  },
})
