import { join } from 'node:path'
import express, { type Express } from 'express'
import { DAY } from '../core/instant.ts'

/**
 * Serves the built pages: hashed files for a year, every other address the entry page, which is never cached. A file
 * that is not there is a plain 404; source maps are not given out.
 */
export function serveWeb(app: Express, folder: string): void {
  app.use((req, res, next) => {
    if (req.path.endsWith('.map')) res.sendStatus(404)
    else next()
  })
  app.use('/assets', express.static(join(folder, 'assets'), { immutable: true, maxAge: 365 * DAY }))
  app.use('/assets', (_req, res) => {
    res.sendStatus(404)
  })
  app.use(express.static(folder, { index: false }))
  app.get(/^\/(?!api\/|assets\/).*/, (_req, res) => {
    res.setHeader('Cache-Control', 'no-cache')
    res.sendFile(join(folder, 'index.html'))
  })
}
