import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { Problem } from '../../src/contract/problems.ts'
import type { RunView, StudentSheet } from '../../src/contract/seats.ts'
import type { ComposeView } from '../../src/contract/sheets.ts'
import { placesAsKept, placesByLedger, seatsAsKept, seatsByLedger } from '../../src/server/ledger/replay.ts'
import {
  type Client,
  claim,
  type Harness,
  must,
  outcome,
  type School,
  setUpSchool,
  startHarness,
  studentEmail,
} from './harness.ts'

let harness: Harness
let school: School
beforeEach(async () => {
  harness = await startHarness()
  school = await setUpSchool(harness, { students: { '': 8 }, topics: ['Tempeh', 'Kefir'], seats: 2 })
  await must(school.owner.patch(at(), { fullGroups: 'line' }))
})
afterEach(() => {
  // Whatever happened, what the ledger tells of places in lines is what is kept of them.
  const { id } = harness.stores.sheets.byCode(school.sheet)!
  expect(placesByLedger(harness.stores.ledger.since(id, 0))).toEqual(
    placesAsKept(harness.stores.seats.lines(id)),
  )
  return harness.end()
})

const at = () => `/api/sheets/${school.sheet}`
const who = (n: number) => harness.as(studentEmail('', n))
const take = (n: number, to: string) => claim(who(n), school.sheet, { kind: 'take', to: school.groups[to] })
const wait = (n: number, to: string) => claim(who(n), school.sheet, { kind: 'wait', to: school.groups[to] })
const giveUp = (n: number, from: string) =>
  claim(who(n), school.sheet, { kind: 'give-up', from: school.groups[from] })
const sheetOf = (client: Client) => must<StudentSheet>(client.get(`${at()}/student`))
const sits = async (n: number) => {
  const { seats, groups } = await sheetOf(who(n))
  return seats.map(({ group }) => groups.find(({ code }) => code === group)?.title)
}
const placeOf = async (n: number, title: string) =>
  (await sheetOf(who(n))).groups.find((group) => group.title === title)?.yourPlace
const mailsTo = (n: number) =>
  harness.stores.mail.newest(50).filter(({ recipient }) => recipient === studentEmail('', n))

/** Gives a student another status, as the roster's page does. */
async function setStatus(n: number, status: string, freeSeats = false): Promise<void> {
  const { course_id } = harness.stores.sheets.byCode(school.sheet)!
  const { code } = harness.stores.roster
    .everybody(course_id)
    .find(({ email }) => email === studentEmail('', n))!
  const person = `/api/courses/${school.course}/roster/people/${code}`
  await must(school.owner.patch(person, { status, freeSeats }))
}
const pauseStudent = (n: number) => setStatus(n, 'paused')
const undoRoster = () => must(school.owner.post(`/api/courses/${school.course}/roster/undo`))
/** Why places in lines ended, as the ledger has it, newest last. */
const ends = () => {
  const { id } = harness.stores.sheets.byCode(school.sheet)!
  return harness.stores.ledger
    .since(id, 0)
    .filter(({ kind }) => kind === 'line-left')
    .map(({ detail }) => (JSON.parse(detail) as { because?: string }).because)
}

describe('a waiting line', () => {
  it('seats those who wait in order, when a seat comes free, and tells them', async () => {
    for (const n of [0, 1]) await take(n, 'Tempeh')
    for (const n of [2, 3]) expect(outcome(await wait(n, 'Tempeh'))).toBe('granted')
    expect([await placeOf(2, 'Tempeh'), await placeOf(3, 'Tempeh')]).toEqual([1, 2])
    await giveUp(0, 'Tempeh')
    expect(await sits(2)).toEqual(['Tempeh'])
    expect(await placeOf(3, 'Tempeh')).toBe(1)
    expect(mailsTo(2)[0]?.subject).toMatch(/you sit at Tempeh/)
    expect(mailsTo(3)).toEqual([])
  })

  it('cannot be passed by somebody who is quicker', async () => {
    for (const n of [0, 1]) await take(n, 'Tempeh')
    await wait(2, 'Tempeh')
    await Promise.all([giveUp(0, 'Tempeh'), ...[4, 5, 6, 7].map((n) => take(n, 'Tempeh'))])
    expect(await sits(2)).toEqual(['Tempeh'])
    for (const n of [4, 5, 6, 7]) expect(await sits(n)).toEqual([])
  })

  it('won while seated elsewhere is a move, whose seat goes to the next in the other line', async () => {
    for (const n of [0, 1]) await take(n, 'Tempeh')
    for (const n of [2, 3]) await take(n, 'Kefir')
    await wait(2, 'Tempeh')
    await wait(4, 'Kefir')
    await giveUp(0, 'Tempeh')
    expect([await sits(2), await sits(4)]).toEqual([['Tempeh'], ['Kefir']])
    const sheet = harness.stores.sheets.byCode(school.sheet)!
    expect(harness.stores.seats.lines(sheet.id)).toEqual([])
    expect(seatsByLedger(harness.stores.ledger.since(sheet.id, 0))).toEqual(
      seatsAsKept(harness.stores.seats.ofSheet(sheet.id)),
    )
  })

  it('can be joined for several groups; the others are left once one is won', async () => {
    for (const n of [0, 1]) await take(n, 'Tempeh')
    for (const n of [2, 3]) await take(n, 'Kefir')
    await wait(4, 'Tempeh')
    await wait(4, 'Kefir')
    await giveUp(2, 'Kefir')
    expect(await sits(4)).toEqual(['Kefir'])
    expect(await placeOf(4, 'Tempeh')).toBeNull()
  })

  it('moves on when a limit is raised, and when somebody leaves the course', async () => {
    for (const n of [0, 1]) await take(n, 'Tempeh')
    for (const n of [2, 3]) await wait(n, 'Tempeh')
    const { topics } = await must<ComposeView>(school.owner.get(`${at()}/compose`))
    await must(school.owner.patch(`${at()}/topics/${topics[0]!.code}`, { seats: 3 }))
    expect(await sits(2)).toEqual(['Tempeh'])
    const { course_id } = harness.stores.sheets.byCode(school.sheet)!
    const first = harness.stores.roster
      .everybody(course_id)
      .find(({ email }) => email === studentEmail('', 0))!.code
    await must(
      school.owner.patch(`/api/courses/${school.course}/roster/people/${first}`, {
        status: 'left',
        freeSeats: true,
      }),
    )
    expect(await sits(3)).toEqual(['Tempeh'])
  })

  it('is passed over by those who no longer take part', async () => {
    for (const n of [0, 1]) await take(n, 'Tempeh')
    for (const n of [2, 3]) await wait(n, 'Tempeh')
    await pauseStudent(2)
    expect(await placeOf(3, 'Tempeh')).toBe(1)
    await giveUp(0, 'Tempeh')
    expect(await sits(3)).toEqual(['Tempeh'])
  })

  it('is taken up where it was, when the roster’s change is undone', async () => {
    for (const n of [0, 1]) await take(n, 'Tempeh')
    for (const n of [2, 3]) await wait(n, 'Tempeh')
    await pauseStudent(2)
    expect(await placeOf(3, 'Tempeh')).toBe(1)
    await must(school.owner.post(`/api/courses/${school.course}/roster/undo`))
    expect([await placeOf(2, 'Tempeh'), await placeOf(3, 'Tempeh')]).toEqual([1, 2])
  })

  it('is served when undoing a change of the roster frees a seat', async () => {
    await setStatus(7, 'left')
    await setStatus(7, 'active')
    for (const n of [0, 7]) await take(n, 'Tempeh')
    await wait(2, 'Tempeh')
    await undoRoster()
    expect(await sits(2)).toEqual(['Tempeh'])
    expect(mailsTo(2)[0]?.subject).toMatch(/you sit at Tempeh/)
    const { id } = harness.stores.sheets.byCode(school.sheet)!
    const seats = harness.stores.seats.ofSheet(id)
    expect(seats).toHaveLength(2)
    expect(
      seats.every(({ enrolment_id }) => harness.stores.roster.enrolment(enrolment_id)?.status === 'active'),
    ).toBe(true)
  })

  it('ends with an entry of the ledger, whatever ended it', async () => {
    for (const n of [0, 1]) await take(n, 'Tempeh')
    for (const n of [3, 4]) await take(n, 'Kefir')
    for (const n of [2, 5]) await wait(n, 'Tempeh')
    for (const n of [2, 6]) await wait(n, 'Kefir')
    await giveUp(0, 'Tempeh')
    expect(ends()).toEqual(['seated-elsewhere'])
    const { topics } = await must<ComposeView>(school.owner.get(`${at()}/compose`))
    const kefir = topics.find(({ title }) => title === 'Kefir')!
    await must(school.owner.post(`${at()}/topics/${kefir.code}/remove`, { confirmed: true }))
    expect(ends()).toEqual(['seated-elsewhere', 'group-not-offered'])
    await must(school.owner.patch(at(), { fullGroups: 'full', confirmed: true }))
    expect(ends()).toEqual(['seated-elsewhere', 'group-not-offered', 'lines-ended'])
  })

  it('goes on in the others once one seated somebody, where the rules keep them', async () => {
    await must(school.owner.patch(at(), { otherLines: 'keep' }))
    for (const n of [0, 1]) await take(n, 'Tempeh')
    for (const n of [2, 3]) await take(n, 'Kefir')
    await wait(4, 'Tempeh')
    await wait(4, 'Kefir')
    await giveUp(2, 'Kefir')
    expect([await sits(4), await placeOf(4, 'Tempeh')]).toEqual([['Kefir'], 1])
    await giveUp(0, 'Tempeh')
    expect(await sits(4)).toEqual(['Tempeh'])
  })

  it('stands still once the window has closed', async () => {
    for (const n of [0, 1]) await take(n, 'Tempeh')
    await wait(2, 'Tempeh')
    harness.clock.set('2026-05-14T00:00:00.000Z')
    const { topics } = await must<ComposeView>(school.owner.get(`${at()}/compose`))
    await must(school.owner.patch(`${at()}/topics/${topics[0]!.code}`, { seats: 3 }))
    expect(await sits(2)).toEqual([])
  })

  it('is seen by staff with names, by students as a number', async () => {
    for (const n of [0, 1]) await take(n, 'Tempeh')
    await wait(2, 'Tempeh')
    const run = await must<RunView>(school.owner.get(`${at()}/run`))
    const names = new Map(run.people.map(({ code, name }) => [code, name]))
    expect(run.groups[0]!.line.map((code) => names.get(code))).toEqual(['Student 2'])
    const other = await sheetOf(who(5))
    expect(other.groups[0]).toMatchObject({ waiting: 1, yourPlace: null })
    expect(JSON.stringify(other)).not.toContain('Student 2')
  })

  it('is refused where it makes no sense, and left on request', async () => {
    expect(outcome(await wait(0, 'Tempeh'))).toBe('seat-is-free')
    for (const n of [0, 1]) await take(n, 'Tempeh')
    expect(outcome(await wait(0, 'Tempeh'))).toBe('already-seated-here')
    await wait(2, 'Tempeh')
    expect(outcome(await wait(2, 'Tempeh'))).toBe('already-in-line')
    const leave = () => claim(who(2), school.sheet, { kind: 'leave-line', from: school.groups.Tempeh })
    expect(outcome(await leave())).toBe('granted')
    expect(outcome(await leave())).toBe('not-in-line')
    await wait(2, 'Tempeh')
    const asked = await school.owner.patch<Problem>(at(), { fullGroups: 'full' })
    expect(asked.body).toMatchObject({ code: 'seated-affected', affected: [{ name: 'Student 2' }] })
    await must(school.owner.patch(at(), { fullGroups: 'full', confirmed: true }))
    expect(outcome(await wait(3, 'Tempeh'))).toBe('no-waiting-line')
    expect(await placeOf(2, 'Tempeh')).toBeNull()
  })
})

it('whoever gives up a seat for the one a line brings is told by name which', async () => {
  await must(take(0, 'Tempeh'))
  await must(take(1, 'Tempeh'))
  await must(take(2, 'Kefir'))
  await must(wait(2, 'Tempeh'))
  await must(giveUp(0, 'Tempeh'))
  expect(await sits(2)).toEqual(['Tempeh'])
  expect(mailsTo(2)[0]?.body).toContain('Your seat at Kefir is given up for it')
  await must(wait(3, 'Tempeh'))
  await must(giveUp(1, 'Tempeh'))
  expect(mailsTo(3)[0]?.body).not.toContain('given up')
})
