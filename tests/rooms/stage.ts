import { pino } from 'pino'
import { afterEach, beforeEach } from 'vitest'
import type { ClaimAsk } from '../../src/core/claim.ts'
import { HOUR, type Instant, shift } from '../../src/core/instant.ts'
import { openDb } from '../../src/server/db/open.ts'
import { createHub } from '../../src/server/live/hub.ts'
import { createOutboxMailer } from '../../src/server/mail/mailer.ts'
import type { Enrolment } from '../../src/server/roster/store.ts'
import { createClaims } from '../../src/server/seats/claims.ts'
import type { Sheet } from '../../src/server/sheets/store.ts'
import type { Group, GroupException, TopicFields } from '../../src/server/sheets/topicStore.ts'
import { createStores } from '../../src/server/stores.ts'
import { createUnitOfWork } from '../../src/server/unitOfWork.ts'

export const OPENS = '2026-05-06T08:00:00.000Z'
export const CLOSES = '2026-05-13T08:00:00.000Z'

/** What a topic has that says nothing besides its title. */
export const PLAIN: Omit<TopicFields, 'title'> = {
  brief: '',
  place: '',
  link: '',
  starts_at: null,
  ends_at: null,
  seats: null,
  floor: null,
  mixed: null,
}

export type Stage = ReturnType<typeof setStage>

/**
 * A course with an open sheet, over a database in memory and without a server: what the rooms that decide are tried on
 * where no request is needed.
 */
function setStage() {
  const db = openDb(':memory:')
  const stores = createStores(db)
  let now: Instant = shift(OPENS, HOUR)
  const clock = () => now
  const mailer = createOutboxMailer(stores.mail, clock)
  const hub = createHub(stores)
  const unit = createUnitOfWork({ db, stores, mailer, hub, calm: () => {} })
  const claims = createClaims({ db, clock, log: pino({ level: 'silent' }), ...stores, unit })
  const course = stores.courses.add({ courseCode: 'FERM 1', title: 'Fermentation', zone: 'UTC' }, OPENS)
  const added = stores.sheets.add(course.id, { title: 'Benches', contact: '', seats: 2, floor: 1 }, OPENS)
  stores.sheets.change(added.id, { ...added, opens_at: OPENS, closes_at: CLOSES })
  stores.sheets.publish(added.id, OPENS)
  const sheetId = added.id
  const sheet = (): Sheet => stores.sheets.byId(sheetId)!
  const section = (name: string) => stores.roster.sections(course.id).find((one) => one.name === name)!
  const topicNamed = (title: string) => stores.sheets.topics(sheetId).find((one) => one.title === title)!
  const person = (name: string): Enrolment =>
    stores.roster.everybody(course.id).find((one) => one.name === name)!
  /** The group of a topic, in a section where it has several. */
  const group = (title: string, of?: string): Group =>
    stores.sheets
      .groups(sheetId)
      .find(
        (one) =>
          one.topic_id === topicNamed(title)?.id && (of === undefined || one.section_id === section(of).id),
      )!
  const titleOf = (groupId: number | null): string =>
    (groupId !== null && stores.sheets.topicById(stores.sheets.groupById(groupId)?.topic_id ?? 0)?.title) ||
    ''
  const nameOf = (id: number | null) => (id === null ? null : (stores.roster.enrolment(id)?.name ?? null))
  return {
    db,
    stores,
    mailer,
    hub,
    unit,
    claims,
    course,
    sheet,
    section,
    person,
    group,
    now: clock,
    set(instant: Instant): void {
      now = instant
    },
    advance(ms: number): void {
      now = shift(now, ms)
    },
    /** Changes rules of the sheet, or its window. */
    rule: (changes: Partial<Sheet>) => stores.sheets.change(sheetId, { ...sheet(), ...changes }),
    addSections(...names: string[]): void {
      names.forEach((name, n) => void stores.roster.addSection(course.id, name, n + 1))
    },
    /** Enrols people by their names. */
    enrol(
      names: readonly string[],
      fields: Partial<Pick<Enrolment, 'role' | 'section_id' | 'status'>> = {},
    ): void {
      for (const name of names) {
        const { id } = stores.roster.ensurePerson(`${name.toLowerCase()}@haplon.example`, now)
        const whole = { name, role: 'student', section_id: null, status: 'active', ...fields } as const
        stores.roster.enrol(course.id, id, whole, now)
      }
    },
    /** Sets how somebody takes part. */
    status(name: string, status: Enrolment['status']): void {
      stores.roster.changeEnrolment(person(name), { ...person(name), status }, now)
    },
    putIn: (name: string, of: string | null) =>
      stores.roster.putInSection(person(name).id, of === null ? null : section(of).id),
    /** Adds a topic with a group for all, or one for each of these sections. */
    addTopic(
      title: string,
      fields: Partial<TopicFields> = {},
      sections: readonly string[] | null = null,
    ): void {
      const whole = { title, ...PLAIN, ...fields }
      const places = sections === null ? [null] : sections.map((name) => section(name).id)
      stores.sheets.addTopic(sheetId, whole, places, now)
    },
    except: (of: Group, fields: Partial<GroupException>) =>
      stores.sheets.changeGroup(of.id, { ...of, ...fields }),
    hold: (title: string, name: string | null) =>
      stores.sheets.holdSeat(group(title).id, name === null ? null : person(name).id, '', now),
    /** Claims as a student; gives `yes`, or why not. */
    async claim(name: string, kind: ClaimAsk<string>['kind'], to: string, from?: string): Promise<string> {
      const codes = { ...(from !== undefined && { from: group(from).code }), to: group(to).code }
      const ask = (
        kind === 'give-up' || kind === 'leave-line' ? { kind, from: codes.to } : { kind, ...codes }
      ) as ClaimAsk<string>
      const { id, person_id } = person(name)
      const key = `key ${stores.ledger.newest(sheetId)} ${Math.random()}`
      const outcome = await claims.submit({ sheetId, enrolmentId: id, actorId: person_id, key, ask })
      return outcome.granted ? (outcome.byLine ? 'yes, by a line' : 'yes') : outcome.reason
    },
    /** Puts people into a group's seats as they are named, without asking anybody. */
    seat(title: string, ...names: string[]): void {
      for (const name of names) stores.seats.seat(sheetId, group(title).id, person(name).id, false, now)
    },
    /** Who sits in a group, in the order they sat down; seats past the limit have a plus. */
    seated: (title: string) =>
      stores.seats
        .ofGroup(group(title).id)
        .map(({ enrolment_id, extra }) => `${nameOf(enrolment_id)}${extra ? '+' : ''}`),
    /** Who waits for a group. */
    line: (title: string) =>
      stores.seats.lineOf(group(title).id).map(({ enrolment_id }) => nameOf(enrolment_id)),
    /** The ledger's entries after a position, as texts: kind, whom, from, to, and what it says beside. */
    entries: (after = 0) =>
      stores.ledger.since(sheetId, after).map((entry) => {
        const { group: at, ...detail } = JSON.parse(entry.detail) as Record<string, unknown>
        const groups = [entry.from_group_id, entry.to_group_id, at as number | undefined]
          .map((id) => titleOf(id ?? null))
          .filter((title) => title !== '')
        const because = Object.entries(detail).map(([name, value]) => `${name}=${value}`)
        return [entry.kind, nameOf(entry.enrolment_id), ...groups, ...because].join(' ')
      }),
    position: () => stores.ledger.newest(sheetId),
    mails: () =>
      stores.mail.newest(100).map(({ recipient, subject, body }) => ({ recipient, subject, body })),
  }
}

/** A stage of its own for each test. */
export function stageEach(fill: (stage: Stage) => void = () => {}): () => Stage {
  let stage: Stage
  beforeEach(() => {
    stage = setStage()
    fill(stage)
  })
  afterEach(() => stage.db.close())
  return () => stage
}
