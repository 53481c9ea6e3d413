import { defineConfig } from 'vitest/config'
import { BaseSequencer, type TestSpecification } from 'vitest/node'

/** Tests that need no server come first: most mutants are found by them, in a fraction of the time. */
class QuickFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const slow = ({ moduleId }: TestSpecification) => Number(moduleId.includes('/tests/http/'))
    return (await super.sort(files)).toSorted((a, b) => slow(a) - slow(b))
  }
}

/**
 * The tests that hold the rooms that decide, for `npm run mutate:rooms`: those beside the rooms and those over HTTP,
 * without random histories, which would be gone through anew for every mutant.
 */
export default defineConfig({
  test: {
    include: ['src/server/**/*.test.ts', 'tests/rooms/**/*.test.ts', 'tests/http/**/*.test.ts'],
    exclude: ['**/*[hH]istory.test.ts', '**/{walk,names,race,start,sample,health,web}.test.ts'],
    testTimeout: 60_000,
    hookTimeout: 60_000,
    pool: 'forks',
    // Files share a process, so that the server is loaded once and not for every file of every mutant.
    isolate: false,
    sequence: { sequencer: QuickFirst },
  },
})
