import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { Rehearsal } from '../../src/contract/rehearsal.ts'
import type { ComposeView } from '../../src/contract/sheets.ts'
import { claim, type Harness, must, type School, setUpSchool, startHarness, studentEmail } from './harness.ts'

let harness: Harness
let school: School
beforeEach(async () => {
  harness = await startHarness()
  school = await setUpSchool(harness, {
    sections: ['Tue lab', 'Wed lab'],
    students: { 'Tue lab': 2, 'Wed lab': 1 },
    topics: ['Tempeh', 'Kefir'],
  })
})
afterEach(() => harness.end())

const rehearse = (query = '', sheet = school.sheet) =>
  must<Rehearsal>(school.owner.get(`/api/sheets/${sheet}/rehearsal${query}`))

describe('a rehearsal', () => {
  it('is the view that an invented student of a section would get', async () => {
    const { sections } = await must<ComposeView>(school.owner.get(`/api/sheets/${school.sheet}/compose`))
    const wed = await rehearse(`?section=${sections[1]!.code}`)
    expect(wed).toMatchObject({
      as: 'an invented student of Wed lab',
      real: false,
      view: { section: 'Wed lab', seats: [] },
    })
    expect(wed.view.groups.map(({ code }) => code)).toEqual([
      school.groups['Tempeh/Wed lab'],
      school.groups['Kefir/Wed lab'],
    ])
  })

  it('as a real student is word for word what that student gets', async () => {
    const student = harness.as(studentEmail('Tue lab', 0))
    await claim(harness.as(studentEmail('Tue lab', 1)), school.sheet, {
      kind: 'take',
      to: school.groups['Tempeh/Tue lab'],
    })
    await claim(student, school.sheet, { kind: 'take', to: school.groups['Tempeh/Tue lab'] })
    const { course_id } = harness.stores.sheets.byCode(school.sheet)!
    const code = harness.stores.roster
      .everybody(course_id)
      .find(({ email }) => email === studentEmail('Tue lab', 0))!.code
    const { view, names } = await rehearse(`?person=${code}`)
    expect(view).toEqual(await must(student.get(`/api/sheets/${school.sheet}/student`)))
    expect(names[school.groups['Tempeh/Tue lab']!]).toEqual(['Student 1 Tue lab'])
    expect((await school.owner.get(`/api/sheets/${school.sheet}/rehearsal?person=nobody`)).status).toBe(404)
  })

  it('of a draft is played as if it were open, and leaves everything as it was', async () => {
    const draft = await setUpSchool(harness, { students: { '': 1 }, topics: ['Miso'], publish: false })
    const before = harness.stores.ledger.since(harness.stores.sheets.byCode(draft.sheet)!.id, 0)
    const { view } = await must<Rehearsal>(draft.owner.get(`/api/sheets/${draft.sheet}/rehearsal`))
    expect(view.state).toBe('open')
    expect(harness.stores.ledger.since(harness.stores.sheets.byCode(draft.sheet)!.id, 0)).toEqual(before)
    expect(harness.stores.sheets.byCode(draft.sheet)!.published_at).toBeNull()
  })
})
