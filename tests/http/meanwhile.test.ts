import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { Problem } from '../../src/contract/problems.ts'
import type { Restored } from '../../src/contract/restored.ts'
import type { ComposeView } from '../../src/contract/sheets.ts'
import { seatsAsKept, seatsByLedger } from '../../src/server/ledger/replay.ts'
import { claim, type Harness, must, type School, setUpSchool, startHarness, studentEmail } from './harness.ts'

let harness: Harness
let school: School
beforeEach(async () => {
  harness = await startHarness()
  school = await setUpSchool(harness, { students: { '': 5 }, topics: ['Tempeh', 'Kefir'], seats: 3 })
})
afterEach(() => harness.end())

const at = () => `/api/sheets/${school.sheet}`
const view = () => must<ComposeView>(school.owner.get(`${at()}/compose`))
const topic = async (title: string) => (await view()).topics.find((one) => one.title === title)!
const who = (n: number) => harness.as(studentEmail('', n))
const take = async (n: number, to: string) =>
  must(claim(who(n), school.sheet, { kind: 'take', to: school.groups[to] }))
const agree = () => {
  const sheet = harness.stores.sheets.byCode(school.sheet)!
  const groups = harness.stores.sheets.everyGroup(sheet.id)
  return [
    seatsByLedger(harness.stores.ledger.since(sheet.id, 0)),
    seatsAsKept(harness.stores.seats.ofSheet(sheet.id)),
    groups.length,
  ] as const
}

describe('a change that says what its author saw', () => {
  it.each([
    ['title', 'One', 'Two', 'Three'],
    ['seats', 4, 5, 'none'],
    ['floor', 1, 2, 3],
    ['closesAt', '2026-06-01T10:00', '2026-06-02T10:00', '2026-06-03T10:00'],
    ['names', 'mates', 'everyone', 'nobody'],
    ['visibleBefore', true, false, true],
  ])(
    'of the sheet’s %s is refused where somebody else changed it meanwhile',
    async (field, before, theirs, mine) => {
      await must(school.owner.patch(at(), { [field]: before, confirmed: true }))
      await must(school.owner.patch(at(), { [field]: theirs, confirmed: true }))
      const seen = { was: { [field]: before }, confirmed: true }
      const refused = await school.owner.patch<Problem>(at(), { [field]: mine, ...seen })
      expect(refused).toMatchObject({ status: 409, body: { code: 'changed-meanwhile' } })
      expect(refused.body.errors).toMatchObject([{ path: field }])
      // What is there already makes no difference, and what was seen truly is changed.
      await must(school.owner.patch(at(), { [field]: theirs, ...seen }))
      await must(school.owner.patch(at(), { [field]: mine, was: { [field]: theirs }, confirmed: true }))
    },
  )

  it('of a topic and of a group is refused likewise, and other fields are not minded', async () => {
    const { code, groups } = await topic('Tempeh')
    const [path, group] = [`${at()}/topics/${code}`, `${at()}/groups/${groups[0]!.code}`]
    await must(school.owner.patch(path, { place: 'Bench 2', was: { place: '' } }))
    expect((await school.owner.patch(path, { place: 'Bench 3', was: { place: '' } })).status).toBe(409)
    await must(school.owner.patch(path, { brief: 'New', was: { brief: '' } }))
    await must(school.owner.patch(group, { seats: 5, was: { seats: null } }))
    expect((await school.owner.patch(group, { seats: 6, was: { seats: null } })).status).toBe(409)
    await must(school.owner.patch(group, { seats: null, was: { seats: 5 } }))
    expect((await topic('Tempeh')).place).toBe('Bench 2')
  })

  it('without saying so is made, as from elsewhere', async () => {
    await must(school.owner.patch(at(), { title: 'One' }))
    await must(school.owner.patch(at(), { title: 'Two' }))
    expect((await view()).title).toBe('Two')
  })

  it.each([
    ['title', 'One', 'Two', 'Three'],
    ['dueAt', null, '2026-06-02T10:00', '2026-06-03T10:00'],
    ['points', 10, 12, 14],
    [
      'criteria',
      [],
      [{ id: 'a', title: 'A', points: 5, levels: [] }],
      [{ id: 'b', title: 'B', points: 5, levels: ['x'] }],
    ],
    ['out', true, false, true],
  ])(
    'of a task’s %s is refused likewise, and what else a colleague changed stays',
    async (field, before, theirs, mine) => {
      type Tasks = { tasks: { code: string; instructions: string; title: string }[] }
      const first = { title: 'One', points: 10, criteria: [], out: true, dueAt: null }
      const { tasks } = await must<Tasks>(school.owner.post(`${at()}/tasks`, first))
      const path = `${at()}/tasks/${tasks[0]!.code}`
      const change = (body: object) => school.owner.patch<Problem & Tasks>(path, body)
      await must(change({ [field]: theirs, was: { [field]: before } }))
      await must(change({ instructions: 'Theirs', was: { instructions: '' } }))
      const clash = { [field]: mine, was: { [field]: before } }
      if (field !== 'out') {
        expect(await change(clash)).toMatchObject({ status: 409, body: { code: 'changed-meanwhile' } })
        expect((await change(clash)).body.errors?.[0]?.path).toBe(field)
      }
      const after = await must(change({ [field]: mine, was: { [field]: theirs } }))
      expect(after.tasks[0]?.instructions).toBe('Theirs')
    },
  )

  it('of many limits is refused as a whole where one of them was changed meanwhile', async () => {
    const groups = (await view()).topics.map((one) => one.groups[0]!.code)
    await must(school.owner.patch(`${at()}/groups/${groups[1]}`, { seats: 9 }))
    const changes = groups.map((group) => ({ group, seats: 5, was: null }))
    expect((await school.owner.send<Problem>('PUT', `${at()}/limits`, { changes })).body.code).toBe(
      'changed-meanwhile',
    )
    expect((await topic('Tempeh')).groups[0]?.own.seats).toBeNull()
  })
})

describe('a removed topic that is put back', () => {
  const remove = async (title: string) => {
    const { code } = await topic(title)
    await must(school.owner.post(`${at()}/topics/${code}/remove`, { confirmed: true }))
    return () =>
      must<ComposeView & { restored: Restored }>(school.owner.post(`${at()}/topics/${code}/restore`))
  }

  it('has its people again, in their order, and the ledger says so', async () => {
    for (const n of [2, 0, 1]) await take(n, 'Tempeh')
    const before = agree()[1]
    const back = await remove('Tempeh')
    expect((await back()).restored).toEqual({ seated: 3, out: [] })
    const [ledger, kept] = agree()
    expect(kept).toEqual(before)
    expect(ledger).toEqual(kept)
  })

  it('says who could not return, and why: another seat meanwhile, or gone from the course', async () => {
    for (const n of [0, 1, 2]) await take(n, 'Tempeh')
    const back = await remove('Tempeh')
    await take(0, 'Kefir')
    const { course_id } = harness.stores.sheets.byCode(school.sheet)!
    const { code } = harness.stores.roster
      .everybody(course_id)
      .find(({ email }) => email === studentEmail('', 1))!
    await must(school.owner.patch(`/api/courses/${school.course}/roster/people/${code}`, { status: 'left' }))
    const { restored } = await back()
    expect(restored.seated).toBe(1)
    expect(restored.out.map(({ name }) => name)).toEqual(['Student 0', 'Student 1'])
    expect(restored.out.every(({ why }) => why.length > 10)).toBe(true)
  })

  it('has those again who had handed in there: the work is theirs', async () => {
    await take(0, 'Tempeh')
    const { tasks } = await must<{ tasks: { code: string }[] }>(
      school.owner.post(`${at()}/tasks`, { title: 'Log book', out: true }),
    )
    const handIns = `${at()}/tasks/${tasks[0]!.code}/hand-ins`
    await must(who(0).post(handIns, { group: school.groups.Tempeh, text: 'pH 4.2', after: 0 }))
    const back = await remove('Tempeh')
    expect((await back()).restored).toEqual({ seated: 1, out: [] })
  })

  it('brings back whom it lost the last time, not whom it lost before', async () => {
    await take(0, 'Tempeh')
    await (await remove('Tempeh'))()
    await must(claim(who(0), school.sheet, { kind: 'give-up', from: school.groups.Tempeh }))
    await take(1, 'Tempeh')
    harness.clock.advance(60_000)
    const back = await remove('Tempeh')
    expect((await back()).restored.seated).toBe(1)
    expect(agree()[1]).toHaveLength(1)
  })
})

it('a closed group that is offered again has its people back where that is asked for', async () => {
  await take(0, 'Tempeh')
  const group = `${at()}/groups/${school.groups.Tempeh}`
  await must(school.owner.patch(group, { offered: false, confirmed: true }))
  const without = await must<ComposeView & { restored?: Restored }>(
    school.owner.patch(group, { offered: true }),
  )
  expect(without.restored).toBeUndefined()
  await must(school.owner.patch(group, { offered: false }))
  await take(1, 'Kefir')
  const back = await must<ComposeView & { restored?: Restored }>(
    school.owner.patch(group, { offered: true, bringBack: true }),
  )
  expect(back.restored).toEqual({ seated: 1, out: [] })
})
