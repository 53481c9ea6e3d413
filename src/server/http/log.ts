import type { RequestHandler } from 'express'
import type { Logger } from 'pino'
import { calendar } from '../../contract/calendar.ts'

/** Where calendars are read: what follows is private. */
const CALENDAR = calendar.path.split(':')[0] ?? calendar.path

/**
 * Logs at level `debug` what was asked: method, path and status; never cookies, bodies, addresses of people, or the
 * private address of a calendar; nothing at other levels. Faults of ours are logged where they are answered, at every
 * level.
 */
export function logRequests(log: Logger): RequestHandler[] {
  if (!log.isLevelEnabled('debug')) return []
  const noted: RequestHandler = (req, res, next) => {
    const from = performance.now()
    res.once('finish', () => {
      const ms = Math.round(performance.now() - from)
      log.debug(
        { method: req.method, path: withoutSecrets(req.originalUrl), status: res.statusCode, ms },
        'answered',
      )
    })
    next()
  }
  return [noted]
}

/** A path whose private part is left out: whoever reads logs follows nobody's calendar. */
function withoutSecrets(url: string): string {
  const path = url.split('?')[0] ?? ''
  return path.startsWith(CALENDAR) ? `${CALENDAR}…` : path
}
