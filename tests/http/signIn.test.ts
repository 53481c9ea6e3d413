import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { CodeAsked, LinkLook } from '../../src/contract/access.ts'
import type { Problem } from '../../src/contract/problems.ts'
import type { Me } from '../../src/contract/session.ts'
import type { SignIns } from '../../src/contract/signIns.ts'
import { DAY, MINUTE } from '../../src/core/instant.ts'
import { type Client, type Harness, setUpSchool, startHarness, studentEmail } from './harness.ts'

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
const newestBody = (to: string) => mails(to).find(({ subject }) => subject.startsWith('Signing in'))!.body
const newestCode = (to = email) => /\d{6}/.exec(newestBody(to))![0]
const newestLink = (to = email) => /\/enter\S*#(\S+)/.exec(newestBody(to))![1]!

/** A browser: it keeps the cookies that it gets. */
function browser() {
  const kept = new Map<string, string>()
  return {
    async post<T>(
      path: string,
      body: unknown,
    ): Promise<{ status: number; body: T; retryAfter: string | null }> {
      const cookie = [...kept].map(([name, value]) => `${name}=${value}`).join('; ')
      const answer = await fetch(`${harness.address}${path}`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json', Origin: harness.address, Cookie: cookie },
        body: JSON.stringify(body),
      })
      for (const set of answer.headers.getSetCookie()) {
        const [, name, value] = /^([^=]+)=([^;]*)/.exec(set)!
        kept.set(name!, value!)
      }
      return {
        status: answer.status,
        body: (await answer.json()) as T,
        retryAfter: answer.headers.get('retry-after'),
      }
    },
    ask(address = email) {
      return this.post<CodeAsked>('/api/access/codes', { email: address })
    },
    enter(code: string, address = email) {
      return this.post<Me & Problem>('/api/access/session', { email: address, code })
    },
  }
}
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

  it('belongs to the browser that asked: what others ask and type keeps nobody out', async () => {
    const own = browser()
    await own.ask()
    const code = newestCode()
    const stranger = browser()
    for (let i = 0; i < 8; i++) expect((await stranger.ask()).status).toBe(200)
    expect(mails()).toHaveLength(6)
    for (let i = 0; i < 8; i++) expect((await stranger.enter(other(newestCode()))).status).toBe(422)
    // Not even the right one of somebody else's mail, in another browser.
    expect((await stranger.enter(code)).status).toBe(422)
    expect((await own.enter(code)).status).toBe(200)
  })

  it('goes by the link too: at once where it was asked for, anywhere else once somebody says so, and once', async () => {
    const own = browser()
    await own.ask()
    const link = newestLink()
    const elsewhere = browser()
    const look = (who: ReturnType<typeof browser>, token: string) =>
      who.post<LinkLook & Problem>('/api/access/link/look', { token })
    expect((await look(own, link)).body).toEqual({ email, here: true })
    expect((await look(elsewhere, link)).body).toEqual({ email, here: false })
    expect((await elsewhere.post<Me>('/api/access/link', { token: link })).body).toMatchObject({ email })
    expect((await own.post('/api/access/link', { token: link })).status).toBe(422)
    expect((await own.enter(newestCode())).status).toBe(422)
    await own.ask()
    const older = newestLink()
    await own.ask()
    expect((await look(own, older)).body.code).toBe('link-not-valid')
    harness.clock.advance(10 * MINUTE)
    expect((await look(own, newestLink())).body.code).toBe('link-not-valid')
    for (const token of ['', 'x'.repeat(200), 'none']) expect((await look(own, token)).status).toBe(422)
  })

  it('lets the person at the mailbox in, however many mails others asked for', async () => {
    for (let i = 0; i < 40; i++) await browser().ask()
    expect(mails().length).toBeLessThanOrEqual(30)
    const own = browser()
    expect((await own.ask()).body.nextAt).not.toBeNull()
    const entered = await own.post<Me>('/api/access/link', { token: newestLink() })
    expect(entered.body).toMatchObject({ email })
    // A browser that was let in before is not held to what others ask.
    expect((await own.ask()).body.nextAt).toBeNull()
  })

  it('slows down who guesses over many addresses, longer each time, and nobody who types the right one', async () => {
    const own = browser()
    await own.ask()
    const code = newestCode()
    const guesser = browser()
    const pauses: number[] = []
    for (let i = 0; i < 24; i++) {
      const answer = await guesser.enter('000001', `nobody${i}@school.example`)
      if (answer.status === 429) {
        pauses.push(Number(answer.retryAfter))
        harness.clock.advance(Number(answer.retryAfter) * 1_000)
        i -= 1
      }
    }
    expect(pauses.length).toBeGreaterThan(2)
    expect(pauses).toEqual(pauses.toSorted((a, b) => a - b))
    expect(pauses.at(-1)).toBeGreaterThan(pauses[0]!)
    expect((await own.enter(code)).status).toBe(200)
  })

  it('is told of in a mail with a link alone once very many guessed, so that nothing is left to guess', async () => {
    for (let i = 0; i < 60; i++) {
      const guesser = browser()
      await guesser.ask(`nobody${i}@school.example`)
      await guesser.enter('000001', `nobody${i}@school.example`)
    }
    const own = browser()
    expect((await own.ask()).body.withCode).toBe(false)
    expect(mails()[0]!.body.replace(/#\S+/, '')).not.toMatch(/\d{6}/)
    expect((await own.post<Me>('/api/access/link', { token: newestLink() })).body).toMatchObject({ email })
  })

  it('is told to whom it concerns when somebody typed five wrong codes, once a day', async () => {
    for (let round = 0; round < 2; round++) {
      const guesser = browser()
      await guesser.ask()
      const code = newestCode()
      for (let i = 0; i < 7; i++) await guesser.enter(other(code))
    }
    expect(mails().filter(({ subject }) => subject.includes('wrong codes'))).toHaveLength(1)
    const nobody = browser()
    await nobody.ask('nobody@school.example')
    for (let i = 0; i < 7; i++) await nobody.enter('123456', 'nobody@school.example')
    expect(mails('nobody@school.example')).toEqual([])
  })

  it('shows no code in the subject, which stands on locked phones', async () => {
    await ask()
    expect(mails()[0]!.subject).not.toMatch(/\d/)
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

describe('the list of sessions', () => {
  const list = (client: Client) => client.get<SignIns>('/api/me/sign-ins')

  it('is one’s own; one of them can be ended, and all of them', async () => {
    const [here, there] = [harness.as(email), harness.as(email)]
    const mate = harness.as(studentEmail('', 1))
    expect((await list(here)).body.sessions.filter((one) => one.here)).toHaveLength(1)
    const other = (await list(here)).body.sessions.find((one) => !one.here)!
    // Nobody ends what is not theirs.
    await mate.send('DELETE', `/api/me/sessions/${other.code}`)
    expect((await there.get('/api/me')).status).toBe(200)
    expect((await here.send<SignIns>('DELETE', `/api/me/sessions/${other.code}`)).body.sessions).toHaveLength(
      1,
    )
    expect((await there.get('/api/me')).status).toBe(401)
    const third = harness.as(email)
    await third.send('DELETE', '/api/me/sessions')
    for (const client of [here, third]) expect((await client.get('/api/me')).status).toBe(401)
    expect((await mate.get('/api/me')).status).toBe(200)
  })

  it('says from which kind of browser each was begun; a browser has one', async () => {
    const own = browser()
    for (let i = 0; i < 2; i++) {
      await own.ask()
      await own.enter(newestCode())
    }
    expect((await list(harness.as(email))).body.sessions).toHaveLength(2)
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
