import { existsSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Express } from 'express'
import packed from 'express-static-gzip'
import { DAY } from '../core/instant.ts'

/** The header in which answers name the build of the pages, so that a page that is older learns of it. */
export const BUILD_HEADER = 'Haplon-Build'

/** The name of the built pages in a folder; null where they have none. */
export function buildIn(folder: string): string | null {
  const note = join(folder, 'build.json')
  if (!existsSync(note)) return null
  return (JSON.parse(readFileSync(note, 'utf8')) as { name: string }).name
}

const BROTLI_FIRST = { enableBrotli: true, orderPreference: ['br', 'gz'], index: false as const }

/**
 * Serves the built pages: hashed files for a year, compressed where the build did that and the browser takes it;
 * every other address the entry page, which is never cached. A file that is not there is a plain 404; source maps and
 * what the build notes for itself are not given out.
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
  app.get(/^\/(?!api\/|assets\/).*/, (_req, res) => {
    res.setHeader('Cache-Control', 'no-cache')
    res.sendFile(join(folder, 'index.html'))
  })
}
