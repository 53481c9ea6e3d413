import { defineConfig } from 'vitest/config'

/** The tests that hold the core, for `npm run mutate`: those beside it, without the long ones of chances. */
export default defineConfig({
  test: {
    include: ['src/core/**/*.test.ts'],
    testTimeout: 60_000,
    pool: 'forks',
  },
})
