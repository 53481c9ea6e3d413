import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { Problem } from '../../src/contract/problems.ts'
import type { RosterPreview, RosterView } from '../../src/contract/roster.ts'
import { type Harness, must, type School, setUpSchool, startHarness } from './harness.ts'

let harness: Harness
let school: School
beforeEach(async () => {
  harness = await startHarness()
  school = await setUpSchool(harness, {
    sections: ['Tue lab', 'Wed lab'],
    students: { 'Tue lab': 2, 'Wed lab': 1 },
    topics: ['Tempeh'],
  })
})
afterEach(() => harness.end())

const people = async () =>
  (await must<RosterView>(school.owner.get(`/api/courses/${school.course}/roster`))).people

describe('names, numbers and what people are called', () => {
  const at = () => `/api/courses/${school.course}/roster`
  const named = async (email: string) => (await people()).find((one) => one.email === email)!
  const bring = (csv: string, more: object = {}) =>
    must<{ added: number; changed: number }>(
      school.owner.post(`${at()}/import`, { csv, skipFaults: false, ...more }),
    )
  const HEADS = 'given name,surname,called,student number,email,section\n'

  it('come in from a file, and show wherever somebody is named, the number to staff alone', async () => {
    await bring(`${HEADS}Aleksandra,Strand Mora,Ola Strand,0042,ola@school.example,Tue lab\n`)
    expect(await named('ola@school.example')).toMatchObject({
      name: 'Aleksandra Strand Mora',
      given: 'Aleksandra',
      family: 'Strand Mora',
      called: 'Ola Strand',
      number: '0042',
    })
    const ola = harness.as('ola@school.example')
    expect(JSON.stringify(await must(ola.get('/api/me')))).toContain('Ola Strand')
    const exported = `/api/sheets/${school.sheet}/export/students.csv`
    const csv = await fetch(harness.address + exported, { headers: { Cookie: school.owner.cookie } })
    expect(await csv.text()).toContain(',0042,Aleksandra,Strand Mora')
    const own = JSON.stringify(await must(ola.get(`/api/sheets/${school.sheet}/student`)))
    expect(own).not.toMatch(/0042|Aleksandra/)
  })

  it('a later file knows people by their number, leaves what they are called, and changes a known address', async () => {
    await bring(`${HEADS}Aleksandra,Strand,Ola Strand,0042,ola@school.example,Tue lab\n`)
    const csv = 'name,student number,section\nAleksandra Strand,42,Wed lab'
    const seen = await must<RosterPreview>(school.owner.post(`${at()}/preview`, { csv }))
    expect(seen.changed).toMatchObject([
      { name: 'Ola Strand', changes: [{ field: 'section', from: 'Tue lab', to: 'Wed lab' }] },
    ])
    await bring(csv)
    expect(await named('ola@school.example')).toMatchObject({ called: 'Ola Strand', section: 'Wed lab' })
    const moved = 'name,student number,email,section\nAleksandra Strand,42,new@school.example,Wed lab'
    await bring(moved)
    expect(await named('new@school.example')).toMatchObject({ called: 'Ola Strand', number: '0042' })
    expect(await named('ola@school.example')).toBeUndefined()
    await must(school.owner.post(`${at()}/undo`))
    expect(await named('ola@school.example')).toMatchObject({ called: 'Ola Strand' })
  })

  it('are refused where a number is somebody else’s, in a file and by hand', async () => {
    await bring(`${HEADS}Ada,One,,7,one@school.example,Tue lab\nBo,Two,,8,two@school.example,Tue lab\n`)
    const csv = 'name,student number,email,section\nAda One,8,one@school.example,Tue lab\nCy,9,,Tue lab'
    const seen = await must<RosterPreview>(school.owner.post(`${at()}/preview`, { csv }))
    expect(seen.faults).toMatchObject([
      { line: 2, field: 'number', message: 'The number is that of Bo Two, the address that of Ada One.' },
      { line: 3, field: 'number', message: expect.stringMatching(/^Nobody on the roster has this number/) },
    ])
    const one = await named('one@school.example')
    const answer = await school.owner.patch<Problem>(`${at()}/people/${one.code}`, { number: ' 08' })
    expect(answer).toMatchObject({
      status: 422,
      body: { errors: [{ path: 'number', message: 'Bo Two has this student number.' }] },
    })
    await must(school.owner.patch(`${at()}/people/${one.code}`, { number: '', called: 'Dee\u200b One' }))
    expect(await named('one@school.example')).toMatchObject({ number: '', called: 'Dee One' })
  })

  it('put people in the order of their surnames, as the roster says them', async () => {
    await bring(
      `${HEADS}Zoe,Aa,,,z@school.example,Tue lab\nAna María,Ab Zu,,,ab@school.example,Tue lab\nBo,Ac,,,b@school.example,Tue lab\n`,
    )
    const three = ['z@school.example', 'ab@school.example', 'b@school.example']
    expect((await people()).map(({ email }) => email).filter((email) => three.includes(email))).toEqual(three)
  })

  it('one section for everybody, and names with a comma, are as somebody says', async () => {
    const csv = 'name,email\n"Strand, Mirela",m@school.example'
    const seen = await must<RosterPreview>(school.owner.post(`${at()}/preview`, { csv, section: 'Wed lab' }))
    expect(seen).toMatchObject({
      commas: 'surname-first',
      fresh: [{ name: 'Mirela Strand', family: 'Strand', section: 'Wed lab' }],
    })
    await bring(csv, { section: 'Wed lab', commas: 'as-is' })
    expect(await named('m@school.example')).toMatchObject({ name: 'Strand, Mirela', section: 'Wed lab' })
  })
})
