import { defineConfig } from 'vitest/config'

/** The tests that hold the core and the engines of the web, for `npm run mutate`: those beside them, and those of plans and wishes but for chances. */
export default defineConfig({
  test: {
    include: ['src/core/**/*.test.ts', 'src/web/data/*.test.ts', 'tests/{plan,wishes}/**/*.test.ts'],
    exclude: ['tests/plan/fair.test.ts'],
    testTimeout: 60_000,
    pool: 'forks',
  },
})
