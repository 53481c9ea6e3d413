// Builds the pages into dist/web and the servers (real and demo) into dist/server.
import { cpSync } from 'node:fs'
import { join } from 'node:path'
import { buildName, finish, keepBefore } from './lib/pages.mjs'
import { bin, ensureDependencies, root, run, say } from './lib/setup.mjs'

export async function build() {
  await ensureDependencies()
  say('Building.')
  const name = buildName()
  keepBefore(name)
  process.env.HAPLON_BUILD = name
  const pages = await run(bin('vite'), ['build', '--logLevel', 'warn'])
  if (pages !== 0) return pages
  const { describeApi } = await import('./lib/describeApi.mjs')
  await describeApi(join(root, 'dist/web/openapi.json'))
  await finish(name)
  const { build: bundle } = await import('esbuild')
  await bundle({
    entryPoints: {
      main: join(root, 'src/server/main.ts'),
      demo: join(root, 'src/demo/main.ts'),
      'planner.worker': join(root, 'src/server/plans/planner.worker.ts'),
      'pdf.worker': join(root, 'src/server/remarks/pdf/pdf.worker.ts'),
      'rehearsal.worker': join(root, 'src/server/rehearsals/rehearsal.worker.ts'),
    },
    outdir: join(root, 'dist/server'),
    bundle: true,
    platform: 'node',
    target: 'node20',
    format: 'esm',
    packages: 'external',
    sourcemap: true,
    logLevel: 'warning',
  })
  cpSync(join(root, 'src/server/db/migrations'), join(root, 'dist/server/migrations'), { recursive: true })
  return 0
}

if (process.argv[1] === join(root, 'scripts/build.mjs')) process.exit(await build())
