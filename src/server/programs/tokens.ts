import { randomBytes } from 'node:crypto'
import type { Request } from 'express'
import { HOUR, msOf } from '../../core/instant.ts'
import type { Clock } from '../clock.ts'
import { hashOf } from '../codes.ts'
import { ProblemError } from '../http/problem.ts'
import type { ProgramStore, ProgramTokenRow } from './store.ts'

/** What tokens begin with, so that one that was left lying about is known for what it is. */
const BEGINS = 'haplon_'

export type Programs = ReturnType<typeof createPrograms>

/** Which program asks, by the token that it shows (`Authorization: Bearer …`, RFC 6750). */
export function createPrograms(store: ProgramStore, clock: Clock) {
  return {
    /**
     * The token that a request carries; null where it carries none. Notes at most hourly that it was used.
     * @throws ProblemError where it is not known, or was ended
     */
    of(req: Request): ProgramTokenRow | null {
      const header = req.get('authorization')
      if (header === undefined) return null
      const [, token] = /^Bearer +([\w.~+/-]+=*) *$/i.exec(header) ?? []
      const row = token === undefined ? undefined : store.byHash(hashOf(token))
      if (!row) {
        const detail = 'The token is not known, or was ended. Make a new one on the course’s page.'
        throw new ProblemError('not-signed-in', detail)
      }
      const now = clock()
      if (row.used_at === null || msOf(now) - msOf(row.used_at) > HOUR) store.used(row.id, now)
      return row
    },
  }
}

/** Makes a token (192 random bits), with the hash under which it is kept. */
export function newToken(): { token: string; hash: string } {
  const token = BEGINS + randomBytes(24).toString('base64url')
  return { token, hash: hashOf(token) }
}
