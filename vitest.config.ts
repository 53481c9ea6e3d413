import { defineConfig } from 'vitest/config'

export default defineConfig({
  test: {
    include: ['src/**/*.test.ts', 'src/**/*.test.tsx', 'tests/http/**/*.test.ts'],
    testTimeout: 30_000,
    pool: 'forks',
  },
})
