import { join } from 'node:path'
import express, { type Express } from 'express'
import { DAY } from '../core/instant.ts'

/** Serves the built pages: hashed files for a year, every other address the entry page, which is never cached. */
export function serveWeb(app: Express, folder: string): void {
  app.use(
    '/assets',
    express.static(join(folder, 'assets'), { immutable: true, maxAge: 365 * DAY, fallthrough: false }),
  )
  app.use(express.static(folder, { index: false }))
  app.get(/^\/(?!api\/|assets\/).*/, (_req, res) => {
    res.setHeader('Cache-Control', 'no-cache')
    res.sendFile(join(folder, 'index.html'))
  })
}
