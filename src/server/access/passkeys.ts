import { createHash } from 'node:crypto'
import { isIP } from 'node:net'
import {
  type AuthenticationResponseJSON,
  generateAuthenticationOptions,
  generateRegistrationOptions,
  type RegistrationResponseJSON,
  verifyAuthenticationResponse,
  verifyRegistrationResponse,
} from '@simplewebauthn/server'
import { type Instant, MINUTE, msOf } from '../../core/instant.ts'
import type { Clock } from '../clock.ts'
import { newCode } from '../codes.ts'
import { ProblemError } from '../http/problem.ts'
import type { Person, RosterStore } from '../roster/store.ts'
import type { Reached } from '../sheets/address.ts'
import type { PasskeyStore } from './passkeyStore.ts'

/** Minutes for which a challenge can be answered. */
const CHALLENGE_MINUTES = 5
/** Challenges that are kept at once; past that the oldest are forgotten. */
const MOST_CHALLENGES = 20_000
/** Passkeys that one person can have. */
const MOST_PASSKEYS = 20

export type Passkeys = ReturnType<typeof createPasskeys>

/**
 * Signing in with a passkey (Web Authentication Level 3, W3C), set up by who wants one: no mail is needed then, at the
 * minute when everybody comes. What is kept of it is a public key.
 * @param origin the address people reach the server under; null: the one that was asked
 */
export function createPasskeys(
  store: PasskeyStore,
  roster: Pick<RosterStore, 'personById' | 'nameOf'>,
  origin: string | null,
  clock: Clock,
) {
  const challenges = new Map<string, { until: number; personId: number | null }>()

  /** Where passkeys of this server belong; null where it is reached by a bare address, for which there are none. */
  const place = (req: Reached): { origin: string; host: string } | null => {
    const reached = origin ?? `${req.protocol}://${req.get('host')}`
    const { hostname } = new URL(reached)
    return isIP(hostname.replace(/^\[|\]$/g, '')) === 0 ? { origin: reached, host: hostname } : null
  }
  const placeOf = (req: Reached) => {
    const found = place(req)
    if (!found)
      throw new ProblemError(
        'passkey-not-valid',
        'Passkeys need an address with a name. Sign in by mail here.',
      )
    return found
  }
  const keep = (challenge: string, personId: number | null): void => {
    challenges.set(challenge, { until: msOf(clock()) + CHALLENGE_MINUTES * MINUTE, personId })
    const oldest = challenges.size > MOST_CHALLENGES ? challenges.keys().next().value : undefined
    if (oldest !== undefined) challenges.delete(oldest)
  }
  /** Whether a challenge was given out for this, lately. It is used up by asking. */
  const answered = (challenge: string, personId: number | null): boolean => {
    const given = challenges.get(challenge)
    challenges.delete(challenge)
    return given !== undefined && given.personId === personId && given.until > msOf(clock())
  }
  const invalid = () =>
    new ProblemError('passkey-not-valid', 'That passkey does not let anybody in here. Sign in by mail.')

  return {
    /** Whether passkeys can be had at the address that was asked. */
    possible: (req: Reached): boolean => place(req) !== null,
    /** What the browser needs to make a passkey for somebody who is signed in. */
    async newOptions(req: Reached, person: Person) {
      const options = await generateRegistrationOptions({
        rpName: 'Haplon',
        rpID: placeOf(req).host,
        userName: person.email,
        userDisplayName: roster.nameOf(person),
        userID: new Uint8Array(createHash('sha256').update(`haplon person ${person.id}`).digest()),
        attestationType: 'none',
        excludeCredentials: store.ofPerson(person.id).map(({ credential_id }) => ({ id: credential_id })),
        authenticatorSelection: { residentKey: 'required', userVerification: 'preferred' },
      })
      keep(options.challenge, person.id)
      return options
    },
    /**
     * Keeps the passkey that the browser made.
     * @throws ProblemError `passkey-not-valid`
     */
    async add(req: Reached, person: Person, name: string, response: RegistrationResponseJSON): Promise<void> {
      const { origin: expectedOrigin, host } = placeOf(req)
      if (store.ofPerson(person.id).length >= MOST_PASSKEYS)
        throw new ProblemError('passkey-not-valid', `You have ${MOST_PASSKEYS} passkeys. Delete one first.`)
      const made = await verifyRegistrationResponse({
        response,
        expectedChallenge: (challenge) => answered(challenge, person.id),
        expectedOrigin,
        expectedRPID: host,
        requireUserVerification: false,
      }).catch(() => null)
      if (!made?.verified || store.byCredential(made.registrationInfo.credential.id))
        throw new ProblemError('passkey-not-valid', 'The browser’s passkey could not be read. Try again.')
      const { id, publicKey, counter } = made.registrationInfo.credential
      const fields = { code: newCode(), credential_id: id, public_key: Buffer.from(publicKey), counter, name }
      store.add(person.id, fields, clock())
    },
    /** What the browser needs to ask for a passkey. Says nothing of anybody: the passkey says whose it is. */
    async askOptions(req: Reached) {
      const options = await generateAuthenticationOptions({
        rpID: placeOf(req).host,
        userVerification: 'preferred',
      })
      keep(options.challenge, null)
      return options
    },
    /**
     * The person whom a passkey lets in.
     * @throws ProblemError `passkey-not-valid`
     */
    async redeem(req: Reached, response: AuthenticationResponseJSON): Promise<Person> {
      const { origin: expectedOrigin, host } = placeOf(req)
      const kept = store.byCredential(response.id)
      const person = kept && roster.personById(kept.person_id)
      if (!kept || !person) throw invalid()
      const checked = await verifyAuthenticationResponse({
        response,
        expectedChallenge: (challenge) => answered(challenge, null),
        expectedOrigin,
        expectedRPID: host,
        requireUserVerification: false,
        credential: {
          id: kept.credential_id,
          publicKey: new Uint8Array(kept.public_key),
          counter: kept.counter,
        },
      }).catch(() => null)
      if (!checked?.verified) throw invalid()
      store.used(kept.id, checked.authenticationInfo.newCounter, clock() as Instant)
      return person
    },
  }
}
