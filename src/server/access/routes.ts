import { setTimeout } from 'node:timers/promises'
import type { AuthenticationResponseJSON, RegistrationResponseJSON } from '@simplewebauthn/server'
import type { Request, Response } from 'express'
import { askCode, lookAtLink, signIn, signInByLink } from '../../contract/access.ts'
import { type Me, me, signOut } from '../../contract/session.ts'
import * as contract from '../../contract/signIns.ts'
import { ProblemError } from '../http/problem.ts'
import type { Serve } from '../http/serve.ts'
import type { Person } from '../roster/store.ts'
import type { Reached } from '../sheets/address.ts'
import type { Stores } from '../stores.ts'
import type { Askers } from './asker.ts'
import type { Passkeys } from './passkeys.ts'
import type { Sessions } from './sessions.ts'
import { CODE_MINUTES, type SignIn } from './signIn.ts'

/**
 * Milliseconds that asking for a mail takes at least, so that the time tells nobody whether there was one to write: longer
 * than writing takes.
 */
const EVEN = 60

export interface AccessParts {
  stores: Stores
  sessions: Sessions
  askers: Askers
  signing: SignIn
  passkeys: Passkeys
  /** The address people reach the server under; null: the one that was asked. */
  origin: string | null
  mayAddCourses: (email: string) => boolean
  /** Called with a session that is over. */
  signedOut: (session: string) => void
}

/** Signing in and out, who is signed in, and where else. */
export function bindAccess(
  serve: Serve,
  { stores, sessions, askers, signing, passkeys, origin, mayAddCourses, signedOut }: AccessParts,
): void {
  const { roster, courses, access } = stores
  const meOf = (person: Person): Me => ({
    email: person.email,
    name: roster.nameOf(person),
    mayAddCourses: mayAddCourses(person.email),
    enrolments: roster.enrolmentsOfPerson(person.id).flatMap((enrolment) => {
      const course = courses.byId(enrolment.course_id)
      if (!course || enrolment.status === 'left') return []
      const { code, course_code, title } = course
      return [{ course: code, courseCode: course_code, courseTitle: title, role: enrolment.role }]
    }),
  })
  const letIn = (req: Request, res: Response, person: Person): Me => {
    const before = sessions.begin(req, res, person.id)
    if (before !== null) signedOut(before)
    return meOf(person)
  }
  const signInsOf = (req: Request & Reached, person: Person): contract.SignIns => {
    const here = sessions.current(req)?.id
    return {
      sessions: access.sessionsOf(person.id).map(({ id, code, device, created_at, last_seen_at }) => ({
        code,
        device,
        begunAt: created_at,
        usedAt: last_seen_at,
        here: id === here,
      })),
      passkeys: stores.passkeys.ofPerson(person.id).map(({ code, name, created_at, used_at }) => ({
        code,
        name,
        addedAt: created_at,
        usedAt: used_at,
      })),
      passkeysPossible: passkeys.possible(req),
    }
  }

  serve(askCode, async ({ req, res, body }) => {
    const even = setTimeout(EVEN)
    const at = origin ?? `${req.protocol}://${req.get('host')}`
    const next = body.next === undefined ? '' : `?next=${encodeURIComponent(body.next)}`
    const linkTo = (token: string) => `${at}/enter${next}#${token}`
    const { nextAt, withCode } = signing.sendCode(body.email, askers.known(req, res), linkTo)
    await even
    return { sentTo: body.email, minutes: CODE_MINUTES, nextAt, withCode }
  })
  serve(signIn, ({ req, res, body }) => {
    const person = signing.redeem(body.email, body.code, askers.of(req))
    if (!person) {
      throw new ProblemError(
        'code-not-valid',
        'That code is wrong, used up or older than ten minutes. Look for the newest mail, open its link, or ask for a new code.',
      )
    }
    return letIn(req, res, person)
  })
  const unusable = () =>
    new ProblemError(
      'link-not-valid',
      'That link was used, is older than ten minutes, or a newer mail has come. Ask for another.',
    )
  serve(lookAtLink, ({ req, body }) => {
    const found = signing.lookAtLink(body.token, askers.of(req))
    if (!found) throw unusable()
    return { email: found.person.email, here: found.here }
  })
  serve(signInByLink, ({ req, res, body }) => {
    const person = signing.redeemLink(body.token, askers.of(req))
    if (!person) throw unusable()
    return letIn(req, res, person)
  })
  serve(contract.passkeyToUse, async ({ req }) => ({ ...(await passkeys.askOptions(req)) }))
  serve(contract.signInByPasskey, async ({ req, res, body }) =>
    letIn(req, res, await passkeys.redeem(req, body.response as AuthenticationResponseJSON)),
  )
  serve(signOut, ({ req, res }) => {
    const ended = sessions.end(req, res)
    if (ended !== null) signedOut(ended)
    return null
  })

  serve(me, ({ person }) => meOf(person))
  serve(contract.signIns, ({ req, person }) => signInsOf(req, person))
  serve(contract.endSession, ({ req, person, params }) => {
    // One that is over already is as it was to be.
    const ended = access.endOne(person.id, params.session)
    if (ended !== undefined) signedOut(ended)
    return signInsOf(req, person)
  })
  serve(contract.endSessions, ({ req, res, person }) => {
    for (const ended of access.endAll(person.id)) signedOut(ended)
    sessions.end(req, res)
    return null
  })
  serve(contract.passkeyToMake, async ({ req, person }) => ({ ...(await passkeys.newOptions(req, person)) }))
  serve(contract.addPasskey, async ({ req, person, body }) => {
    await passkeys.add(req, person, body.name, body.response as RegistrationResponseJSON)
    return signInsOf(req, person)
  })
  serve(contract.removePasskey, ({ req, person, params }) => {
    stores.passkeys.remove(person.id, params.passkey)
    return signInsOf(req, person)
  })
}
