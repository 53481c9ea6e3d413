import { defineConfig } from 'vitest/config'

export default defineConfig({
  test: {
    include: [
      'src/**/*.test.ts',
      'tests/http/**/*.test.ts',
      'tests/crash/**/*.test.ts',
      'tests/plan/**/*.test.ts',
      'scripts/**/*.test.mjs',
    ],
    testTimeout: 60_000,
    pool: 'forks',
  },
})
