import { type Logger, pino } from 'pino'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { DAY, type Instant, MINUTE, SECOND, shift } from '../../core/instant.ts'
import { openDb } from '../db/open.ts'
import { createOutboxMailer } from '../mail/mailer.ts'
import { createStores, type Stores } from '../stores.ts'
import { createSignIn } from './signIn.ts'

const NOON = '2026-05-04T12:00:00.000Z'
const EMAIL = 'ines@haplon.example'
const ADDER = 'convener@haplon.example'

let db: ReturnType<typeof openDb>
let stores: Stores
let now: Instant
let signing: ReturnType<typeof createSignIn>
let logged: Record<string, unknown>[]
let courseId: number

/** A log that keeps its lines. */
function keptLog(): Logger {
  return pino({ level: 'info' }, { write: (line: string) => void logged.push(JSON.parse(line)) })
}

beforeEach(() => {
  db = openDb(':memory:')
  stores = createStores(db)
  now = NOON
  logged = []
  courseId = stores.courses.add({ courseCode: 'FERM 1', title: 'Fermentation', zone: 'UTC' }, NOON).id
  enrol(EMAIL)
  const clock = () => now
  const mailer = createOutboxMailer(stores.mail, clock)
  signing = createSignIn({
    db,
    stores,
    mailer,
    clock,
    log: keptLog(),
    mayAddCourses: (email) => email === ADDER,
  })
})
afterEach(() => db.close())

function enrol(email: string, status: 'active' | 'paused' | 'left' = 'active'): number {
  const person = stores.roster.ensurePerson(email, NOON)
  stores.roster.enrol(courseId, person.id, { name: email, role: 'student', section_id: null, status }, NOON)
  return person.id
}

const browser = (name: string, network = '192.0.2.1') => ({ browser: name, network, fresh: false })
const cookieless = (network = '192.0.2.1') => ({ browser: null, network })
const ask = (who = browser('own'), email = EMAIL) =>
  signing.sendCode(email, who, (token) => `https://haplon.example/enter#${token}`)
const mails = (to = EMAIL) => stores.mail.newest(100).filter(({ recipient }) => recipient === to)
const newest = (to = EMAIL) => mails(to).find(({ subject }) => subject.startsWith('Signing in'))!.body
const codeOf = (to = EMAIL) => /\d{6}/.exec(newest(to))![0]
const linkOf = (to = EMAIL) => /enter#(\S+)/.exec(newest(to))![1]!
const wrong = (code: string) => String((Number(code) + 1) % 1_000_000).padStart(6, '0')
const said = (words: string) => logged.filter(({ msg }) => msg === words)

describe('a mail to sign in', () => {
  it('goes to whom a roster has, paused or not, and to whoever may add courses; to nobody else', () => {
    enrol('paused@haplon.example', 'paused')
    enrol('left@haplon.example', 'left')
    const stranger = 'nobody@haplon.example'
    stores.roster.ensurePerson('bare@haplon.example', NOON)
    for (const email of [
      EMAIL,
      'paused@haplon.example',
      ADDER,
      'left@haplon.example',
      'bare@haplon.example',
      stranger,
    ])
      expect(ask(browser(email), email)).toEqual({ nextAt: null, withCode: true })
    expect(
      stores.mail
        .newest(100)
        .map(({ recipient }) => recipient)
        .toSorted(),
    ).toEqual([ADDER, EMAIL, 'paused@haplon.example'])
    expect(stores.roster.personByEmail(stranger)).toBeUndefined()
  })

  it('is not written past five from one browser, which is said and logged, for known addresses and others', () => {
    for (const email of [EMAIL, 'nobody@haplon.example']) {
      for (let n = 0; n < 5; n++) expect(ask(browser('own'), email).nextAt).toBeNull()
      expect(ask(browser('own'), email)).toEqual({ nextAt: shift(NOON, 15 * MINUTE), withCode: true })
    }
    expect(mails()).toHaveLength(5)
    expect(said('mails to sign in were asked for too often')).toHaveLength(2)
  })

  it('that others ask for does not count against a browser that was let in before', () => {
    const person = stores.roster.personByEmail(EMAIL)!
    stores.access.addSession('hash', person.id, NOON, { code: 'c', device: '', asker: 'own' })
    for (let n = 0; n < 30; n++) ask(browser(`other ${n}`, `192.0.2.${n}`))
    expect(ask(browser('new'), EMAIL).nextAt).not.toBeNull()
    expect(ask(browser('own'), EMAIL).nextAt).toBeNull()
  })

  it('carries the link alone where very many guessed', () => {
    const guess = (n: number) => {
      // Whoever asks before guessing is not slowed; nobody gains by it, as each mail has a code of its own.
      ask(browser(`guessing ${n}`), `nobody-${n}@haplon.example`)
      return signing.redeem(`nobody-${n}@haplon.example`, '000000', browser(`guessing ${n}`))
    }
    for (let n = 0; n < 59; n++) guess(n)
    expect(ask()).toEqual({ nextAt: null, withCode: true })
    guess(59)
    expect(ask()).toEqual({ nextAt: null, withCode: false })
    expect(ask(browser('own', '198.51.100.1')).withCode).toBe(true)
    expect(ask()).toEqual({ nextAt: null, withCode: false })
    expect(newest()).not.toMatch(/\d{6}\./)
    expect(db.prepare('SELECT code_hash FROM sign_in_code ORDER BY id DESC').pluck().get()).toBeNull()
    expect(signing.redeem(EMAIL, '000000', browser('own'))).toBeNull()
    expect(signing.redeemLink(linkOf(), browser('own'))?.email).toBe(EMAIL)
  })
})

it('guesses that come each from a fresh browser are slowed, and keep nobody out who asked for a mail', () => {
  let looked = 0
  for (let n = 0; n < 150; n++)
    try {
      expect(signing.redeem(EMAIL, '000000', browser(`fresh ${n}`))).toBeNull()
      looked += 1
    } catch (error) {
      expect(error).toMatchObject({ code: 'too-many-tries' })
    }
  expect(looked).toBe(21)
  ask(browser('own'))
  expect(signing.redeem(EMAIL, codeOf(), browser('own'))?.email).toBe(EMAIL)
})

describe('a code', () => {
  it('lets in once, in the browser that asked', () => {
    ask()
    expect(signing.redeem(EMAIL, codeOf(), browser('another'))).toBeNull()
    expect(signing.redeem(EMAIL, codeOf(), browser('own'))?.email).toBe(EMAIL)
    expect(signing.redeem(EMAIL, codeOf(), browser('own'))).toBeNull()
    expect(said('a code to sign in did not fit')).toHaveLength(2)
  })

  it('lets in without a cookie from the network it was asked from', () => {
    ask()
    expect(signing.redeem(EMAIL, codeOf(), cookieless('198.51.100.1'))).toBeNull()
    expect(signing.redeem(EMAIL, codeOf(), cookieless())?.email).toBe(EMAIL)
  })

  it('lets in for ten minutes, not at their end', () => {
    ask()
    now = shift(NOON, 10 * MINUTE)
    expect(signing.redeem(EMAIL, codeOf(), browser('own'))).toBeNull()
    now = shift(NOON, 10 * MINUTE - 1)
    expect(signing.redeem(EMAIL, codeOf(), browser('own'))?.email).toBe(EMAIL)
  })

  it('is over once a newer one was sent to that browser, and not by one sent to another', () => {
    ask()
    const first = codeOf()
    ask(browser('another'))
    expect(codeOf()).not.toBe(first)
    expect(signing.redeem(EMAIL, first, browser('own'))?.email).toBe(EMAIL)
    ask()
    const second = codeOf()
    ask()
    expect(signing.redeem(EMAIL, second, browser('own'))).toBeNull()
    expect(signing.redeem(EMAIL, codeOf(), browser('own'))?.email).toBe(EMAIL)
  })

  it('is over after five wrong ones from its browser, which its person is told once a day', () => {
    ask()
    const code = codeOf()
    for (let n = 0; n < 4; n++) expect(signing.redeem(EMAIL, wrong(code), browser('own'))).toBeNull()
    const told = () => mails().filter(({ subject }) => subject.includes('wrong codes')).length
    expect(told()).toBe(0)
    expect(signing.redeem(EMAIL, wrong(code), browser('own'))).toBeNull()
    expect(told()).toBe(1)
    expect(signing.redeem(EMAIL, code, browser('own'))).toBeNull()
    // Another mail can be tried anew, and its person is told no second time that day.
    ask()
    for (let n = 0; n < 5; n++) signing.redeem(EMAIL, wrong(codeOf()), browser('own'))
    expect(told()).toBe(1)
    now = shift(NOON, DAY + MINUTE)
    ask()
    for (let n = 0; n < 5; n++) signing.redeem(EMAIL, wrong(codeOf()), browser('own'))
    expect(told()).toBe(2)
  })

  it('is not spent by wrong ones that are typed in other browsers', () => {
    ask()
    for (let n = 0; n < 15; n++) signing.redeem(EMAIL, wrong(codeOf()), browser(`other ${n}`))
    expect(signing.redeem(EMAIL, codeOf(), browser('own'))?.email).toBe(EMAIL)
  })

  it('is not looked at for a while where very many wrong ones came from, and says for how long', () => {
    const guess = () => signing.redeem('nobody@haplon.example', '000000', browser('guessing'))
    for (let n = 0; n < 21; n++) guess()
    expect(guess).toThrow('Wait a second, or open the link in the mail.')
    now = shift(NOON, SECOND)
    guess()
    expect(guess).toThrow('Wait 2 seconds,')
    now = shift(now, 1)
    expect(guess).toThrow(expect.objectContaining({ code: 'too-many-tries', more: { retryAfter: 2 } }))
    now = shift(now, SECOND)
    expect(guess).toThrow('Wait a second,')
    expect(said('wrong codes to sign in come too fast')).toHaveLength(4)
    ask(browser('own'))
    expect(signing.redeem(EMAIL, codeOf(), browser('own'))?.email).toBe(EMAIL)
  })

  it('fits no address that has none, nor somebody who has left meanwhile', () => {
    expect(signing.redeem(EMAIL, '000000', browser('own'))).toBeNull()
    ask()
    const enrolment = stores.roster.enrolmentIn(courseId, stores.roster.personByEmail(EMAIL)!.id)!
    stores.roster.changeEnrolment(enrolment, { ...enrolment, status: 'left' }, now)
    expect(signing.redeem(EMAIL, codeOf(), browser('own'))).toBeNull()
    expect(signing.lookAtLink(linkOf(), browser('own'))).toBeNull()
  })

  it('stands in the database by its hash alone, with salt of its own', () => {
    ask()
    ask(browser('another'))
    const kept = db.prepare('SELECT code_hash, link_hash FROM sign_in_code').all() as Record<string, string>[]
    expect(kept).toHaveLength(2)
    for (const { code_hash, link_hash } of kept) {
      expect(code_hash).toMatch(/^[\w-]{16}:[0-9a-f]{64}$/)
      expect(link_hash).toMatch(/^[0-9a-f]{64}$/)
    }
    expect(new Set(kept.map(({ code_hash }) => code_hash!.split(':')[0])).size).toBe(2)
  })
})

describe('a link', () => {
  it('lets in once, wherever it is opened, and ends the code beside it', () => {
    ask()
    const token = linkOf()
    expect(signing.lookAtLink(token, browser('own'))).toMatchObject({ person: { email: EMAIL }, here: true })
    expect(signing.lookAtLink(token, browser('another'))).toMatchObject({ here: false })
    expect(signing.lookAtLink(token, cookieless())).toMatchObject({ here: false })
    expect(signing.redeemLink(token, browser('another'))?.email).toBe(EMAIL)
    expect(signing.redeemLink(token, browser('another'))).toBeNull()
    expect(signing.lookAtLink(token, browser('own'))).toBeNull()
    expect(signing.redeem(EMAIL, codeOf(), browser('own'))).toBeNull()
  })

  it('is over after ten minutes, and once a newer mail was asked for in the same browser', () => {
    ask()
    const first = linkOf()
    ask(browser('another'))
    expect(signing.lookAtLink(first, browser('own'))).not.toBeNull()
    ask()
    expect(signing.lookAtLink(first, browser('own'))).toBeNull()
    expect(signing.redeemLink(first, browser('own'))).toBeNull()
    now = shift(NOON, 10 * MINUTE)
    expect(signing.lookAtLink(linkOf(), browser('own'))).toBeNull()
    expect(signing.lookAtLink('made up', browser('own'))).toBeNull()
  })
})
