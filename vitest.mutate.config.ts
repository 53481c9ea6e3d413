import { defineConfig } from 'vitest/config'

/** The tests that hold the core, for `npm run mutate`: those beside it, and those of plans and wishes but for chances. */
export default defineConfig({
  test: {
    include: ['src/core/**/*.test.ts', 'tests/{plan,wishes}/**/*.test.ts'],
    exclude: ['tests/plan/fair.test.ts'],
    testTimeout: 60_000,
    pool: 'forks',
  },
})
