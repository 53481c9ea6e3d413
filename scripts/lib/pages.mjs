// What surrounds the built pages: the name of the build, the files of the one before it, and everything compressed.
import { createHash } from 'node:crypto'
import {
  cpSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs'
import { dirname, join, relative } from 'node:path'
import { promisify } from 'node:util'
import { brotliCompress, constants, gzip } from 'node:zlib'
import { root } from './setup.mjs'

const WEB = join(root, 'dist/web')
const BEFORE = join(root, 'dist/before')
const noteIn = (web) => join(web, 'build.json')

/** Files that become smaller. Fonts and pictures are compressed already. */
const PACKED = /\.(js|mjs|css|html|svg|json|webmanifest|wasm|txt)$/
/** Bytes below which compressing is not worth a second file. */
const LEAST = 600

/** Names the build by everything that the pages are made of. */
export function buildName() {
  const hash = createHash('sha256')
  for (const path of [
    ...['src/web', 'src/contract', 'src/core'].flatMap((folder) => filesBelow(join(root, folder))),
    join(root, 'package-lock.json'),
    join(root, 'vite.config.ts'),
  ]) {
    if (!/\.test\.tsx?$/.test(path)) hash.update(relative(root, path)).update(readFileSync(path))
  }
  return hash.digest('hex').slice(0, 12)
}

/** Puts the files of the build that stands aside, so that pages that are open over an upgrade go on working. */
export function keepBefore(name, web = WEB, before = BEFORE) {
  rmSync(before, { recursive: true, force: true })
  if (!existsSync(noteIn(web))) return
  const { name: was, files, kept } = JSON.parse(readFileSync(noteIn(web), 'utf8'))
  // Built again from the same sources, it is still the one before that counts.
  for (const file of was === name ? kept : files) {
    const from = join(web, file)
    if (!existsSync(from)) continue
    mkdirSync(dirname(join(before, file)), { recursive: true })
    cpSync(from, join(before, file))
  }
}

/** Adds the files of the build before, compresses everything, and notes what belongs to this build. */
export async function finish(name, web = WEB, before = BEFORE) {
  const files = assets(web)
  const kept = assets(before).filter((file) => !files.includes(file))
  for (const file of kept) cpSync(join(before, file), join(web, file))
  rmSync(before, { recursive: true, force: true })
  writeFileSync(noteIn(web), JSON.stringify({ name, files, kept, sheet: sheetParts(web) }))
  const packed = filesBelow(web).filter((path) => PACKED.test(path) && statSync(path).size >= LEAST)
  await Promise.all(packed.map(pack))
  const missing = missingOffline(web)
  if (missing.length > 0)
    throw new Error(`The service worker asks for what was not built: ${missing.join(', ')}`)
}

/** Files that the service worker keeps and that are not there: one of them, and it could not be installed at all. */
export function missingOffline(web) {
  const path = join(web, 'sw.js')
  if (!existsSync(path)) return []
  const [, list] = /const FILES = (\[.*\])/.exec(readFileSync(path, 'utf8')) ?? []
  return JSON.parse(list ?? '[]').filter((file) => !existsSync(join(web, file)))
}

/** The files that a student's sheet needs beside those of every page, so that the entry page asks for them at once. */
function sheetParts(web) {
  const folder = join(web, '.vite')
  const parts = JSON.parse(readFileSync(join(folder, 'manifest.json'), 'utf8'))
  rmSync(folder, { recursive: true })
  const reached = (name, found = new Set()) => {
    if (found.has(name)) return found
    found.add(name)
    for (const other of parts[name]?.imports ?? []) reached(other, found)
    return found
  }
  const everywhere = reached('index.html')
  const sheet = Object.keys(parts).find((name) => parts[name].name === 'sheet')
  if (!sheet) throw new Error('The build has no file called “sheet”: see the groups in vite.config.ts.')
  return [...reached(sheet)].filter((name) => !everywhere.has(name)).map((name) => `/${parts[name].file}`)
}

async function pack(path) {
  const bytes = readFileSync(path)
  const [br, gz] = await Promise.all([
    promisify(brotliCompress)(bytes, { params: { [constants.BROTLI_PARAM_QUALITY]: 11 } }),
    promisify(gzip)(bytes, { level: 9 }),
  ])
  writeFileSync(`${path}.br`, br)
  writeFileSync(`${path}.gz`, gz)
}

/** The files of a build with a hash in their name, by their path below it. */
function assets(folder) {
  const below = join(folder, 'assets')
  if (!existsSync(below)) return []
  return filesBelow(below)
    .map((path) => relative(folder, path))
    .filter((file) => !/\.(map|br|gz)$/.test(file))
    .sort()
}

function filesBelow(folder) {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name)
    return entry.isDirectory() ? filesBelow(path) : [path]
  })
}
