import type { RequestHandler } from 'express'
import type { Logger } from 'pino'

/**
 * Logs at level `debug` what was asked: method, path and status; never cookies, bodies or addresses of people. Faults
 * of ours are logged where they are answered, at every level.
 */
export function logRequests(log: Logger): RequestHandler {
  if (!log.isLevelEnabled('debug')) return (_req, _res, next) => next()
  return (req, res, next) => {
    const from = performance.now()
    res.once('finish', () => {
      const ms = Math.round(performance.now() - from)
      log.debug(
        { method: req.method, path: req.originalUrl.split('?')[0], status: res.statusCode, ms },
        'answered',
      )
    })
    next()
  }
}
