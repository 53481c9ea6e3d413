import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { brotliDecompressSync, gunzipSync } from 'node:zlib'
import { afterEach, beforeEach, expect, it } from 'vitest'
import { finish, keepBefore, missingOffline } from './lib/pages.mjs'

let folder
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'haplon-pages-'))
})
afterEach(() => rmSync(folder, { recursive: true, force: true }))

const web = () => join(folder, 'web')
const there = (file) => existsSync(join(web(), 'assets', file))

/** Builds pages of certain files, as the bundler leaves them: the folder emptied, a manifest beside. */
async function build(name, ...files) {
  keepBefore(name, web(), join(folder, 'before'))
  rmSync(web(), { recursive: true, force: true })
  for (const part of ['assets', '.vite']) mkdirSync(join(web(), part), { recursive: true })
  for (const file of files) writeFileSync(join(web(), 'assets', file), `// ${file}\n`.repeat(200))
  const manifest = {
    'index.html': { file: 'i.js', imports: ['_f'] },
    _f: { file: 'f.js' },
    _s: { file: 's.js', name: 'sheet', imports: ['_f'] },
  }
  writeFileSync(join(web(), '.vite/manifest.json'), JSON.stringify(manifest))
  await finish(name, web(), join(folder, 'before'))
}

it('a build keeps the files of the one before, and no older ones', async () => {
  await build('one', 'a1.js', 'same.js')
  await build('two', 'a2.js', 'same.js')
  expect(['a1.js', 'a2.js', 'same.js'].map(there)).toEqual([true, true, true])
  // Built again from the same sources, it is still the one before that counts.
  await build('two', 'a2.js', 'same.js')
  expect(there('a1.js')).toBe(true)
  await build('three', 'a3.js')
  expect(['a1.js', 'a2.js', 'a3.js'].map(there)).toEqual([false, true, true])
})

it('what gets smaller lies there compressed as well, kept files too, and the note names the build', async () => {
  await build('one', 'a1.js')
  await build('two', 'a2.js')
  for (const file of ['a1.js', 'a2.js']) {
    const read = (more) => readFileSync(join(web(), 'assets', `${file}${more}`))
    expect(brotliDecompressSync(read('.br'))).toEqual(read(''))
    expect(gunzipSync(read('.gz'))).toEqual(read(''))
  }
  expect(JSON.parse(readFileSync(join(web(), 'build.json'), 'utf8'))).toMatchObject({
    name: 'two',
    files: ['assets/a2.js'],
    kept: ['assets/a1.js'],
    sheet: ['/s.js'],
  })
  expect(existsSync(join(web(), '.vite'))).toBe(false)
})

it('a service worker that asks for a file that is not there is no build', async () => {
  await build('one', 'a1.js')
  const offline = (...files) =>
    writeFileSync(join(web(), 'sw.js'), `const FILES = ${JSON.stringify(files)}\nconst CACHE = 1\n`)
  offline('/assets/a1.js')
  expect(missingOffline(web())).toEqual([])
  offline('/assets/a1.js', '/assets/gone.js')
  expect(missingOffline(web())).toEqual(['/assets/gone.js'])
})
