import { createHash, randomBytes } from 'node:crypto'
import type { CookieOptions, Request, Response } from 'express'
import { DAY, HOUR, msOf, shift } from '../../core/instant.ts'
import type { Clock } from '../clock.ts'
import type { Person, RosterStore } from '../roster/store.ts'
import type { AccessStore } from './store.ts'

/** Days without a request after which a session ends. */
export const IDLE_DAYS = 14
/** Days after which a session ends whatever happens. */
export const SESSION_DAYS = 90
const COOKIE = 'haplon_session'

export type Sessions = ReturnType<typeof createSessions>

/** Who is signed in, by a cookie whose token is kept hashed. */
export function createSessions(
  access: AccessStore,
  roster: RosterStore,
  clock: Clock,
  secureCookie: boolean,
) {
  const cookie: CookieOptions = { httpOnly: true, sameSite: 'lax', secure: secureCookie, path: '/' }
  const tokenOf = (req: Request): string | null => {
    const token: unknown = req.cookies?.[COOKIE]
    return typeof token === 'string' && token !== '' ? token : null
  }
  return {
    /** The person whose session the request carries, or null. Notes at most hourly that the session was used. */
    personOf(req: Request): Person | null {
      const token = tokenOf(req)
      const session = token === null ? undefined : access.session(hashOf(token))
      if (!session) return null
      const now = clock()
      if (session.last_seen_at < shift(now, -IDLE_DAYS * DAY)) return null
      if (session.created_at < shift(now, -SESSION_DAYS * DAY)) return null
      if (msOf(now) - msOf(session.last_seen_at) > HOUR) access.seen(session.id, now)
      return roster.personById(session.person_id) ?? null
    },
    /** The session that the request carries, by its hash; null without one. */
    of(req: Request): string | null {
      const token = tokenOf(req)
      return token === null ? null : hashOf(token)
    },
    /** Starts a session for a person and hands its token to the browser. */
    begin(res: Response, personId: number): void {
      const token = randomBytes(32).toString('base64url')
      access.addSession(hashOf(token), personId, clock())
      res.cookie(COOKIE, token, { ...cookie, maxAge: SESSION_DAYS * DAY })
    },
    /** Ends the session that the request carries; gives it by its hash. */
    end(req: Request, res: Response): string | null {
      const token = tokenOf(req)
      if (token !== null) access.endSession(hashOf(token))
      res.clearCookie(COOKIE, cookie)
      return token === null ? null : hashOf(token)
    },
  }
}

function hashOf(token: string): string {
  return createHash('sha256').update(token).digest('hex')
}
