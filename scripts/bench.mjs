// Runs a benchmark of the core as it ships: bundled like the server and its workers, so that nothing that only helps in
// development is measured with it. `node scripts/bench.mjs bench/wishes.ts`
import { spawnSync } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { build } from 'esbuild'
import { root } from './lib/setup.mjs'

const [file] = process.argv.slice(2)
if (!file) {
  console.error('Name a benchmark: node scripts/bench.mjs bench/wishes.ts')
  process.exit(2)
}
// Within the checkout, so that packages are found from there.
const folder = mkdtempSync(join(root, 'node_modules', '.bench-'))
try {
  const outfile = join(folder, 'bench.mjs')
  await build({
    entryPoints: [join(root, file)],
    outfile,
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    packages: 'external',
    logLevel: 'warning',
  })
  const { status } = spawnSync(process.execPath, ['--expose-gc', outfile], { stdio: 'inherit', cwd: root })
  process.exitCode = status ?? 1
} finally {
  rmSync(folder, { recursive: true, force: true })
}
