// Writes what programs can do beside the built pages, where the page that shows it and programs themselves read it.
import { mkdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { pathToFileURL } from 'node:url'
import { answersOfContract, contractFiles } from './answerTypes.mjs'
import { openApi } from './openapi.mjs'
import { root } from './setup.mjs'

/** Describes the API from the sources of the contract. */
export async function describedApi() {
  const { build } = await import('esbuild')
  const files = contractFiles()
  const bundled = join(root, 'node_modules/.cache/haplon/contract.mjs')
  mkdirSync(join(root, 'node_modules/.cache/haplon'), { recursive: true })
  await build({
    stdin: {
      contents: files.map((name) => `export * as ${name} from './src/contract/${name}.ts'`).join('\n'),
      resolveDir: root,
    },
    outfile: bundled,
    bundle: true,
    platform: 'node',
    format: 'esm',
    packages: 'external',
    logLevel: 'warning',
  })
  const modules = { ...(await import(`${pathToFileURL(bundled)}?${Date.now()}`)) }
  return openApi({
    modules,
    answers: await answersOfContract(),
    problems: modules.problems.PROBLEMS,
    forPrograms: modules.route.forPrograms,
  })
}

/** Writes the description of the API to a file. */
export async function describeApi(file) {
  writeFileSync(file, `${JSON.stringify(await describedApi())}\n`)
}
