import type { CookieOptions, Request, Response } from 'express'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { DAY, HOUR, type Instant, MINUTE, shift } from '../../core/instant.ts'
import { hashOf } from '../codes.ts'
import { openDb } from '../db/open.ts'
import type { Person } from '../roster/store.ts'
import { createStores, type Stores } from '../stores.ts'
import { createAskers } from './asker.ts'
import { createSessions } from './sessions.ts'

const NOON = '2026-05-04T12:00:00.000Z'
const FIREFOX = 'Mozilla/5.0 (X11; Linux x86_64; rv:143.0) Gecko/20100101 Firefox/143.0'

let db: ReturnType<typeof openDb>
let stores: Stores
let now: Instant
let person: Person
beforeEach(() => {
  db = openDb(':memory:')
  stores = createStores(db)
  now = NOON
  person = stores.roster.ensurePerson('ines@haplon.example', NOON)
})
afterEach(() => db.close())

const sessionsWith = (secure: boolean) =>
  createSessions(stores.access, stores.roster, createAskers(secure), () => now, secure)

/** A browser that keeps its cookies between requests, and their options. */
function browser(kept: Record<string, string> = {}) {
  const cookies: Record<string, string> = { ...kept }
  const options: Record<string, CookieOptions> = {}
  const headers: Record<string, string> = { 'user-agent': FIREFOX }
  const req = { cookies, ip: '192.0.2.1', get: (name: string) => headers[name] } as unknown as Request
  const res = {
    cookie(name: string, value: string, given: CookieOptions) {
      cookies[name] = value
      options[name] = given
    },
    clearCookie(name: string, given: CookieOptions) {
      delete cookies[name]
      options[name] = given
    },
  } as unknown as Response
  return { req, res, cookies, options, headers }
}

describe('a session', () => {
  it('is known by its cookie, of which the hash is kept alone', () => {
    const sessions = sessionsWith(true)
    const { req, res, cookies, options } = browser()
    expect(sessions.personOf(req)).toBeNull()
    expect(sessions.of(req)).toBeNull()
    expect(sessions.begin(req, res, person.id)).toBeNull()
    const token = cookies['__Host-haplon_session']!
    expect(token).toMatch(/^[\w-]{43}$/)
    expect(options['__Host-haplon_session']).toEqual({
      httpOnly: true,
      sameSite: 'lax',
      secure: true,
      path: '/',
      maxAge: 90 * DAY,
    })
    expect(db.prepare('SELECT token_hash FROM session').pluck().all()).toEqual([hashOf(token)])
    expect(sessions.of(req)).toBe(hashOf(token))
    expect(sessions.personOf(req)).toEqual(person)
    expect(sessions.current(req)).toMatchObject({
      person_id: person.id,
      device: 'Firefox on Linux',
      created_at: NOON,
    })
    expect(sessions.personOf(browser({ '__Host-haplon_session': `${token}x` }).req)).toBeNull()
    expect(sessions.personOf(browser({ haplon_session: token }).req)).toBeNull()
    expect(sessions.personOf(browser({ '__Host-haplon_session': '' }).req)).toBeNull()
    expect(sessions.of(browser({ '__Host-haplon_session': '' }).req)).toBeNull()
  })

  it('has a plain cookie where there is no TLS, and none is read that is no text', () => {
    const sessions = sessionsWith(false)
    const { req, res, options } = browser()
    sessions.begin(req, res, person.id)
    expect(options).toEqual({ haplon_session: expect.objectContaining({ secure: false }) })
    expect(sessions.personOf(req)).toEqual(person)
    const odd = { cookies: { haplon_session: { toString: () => 'x' } } } as unknown as Request
    expect([sessions.personOf(odd), sessions.personOf({} as Request)]).toEqual([null, null])
  })

  it('is over after fourteen days without a request, and lasts while it is used', () => {
    const sessions = sessionsWith(true)
    const { req, res } = browser()
    sessions.begin(req, res, person.id)
    now = shift(NOON, 14 * DAY)
    expect(sessions.personOf(req)).toEqual(person)
    now = shift(now, 14 * DAY)
    expect(sessions.personOf(req)).toEqual(person)
    now = shift(now, 14 * DAY + 1)
    expect(sessions.personOf(req)).toBeNull()
    expect(sessions.current(req)).toBeNull()
  })

  it('is over after ninety days, however much it is used', () => {
    const sessions = sessionsWith(true)
    const { req, res } = browser()
    sessions.begin(req, res, person.id)
    for (let day = 0; day <= 90; day += 10) {
      now = shift(NOON, day * DAY)
      expect(sessions.personOf(req)).toEqual(person)
    }
    now = shift(NOON, 90 * DAY + 1)
    expect(sessions.personOf(req)).toBeNull()
  })

  it('is noted as used once an hour at most', () => {
    const sessions = sessionsWith(true)
    const { req, res } = browser()
    sessions.begin(req, res, person.id)
    now = shift(NOON, HOUR)
    sessions.personOf(req)
    expect(sessions.current(req)?.last_seen_at).toBe(NOON)
    now = shift(NOON, HOUR + MINUTE)
    sessions.personOf(req)
    expect(sessions.current(req)?.last_seen_at).toBe(now)
  })

  it('takes the place of the one that the browser had, and is ended by it', () => {
    const sessions = sessionsWith(true)
    const { req, res, cookies } = browser()
    sessions.begin(req, res, person.id)
    const first = cookies['__Host-haplon_session']!
    expect(sessions.begin(req, res, person.id)).toBe(hashOf(first))
    expect(sessions.personOf(browser({ '__Host-haplon_session': first }).req)).toBeNull()
    const second = cookies['__Host-haplon_session']!
    expect(sessions.end(req, res)).toBe(hashOf(second))
    expect(cookies).not.toHaveProperty('__Host-haplon_session')
    expect(sessions.personOf(browser({ '__Host-haplon_session': second }).req)).toBeNull()
    expect(sessions.end(req, res)).toBeNull()
    expect(stores.access.sessionsOf(person.id)).toEqual([])
  })

  it('remembers the browser by its cookie for asking, so that it is known again', () => {
    const asker = 'aB3-_xyz'.repeat(4)
    const sessions = sessionsWith(true)
    const { req, res, headers } = browser({ '__Host-haplon_asker': asker })
    delete headers['user-agent']
    sessions.begin(req, res, person.id)
    expect(stores.access.letInBefore(person.id, hashOf(asker))).toBe(true)
    expect(stores.access.letInBefore(person.id, hashOf('another'))).toBe(false)
    expect(stores.access.letInBefore(person.id + 1, hashOf(asker))).toBe(false)
    expect(sessions.current(req)?.device).toBe('Another program')
  })
})

describe('the sessions of a person', () => {
  const added = (hash: string, whose: Person, last: Instant) => {
    stores.access.addSession(hash, whose.id, last, { code: `code of ${hash}`, device: '', asker: '' })
  }

  it('come with those used last first; one is ended by its code, by its own person alone, or all are', () => {
    const other = stores.roster.ensurePerson('tom@haplon.example', NOON)
    added('a', person, NOON)
    added('b', person, shift(NOON, HOUR))
    added('c', person, shift(NOON, HOUR))
    added('d', other, NOON)
    const codes = () => stores.access.sessionsOf(person.id).map(({ code }) => code)
    expect(codes()).toEqual(['code of c', 'code of b', 'code of a'])
    expect(stores.access.endOne(person.id, 'code of d')).toBeUndefined()
    expect(stores.access.endOne(person.id, 'code of b')).toBe('b')
    expect(codes()).toEqual(['code of c', 'code of a'])
    expect(stores.access.session('b')).toBeUndefined()
    expect(stores.access.endAll(person.id).toSorted()).toEqual(['a', 'c'])
    expect(codes()).toEqual([])
    expect(stores.access.session('d')?.person_id).toBe(other.id)
  })

  it('are forgotten once idle or old', () => {
    added('old', person, NOON)
    added('idle', person, shift(NOON, DAY))
    added('kept', person, shift(NOON, DAY))
    const idOf = (hash: string) => stores.access.session(hash)!.id
    stores.access.seen(idOf('old'), shift(NOON, 20 * DAY))
    stores.access.seen(idOf('kept'), shift(NOON, 20 * DAY))
    stores.access.dropSessions(shift(NOON, 2 * DAY), shift(NOON, DAY))
    expect(stores.access.sessionsOf(person.id).map(({ code }) => code)).toEqual(['code of kept'])
  })
})
