import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { Problem } from '../../src/contract/problems.ts'
import { seatsAsKept, seatsByLedger } from '../../src/server/ledger/replay.ts'
import { type Harness, must, outcome, type School, studentEmail } from './harness.ts'
import { type Labs, startLabs } from './labs.ts'

let labs: Labs
let harness: Harness
let school: School
beforeEach(async () => {
  labs = await startLabs()
  harness = labs.harness
  school = labs.school
})
afterEach(() => harness.end())

describe('groups of their own kind', () => {
  it('not offered in a section are refused and not listed there', async () => {
    const group = school.groups['Tempeh/Tue lab']!
    await must(school.owner.patch(`${labs.at}/groups/${group}`, { offered: false }))
    expect(outcome(await labs.take(labs.tue(0), 'Tempeh/Tue lab'))).toBe('group-not-offered')
    expect((await labs.sheetOf(labs.tue(0))).groups.map(({ title }) => title)).toEqual(['Kefir', 'Miso'])
    expect((await labs.sheetOf(labs.wed(0))).groups).toHaveLength(3)
  })

  it('that are no longer offered ask first, then let go of those who sit there', async () => {
    await labs.take(labs.tue(0), 'Tempeh/Tue lab')
    const path = `${labs.at}/groups/${school.groups['Tempeh/Tue lab']}`
    expect((await school.owner.patch<Problem>(path, { offered: false })).body.code).toBe('seated-affected')
    await must(school.owner.patch(path, { offered: false, confirmed: true }))
    expect((await labs.sheetOf(labs.tue(0))).seats).toEqual([])
    const sheet = harness.stores.sheets.byCode(school.sheet)!
    expect(seatsByLedger(harness.stores.ledger.since(sheet.id, 0))).toEqual(
      seatsAsKept(harness.stores.seats.ofSheet(sheet.id)),
    )
  })

  it('with a limit of their own, or none, keep to it', async () => {
    const path = `${labs.at}/groups/${school.groups['Tempeh/Tue lab']}`
    await must(school.owner.patch(path, { seats: 1 }))
    expect(outcome(await labs.take(labs.tue(0), 'Tempeh/Tue lab'))).toBe('granted')
    expect(outcome(await labs.take(labs.tue(1), 'Tempeh/Tue lab'))).toBe('group-full')
    await must(school.owner.patch(path, { seats: 'none' }))
    for (const n of [1, 2, 3, 4])
      expect(outcome(await labs.take(labs.tue(n), 'Tempeh/Tue lab'))).toBe('granted')
    await must(school.owner.patch(path, { seats: null, confirmed: true }))
    expect((await labs.sheetOf(labs.tue(0))).groups.find(({ title }) => title === 'Tempeh')).toMatchObject({
      seats: 3,
      taken: 5,
    })
  })

  it('keep a seat free for a named person, who alone can take it', async () => {
    const { course_id } = harness.stores.sheets.byCode(school.sheet)!
    const person = harness.stores.roster
      .everybody(course_id)
      .find(({ email }) => email === studentEmail('Tue lab', 4))!.code
    const path = `${labs.at}/groups/${school.groups['Tempeh/Tue lab']}/held`
    await must(school.owner.post(path, { person }))
    expect((await school.owner.post<Problem>(path, { note: '' })).body.errors?.[0]?.path).toBe('note')
    for (const n of [0, 1]) expect(outcome(await labs.take(labs.tue(n), 'Tempeh/Tue lab'))).toBe('granted')
    expect(outcome(await labs.take(labs.tue(2), 'Tempeh/Tue lab'))).toBe('group-full')
    const seen = (await labs.sheetOf(labs.tue(2))).groups.find(({ title }) => title === 'Tempeh')
    expect(seen).toMatchObject({ taken: 2, held: 1, heldForYou: false })
    expect(JSON.stringify(seen)).not.toContain('Student 4')
    expect(outcome(await labs.take(labs.tue(4), 'Tempeh/Tue lab'))).toBe('granted')
    expect((await labs.topic('Tempeh')).groups[0]!.held).toEqual([])
  })
})

describe('tutors on groups', () => {
  it('are assigned by instructors, and only from the course’s own staff', async () => {
    const { course_id } = harness.stores.sheets.byCode(school.sheet)!
    const codeOf = (email: string) =>
      harness.stores.roster.everybody(course_id).find((one) => one.email === email)!.code
    const groups = [school.groups['Tempeh/Tue lab'], school.groups['Kefir/Wed lab']]
    const change = (add: string[], remove: string[] = [], of = groups) =>
      school.owner.send<Problem>('PUT', `${labs.at}/tutors`, {
        changes: of.map((group) => ({ group, add, remove })),
      })
    expect((await change([codeOf(studentEmail('Tue lab', 0))])).body.errors?.[0]?.path).toBe(
      'changes[0].add[0]',
    )
    await must(change([codeOf('tutor@school.example')]))
    const run = await must<{ you: string; groups: { code: string; tutors: string[] }[] }>(
      harness.as('tutor@school.example').get(`${labs.at}/run`),
    )
    expect(
      run.groups
        .filter(({ tutors }) => tutors.includes(run.you))
        .map(({ code }) => code)
        .sort(),
    ).toEqual([...groups].sort())
    // Each change says what it adds or takes away: of two that were made over the same view none is lost.
    const owner = codeOf('owner@school.example')
    await must(change([owner], [], [groups[0]]))
    const care = () => {
      const { sheets, roster } = harness.stores
      const { id } = sheets.byCode(school.sheet)!
      const of = sheets.group(groups[0]!)!.id
      return sheets
        .tutors(id)
        .flatMap(({ group_id, enrolment_id }) =>
          group_id === of ? roster.enrolment(enrolment_id)!.email : [],
        )
        .sort()
    }
    expect(care()).toEqual(['owner@school.example', 'tutor@school.example'])
    // A tutor who left neither blocks a change of others, nor comes in again; they can be taken out.
    const tutor = codeOf('tutor@school.example')
    await must(school.owner.patch(`/api/courses/${school.course}/roster/people/${tutor}`, { status: 'left' }))
    await must(change([], [owner], [groups[0]]))
    const again = await change([tutor])
    expect(again.body.errors?.[0]).toMatchObject({ path: 'changes[0].add[0]' })
    expect(again.body.errors?.[0]?.message).toMatch(/is no active tutor or instructor/)
    await must(change([], [tutor]))
    expect(care()).toEqual([])
  })
})
