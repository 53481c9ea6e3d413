import { describe, expect, it } from 'vitest'
import type { SettleView } from '../../src/contract/plans.ts'
import type { Problem } from '../../src/contract/problems.ts'
import { DAY } from '../../src/core/instant.ts'
import { type Harness, must, type School } from './harness.ts'
import type { Labs } from './labs.ts'
import { labsEach } from './planning.ts'

let labs: Labs
let harness: Harness
let school: School
const { settle, runView, plan, apply, mailsTo } = labsEach((started) => {
  labs = started
  harness = started.harness
  school = started.school
})

describe('a plan', () => {
  it('seats all who are left in one step, tells them, and is taken back whole', async () => {
    await labs.take(labs.tue(0), 'Tempeh/Tue lab')
    const content = await plan()
    expect(content.moves).toHaveLength(6)
    const view = await must(apply(content, 'plan-key-first', true))
    expect(view.basis.seats).toHaveLength(7)
    expect(view.plans[0]).toMatchObject({ title: 'Evenly', undoneAt: null, changedSince: 0 })
    const [mail] = mailsTo('Wed lab', 0)
    expect(mail?.subject).toMatch(/^Culture benches: you sit at /)
    expect(mailsTo('Tue lab', 0)).toEqual([])
    const undone = await must<{ undone: number; kept: string[] }>(
      school.owner.post(`${labs.at}/plans/plan-key-first/undo`),
    )
    expect(undone).toEqual({ undone: 6, kept: [] })
    expect((await runView()).seats).toHaveLength(1)
    const again = await school.owner.post<Problem>(`${labs.at}/plans/plan-key-first/undo`)
    expect(again.body.code).toBe('plan-not-applied')
  })

  it('is applied once, however often it is sent', async () => {
    const content = await plan()
    await must(apply(content, 'plan-key-once'))
    expect((await apply(content, 'plan-key-once')).body.code).toBe('plan-applied-already')
    expect((await runView()).seats).toHaveLength(7)
  })

  it('that no longer fits names what does not, and does nothing', async () => {
    const content = await plan()
    await labs.take(labs.tue(0), 'Tempeh/Tue lab')
    const answer = await apply(content)
    expect(answer.body.code).toBe('plan-does-not-fit')
    expect(answer.body.concerns?.map(({ name }) => name)).toEqual(['Student 0 Tue lab'])
    expect((await runView()).seats).toHaveLength(1)
  })

  it('that would fill a group past its limit by now is refused', async () => {
    const content = await plan({ method: 'lot' })
    // Some group gets two at least: there are more people than groups.
    const twice = content.moves.find((one, i) => content.moves.findIndex(({ to }) => to === one.to) < i)
    await must(school.owner.patch(`${labs.at}/groups/${twice?.to}`, { seats: 1 }))
    expect((await apply(content)).body.code).toBe('plan-does-not-fit')
  })

  it('leaves people alone who moved on after it was applied, when it is taken back', async () => {
    const content = await plan()
    await must(apply(content, 'plan-key-moved'))
    const own = (await labs.sheetOf(labs.tue(0))).seats[0]!
    const other = (await labs.sheetOf(labs.tue(0))).groups.find(
      (one) => one.code !== own.group && one.taken < 3,
    )!
    await must(
      labs
        .tue(0)
        .post(`${labs.at}/claims`, { key: 'moved-on-1', kind: 'move', from: own.group, to: other.code }),
    )
    const undone = await must<{ undone: number; kept: string[] }>(
      school.owner.post(`${labs.at}/plans/plan-key-moved/undo`),
    )
    expect(undone).toEqual({ undone: 6, kept: ['Student 0 Tue lab'] })
  })

  it('brings back who was moved and who lost a seat, but nobody into a group that is not offered any more', async () => {
    for (const [n, group] of [
      [0, 'Tempeh'],
      [1, 'Tempeh'],
      [2, 'Kefir'],
    ] as const)
      await labs.take(labs.tue(n), `${group}/Tue lab`)
    const [tempeh, kefir, miso] = ['Tempeh', 'Kefir', 'Miso'].map(
      (title) => school.groups[`${title}/Tue lab`]!,
    ) as [string, string, string]
    const { people } = (await settle()).basis
    const who = (n: number) => people.find(({ name }) => name === `Student ${n} Tue lab`)!.key
    const reason = { code: 'by-hand' } as const
    const content = {
      ...(await plan({ people: [] })),
      moves: [
        { person: who(0), from: tempeh, to: miso, reason },
        { person: who(2), from: kefir, to: miso, reason },
      ],
      left: [{ person: who(1), from: tempeh, reason }],
    }
    const seatsNow = async () =>
      (await runView()).seats.map(({ person, group }) => [
        people.find(({ key }) => key === person)?.name,
        group,
      ])
    const undo = (key: string) =>
      school.owner.post<Problem & { undone: number; kept: string[] }>(`${labs.at}/plans/${key}/undo`)
    const before = await seatsNow()
    await must(apply(content, 'plan-key-whole'))
    expect(await seatsNow()).toHaveLength(2)
    expect((await undo('plan-key-whole')).body).toEqual({ undone: 3, kept: [] })
    expect((await seatsNow()).toSorted()).toEqual(before.toSorted())

    await must(apply(content, 'plan-key-part'))
    await must(school.owner.patch(`${labs.at}/groups/${tempeh}`, { offered: false, confirmed: true }))
    expect((await undo('plan-key-part')).body).toEqual({
      undone: 1,
      kept: ['Student 0 Tue lab', 'Student 1 Tue lab'],
    })
    expect((await seatsNow()).toSorted()).toEqual(
      [
        ['Student 0 Tue lab', miso],
        ['Student 2 Tue lab', kefir],
      ].toSorted(),
    )
    expect((await undo('plan-key-none')).status).toBe(404)
    expect((await undo('plan-key-part')).body).toMatchObject({
      code: 'plan-not-applied',
      detail: 'It was not applied, or was undone already.',
    })
  })

  it('is kept for later, says what changed since, and is dropped', async () => {
    const content = await plan()
    const kept = await must<SettleView>(
      school.owner.post(`${labs.at}/plans`, { key: 'plan-key-kept', title: 'For Friday', content }),
    )
    expect(kept.plans[0]).toMatchObject({ code: 'plan-key-kept', appliedAt: null, changedSince: 0 })
    await labs.take(labs.tue(0), 'Tempeh/Tue lab')
    expect((await settle()).plans[0]?.changedSince).toBe(1)
    const after = await must<SettleView>(school.owner.send('DELETE', `${labs.at}/plans/plan-key-kept`))
    expect(after.plans).toEqual([])
  })

  it('makes groups, not offered where a section needs fewer', async () => {
    const { basis, sections } = await settle()
    const [tue, wed] = sections.map(({ code }) => code)
    const keysOf = [`made 0 ${tue}`, `made 1 ${tue}`, `made 0 ${wed}`]
    const moves = basis.people.map(({ key, section }, i) => ({
      person: key,
      from: null,
      to: section === wed ? `made 0 ${wed}` : `made ${i % 2} ${tue}`,
      reason: { code: 'even' as const },
    }))
    const content = await plan()
    const settings = { ...content.settings, made: { titles: ['Group 1', 'Group 2'], mixed: false, seats: 4 } }
    await must(apply({ ...content, settings, moves }))
    const view = await runView()
    expect(view.topics.map(({ title }) => title)).toEqual(['Tempeh', 'Kefir', 'Miso', 'Group 1', 'Group 2'])
    expect(new Set(view.seats.map((one) => one.group)).size).toBe(keysOf.length)
    const second = view.topics.find(({ title }) => title === 'Group 2')!
    expect(view.groups.filter(({ topic }) => topic === second.code)).toHaveLength(1)
  })

  it('by surname follows the order of names that the course says, in plans and in the class list that goes out', async () => {
    const change = (body: object) => school.owner.patch<Problem>(`/api/courses/${school.course}`, body)
    expect((await settle()).basis.names).toEqual({ language: 'en', particles: 'skip' })
    expect((await change({ nameLanguage: 'not a language' })).body.errors?.[0]?.path).toBe('nameLanguage')
    expect((await change({ nameParticles: 'sometimes' })).status).toBe(422)
    const { sections } = await settle()
    for (const name of ['Ulla Åberg', 'Rui de Zoysa', 'Ada Zell']) {
      await must(
        school.owner.post(`/api/courses/${school.course}/roster/people`, {
          name,
          email: `${name.split(' ')[0]}@school.example`,
          section: sections[0]?.code ?? null,
          role: 'student',
        }),
      )
    }
    const listed = async () => {
      const answer = await fetch(`${harness.address}${labs.at}/export/students.csv`, {
        headers: { Cookie: school.owner.cookie },
      })
      const lines = (await answer.text()).split('\r\n')
      return lines.flatMap((line) => /Ulla|Rui|Ada/.exec(line)?.[0] ?? [])
    }
    expect(await listed()).toEqual(['Ulla', 'Ada', 'Rui'])
    await must(change({ nameLanguage: 'sv', nameParticles: 'count' }))
    expect((await settle()).basis.names).toEqual({ language: 'sv', particles: 'count' })
    expect(await listed()).toEqual(['Rui', 'Ada', 'Ulla'])
  })

  it('keeps people apart on every sheet until a day', async () => {
    const { basis } = await settle()
    const [a, b] = basis.people.map(({ key }) => key)
    const add = (body: object) => school.owner.post<Problem & SettleView>(`${labs.at}/keepings`, body)
    expect((await add({ kind: 'apart', people: [a, a], until: null })).body.code).toBe('keeping-too-small')
    expect((await add({ kind: 'apart', people: [a, 'nobody'], until: null })).body.errors?.[0]?.path).toBe(
      'people[1]',
    )
    const view = await must(add({ kind: 'apart', people: [a, b], note: 'they asked', until: '2026-05-07' }))
    expect(view.basis.keepings).toHaveLength(1)
    harness.clock.advance(3 * DAY)
    expect((await settle()).basis.keepings).toEqual([])
    const [keeping] = (await settle()).keepings
    const after = await must<SettleView>(school.owner.send('DELETE', `${labs.at}/keepings/${keeping?.code}`))
    expect(after.keepings).toEqual([])
  })
})
