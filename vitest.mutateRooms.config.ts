import { defineConfig } from 'vitest/config'

/**
 * The tests that hold the rooms that decide, for `npm run mutate:rooms`: those over HTTP and beside the rooms, without
 * random histories, which would be gone through anew for every mutant.
 */
export default defineConfig({
  test: {
    include: ['src/server/**/*.test.ts', 'tests/http/**/*.test.ts'],
    exclude: ['**/*[hH]istory.test.ts', '**/{walk,names,race,start,sample,health,web}.test.ts'],
    testTimeout: 60_000,
    hookTimeout: 60_000,
    pool: 'forks',
  },
})
