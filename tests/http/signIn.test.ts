import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { Problem } from '../../src/contract/problems.ts'
import type { Me } from '../../src/contract/session.ts'
import { DAY, MINUTE } from '../../src/core/instant.ts'
import { type Harness, setUpSchool, startHarness, studentEmail } from './harness.ts'

let harness: Harness
beforeEach(async () => {
  harness = await startHarness()
  await setUpSchool(harness, { students: { '': 2 }, topics: ['Tempeh'] })
})
afterEach(() => harness.end())

const email = studentEmail('', 0)
const ask = (address = email) => harness.stranger.post('/api/access/codes', { email: address })
const enter = (code: string, address = email) =>
  harness.stranger.post<Me | Problem>('/api/access/session', { email: address, code })
const mails = (to = email) => harness.stores.mail.newest(50).filter(({ recipient }) => recipient === to)
const newestCode = (to = email) => /\d{6}/.exec(mails(to)[0]!.subject)![0]
const other = (code: string) => String((Number(code) + 1) % 1_000_000).padStart(6, '0')

describe('signing in', () => {
  it('works with the code from the mail, once, in whatever case the address is typed', async () => {
    await ask(`  ${email.toUpperCase()} `)
    const code = newestCode()
    const answer = await enter(code)
    expect(answer.status).toBe(200)
    expect(answer.body).toMatchObject({ email, enrolments: [{ role: 'student' }] })
    const cookie = answer.headers.get('set-cookie') ?? ''
    expect(cookie).toMatch(/HttpOnly/)
    expect(cookie).toMatch(/Secure/)
    expect(cookie).toMatch(/SameSite=Lax/)
    expect((await enter(code)).status).toBe(422)
  })

  it('tells nobody whether an address is known', async () => {
    const known = await ask()
    const unknown = await ask('nobody@school.example')
    expect({ ...(unknown.body as object), sentTo: email }).toEqual(known.body)
    expect(unknown.status).toBe(known.status)
    expect(mails('nobody@school.example')).toEqual([])
    const wrong = await enter(other(newestCode()))
    const stranger = await enter('123456', 'nobody@school.example')
    expect(stranger.body).toEqual(wrong.body)
  })

  it('ends after five wrong tries, after ten minutes, and when a newer code was sent', async () => {
    await ask()
    const code = newestCode()
    for (let i = 0; i < 5; i++) expect((await enter(other(code))).status).toBe(422)
    expect((await enter(code)).status).toBe(422)

    await ask()
    const late = newestCode()
    harness.clock.advance(10 * MINUTE)
    expect((await enter(late)).status).toBe(422)

    await ask()
    const older = newestCode()
    await ask()
    const newer = newestCode()
    if (older !== newer) expect((await enter(older)).status).toBe(422)
    expect((await enter(newer)).status).toBe(200)
    // Nor once the newer one is used up.
    if (older !== newer) expect((await enter(older)).status).toBe(422)
  })

  it('sends one address five codes in a quarter of an hour and no more', async () => {
    for (let i = 0; i < 8; i++) expect((await ask()).status).toBe(200)
    expect(mails()).toHaveLength(5)
    harness.clock.advance(15 * MINUTE)
    await ask()
    expect(mails()).toHaveLength(6)
  })

  it('keeps neither code nor token in the database as it was sent', async () => {
    await ask()
    const code = newestCode()
    const answer = await enter(code)
    const token = /haplon_session=([^;]+)/.exec(answer.headers.get('set-cookie') ?? '')![1]!
    const kept = JSON.stringify([
      harness.db.prepare('SELECT * FROM sign_in_code').all(),
      harness.db.prepare('SELECT * FROM session').all(),
    ])
    expect(kept).not.toContain(`"${code}"`)
    expect(kept).not.toContain(token)
  })

  it('lets in who may add courses before there is any roster, and nobody who has left every course', async () => {
    const fresh = await startHarness({ HAPLON_INSTRUCTORS: 'first@school.example' })
    await fresh.stranger.post('/api/access/codes', { email: 'first@school.example' })
    expect(fresh.stores.mail.newest(1)).toHaveLength(1)
    await fresh.end()
    harness.db.exec("UPDATE enrolment SET status = 'left'")
    await ask()
    expect(mails()).toEqual([])
  })

  it.each([
    ['', /Type your email address/],
    ['nowhere', /not an email address/],
    [`${'x'.repeat(300)}@s.example`, /too long|not an email/],
    [17, /not an email address/],
  ])('says beside the field what is wrong with %j', async (typed, message) => {
    const answer = await harness.stranger.post<Problem>('/api/access/codes', { email: typed })
    expect(answer.status).toBe(422)
    expect(answer.body.errors?.[0]).toMatchObject({ path: 'email', message: expect.stringMatching(message) })
  })
})

describe('a session', () => {
  it('ends on signing out', async () => {
    const client = harness.as(email)
    expect((await client.get('/api/me')).status).toBe(200)
    expect((await client.send('DELETE', '/api/access/session')).status).toBe(200)
    expect((await client.get<Problem>('/api/me')).body.code).toBe('not-signed-in')
  })

  it('ends after fourteen idle days, and lasts while it is used', async () => {
    const client = harness.as(email)
    for (let i = 0; i < 3; i++) {
      harness.clock.advance(13 * DAY)
      expect((await client.get('/api/me')).status).toBe(200)
    }
    harness.clock.advance(14 * DAY + MINUTE)
    expect((await client.get('/api/me')).status).toBe(401)
  })

  it('ends after ninety days, however much it is used', async () => {
    const client = harness.as(email)
    for (let day = 0; day < 90; day += 10) {
      expect((await client.get('/api/me')).status, `day ${day}`).toBe(200)
      harness.clock.advance(10 * DAY)
    }
    harness.clock.advance(MINUTE)
    expect((await client.get('/api/me')).status).toBe(401)
  })
})

describe('a write', () => {
  it('is refused when it comes from another site, or does not say from where', async () => {
    const post = (headers: Record<string, string>) =>
      fetch(`${harness.address}/api/access/codes`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json', ...headers },
        body: JSON.stringify({ email }),
      })
    expect((await post({ Origin: 'https://elsewhere.example' })).status).toBe(403)
    expect((await post({ Origin: 'null' })).status).toBe(403)
    expect((await post({})).status).toBe(403)
    expect((await post({ 'Sec-Fetch-Site': 'cross-site' })).status).toBe(403)
    expect((await post({ 'Sec-Fetch-Site': 'same-origin' })).status).toBe(200)
    expect((await post({ Origin: harness.address })).status).toBe(200)
  })
})
