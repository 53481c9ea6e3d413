import { mkdtempSync, readFileSync, rmSync, statSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import Database from 'better-sqlite3'
import pino from 'pino'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { AnnouncementsView } from '../../src/contract/announcements.ts'
import { DAY, HOUR, shift } from '../../src/core/instant.ts'
import { sendDueAnnouncements } from '../../src/server/announcements/due.ts'
import { openDb } from '../../src/server/db/open.ts'
import { createOutboxMailer } from '../../src/server/mail/mailer.ts'
import { sendDueNudges } from '../../src/server/nudges/send.ts'
import { createClosing } from '../../src/server/plans/closing.ts'
import { createPlanner } from '../../src/server/plans/planner.ts'
import { KEPT_DAYS, sweepRows } from '../../src/server/sweep.ts'
import { sendDueNotices } from '../../src/server/talk/notices.ts'
import { type Harness, must, studentEmail, unitWith } from './harness.ts'
import { type Labs, startLabs } from './labs.ts'

/** Every statement that was run, as long as the test listens. */
const ran = new Set<string>()
const prepare = Database.prototype.prepare
vi.spyOn(Database.prototype, 'prepare').mockImplementation(function (this: Database.Database, sql: string) {
  const statement = prepare.call(this, sql)
  for (const way of ['run', 'get', 'all', 'iterate'] as const) {
    const own = statement[way].bind(statement) as (...values: unknown[]) => unknown
    Object.assign(statement, {
      [way]: (...values: unknown[]) => {
        ran.add(sql)
        return own(...values)
      },
    })
  }
  return statement
} as typeof prepare)

let labs: Labs
let harness: Harness
beforeEach(async () => {
  labs = await startLabs()
  harness = labs.harness
})
afterEach(() => harness.end())

const log = pino({ level: 'silent' })
const mailerNow = () => createOutboxMailer(harness.stores.mail, harness.clock.now)

/** Tables of a few rows, whatever happens; that of notices is emptied every hour. */
const SMALL = new Set(['pulse', 'json_each', 'talk_notice', 'CONSTANT'])

/** How a statement reads whole tables, in the words of SQLite; a scan of an index that holds a part alone is none. */
function scansOf(sql: string): string[] {
  const partial = new Set(
    harness.db
      .prepare<[], string>("SELECT name FROM sqlite_master WHERE type = 'index' AND sql LIKE '%WHERE%'")
      .pluck()
      .all(),
  )
  const names = new Map<string, string>()
  for (const [, table, alias] of sql.matchAll(/\b(?:FROM|JOIN|UPDATE|INTO)\s+(\w+)(?:\s+(?:AS\s+)?(\w+))?/gi))
    if (table) names.set(alias ?? table, table)
  const nothing = Array.from({ length: (sql.match(/\?/g) ?? []).length }, () => null)
  const explained = prepare.call(harness.db, `EXPLAIN QUERY PLAN ${sql}`) as Database.Statement<unknown[]>
  const steps = explained.all(...nothing) as { detail: string }[]
  return steps.flatMap(({ detail }) => {
    const [, name = '', index] = /^SCAN (\w+)(?: USING (?:COVERING )?INDEX (\w+))?/.exec(detail) ?? []
    const table = names.get(name) ?? name
    if (name === '' || SMALL.has(table) || (index && partial.has(index))) return []
    return [`${detail} in: ${sql.replace(/\s+/g, ' ').trim()}`]
  })
}

describe('no statement reads a whole table that grows', () => {
  it('of those that run by the clock', async () => {
    ran.clear()
    const { stores, clock } = harness
    const mailer = mailerNow()
    const unit = unitWith(harness, mailer)
    const closing = createClosing({ log, stores, unit, mailer, planner: createPlanner() })
    sendDueAnnouncements(unit, stores, mailer, clock.now())
    sendDueNudges(unit, stores, mailer, clock.now())
    sendDueNotices(unit, stores, mailer, clock.now())
    await closing.carryOut(clock.now())
    await closing.stop()
    sweepRows(stores, clock.now())
    for (const codes of [true, false]) stores.mail.due(clock.now(), 5, codes)
    stores.mail.lapse(clock.now())
    stores.mail.counts()
    expect(ran.size).toBeGreaterThan(12)
    expect([...ran].flatMap(scansOf)).toEqual([])
  })

  it('of those that run on a student’s pages', async () => {
    await must(labs.school.owner.send('PUT', `${labs.at}/extras`, { talk: true, files: true }))
    await must(labs.school.owner.post(`${labs.at}/tasks`, { title: 'Report', out: true }))
    const student = labs.tue(0)
    ran.clear()
    await labs.take(student, 'Tempeh/Tue lab')
    const group = `${labs.at}/groups/${labs.school.groups['Tempeh/Tue lab']}`
    for (const path of ['/api/me', '/api/home', `${labs.at}/student`, `${labs.at}/own-work`, group])
      await must(student.get(path))
    const { body } = await student.post<{ code: string }>(`${group}/talk`, { title: 's', text: 't' })
    await must(student.get(`${group}/talk/${body.code}`))
    await labs.move(student, 'Tempeh/Tue lab', 'Kefir/Tue lab')
    expect(ran.size).toBeGreaterThan(40)
    expect([...ran].flatMap(scansOf)).toEqual([])
  })
})

describe('what is of use for a while', () => {
  it('is forgotten after it, and nothing else is', async () => {
    const student = labs.tue(0)
    await labs.take(student, 'Tempeh/Tue lab')
    await must(harness.stranger.post('/api/access/codes', { email: studentEmail('Tue lab', 0) }))
    const nudged = { subject: 'Take a seat', text: 'Dear {name}' }
    const { people } = await must<{ people: { code: string }[] }>(labs.school.owner.get(`${labs.at}/nudges`))
    await must(labs.school.owner.post(`${labs.at}/nudges`, { ...nudged, people: [people[1]!.code] }))
    const count = (table: string) =>
      harness.db.prepare<[], number>(`SELECT count(*) FROM ${table}`).pluck().get() ?? 0
    const sweepAfter = (ms: number) => sweepRows(harness.stores, shift(harness.clock.now(), ms))
    const code = () =>
      harness.stores.mail.newest(9).find(({ subject }) => subject.startsWith('Signing in'))?.body
    expect([count('sign_in_code'), count('claim_answer'), count('mail')]).toEqual([1, 1, 2])
    expect(code()).toMatch(/\d{6}/)
    sweepAfter(HOUR)
    expect([count('sign_in_code'), count('claim_answer'), count('mail')]).toEqual([1, 1, 2])
    // The text of a mail to sign in goes with its end, also where no mail server takes it.
    expect(code()).toBe('')
    sweepAfter(2 * DAY)
    expect([count('sign_in_code'), count('claim_answer')]).toEqual([0, 1])
    sweepAfter((KEPT_DAYS.claimAnswers + 1) * DAY)
    expect([count('claim_answer'), count('mail')]).toEqual([0, 2])
    const before = [count('ledger'), count('seat'), count('nudged'), count('session')]
    sweepAfter((KEPT_DAYS.mail + 1) * DAY)
    // The mail of a nudge belongs to its record.
    expect(count('mail')).toBe(1)
    expect(count('session')).toBe(0)
    expect([count('ledger'), count('seat'), count('nudged')]).toEqual(before.slice(0, 3))
  })

  it('is the write-ahead log too: what a large write left of it goes back to the disk', () => {
    const folder = mkdtempSync(join(tmpdir(), 'haplon-log-'))
    const file = join(folder, 'a.db')
    const db = openDb(file)
    try {
      db.exec('CREATE TABLE large (text TEXT)')
      const add = db.prepare('INSERT INTO large VALUES (?)')
      db.transaction(() => {
        for (let i = 0; i < 40; i++) add.run('x'.repeat(1024 * 1024))
      })()
      expect(statSync(`${file}-wal`).size).toBeGreaterThan(30 * 1024 * 1024)
      for (let i = 0; i < 2; i++) add.run('small')
      expect(statSync(`${file}-wal`).size).toBeLessThanOrEqual(8 * 1024 * 1024)
    } finally {
      db.close()
      rmSync(folder, { recursive: true, force: true })
    }
  })
})

describe('mail that was refused', () => {
  it('is listed with its sheet for its staff, and sent again by its instructors', async () => {
    const { mail, sheets } = harness.stores
    const sheet = sheets.byCode(labs.school.sheet)!
    await must(labs.school.owner.post(`${labs.at}/announcements`, { text: 'Please choose.', when: 'now' }))
    const [one] = mail.newest(1)
    mail.fail(one!.id, '550 no such mailbox')
    const view = () => must<AnnouncementsView>(labs.school.owner.get(`${labs.at}/announcements`))
    expect((await view()).failed).toMatchObject([{ to: one!.recipient, fault: '550 no such mailbox' }])
    const mails = [one!.code]
    const again = () => labs.school.owner.post<AnnouncementsView>(`${labs.at}/mails/again`, { mails })
    expect((await must(again())).failed).toEqual([])
    expect(mail.byIds([one!.id])).toMatchObject([{ state: 'waiting', tries: 0, fault: null }])
    expect((await again()).status).toBe(404)
    // Of another sheet, and mail to sign in, is nobody's business here.
    await must(harness.stranger.post('/api/access/codes', { email: studentEmail('Tue lab', 0) }))
    const [code] = mail.newest(1)
    mail.fail(code!.id, '550')
    expect((await view()).failed).toEqual([])
    const sent = await labs.school.owner.post(`${labs.at}/mails/again`, { mails: [code!.code] })
    expect([sent.status, mail.failedOf(sheet.id, 9)]).toEqual([404, []])
  })
})

it('the words on what is kept for how long are those of the code', () => {
  const docs = readFileSync(join(import.meta.dirname, '../../docs/security.md'), 'utf8')
  for (const days of Object.values(KEPT_DAYS)) expect(docs).toMatch(new RegExp(`\\b${days} days?\\b`))
})

describe('staff’s page of groups', () => {
  it('asks as many questions of the database for many groups as for few', async () => {
    const { owner } = labs.school
    await must(owner.send('PUT', `${labs.at}/extras`, { talk: true, files: true, name: true }))
    await must(owner.post(`${labs.at}/tasks`, { title: 'Report', out: true, dueAt: '2026-05-06T09:00' }))
    const count = async () => {
      let asked = 0
      const add = vi.spyOn(ran, 'add').mockImplementation(() => {
        asked += 1
        return ran
      })
      await must(owner.get(`${labs.at}/groups`))
      add.mockRestore()
      return asked
    }
    await count()
    const few = await count()
    const topics = Array.from({ length: 40 }, (_, n) => ({ title: `More ${n}` }))
    await must(owner.post(`${labs.at}/topics/several`, { topics }))
    await count()
    // Whoever answers for a group is found among those who sit there, which is kept.
    expect((await count()) - few).toBeLessThan(20)
  })
})
