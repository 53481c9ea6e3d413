import { randomBytes } from 'node:crypto'
import type { CookieOptions, Request, Response } from 'express'
import { DAY, HOUR, type Instant, msOf } from '../../core/instant.ts'
import type { Clock } from '../clock.ts'
import { hashOf, newCode } from '../codes.ts'
import type { Person, RosterStore } from '../roster/store.ts'
import type { Askers } from './asker.ts'
import { deviceWords } from './device.ts'
import type { AccessStore, Session } from './store.ts'

/** Days without a request after which a session ends. */
export const IDLE_DAYS = 14
/** Days after which a session ends whatever happens. */
export const SESSION_DAYS = 90

export type Sessions = ReturnType<typeof createSessions>

/** Who is signed in, by a cookie whose token is kept hashed. */
export function createSessions(
  access: AccessStore,
  roster: RosterStore,
  askers: Askers,
  clock: Clock,
  secureCookie: boolean,
) {
  // Under this name a browser takes a cookie from this very host alone, for all of it, and over TLS (RFC 6265bis).
  const name = secureCookie ? '__Host-haplon_session' : 'haplon_session'
  const cookie: CookieOptions = { httpOnly: true, sameSite: 'lax', secure: secureCookie, path: '/' }
  const tokenOf = (req: Request): string | null => {
    const token: unknown = req.cookies?.[name]
    return typeof token === 'string' && token !== '' ? token : null
  }
  /** The session that the request carries, if it is not over. */
  const current = (req: Request, now = clock()): Session | null => {
    const token = tokenOf(req)
    const session = token === null ? undefined : access.session(hashOf(token))
    if (!session || since(session.last_seen_at, now) > IDLE_DAYS * DAY) return null
    return since(session.created_at, now) > SESSION_DAYS * DAY ? null : session
  }
  return {
    current,
    /** The person whose session the request carries, or null. Notes at most hourly that the session was used. */
    personOf(req: Request, now = clock()): Person | null {
      const session = current(req, now)
      if (!session) return null
      if (since(session.last_seen_at, now) > HOUR) access.seen(session.id, now)
      return roster.personById(session.person_id) ?? null
    },
    /** The session that the request carries, by its hash; null without one. */
    of(req: Request): string | null {
      const token = tokenOf(req)
      return token === null ? null : hashOf(token)
    },
    /**
     * Starts a session for a person and hands its token to the browser. One that the browser had before is
     * over, and given by its hash.
     */
    begin(req: Request, res: Response, personId: number): string | null {
      const before = tokenOf(req)
      if (before !== null) access.endSession(hashOf(before))
      const token = randomBytes(32).toString('base64url')
      const device = deviceWords(req.get('user-agent') ?? '')
      const asker = askers.of(req).browser ?? ''
      access.addSession(hashOf(token), personId, clock(), { code: newCode(), device, asker })
      res.cookie(name, token, { ...cookie, maxAge: SESSION_DAYS * DAY })
      return before === null ? null : hashOf(before)
    },
    /** Ends the session that the request carries; gives it by its hash. */
    end(req: Request, res: Response): string | null {
      const token = tokenOf(req)
      if (token !== null) access.endSession(hashOf(token))
      res.clearCookie(name, cookie)
      return token === null ? null : hashOf(token)
    },
  }
}

/** Milliseconds from one instant to another. */
function since(before: Instant, now: Instant): number {
  return msOf(now) - msOf(before)
}
