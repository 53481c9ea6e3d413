import { createHash, randomBytes, randomInt, timingSafeEqual } from 'node:crypto'
import { type Instant, MINUTE, shift } from '../../core/instant.ts'
import type { Clock } from '../clock.ts'
import type { Db } from '../db/open.ts'
import type { Mailer } from '../mail/mailer.ts'
import type { Person, RosterStore } from '../roster/store.ts'
import { CODES_PER_QUARTER, createAsks } from './asks.ts'
import type { AccessStore } from './store.ts'

/** Minutes for which a one-time code can be used. */
export const CODE_MINUTES = 10
const TRIES = 5

export type SignIn = ReturnType<typeof createSignIn>

/** Signing in by a code sent to an address on a roster. */
export function createSignIn(
  db: Db,
  access: AccessStore,
  roster: RosterStore,
  mailer: Mailer,
  clock: Clock,
  mayAddCourses: (email: string) => boolean,
) {
  const asks = createAsks()
  /** The person behind an address that may sign in, or null. Listed course adders need no roster. */
  const known = (email: string): Person | null => {
    if (mayAddCourses(email)) return roster.ensurePerson(email, clock())
    const person = roster.personByEmail(email)
    if (!person) return null
    return roster.enrolmentsOfPerson(person.id).some(({ status }) => status !== 'left') ? person : null
  }
  return {
    /**
     * Sends a code, if the address is known. Tells nothing of whether it is.
     * @returns when the next can be sent, where too many were asked for; null otherwise
     */
    sendCode(email: string): Instant | null {
      const person = known(email)
      const now = clock()
      const nextAt = asks.note(email, now)
      if (nextAt !== null || !person) return nextAt
      if (access.codesSince(person.id, shift(now, -15 * MINUTE)) >= CODES_PER_QUARTER) return null
      const code = String(randomInt(1_000_000)).padStart(6, '0')
      const endsAt = shift(now, CODE_MINUTES * MINUTE)
      db.transaction(() => {
        access.addCode(person.id, hashCode(code), now, endsAt, TRIES)
        mailer.send({
          to: email,
          subject: `${code} is your code for Haplon`,
          text: [
            `Your code is ${code}. Type it where you signed in; it works for ${CODE_MINUTES} minutes, once.`,
            'If you did not ask for it, ignore this mail: without the code nobody gets in.',
          ].join('\n\n'),
          endsAt,
        })
      }).immediate()
      return null
    },
    /**
     * The person whom address and code let in, or null. Wrong code, no code left, too late and unknown address
     * all end alike, so that an answer tells nothing about who is on a roster.
     */
    redeem(email: string, code: string): Person | null {
      const person = known(email)
      const sent = person ? access.newestCode(person.id) : undefined
      if (!person || !sent || sent.used_at !== null) return null
      if (sent.tries_left === 0 || sent.expires_at <= clock()) return null
      if (!fits(code, sent.code_hash)) {
        access.spendTry(sent.id)
        return null
      }
      access.markUsed(sent.id, clock())
      return person
    },
  }
}

function hashCode(code: string, salt = randomBytes(12).toString('base64url')): string {
  return `${salt}:${createHash('sha256').update(`${salt}:${code}`).digest('hex')}`
}

function fits(code: string, hash: string): boolean {
  const expected = Buffer.from(hash)
  const given = Buffer.from(hashCode(code, hash.split(':')[0]))
  return expected.length === given.length && timingSafeEqual(expected, given)
}
