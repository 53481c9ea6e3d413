import { existsSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Express } from 'express'
import packed from 'express-static-gzip'
import { fill } from '../contract/route.ts'
import { studentSheet } from '../contract/seats.ts'
import { me } from '../contract/session.ts'
import { DAY } from '../core/instant.ts'

/** The header in which answers name the build of the pages, so that a page that is older learns of it. */
export const BUILD_HEADER = 'Haplon-Build'

/** What the build notes of itself beside the pages. */
interface BuildNote {
  name: string
  /** Files that a student's sheet needs beside those of every page. */
  sheet: string[]
}

function noteIn(folder: string): BuildNote | null {
  const note = join(folder, 'build.json')
  return existsSync(note) ? (JSON.parse(readFileSync(note, 'utf8')) as BuildNote) : null
}

/** The name of the built pages in a folder; null where they have none. */
export function buildIn(folder: string): string | null {
  return noteIn(folder)?.name ?? null
}

const BROTLI_FIRST = { enableBrotli: true, orderPreference: ['br', 'gz'], index: false as const }

/**
 * Serves the built pages: hashed files for a year, compressed where the build did that and the browser takes it;
 * every other address the entry page, which is never cached. Where a student's sheet is asked for, the entry page asks
 * for that page's files at once. A file that is not there is a plain 404; source maps and what the build notes for
 * itself are not given out.
 */
export function serveWeb(app: Express, folder: string): void {
  app.use((req, res, next) => {
    if (req.path.endsWith('.map') || req.path === '/build.json') res.sendStatus(404)
    else next()
  })
  app.use(
    '/assets',
    packed(join(folder, 'assets'), { ...BROTLI_FIRST, serveStatic: { immutable: true, maxAge: 365 * DAY } }),
  )
  app.use('/assets', (_req, res) => {
    res.sendStatus(404)
  })
  app.use(packed(folder, BROTLI_FIRST))
  const entry = readFileSync(join(folder, 'index.html'), 'utf8')
  const parts = noteIn(folder)?.sheet ?? []
  app.get(/^\/(?!api\/|assets\/).*/, ({ path }, res) => {
    const sheet = /^\/sheets\/([\w-]+)$/.exec(path)?.[1]
    res.setHeader('Cache-Control', 'no-cache')
    res.type('html').send(sheet ? entry.replace('</head>', `${early(parts, sheet)}</head>`) : entry)
  })
}

/** What a student's sheet will ask for, so that the browser does while the code is on its way. */
function early(parts: readonly string[], sheet: string): string {
  return [
    ...parts.map((file) => `<link rel="modulepreload" crossorigin href="${file}">`),
    ...[me.path, fill(studentSheet.path, { sheet })].map(
      (path) => `<link rel="preload" as="fetch" crossorigin href="${path}">`,
    ),
  ].join('')
}
