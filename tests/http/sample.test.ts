import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { DoorPerson } from '../../src/contract/demo.ts'
import type { RunView } from '../../src/contract/seats.ts'
import { tally } from '../../src/core/tally.ts'
import { bindDoor } from '../../src/demo/door.ts'
import { fillSample, STAFF } from '../../src/demo/fill.ts'
import { readConfig } from '../../src/server/config.ts'
import { seatsAsKept, seatsByLedger } from '../../src/server/ledger/replay.ts'
import { type Running, start } from '../../src/server/start.ts'

const NOW = '2026-05-11T11:00:00.000Z'

interface Sample extends Running {
  end(): Promise<void>
}

async function sample(): Promise<Sample> {
  const folder = mkdtempSync(join(tmpdir(), 'haplon-sample-'))
  let now = NOW
  const clock = {
    set: (instant: string) => {
      now = instant
    },
  }
  const running = await start({
    config: readConfig({ HAPLON_DB: join(folder, 'sample.db'), PORT: '0', HAPLON_LOG: 'silent' }),
    web: null,
    clock: () => now,
    demo: bindDoor,
    fill: (parts) => fillSample({ ...parts, clock, now: NOW, lotNumber: 48_213 }),
  })
  clock.set(NOW)
  return {
    ...running,
    end: async () => {
      await running.stop()
      rmSync(folder, { recursive: true, force: true })
    },
  }
}

/** Everything of the sample but its random codes. */
function contents({ stores }: Sample): string {
  return JSON.stringify(
    stores.courses.all().map((course) => ({
      title: course.title,
      people: stores.roster
        .everybody(course.id)
        .map(({ name, email, role, section_id }) => [name, email, role, section_id]),
      sheets: stores.sheets.ofCourse(course.id).map((sheet) => ({
        title: sheet.title,
        window: [sheet.opens_at, sheet.closes_at, sheet.published_at],
        seats: stores.seats
          .ofSheet(sheet.id)
          .map(({ group_id, enrolment_id, taken_at }) => [group_id, enrolment_id, taken_at]),
      })),
    })),
  )
}

let one: Sample
beforeAll(async () => {
  one = await sample()
})
afterAll(() => one.end())

describe('the sample', () => {
  it('is the same for the same lot number and instant', async () => {
    const other = await sample()
    expect(contents(other)).toBe(contents(one))
    await other.end()
  })

  it('holds the courses it promises', () => {
    const [ferm, sens] = one.stores.courses.all()
    const sections = one.stores.roster.sections(ferm!.id)
    const students = one.stores.roster.students(ferm!.id)
    expect(sections.map(({ id }) => students.filter(({ section_id }) => section_id === id).length)).toEqual([
      40, 38, 40,
    ])
    const roles = one.stores.roster.everybody(ferm!.id).map(({ role }) => role)
    expect(roles.filter((role) => role === 'instructor')).toHaveLength(2)
    expect(roles.filter((role) => role === 'tutor')).toHaveLength(3)
    const emails = new Set(students.map(({ email }) => email))
    expect(emails.size).toBe(118)
    expect(one.stores.roster.sections(sens!.id)).toEqual([])
    expect(
      one.stores.roster.students(sens!.id).filter(({ email }) => emails.has(email)).length,
    ).toBeGreaterThan(5)
    expect(students.some(({ name }) => /[À-ž]/.test(name))).toBe(true)
  })

  it('has a sheet of each road: made and mixed, for part of a class, and one with other partners', () => {
    const { courses, sheets } = one.stores
    const all = courses.all().flatMap(({ id }) => sheets.ofCourse(id))
    const some = (like: (sheet: (typeof all)[number]) => boolean) => expect(all.some(like)).toBe(true)
    some(({ road }) => road === 'made')
    some(({ road, mixed }) => road === 'chosen' && mixed === 1)
    some(({ for_whom, list_id }) => for_whom === 'list' && list_id !== null)
    const made = all.filter(({ road }) => road === 'made')
    const attributes = one.stores.roster
      .everybody(made[0]!.course_id)
      .filter((person) => Object.keys(JSON.parse(person.attributes)).length > 0)
    expect(made.length).toBeGreaterThanOrEqual(2)
    expect(attributes.length).toBeGreaterThan(10)
  })

  it('has last term’s work: a talk marked by two, a quiet difference, shared points, weekly meetings, remarks', () => {
    const { courses, sheets, tasks, marks, differences, shares, meetings } = one.stores
    const past = courses.all().find(({ course_code }) => course_code === 'FERM 210-T')!
    const sheet = sheets.ofCourse(past.id)[0]!
    const all = tasks.ofSheet(sheet.id)
    const talk = all.find(({ hands_in }) => hands_in === 0)!
    expect(new Set(marks.ofTask(talk.id).map(({ changed_by }) => changed_by)).size).toBeGreaterThanOrEqual(2)
    expect(all.flatMap(({ id }) => differences.ofTask(id))).toHaveLength(1)
    expect(all.flatMap(({ id }) => shares.ofTask(id)).length).toBeGreaterThan(5)
    const weekly = sheets.groups(sheet.id).flatMap(({ id }) => meetings.ofGroup(id))
    expect(weekly.some(({ weeks }) => weeks > 1)).toBe(true)
    // In what was written, on two PDFs and on a picture, with an answer.
    const { remarks, files } = one.stores
    const said = all.flatMap(({ id }) =>
      remarks
        .counts(id)
        .flatMap((owner) => remarks.ofOwner(id, owner).map((remark) => ({ ...remark, owner }))),
    )
    expect(said.some(({ file_id }) => file_id === null)).toBe(true)
    const typeOf = (id: number | null) => files.byIds(id === null ? [] : [id])[0]?.type
    const on = (type: string) => said.filter(({ file_id }) => typeOf(file_id) === type)
    expect(new Set(on('application/pdf').map(({ file_id }) => file_id)).size).toBe(2)
    expect(on('image/png')).not.toEqual([])
    expect(said.some(({ owner }) => owner.answers > 0)).toBe(true)
  })

  it('has Culture benches open since five days, four fifths seated, some groups full and some under their floor', async () => {
    const [ferm] = one.stores.courses.all()
    const sheet = one.stores.sheets.ofCourse(ferm!.id).find(({ title }) => title === 'Culture benches')!
    const cookie = await fetch(`${one.address}/api/door`, {
      method: 'POST',
      headers: { Origin: one.address, 'Content-Type': 'application/json' },
      body: JSON.stringify({ email: STAFF.renske.email }),
    }).then((answer) => answer.headers.get('set-cookie')!.split(';')[0]!)
    const get = async <T>(path: string) =>
      (await (await fetch(`${one.address}${path}`, { headers: { Cookie: cookie } })).json()) as T
    const run = await get<RunView>(`/api/sheets/${sheet.code}/run`)
    const standing = tally(run)
    expect(run.state).toBe('open')
    expect(standing.students - standing.noGroup.length).toBe(94)
    expect(standing.groupsFull).toBeGreaterThan(5)
    expect(standing.underFloor).toBeGreaterThan(2)
    expect(standing.sections.every(({ left }) => left > 0)).toBe(true)
    // Believable: somebody came on most of the days since the opening.
    expect(new Set(run.seats.map(({ at }) => at.slice(0, 10))).size).toBeGreaterThanOrEqual(4)
    const { people } = await get<{ people: DoorPerson[] }>('/api/door')
    expect(people.filter(({ featured }) => featured).length).toBeGreaterThanOrEqual(7)
  })

  it('agrees with its ledgers', () => {
    for (const course of one.stores.courses.all()) {
      for (const { id } of one.stores.sheets.ofCourse(course.id)) {
        expect(seatsByLedger(one.stores.ledger.since(id, 0))).toEqual(
          seatsAsKept(one.stores.seats.ofSheet(id)),
        )
      }
    }
  })
})
