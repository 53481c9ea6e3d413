import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { LedgerMoment, LedgerView } from '../../src/contract/ledger.ts'
import type { Problem } from '../../src/contract/problems.ts'
import type { RunView } from '../../src/contract/seats.ts'
import { seatsAsKept, seatsByLedger } from '../../src/server/ledger/replay.ts'
import { type Answer, type Harness, must, type School, studentEmail } from './harness.ts'
import { type Labs, startLabs } from './labs.ts'

let labs: Labs
let harness: Harness
let school: School
beforeEach(async () => {
  labs = await startLabs()
  harness = labs.harness
  school = labs.school
})
afterEach(async () => {
  const sheet = harness.stores.sheets.byCode(school.sheet)!
  expect(seatsByLedger(harness.stores.ledger.since(sheet.id, 0))).toEqual(
    seatsAsKept(harness.stores.seats.ofSheet(sheet.id)),
  )
  await harness.end()
})

interface Change {
  person: string
  from: string | null
  to: string | null
}
const seat = (changes: Change[], confirmed = false, who = school.owner): Promise<Answer<Problem>> =>
  who.post(`${labs.at}/seatings`, { changes, confirmed })
const codeOf = (email: string) => {
  const { course_id } = harness.stores.sheets.byCode(school.sheet)!
  return harness.stores.roster.everybody(course_id).find((one) => one.email === email)!.code
}
const tue = (n: number) => codeOf(studentEmail('Tue lab', n))
const wed = (n: number) => codeOf(studentEmail('Wed lab', n))
const group = (name: string) => school.groups[name]!
const inGroup = async (name: string) => {
  const view = await must<RunView>(school.owner.get(`${labs.at}/run`))
  return view.seats.filter((one) => one.group === group(name)).map(({ person }) => person)
}

describe('seating by hand', () => {
  it('seats several, moves one, swaps two and takes one out, each told in the ledger', async () => {
    await must(
      seat([
        { person: tue(0), from: null, to: group('Tempeh/Tue lab') },
        { person: tue(1), from: null, to: group('Kefir/Tue lab') },
      ]),
    )
    await must(
      seat([
        { person: tue(0), from: group('Tempeh/Tue lab'), to: group('Kefir/Tue lab') },
        { person: tue(1), from: group('Kefir/Tue lab'), to: group('Tempeh/Tue lab') },
      ]),
    )
    expect(await inGroup('Kefir/Tue lab')).toEqual([tue(0)])
    await must(seat([{ person: tue(0), from: group('Kefir/Tue lab'), to: null }]))
    expect(await inGroup('Kefir/Tue lab')).toEqual([])
    const { entries } = await must<LedgerView>(school.owner.get(`${labs.at}/ledger`))
    const kinds = entries.filter(({ kind }) => kind.startsWith('seat-')).map(({ kind }) => kind)
    expect(kinds).toEqual(['seat-taken', 'seat-taken', 'seat-moved', 'seat-moved', 'seat-removed'])
    expect(entries.at(-1)).toMatchObject({ person: tue(0), detail: { because: 'by-hand' }, canUndo: true })
  })

  it('asks before an extra seat and another section, and goes on knowingly', async () => {
    const full = [0, 1, 2].map((n) => ({ person: tue(n), from: null, to: group('Tempeh/Tue lab') }))
    await must(seat(full))
    const more = [{ person: wed(0), from: null, to: group('Tempeh/Tue lab') }]
    const asked = await seat(more)
    expect(asked.body).toMatchObject({ code: 'seating-needs-care', status: 409 })
    expect(asked.body.concerns?.map(({ words }) => words)).toEqual([
      'Tempeh is full: Student 0 Wed lab would get an extra seat.',
      'Tempeh belongs to another section than Student 0 Wed lab’s.',
    ])
    expect(await inGroup('Tempeh/Tue lab')).toHaveLength(3)
    await must(seat(more, true))
    expect(await inGroup('Tempeh/Tue lab')).toHaveLength(4)
    const { id } = harness.stores.sheets.group(group('Tempeh/Tue lab'))!
    expect(harness.stores.seats.ofGroup(id).map(({ extra }) => extra)).toEqual([0, 0, 0, 1])
  })

  it('does all of it or nothing', async () => {
    await labs.take(labs.tue(1), 'Kefir/Tue lab')
    const answer = await seat(
      [
        { person: tue(0), from: null, to: group('Tempeh/Tue lab') },
        { person: tue(1), from: null, to: group('Tempeh/Tue lab') },
      ],
      true,
    )
    expect(answer.body.code).toBe('seating-not-possible')
    expect(answer.body.detail).toMatch(/holds as many seats already/)
    expect(await inGroup('Tempeh/Tue lab')).toEqual([])
  })

  it('keeps people apart unless told otherwise', async () => {
    await must(
      school.owner.post(`${labs.at}/keepings`, { kind: 'apart', people: [tue(0), tue(1)], until: null }),
    )
    await must(seat([{ person: tue(0), from: null, to: group('Tempeh/Tue lab') }]))
    const second = [{ person: tue(1), from: null, to: group('Tempeh/Tue lab') }]
    expect((await seat(second)).body.concerns?.[0]?.words).toMatch(
      /is to be kept apart from Student 0 Tue lab/,
    )
    await must(seat(second, true))
  })

  it('serves the line when a seat comes free', async () => {
    await must(school.owner.patch(labs.at, { fullGroups: 'line' }))
    for (const n of [0, 1, 2]) await labs.take(labs.tue(n), 'Tempeh/Tue lab')
    await must(
      labs.tue(3).post(`${labs.at}/claims`, { key: 'wait-key-1', kind: 'wait', to: group('Tempeh/Tue lab') }),
    )
    await must(seat([{ person: tue(0), from: group('Tempeh/Tue lab'), to: null }]))
    expect(await inGroup('Tempeh/Tue lab')).toContain(tue(3))
  })

  it('lets tutors seat in the groups they look after, where the instructor lets them', async () => {
    const tutor = harness.as('tutor@school.example')
    const change = [{ person: tue(0), from: null, to: group('Tempeh/Tue lab') }]
    expect((await seat(change, false, tutor)).body.code).toBe('not-allowed')
    await must(school.owner.patch(`/api/courses/${school.course}`, { tutorsMay: 'seat' }))
    expect((await seat(change, false, tutor)).body.code).toBe('not-your-group')
    const tutors = [codeOf('tutor@school.example')]
    await must(
      school.owner.send('PUT', `${labs.at}/tutors`, {
        changes: [{ group: group('Tempeh/Tue lab'), add: tutors }],
      }),
    )
    expect((await must<RunView>(tutor.get(`${labs.at}/run`))).maySeat).toBe('own')
    await must(seat(change, false, tutor))
    // A move between two groups is theirs where both are; so is a change that names one nobody knows.
    const move = [{ person: tue(0), from: group('Tempeh/Tue lab'), to: group('Miso/Tue lab') }]
    const refused = await seat(move, false, tutor)
    expect([refused.body.code, refused.body.detail]).toEqual([
      'not-your-group',
      'You seat people in the groups you look after. Ask an instructor for the others.',
    ])
    expect((await seat([{ ...move[0]!, to: 'no-such-group' }], false, tutor)).body.code).toBe(
      'not-your-group',
    )
    await must(seat([{ ...move[0]!, to: null }], false, tutor))
  })
})

describe('the ledger', () => {
  it('tells who sat where at a moment', async () => {
    await must(seat([{ person: tue(0), from: null, to: group('Tempeh/Tue lab') }]))
    const before = harness.clock.now()
    harness.clock.advance(60_000)
    await must(seat([{ person: tue(0), from: group('Tempeh/Tue lab'), to: group('Kefir/Tue lab') }]))
    const at = await must<LedgerMoment>(school.owner.get(`${labs.at}/ledger/at/${before}`))
    expect(at.seats).toEqual([{ person: tue(0), group: group('Tempeh/Tue lab'), at: before }])
    const now = await must<LedgerMoment>(school.owner.get(`${labs.at}/ledger/at/${harness.clock.now()}`))
    expect(now.seats.map((one) => one.group)).toEqual([group('Kefir/Tue lab')])
    expect((await school.owner.get(`${labs.at}/ledger/at/yesterday`)).status).toBe(404)
  })

  it('takes one change back, where it still makes sense', async () => {
    const first = await must<{ position: number }>(
      seat([{ person: tue(0), from: null, to: group('Tempeh/Tue lab') }]) as Promise<Answer<never>>,
    )
    const second = await must<{ position: number }>(
      seat([{ person: tue(0), from: group('Tempeh/Tue lab'), to: group('Kefir/Tue lab') }]) as Promise<
        Answer<never>
      >,
    )
    const undo = (position: number, confirmed = false) =>
      school.owner.post<Problem>(`${labs.at}/ledger/${position}/undo`, { confirmed })
    expect((await undo(first.position)).body.code).toBe('seating-not-possible')
    await must(undo(second.position))
    expect(await inGroup('Tempeh/Tue lab')).toEqual([tue(0)])
    for (const n of [1, 2, 3]) await labs.take(labs.tue(n), 'Kefir/Tue lab')
    const { entries } = await must<LedgerView>(school.owner.get(`${labs.at}/ledger`))
    const back = entries.filter(({ kind }) => kind === 'seat-moved').at(-1)!
    expect((await undo(back.position)).body.code).toBe('seating-needs-care')
    await must(undo(back.position, true))
    expect(await inGroup('Kefir/Tue lab')).toHaveLength(4)
    const rules = entries.find(({ kind }) => kind === 'sheet-published')!
    expect((await undo(rules.position)).body.code).toBe('nothing-to-undo')
    expect((await undo(999_999)).status).toBe(404)
  })

  it('goes out as CSV, a workbook, JSON and a calendar', async () => {
    await must(seat([{ person: tue(0), from: null, to: group('Tempeh/Tue lab') }]))
    await must(
      school.owner.patch(`${labs.at}/groups/${group('Tempeh/Tue lab')}`, { startsAt: '2026-05-20T10:00' }),
    )
    const fetched = async (file: string) => {
      const answer = await fetch(`${harness.address}/api/sheets/${school.sheet}/export/${file}`, {
        headers: { Cookie: school.owner.cookie },
      })
      return {
        status: answer.status,
        headers: answer.headers,
        bytes: Buffer.from(await answer.arrayBuffer()),
      }
    }
    const csv = await fetched('students.csv')
    expect(csv.headers.get('content-disposition')).toMatch(
      /attachment; filename="FERM-\d+-Culture-benches-students\.csv"/,
    )
    expect(csv.bytes.toString()).toMatch(
      /Student 0 Tue lab,\S+,Tue lab,active,Tempeh,Tue lab,,2026-05-20 10:00/,
    )
    expect((await fetched('groups.csv')).bytes.toString()).toMatch(/Tempeh,Tue lab,3,1,1,/)
    expect((await fetched('students.xlsx')).bytes.subarray(0, 2).toString()).toBe('PK')
    const json = JSON.parse((await fetched('groups.json')).bytes.toString())
    expect(json).toMatchObject({
      schema: 'haplon-groups-1',
      groups: expect.any(Array),
      students: expect.any(Array),
    })
    expect((await fetched('seats.ics')).bytes.toString()).toMatch(/SUMMARY:Tempeh\\, Tue lab/)
    expect((await fetched('passwords.txt')).status).toBe(404)
  })
})

it('addresses to copy are those of whom the sheet is for, and of who sits on it; of nobody else', async () => {
  const addresses = async () => {
    const answer = await must<{ people: { code: string; email: string }[] }>(
      school.owner.get(`${labs.at}/addresses`),
    )
    return answer.people.map(({ email }) => email)
  }
  const all = await addresses()
  expect(all).toContain(studentEmail('Tue lab', 0))
  expect(all).toContain(studentEmail('Wed lab', 0))
  await must(seat([{ person: codeOf(studentEmail('Wed lab', 1)), from: null, to: group('Tempeh/Wed lab') }]))
  const sections = harness.stores.roster.sections(harness.stores.courses.byCode(school.course)!.id)
  const tueLab = sections.find(({ name }) => name === 'Tue lab')!
  await must(
    school.owner.patch(labs.at, { forWhom: 'sections', sectionsFor: [tueLab.code], confirmed: true }),
  )
  const some = await addresses()
  expect(some).toContain(studentEmail('Tue lab', 0))
  expect(some).toContain(studentEmail('Wed lab', 1))
  expect(some).not.toContain(studentEmail('Wed lab', 0))
  expect((await labs.tue(0).get(`${labs.at}/addresses`)).status).toBe(403)
})
