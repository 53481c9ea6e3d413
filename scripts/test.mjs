// Everything that has to hold: types, lint, units, end-to-end. Ends with `N passed, N failed` and its real result.
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { build } from './build.mjs'
import { bin, ensureChromium, ensureDependencies, root, run, say } from './lib/setup.mjs'

const results = join(root, 'test-results')
const tally = { passed: 0, failed: 0 }

/** Counts a step that passes or fails as one. */
async function check(name, work) {
  say(`\n== ${name}`)
  const code = await work()
  tally[code === 0 ? 'passed' : 'failed'] += 1
  if (code !== 0) say(`${name}: failed`)
  return code === 0
}

/** Counts a runner's tests from the report it writes; a runner that writes none counts as one failure. */
async function suite(name, report, work, read) {
  say(`\n== ${name}`)
  rmSync(report, { force: true })
  const code = await work()
  const counted = existsSync(report)
    ? read(JSON.parse(readFileSync(report, 'utf8')))
    : { passed: 0, failed: 0 }
  tally.passed += counted.passed
  tally.failed += counted.failed
  if (code !== 0 && counted.failed === 0) {
    say(`${name}: ended with ${code} without naming a failed test`)
    tally.failed += 1
  }
  if (code === 0 && counted.passed === 0) {
    say(`${name}: ran no test`)
    tally.failed += 1
  }
}

await ensureDependencies()
mkdirSync(results, { recursive: true })
for (const part of ['core', 'server', 'web', 'e2e']) {
  await check(`types of ${part}`, () => run(bin('tsc'), ['-p', `tsconfig.${part}.json`]))
}
await check('lint and format', () => run(bin('biome'), ['check', '--error-on-warnings', '.']))
await check('imports run the allowed way', () => run(process.execPath, ['scripts/check-imports.mjs']))

const units = join(results, 'units.json')
await suite(
  'units',
  units,
  () => run(bin('vitest'), ['run', '--reporter=default', '--reporter=json', `--outputFile.json=${units}`]),
  ({ numPassedTests, numFailedTests, numFailedTestSuites }) => ({
    passed: numPassedTests,
    failed: Math.max(numFailedTests, numFailedTestSuites > 0 ? 1 : 0),
  }),
)

const chromium = ensureChromium()
const built = chromium !== null && (await check('build', build))
if (built) {
  const report = join(results, 'e2e.json')
  await suite(
    'end-to-end',
    report,
    () =>
      run(bin('playwright'), ['test'], {
        env: { ...process.env, CHROMIUM: chromium, HAPLON_E2E_JSON: report },
      }),
    ({ stats }) => {
      if (stats.flaky > 0) say(`${stats.flaky} passed only at the second try: see "flaky" above`)
      return { passed: stats.expected + stats.flaky, failed: stats.unexpected }
    },
  )
} else {
  say('end-to-end: not run')
  tally.failed += 1
}

say(`\n${tally.passed} passed, ${tally.failed} failed`)
process.exit(tally.failed === 0 ? 0 : 1)
