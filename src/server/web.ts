import { existsSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { brotliCompressSync, gzipSync } from 'node:zlib'
import type { RequestHandler, Router } from 'express'
import sirv from 'sirv'
import { fill } from '../contract/route.ts'
import { studentSheet } from '../contract/seats.ts'
import { me } from '../contract/session.ts'
import { DAY, SECOND } from '../core/instant.ts'

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

const PACKED = { gzip: true, brotli: true, extensions: [] }

/**
 * Serves the built pages: hashed files for a year, compressed where the build did that and the browser takes it;
 * every other address the entry page, which is never cached. Where a student's sheet is asked for, the entry page asks
 * for that page's files and answers at once. A file that is not there is a plain 404; source maps and what the build
 * notes for itself are not given out. The folder is looked through once, when the server starts.
 */
export function serveWeb(pages: Router, folder: string): void {
  pages.use((req, res, next) => {
    if (req.path.endsWith('.map') || req.path === '/build.json') res.sendStatus(404)
    else next()
  })
  const assets = join(folder, 'assets')
  if (existsSync(assets)) pages.use('/assets', sirv(assets, { ...PACKED, immutable: true, maxAge: YEAR }))
  pages.use('/assets', (_req, res) => {
    res.sendStatus(404)
  })
  const html = readFileSync(join(folder, 'index.html'), 'utf8')
  const page = entry(html)
  const parts = (noteIn(folder)?.sheet ?? []).map(
    (file) => `<link rel="modulepreload" crossorigin href="${file}">`,
  )
  const sheetPage = entry(html.replace('</head>', `${parts.join('')}</head>`))
  // A sheet's address first: it is what hundreds open at once.
  pages.get(/^\/sheets\/([\w-]+)$/, (req, res, next) => {
    const answers = [me.path, fill(studentSheet.path, { sheet: req.params[0] ?? '' })]
    res.setHeader(
      'Link',
      answers.map((path) => `<${path}>; rel=preload; as=fetch; crossorigin`),
    )
    return sheetPage(req, res, next)
  })
  pages.use(
    sirv(folder, { ...PACKED, etag: true, setHeaders: (res) => res.setHeader('Cache-Control', 'no-cache') }),
  )
  pages.get(/^\/(?!api\/|assets\/).*/, page)
}

const YEAR = (365 * DAY) / SECOND

/** Answers with a page that is the same for everybody, compressed once. */
function entry(html: string): RequestHandler {
  const forms = { br: brotliCompressSync(html), gzip: gzipSync(html) }
  return (req, res) => {
    res.setHeader('Cache-Control', 'no-cache')
    res.setHeader('Vary', 'Accept-Encoding')
    res.type('html')
    const form = req.acceptsEncodings('br', 'gzip') as keyof typeof forms | 'identity' | false
    if (!form || form === 'identity') return void res.send(html)
    res.setHeader('Content-Encoding', form)
    res.send(forms[form])
  }
}
