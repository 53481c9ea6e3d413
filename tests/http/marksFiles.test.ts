import { describe, expect, it } from 'vitest'
import type { MarksPreview } from '../../src/contract/marks.ts'
import type { Problem } from '../../src/contract/problems.ts'
import type { WorkView } from '../../src/contract/tasks.ts'
import { must, studentEmail } from './harness.ts'
import { criteria, markingEach } from './marking.ts'

const { file, look, take, labs, tempeh, setTask, handIn, desk, mark, release, both } = markingEach()

describe('marks in files', () => {
  it('come in from a file: looked at first, then all of it or nothing, and a round trip changes nothing', async () => {
    const task = await setTask({ title: 'Essay', points: 10 })
    const rows = await setTask({ title: 'Walk', criteria })
    await both()
    await labs().take(labs().tue(2), 'Kefir/Tue lab')
    await must(mark(task, { points: 6 }))
    await must(mark(rows, { placements: { seen: 4, said: 3 } }))
    const file = async (name: string) =>
      (
        await fetch(`${labs().harness.address}${labs().at}/marks/${name}`, {
          headers: { Cookie: labs().school.owner.cookie },
        })
      ).text()
    const look = (csv: string) =>
      labs().school.owner.post<MarksPreview & Problem>(`${labs().at}/marks/preview`, { csv })
    const take = (csv: string, fingerprint: string, skipFaults = false) =>
      labs().school.owner.post<WorkView & Problem>(`${labs().at}/marks/import`, {
        csv,
        fingerprint,
        skipFaults,
      })
    for (const name of ['students.csv', 'groups.csv'])
      expect((await look(await file(name))).body).toMatchObject({ changes: [], faults: [] })
    const email = (n: number) => studentEmail('Tue lab', n)
    const csv = `email,Essay\n${email(0)},8\n${email(1)},5\n${email(4)},3\nnobody@school.example,3`
    const seen = (await look(csv)).body
    expect(seen.changes).toMatchObject([
      { task: 'Essay', owner: 'Tempeh, Tue lab', member: 'Student 0 Tue lab', from: 6, to: 8, out: false },
      { member: 'Student 1 Tue lab', from: 6, to: 5 },
    ])
    expect(seen.faults.map(({ line, message }) => `${line} ${message}`)).toEqual([
      expect.stringMatching(/^4 This student has no group/),
      expect.stringMatching(/^5 Nobody active on the roster/),
    ])
    expect((await take(csv, seen.fingerprint)).body.code).toBe('marks-have-faults')
    await must(mark(task, { points: 7, version: 1 }))
    expect((await take(csv, seen.fingerprint, true)).body.code).toBe('marked-meanwhile')
    await must(take(csv, (await look(csv)).body.fingerprint, true))
    expect((await desk(task)).piles[0]).toMatchObject({ points: 7, apart: [{ points: 8 }, { points: 5 }] })
    const groups = 'topic,section,Essay,Walk\nTempeh,Tue lab,9,1'
    const other = (await look(groups)).body
    expect(other.changes).toMatchObject([{ member: null, from: 7, to: 9 }])
    expect(other.faults[0]).toMatchObject({
      line: 2,
      field: 'Walk',
      message: expect.stringMatching(/by criteria/),
    })
  })

  it('come in from a file with feedback: of the whole, of whoever is set apart, and what cannot be told is named', async () => {
    const task = await setTask({ title: 'Essay', points: 10 })
    await setTask({ title: 'Walk', criteria })
    await both()
    await must(mark(task, { points: 6, feedback: 'Fine' }))
    const email = (n: number) => studentEmail('Tue lab', n)
    expect(await file('students.csv')).toContain(',Essay: feedback,Walk: feedback')
    for (const name of ['students.csv', 'groups.csv'])
      expect(await look(await file(name))).toMatchObject({ changes: [], feedback: [], faults: [] })
    const whole = `email,Essay: feedback\n${email(0)},Better\n${email(1)},Better`
    expect((await look(whole)).feedback).toEqual([
      { task: 'Essay', owner: 'Tempeh, Tue lab', member: null, to: 'Better', out: false },
    ])
    await take(whole)
    expect((await desk(task)).piles[0]).toMatchObject({ points: 6, mark: { feedback: 'Better' } })
    // One member alone cannot read another one, unless the same file sets their mark apart.
    const one = `email,Essay: feedback\n${email(0)},Better\n${email(1)},Yours`
    expect(await look(one)).toMatchObject({
      feedback: [],
      faults: [{ line: 3, field: 'Essay: feedback', message: expect.stringMatching(/read one feedback/) }],
    })
    await take(`email,Essay,Essay: feedback\n${email(1)},4,Yours`)
    const [pile] = (await desk(task)).piles
    expect(pile).toMatchObject({ points: 6, mark: { feedback: 'Better' } })
    expect(Object.values(pile!.setApart)).toMatchObject([{ points: 4, feedback: 'Yours' }])
    for (const name of ['students.csv', 'groups.csv'])
      expect(await look(await file(name))).toMatchObject({ changes: [], feedback: [], faults: [] })
    // A task that is marked by criteria takes feedback, though no points.
    await take('topic,section,Walk: feedback\nTempeh,Tue lab,Seen')
    expect(await file('groups.csv')).toContain('Seen')
  })

  it('by criteria come in from a file, as far as its cells are filled; a total has to agree', async () => {
    const task = await setTask({ title: 'Walk', criteria })
    await both()
    await must(handIn(labs().tue(0), task))
    await must(mark(task, { placements: { seen: 4 } }))
    const nothing = { changes: [], feedback: [], faults: [] }
    const email = (n: number) => studentEmail('Tue lab', n)
    expect(await file('groups.csv')).toContain(
      'Walk (of 10),Walk: What was seen (of 5),Walk: Plain writing (of 5),Walk: feedback',
    )
    for (const name of ['students.csv', 'groups.csv'])
      expect(await look(await file(name))).toMatchObject(nothing)
    // The empty cell leaves what stands.
    const half = 'topic,section,Walk: What was seen,Walk: Plain writing\nTempeh,Tue lab,,2.5'
    expect((await look(half)).changes).toEqual([
      {
        task: 'Walk',
        owner: 'Tempeh, Tue lab',
        member: null,
        from: null,
        to: 6.5,
        placed: [{ title: 'Plain writing', from: null, to: 2.5 }],
        again: false,
        out: false,
      },
    ])
    await take(half)
    expect((await desk(task)).piles[0]).toMatchObject({
      points: 6.5,
      mark: { placements: { seen: 4, said: 2.5 } },
    })
    const total = (points: number) =>
      look(`topic,section,Walk,Walk: Plain writing\nTempeh,Tue lab,${points},3`)
    expect(await total(9)).toMatchObject({
      changes: [],
      faults: [{ line: 2, field: 'Walk', message: expect.stringMatching(/come to 7, and the total says 9/) }],
    })
    expect(await total(7)).toMatchObject({ changes: [{ from: 6.5, to: 7 }], faults: [] })
    // The total as it went out is only behind.
    expect(await total(6.5)).toMatchObject({ changes: [{ from: 6.5, to: 7 }], faults: [] })
    expect(await look('topic,section,Walk,Walk: Plain writing\nTempeh,Tue lab,7,2.5')).toMatchObject({
      changes: [],
      faults: [{ message: expect.stringMatching(/come to 6.5, and the total says 7/) }],
    })
    // Members who differ are set apart; where the mark is out, theirs is out with it once it is whole.
    await must(release(task))
    await take(`email,Walk: Plain writing\n${email(0)},2.5\n${email(1)},1`)
    const [pile] = (await desk(task)).piles
    expect(pile?.mark?.placements).toEqual({ seen: 4, said: 2.5 })
    expect(Object.values(pile!.setApart)).toMatchObject([
      { placements: { seen: 4, said: 1 }, releasedAt: expect.any(String) },
    ])
    for (const name of ['students.csv', 'groups.csv'])
      expect(await look(await file(name))).toMatchObject(nothing)
    // A row that is gone meanwhile stays with the mark, in case it comes back.
    const view = await must<WorkView>(labs().school.owner.get(`${labs().at}/work`))
    const [only] = criteria
    await must(
      labs().school.owner.patch(`${labs().at}/tasks/${task}`, {
        criteria: [only],
        was: { criteria: view.tasks[0]?.criteria },
        confirmed: true,
      }),
    )
    await take('topic,section,Walk: What was seen\nTempeh,Tue lab,5')
    const placed = labs()
      .harness.stores.marks.ofTask(1)
      .find(({ apart_id }) => apart_id === null)?.placements
    expect(JSON.parse(placed ?? '{}')).toEqual({ said: 2.5, seen: 5 })
  })

  it('of somebody with two seats are those of the first group, so that a file changes nothing', async () => {
    await labs().rule({ seatsEach: 2 })
    const task = await setTask({ title: 'Essay', points: 10 })
    await both()
    await labs().take(labs().tue(0), 'Kefir/Tue lab')
    await must(mark(task, { points: 6, feedback: 'Fine' }))
    await must(mark(task, { owner: labs().school.groups['Kefir/Tue lab'], points: 8, feedback: 'Better' }))
    const headers = { Cookie: labs().school.owner.cookie }
    for (const name of ['students.csv', 'groups.csv']) {
      const csv = await (
        await fetch(`${labs().harness.address}${labs().at}/marks/${name}`, { headers })
      ).text()
      expect(await must(labs().school.owner.post(`${labs().at}/marks/preview`, { csv }))).toMatchObject({
        changes: [],
        feedback: [],
        faults: [],
      })
    }
  })

  it('go out as CSV and workbook, for students and for groups', async () => {
    const task = await setTask({ points: 10 })
    await both()
    await must(handIn(labs().tue(0), task))
    await must(mark(task, { points: 8 }))
    const pile = (await desk(task)).piles.find(({ owner }) => owner === tempeh())!
    await must(mark(task, { apart: pile.people[1]!.code, points: 4.5 }))
    const file = async (name: string, who = labs().school.owner) => {
      const answer = await fetch(`${labs().harness.address}${labs().at}/marks/${name}`, {
        headers: { Cookie: who.cookie },
      })
      return { status: answer.status, text: Buffer.from(await answer.arrayBuffer()).toString() }
    }
    const students = await file('students.csv')
    expect(students.text).toMatch(/^\uFEFFname,email,student number,section,group,Report \(of 10\)/)
    expect(students.text).toMatch(/Student 0 Tue lab,\S+,,Tue lab,Tempeh,8/)
    expect(students.text).toMatch(/Student 1 Tue lab,\S+,,Tue lab,Tempeh,4\.5/)
    expect((await file('groups.csv')).text).toMatch(/Tempeh,Tue lab,Student 0 Tue lab; Student 1 Tue lab,8/)
    expect((await file('groups.xlsx')).text.slice(0, 2)).toBe('PK')
    expect((await file('everybody.csv')).status).toBe(404)
    expect((await file('students.csv', labs().tue(0))).status).toBe(403)
  })

  it('go out for the whole course in one file, a column for each task of each sheet', async () => {
    const task = await setTask({ points: 10 })
    await both()
    await must(handIn(labs().tue(0), task))
    await must(mark(task, { points: 8 }))
    const course = `/api/courses/${labs().school.course}`
    const { code: talks } = await must<{ code: string }>(
      labs().school.owner.post(`${course}/sheets`, { title: 'Talks, "short"' }),
    )
    await must(
      labs().school.owner.post(`/api/sheets/${talks}/tasks`, { title: 'Slides', out: true, points: 5 }),
    )
    const file = async (name: string, who = labs().school.owner) => {
      const answer = await fetch(`${labs().harness.address}${course}/marks/${name}`, {
        headers: { Cookie: who.cookie },
      })
      return { status: answer.status, text: Buffer.from(await answer.arrayBuffer()).toString() }
    }
    const { text } = await file('marks.csv')
    const [head, ...lines] = text.trim().split('\r\n')
    expect(head).toBe(
      'name,email,student number,section,Culture benches: Report (of 10),"Talks, ""short"": Slides (of 5)"',
    )
    expect(lines).toHaveLength(labs().harness.stores.roster.students(1).length)
    expect(lines.find((line) => line.startsWith('Student 0 Tue lab,'))).toMatch(/,Tue lab,8,$/)
    expect((await file('marks.xlsx')).text.slice(0, 2)).toBe('PK')
    expect((await file('students.csv')).status).toBe(404)
    for (const who of [labs().tue(0), labs().harness.as('tutor@school.example')])
      expect((await file('marks.csv', who)).status).toBe(403)
  })
})
