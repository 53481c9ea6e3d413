import { createHash, randomBytes, randomInt, timingSafeEqual } from 'node:crypto'
import type { Logger } from 'pino'
import { DAY, type Instant, MINUTE, msOf, SECOND, shift } from '../../core/instant.ts'
import type { Clock } from '../clock.ts'
import { hashOf } from '../codes.ts'
import type { Db } from '../db/open.ts'
import { ProblemError } from '../http/problem.ts'
import { guessedMail, signInMail } from '../mail/letters.ts'
import type { Mailer } from '../mail/mailer.ts'
import { createRecent } from '../recent.ts'
import type { Person } from '../roster/store.ts'
import type { Stores } from '../stores.ts'
import type { Asker, NewAsker } from './asker.ts'
import { createAsks } from './asks.ts'
import { createGuesses } from './guesses.ts'
import type { SignInCode } from './store.ts'

/** Minutes for which a one-time code and its link can be used. */
export const CODE_MINUTES = 10
/** Wrong codes that one browser may type against one mail. */
const TRIES = 5

export type SignIn = ReturnType<typeof createSignIn>

export interface SignInParts {
  db: Db
  stores: Pick<Stores, 'access' | 'roster'>
  mailer: Mailer
  clock: Clock
  log: Logger
  mayAddCourses: (email: string) => boolean
}

/** What came of asking for a mail: whether it holds a code, and when the next can be sent where none is. */
export interface Asked {
  nextAt: Instant | null
  withCode: boolean
}

/**
 * Signing in by a mail to an address on a roster. A mail belongs to the browser that asked for it: its code works there
 * alone, so wrong codes that somebody else types spend nothing of it. Its link works anywhere, as whoever has it reads
 * the mailbox; so whatever others do in a person's name, that person gets in.
 */
export function createSignIn({ db, stores, mailer, clock, log, mayAddCourses }: SignInParts) {
  const { access, roster } = stores
  const asks = createAsks()
  const guesses = createGuesses()
  /** Wrong codes by mail and by whom, and people who were told that somebody guesses. */
  const tries = createRecent(CODE_MINUTES * MINUTE)
  const told = createRecent(DAY)

  /** The person behind an address that may sign in, or null. Listed course adders need no roster. */
  const known = (email: string): Person | null => {
    if (mayAddCourses(email)) return roster.ensurePerson(email, clock())
    const person = roster.personByEmail(email)
    if (!person) return null
    return roster.enrolmentsOfPerson(person.id).some(({ status }) => status !== 'left') ? person : null
  }
  const live = (sent: SignInCode | undefined, now: Instant): sent is SignInCode =>
    sent !== undefined && sent.used_at === null && sent.expires_at > now
  const failed = (asker: Asker, now: Instant): void => {
    guesses.note(asker, now)
    log.info({ network: asker.network }, 'a code to sign in did not fit')
  }
  const tellGuessed = (person: Person, now: Instant): void => {
    if (told.count(String(person.id), now) > 0) return
    told.note(String(person.id), now)
    db.transaction(() => mailer.send(guessedMail(person.email))).immediate()
  }

  return {
    /**
     * Sends a mail with a code and a link, if the address is known. Tells nothing of whether it is by what it gives; how
     * long it takes is for the caller to hide.
     * @param linkTo the full address that the link is to have, for its token
     */
    sendCode(email: string, asker: NewAsker, linkTo: (token: string) => string): Asked {
      const now = clock()
      const person = known(email)
      const withCode = !guesses.linkOnly(asker, now)
      const trusted = person !== null && access.letInBefore(person.id, asker.browser)
      const nextAt = asks.note(email, asker, trusted, now)
      if (nextAt !== null) log.info({ network: asker.network }, 'mails to sign in were asked for too often')
      if (nextAt === null) guesses.hopes(asker, email, now)
      if (nextAt !== null || !person) return { nextAt, withCode }
      const code = withCode ? String(randomInt(1_000_000)).padStart(6, '0') : null
      const token = randomBytes(32).toString('base64url')
      const endsAt = shift(now, CODE_MINUTES * MINUTE)
      db.transaction(() => {
        access.addCode(
          {
            person_id: person.id,
            asker: asker.browser,
            network: asker.network,
            code_hash: code === null ? null : hashCode(code),
            link_hash: hashOf(token),
          },
          now,
          endsAt,
        )
        mailer.send({ ...signInMail(email, code, linkTo(token), CODE_MINUTES), endsAt })
      }).immediate()
      return { nextAt: null, withCode }
    },
    /**
     * The person whom address and code let in, or null. Wrong code, no try left, too late, asked for in another browser
     * and unknown address all end alike, so that an answer tells nothing about who is on a roster.
     * @throws ProblemError `too-many-tries` where many wrong codes came from there
     */
    redeem(email: string, code: string, asker: Asker): Person | null {
      const now = clock()
      const until = guesses.waitsUntil(asker, email, now)
      if (until !== null) {
        log.warn({ network: asker.network }, 'wrong codes to sign in come too fast')
        const seconds = Math.ceil((msOf(until) - msOf(now)) / SECOND)
        throw new ProblemError(
          'too-many-tries',
          `Too many wrong codes were typed. Wait ${seconds === 1 ? 'a second' : `${seconds} seconds`}, or open the link in the mail.`,
          { retryAfter: seconds },
        )
      }
      const person = known(email)
      const sent = person ? access.codeAskedBy(person.id, asker) : undefined
      const tried = `${sent?.id ?? 0} ${asker.browser ?? asker.network}`
      const fitting = fits(code, sent?.code_hash ?? DECOY)
      if (
        !person ||
        !live(sent, now) ||
        sent.code_hash === null ||
        tries.count(tried, now) >= TRIES ||
        !fitting
      ) {
        failed(asker, now)
        if (person && live(sent, now)) {
          tries.note(tried, now)
          if (tries.count(tried, now) === TRIES) tellGuessed(person, now)
        }
        return null
      }
      access.markUsed(sent.id, now)
      return person
    },
    /** Whom a mail's link would let in, and whether it was asked for in this browser; null where it does not work. */
    lookAtLink(token: string, asker: Asker): { person: Person; here: boolean } | null {
      const sent = access.codeByLink(hashOf(token))
      const person = live(sent, clock()) ? roster.personById(sent.person_id) : undefined
      if (!sent || !person || known(person.email) === null) return null
      // An older mail to the same browser never works again once a newer one was sent there.
      if (access.newestOf(sent.person_id, sent.asker) !== sent.id) return null
      return { person, here: sent.asker === asker.browser }
    },
    /** The person whom a mail's link lets in, or null. It works once, and its code no more. */
    redeemLink(token: string, asker: Asker): Person | null {
      const found = this.lookAtLink(token, asker)
      if (!found) return null
      const sent = access.codeByLink(hashOf(token))
      if (sent) access.markUsed(sent.id, clock())
      return found.person
    },
  }
}

function hashCode(code: string, salt = randomBytes(12).toString('base64url')): string {
  return `${salt}:${createHash('sha256').update(`${salt}:${code}`).digest('hex')}`
}

/** What a code is compared with where there is none, so that it takes as long. It fits nothing. */
const DECOY = `${randomBytes(12).toString('base64url')}:${'0'.repeat(64)}`

function fits(code: string, hash: string): boolean {
  const expected = Buffer.from(hash)
  const given = Buffer.from(hashCode(code, hash.split(':')[0]))
  return expected.length === given.length && timingSafeEqual(expected, given)
}
