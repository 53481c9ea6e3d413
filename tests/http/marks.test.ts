import { describe, expect, it } from 'vitest'
import type { LedgerView } from '../../src/contract/ledger.ts'
import type { DeskView } from '../../src/contract/marks.ts'
import type { Problem } from '../../src/contract/problems.ts'
import type { WorkView } from '../../src/contract/tasks.ts'
import { MINUTE } from '../../src/core/instant.ts'
import { type Client, must } from './harness.ts'
import { criteria, markingEach } from './marking.ts'

const { labs, tempeh, own, setTask, handIn, mails, desk, mark, release, both } = markingEach()

describe('marks', () => {
  it('are one for the group, another for a member set apart, and hidden until released', async () => {
    const task = await setTask({ criteria })
    await both()
    await must(handIn(labs().tue(0), task))
    await must(mark(task, { placements: { seen: 4, said: 3 }, feedback: 'Good eye.' }))
    const { piles } = await desk(task)
    const pile = piles.find(({ owner }) => owner === tempeh())!
    expect(pile).toMatchObject({ state: 'handed-in', points: 7, marked: true, released: false })
    const second = pile.people.find(({ name }) => name === 'Student 1 Tue lab')!.code
    await must(mark(task, { apart: second, placements: { seen: 2, said: 2 }, feedback: 'Was away.' }))
    expect((await own(labs().tue(0))).tasks[0]?.work?.mark).toBeNull()
    await must(release(task))
    expect((await own(labs().tue(0))).tasks[0]?.work?.mark).toMatchObject({
      points: 7,
      feedback: 'Good eye.',
      apart: false,
    })
    expect((await own(labs().tue(1))).tasks[0]?.work?.mark).toMatchObject({
      points: 4,
      feedback: 'Was away.',
      apart: true,
    })
    expect(JSON.stringify(await own(labs().tue(0)))).not.toContain('Was away')
    for (const n of [0, 1])
      expect(mails(n).filter(({ subject }) => subject.includes('is marked'))).toHaveLength(1)
    await must(release(task, false))
    expect((await own(labs().tue(0))).tasks[0]?.work?.mark).toBeNull()
    expect((await release(task, false)).body.code).toBe('nothing-to-release')
  })

  it('set apart but not whole stay hidden with the group’s from that member, who gets no mail, until they are whole', async () => {
    const task = await setTask({ criteria })
    await both()
    await must(handIn(labs().tue(0), task))
    await must(mark(task, { placements: { seen: 4, said: 3 } }))
    const pile = (await desk(task)).piles.find(({ owner }) => owner === tempeh())!
    const second = pile.people.find(({ name }) => name === 'Student 1 Tue lab')!.code
    await must(mark(task, { apart: second, placements: { seen: 2 } }))
    await must(release(task))
    expect((await own(labs().tue(0))).tasks[0]?.work?.mark).toMatchObject({ points: 7 })
    expect((await own(labs().tue(1))).tasks[0]?.work?.mark).toBeNull()
    const told = (n: number) => mails(n).filter(({ subject }) => subject.includes('is marked'))
    expect([told(0).length, told(1).length]).toEqual([1, 0])
    await must(mark(task, { apart: second, version: 1, placements: { seen: 2, said: 1 } }))
    expect((await own(labs().tue(1))).tasks[0]?.work?.mark).toMatchObject({ points: 3, apart: true })
    expect(told(1)).toHaveLength(1)
  })

  it('have criteria by ids that are no words of every object', async () => {
    const body = { title: 'Report', criteria: [{ ...criteria[0], id: 'constructor' }] }
    const refused = await labs().school.owner.post<Problem>(`${labs().at}/tasks`, body)
    expect(refused.body.errors).toMatchObject([{ path: 'criteria[0].id' }])
  })

  it('go no further than the points, and are not overwritten by a second marker', async () => {
    const task = await setTask({ points: 10 })
    await both()
    const past = await mark(task, { points: 11 })
    expect(past.body).toMatchObject({ code: 'points-past-most', errors: [{ path: 'points' }] })
    await must(mark(task, { points: 8 }))
    expect((await mark(task, { points: 5 })).body.code).toBe('marked-meanwhile')
    await must(mark(task, { points: 5, version: 1 }))
    expect((await desk(task)).piles.find(({ owner }) => owner === tempeh())).toMatchObject({
      points: 5,
      mark: { version: 2 },
    })
  })

  it('do not count a criterion that was removed, are open where one was added, and both are asked about', async () => {
    const task = await setTask({ criteria })
    await both()
    await must(mark(task, { placements: { seen: 4, said: 3 } }))
    const change = (body: object) => labs().school.owner.patch<Problem>(`${labs().at}/tasks/${task}`, body)
    const asked = await change({ criteria: criteria.slice(0, 1) })
    expect(asked.body).toMatchObject({
      code: 'marks-affected',
      detail: expect.stringMatching(/1 mark given/),
    })
    await must(change({ criteria: criteria.slice(0, 1), confirmed: true }))
    expect((await desk(task)).piles[0]?.points).toBe(4)
    // What was placed on it comes back with it, also when the mark was changed meanwhile.
    await must(mark(task, { placements: { seen: 2 }, version: 1 }))
    await must(change({ criteria, confirmed: true }))
    expect((await desk(task)).piles[0]?.points).toBe(5)
    const lower = criteria.map((one) => ({ ...one, points: 1 }))
    expect((await change({ criteria: lower })).body).toMatchObject({
      code: 'points-past-most',
      errors: [{ path: 'criteria[0].points' }],
    })
    const added = [...criteria, { id: 'new', title: 'New', points: 5, levels: [] }]
    expect((await change({ criteria: added })).body.detail).toMatch(/unfinished until “New” is placed/)
    await must(change({ criteria: added, confirmed: true }))
    expect((await desk(task)).piles[0]).toMatchObject({ points: null, marked: false })
  })

  it('show who else is at the desk, and where, for as long as they are there', async () => {
    const task = await setTask({})
    await both()
    const ida = labs().harness.as('ida@school.example')
    const csv = 'name,email,section,role\nIda Reed,ida@school.example,,instructor'
    await must(
      labs().school.owner.post(`/api/courses/${labs().school.course}/roster/import`, {
        csv,
        skipFaults: false,
        unlisted: 'leave',
      }),
    )
    const place = (client: Client) =>
      client.send<{ others: object[] } & Problem>('PUT', `${labs().at}/tasks/${task}/desk/place`, {
        owner: tempeh(),
      })
    expect((await place(ida)).body.others).toEqual([])
    expect((await place(labs().school.owner)).body.others).toEqual([{ name: 'Ida Reed', owner: tempeh() }])
    labs().harness.clock.advance(MINUTE)
    expect((await place(labs().school.owner)).body.others).toEqual([])
    const tutor = await place(labs().harness.as('tutor@school.example'))
    expect(tutor.body.errors?.[0]?.path).toBe('owner')
  })

  it('are given by tutors in the groups they look after, where the instructor lets them', async () => {
    const task = await setTask({})
    await both()
    const tutor = labs().harness.as('tutor@school.example')
    await must(handIn(labs().tue(0), task))
    const read = () => must<DeskView>(tutor.get(`${labs().at}/tasks/${task}/desk`))
    // The work of groups that a tutor does not look after is as if it did not exist.
    expect((await read()).piles).toEqual([])
    expect((await must<WorkView>(tutor.get(`${labs().at}/work`))).tasks[0]?.work).toEqual([])
    expect((await mark(task, { points: 5 }, tutor)).body.errors?.[0]?.path).toBe('owner')
    const { course_id } = labs().harness.stores.sheets.byCode(labs().school.sheet)!
    const code = labs()
      .harness.stores.roster.everybody(course_id)
      .find(({ role }) => role === 'tutor')!.code
    await must(
      labs().school.owner.send('PUT', `${labs().at}/tutors`, { changes: [{ group: tempeh(), add: [code] }] }),
    )
    expect((await read()).piles.map(({ owner }) => owner)).toEqual([tempeh()])
    expect((await mark(task, { points: 5 }, tutor)).body.code).toBe('not-allowed')
    await must(labs().school.owner.patch(`/api/courses/${labs().school.course}`, { tutorsMark: true }))
    await must(mark(task, { points: 5 }, tutor))
    // Who marked, and from what to what, stands in the ledger, for those who read the work; words alone do not.
    await must(mark(task, { points: 5, version: 1, feedback: 'Clear' }, tutor))
    await must(mark(task, { points: 6, version: 2, feedback: 'Clear' }))
    const given = async (client: Client) =>
      (await must<LedgerView>(client.get(`${labs().at}/ledger`))).entries
        .filter(({ kind }) => kind === 'mark-given')
        .map(({ actor, person, detail: { group, marked, title } }) => ({
          actor,
          person,
          group,
          marked,
          title,
        }))
    const entry = { person: null, group: tempeh(), title: 'Report' }
    const whole = [
      { ...entry, actor: 'Tutor One', marked: [null, 5] },
      { ...entry, actor: 'owner@school.example', marked: [5, 6] },
    ]
    expect(await given(labs().school.owner)).toEqual(whole)
    expect(await given(tutor)).toEqual(whole)
    await must(
      labs().school.owner.send('PUT', `${labs().at}/tutors`, {
        changes: [{ group: tempeh(), remove: [code] }],
      }),
    )
    expect((await given(tutor)).map(({ marked }) => marked)).toEqual([undefined, undefined])
    // No student hears of it before it is released.
    const { id } = labs().harness.stores.sheets.byCode(labs().school.sheet)!
    const entries = labs().harness.stores.ledger.since(id, 0)
    expect(
      entries.filter(({ kind, enrolment_id }) => kind === 'mark-given' && enrolment_id !== null),
    ).toEqual([])
  })

  it('show who has no hand-in because they have no group', async () => {
    await setTask({ title: 'Alone', forWhom: 'students', dueAt: '2026-05-07T12:00' })
    await both()
    labs().harness.clock.set('2026-05-08T10:00:00.000Z')
    const view = await must<WorkView>(labs().school.owner.get(`${labs().at}/work`))
    const states = view.tasks[0]!.work.map(({ state }) => state)
    expect(states.filter((state) => state === 'missing')).toHaveLength(2)
    expect(states.filter((state) => state === 'no-group')).toHaveLength(5)
    expect(view.noGroup).toHaveLength(5)
  })
})
