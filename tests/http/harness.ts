import { createHash, randomBytes } from 'node:crypto'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Problem } from '../../src/contract/problems.ts'
import type { ClaimAnswer } from '../../src/contract/seats.ts'
import type { ComposeView } from '../../src/contract/sheets.ts'
import { type Instant, shift } from '../../src/core/instant.ts'
import { type Config, readConfig } from '../../src/server/config.ts'
import { createHub } from '../../src/server/live/hub.ts'
import type { Mailer } from '../../src/server/mail/mailer.ts'
import { type Running, start } from '../../src/server/start.ts'
import { createUnitOfWork } from '../../src/server/unitOfWork.ts'

/** The instant at which every test begins. */
export const START = '2026-05-06T07:00:00.000Z'

export interface Answer<T = unknown> {
  status: number
  body: T
  headers: Headers
}

/** Somebody who talks to the server; signed in when made by `as`. */
export interface Client {
  send<T = unknown>(method: string, path: string, body?: unknown): Promise<Answer<T>>
  get<T = unknown>(path: string): Promise<Answer<T>>
  post<T = unknown>(path: string, body?: unknown): Promise<Answer<T>>
  patch<T = unknown>(path: string, body?: unknown): Promise<Answer<T>>
  cookie: string
}

export interface Harness extends Running {
  clock: { now(): Instant; set(instant: Instant): void; advance(ms: number): void }
  /** A client signed in with an address that the server knows. */
  as(email: string): Client
  stranger: Client
  config: Config
  end(): Promise<void>
}

/** A unit of work beside the server's own, over the same database, for what a test carries out itself. */
export function unitWith({ db, stores }: Pick<Harness, 'db' | 'stores'>, mailer: Mailer) {
  return createUnitOfWork({ db, stores, mailer, hub: createHub(stores), calm: () => {} })
}

/**
 * A server on a database of its own, with a clock that the test moves.
 * @param more `dueEvery`: milliseconds between two looks at what is due by the clock
 */
export async function startHarness(
  env: Record<string, string> = {},
  more: { dueEvery?: number } = {},
): Promise<Harness> {
  const folder = mkdtempSync(join(tmpdir(), 'haplon-test-'))
  let now: Instant = START
  const config = readConfig({
    HAPLON_DB: join(folder, 'test.db'),
    PORT: '0',
    HAPLON_LOG: 'silent',
    HAPLON_INSTRUCTORS: 'owner@school.example',
    ...env,
  })
  const running = await start({ config, web: null, clock: () => now, ...more })
  const as = (email: string): Client => {
    const person = running.stores.roster.ensurePerson(email, now)
    const token = randomBytes(32).toString('base64url')
    running.stores.access.addSession(createHash('sha256').update(token).digest('hex'), person.id, now)
    return clientOf(running.address, `__Host-haplon_session=${token}`)
  }
  return {
    ...running,
    clock: {
      now: () => now,
      set: (instant) => {
        now = instant
      },
      advance: (ms) => {
        now = shift(now, ms)
      },
    },
    as,
    config,
    stranger: clientOf(running.address, ''),
    end: async () => {
      await running.stop()
      rmSync(folder, { recursive: true, force: true })
    },
  }
}

function clientOf(address: string, cookie: string): Client {
  const send = async <T>(method: string, path: string, body?: unknown): Promise<Answer<T>> => {
    const response = await fetch(`${address}${path}`, {
      method,
      headers: {
        Origin: address,
        ...(cookie && { Cookie: cookie }),
        ...(body !== undefined && { 'Content-Type': 'application/json' }),
      },
      ...(body !== undefined && { body: typeof body === 'string' ? body : JSON.stringify(body) }),
    })
    const text = await response.text()
    return {
      status: response.status,
      body: (text === '' ? null : JSON.parse(text)) as T,
      headers: response.headers,
    }
  }
  return {
    send,
    get: (path) => send('GET', path),
    post: (path, body) => send('POST', path, body),
    patch: (path, body) => send('PATCH', path, body),
    cookie,
  }
}

export interface School {
  course: string
  sheet: string
  owner: Client
  /** Codes of the groups by topic title and section name: `Tempeh/Tue lab`. */
  groups: Record<string, string>
}

export interface SchoolPlan {
  sections?: string[]
  /** Students by section name; the key `''` in a course without sections. */
  students: Record<string, number>
  topics: string[]
  seats?: number
  publish?: boolean
}

/** The address of the nth student of a section. */
export function studentEmail(section: string, n: number): string {
  return `s${n}.${section.toLowerCase().replace(/\W+/g, '') || 'all'}@school.example`
}

/** Sets up a course with roster and sheet, by the same routes that an instructor's pages use. */
export async function setUpSchool(harness: Harness, plan: SchoolPlan): Promise<School> {
  const owner = harness.as('owner@school.example')
  const { sections = [], seats = 3, publish = true } = plan
  const code = `FERM ${Math.floor(Math.random() * 1e6)}`
  const course = await must<{ code: string }>(
    owner.post('/api/courses', {
      courseCode: code,
      title: 'Fermentation',
      zone: 'Europe/Copenhagen',
      sections,
    }),
  )
  const lines = Object.entries(plan.students).flatMap(([section, count]) =>
    Array.from(
      { length: count },
      (_, n) => `Student ${n} ${section},${studentEmail(section, n)},${section},student`,
    ),
  )
  const csv = ['name,email,section,role', 'Tutor One,tutor@school.example,,tutor', ...lines].join('\n')
  await must(owner.post(`/api/courses/${course.code}/roster/import`, { csv, skipFaults: false }))
  const sheet = await must<ComposeView>(
    owner.post(`/api/courses/${course.code}/sheets`, { title: 'Culture benches' }),
  )
  const at = `/api/sheets/${sheet.code}`
  await must(owner.patch(at, { seats, floor: 1, opensAt: '2026-05-06T09:00', closesAt: '2026-05-13T17:00' }))
  for (const title of plan.topics) await must(owner.post(`${at}/topics`, { title }))
  if (publish) await must(owner.post(`${at}/publish`))
  const view = await must<ComposeView>(owner.get(`${at}/compose`))
  const names = new Map(view.sections.map(({ code, name }) => [code, name]))
  const groups = Object.fromEntries(
    view.topics.flatMap((topic) =>
      topic.groups.map((group) => [
        group.section === null ? topic.title : `${topic.title}/${names.get(group.section)}`,
        group.code,
      ]),
    ),
  )
  return { course: course.code, sheet: sheet.code, owner, groups }
}

/** The body of an answer that has to be a yes. */
export async function must<T = unknown>(answer: Promise<Answer<T>>): Promise<T> {
  const { status, body } = await answer
  if (status !== 200) throw new Error(`expected a yes, got ${status}: ${JSON.stringify(body)}`)
  return body
}

let keys = 0
/** A claim by a student, under a new key unless one is given. */
export function claim(
  client: Client,
  sheet: string,
  ask: { kind: string; from?: string | undefined; to?: string | undefined },
  key = `test-key-${++keys}`,
): Promise<Answer<ClaimAnswer | Problem>> {
  return client.post(`/api/sheets/${sheet}/claims`, { key, ...ask })
}

/** The code of a problem, or `granted`. */
export function outcome({ status, body }: Answer<ClaimAnswer | Problem>): string {
  return status === 200 ? 'granted' : (body as Problem).code
}
