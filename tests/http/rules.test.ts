import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { Problem } from '../../src/contract/problems.ts'
import type { StudentHome } from '../../src/contract/seats.ts'
import { claim, type Harness, must, outcome, type School, START, studentEmail } from './harness.ts'
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

describe('changing seats', () => {
  it.each([
    ['until-close', 'granted', 'granted'],
    ['by-asking', 'change-only-by-asking', 'change-only-by-asking'],
    ['never', 'change-not-allowed', 'change-not-allowed'],
  ] as const)('%s: a move is %s, giving up is %s', async (changing, moving, leaving) => {
    await labs.rule({ changing })
    const [one, two] = [labs.tue(0), labs.tue(1)]
    for (const client of [one, two])
      expect(outcome(await labs.take(client, 'Tempeh/Tue lab'))).toBe('granted')
    expect(outcome(await labs.move(one, 'Tempeh/Tue lab', 'Kefir/Tue lab'))).toBe(moving)
    expect(outcome(await labs.giveUp(two, 'Tempeh/Tue lab'))).toBe(leaving)
  })

  it('asks before those who sit there already can no longer move by themselves', async () => {
    await labs.take(labs.tue(0), 'Tempeh/Tue lab')
    const asked = await school.owner.patch<Problem>(labs.at, { changing: 'never' })
    expect(asked.body).toMatchObject({ code: 'seated-affected', affected: [{ name: 'Student 0 Tue lab' }] })
  })
})

describe('names', () => {
  /** Every name of another student that any answer to this reader holds. */
  const namesReaching = async (client: ReturnType<typeof labs.tue>) => {
    const answers = [await labs.sheetOf(client), await must<StudentHome>(client.get('/api/home'))]
    return [...new Set(JSON.stringify(answers).match(/Student \d (Tue|Wed) lab/g) ?? [])].sort()
  }
  const seated = ['Student 0 Tue lab', 'Student 1 Tue lab']

  it.each([
    ['mates', { unseated: [], elsewhere: [], mate: ['Student 0 Tue lab'], closed: [] }],
    [
      'seated',
      { unseated: [], elsewhere: seated, mate: ['Student 0 Tue lab', 'Student 2 Tue lab'], closed: [] },
    ],
    ['after-close', { unseated: [], elsewhere: [], mate: [], closed: [...seated, 'Student 2 Tue lab'] }],
    [
      'everyone',
      {
        unseated: [...seated, 'Student 2 Tue lab'],
        elsewhere: seated,
        mate: ['Student 0 Tue lab', 'Student 2 Tue lab'],
        closed: [...seated, 'Student 2 Tue lab'],
      },
    ],
    ['nobody', { unseated: [], elsewhere: [], mate: [], closed: [] }],
  ] as const)('shown to %s reach nobody else', async (names, expected) => {
    await labs.rule({ names })
    await labs.take(labs.tue(0), 'Tempeh/Tue lab')
    await labs.take(labs.tue(1), 'Tempeh/Tue lab')
    await labs.take(labs.tue(2), 'Kefir/Tue lab')
    expect(await namesReaching(labs.tue(3))).toEqual(expected.unseated)
    expect(await namesReaching(labs.tue(2))).toEqual(expected.elsewhere)
    expect(await namesReaching(labs.tue(1))).toEqual(expected.mate)
    harness.clock.set('2026-05-14T00:00:00.000Z')
    expect(await namesReaching(labs.tue(3))).toEqual(expected.closed)
  })

  it('asks before those who sit there already are shown to more people', async () => {
    await labs.take(labs.tue(0), 'Tempeh/Tue lab')
    expect((await school.owner.patch<Problem>(labs.at, { names: 'everyone' })).body.code).toBe(
      'seated-affected',
    )
    expect((await school.owner.patch(labs.at, { names: 'nobody' })).status).toBe(200)
  })
})

describe('where a topic offers seats', () => {
  it('its own section: others are refused and not even listed', async () => {
    expect(outcome(await labs.take(labs.wed(0), 'Tempeh/Tue lab'))).toBe('other-section')
    expect((await labs.sheetOf(labs.wed(0))).groups).toHaveLength(3)
  })

  it('the whole course: any section, each group with its section’s name', async () => {
    await labs.rule({ offers: 'course' })
    expect(outcome(await labs.take(labs.wed(0), 'Tempeh/Tue lab'))).toBe('granted')
    const { groups } = await labs.sheetOf(labs.wed(1))
    expect(groups).toHaveLength(6)
    expect(new Set(groups.map(({ section }) => section))).toEqual(new Set(['Tue lab', 'Wed lab']))
    const back = await school.owner.patch<Problem>(labs.at, { offers: 'section' })
    expect(back.body.affected).toEqual([{ name: 'Student 0 Wed lab', section: 'Wed lab' }])
  })
})

describe('seats per student', () => {
  it('up to two: a third is refused, and so are two at the same time', async () => {
    await labs.rule({ seatsEach: 2 })
    const student = labs.tue(0)
    const times = { startsAt: '2026-05-20T10:00', endsAt: '2026-05-20T11:00' }
    for (const title of ['Tempeh', 'Kefir']) {
      await must(school.owner.patch(`${labs.at}/topics/${(await labs.topic(title)).code}`, times))
    }
    expect(outcome(await labs.take(student, 'Tempeh/Tue lab'))).toBe('granted')
    expect(outcome(await labs.take(student, 'Kefir/Tue lab'))).toBe('time-clash')
    expect(outcome(await labs.take(student, 'Miso/Tue lab'))).toBe('granted')
    await must(school.owner.post(`${labs.at}/topics`, { title: 'Natto' }))
    const natto = (await labs.topic('Natto')).groups[0]!.code
    expect(outcome(await claim(student, school.sheet, { kind: 'take', to: natto }))).toBe(
      'seat-limit-reached',
    )
    expect((await labs.sheetOf(student)).seats).toHaveLength(2)
    const fewer = await school.owner.patch<Problem>(labs.at, { seatsEach: 1 })
    expect(fewer.body).toMatchObject({ code: 'seated-affected', affected: [{ name: 'Student 0 Tue lab' }] })
  })

  it.each([0, 21, 1.5, 'many'])('cannot be %s', async (seatsEach) => {
    expect((await school.owner.patch<Problem>(labs.at, { seatsEach })).body.errors?.[0]?.path).toBe(
      'seatsEach',
    )
  })
})

describe('the convener', () => {
  const answersFor = async (client: ReturnType<typeof labs.tue>) => {
    const sheet = await labs.sheetOf(client)
    return sheet.seats[0]!.convener
      ? 'me'
      : sheet.groups.find(({ code }) => code === sheet.seats[0]!.group)!.convener
  }

  it.each([
    ['first', 'me', 'Student 0 Tue lab'],
    ['named', null, null],
    ['none', null, null],
  ] as const)('%s', async (convener, first, second) => {
    await labs.rule({ convener })
    await labs.take(labs.tue(0), 'Tempeh/Tue lab')
    harness.clock.advance(1_000)
    await labs.take(labs.tue(1), 'Tempeh/Tue lab')
    expect(await answersFor(labs.tue(0))).toBe(first)
    expect(await answersFor(labs.tue(1))).toBe(second)
  })

  it('by lot is one of the members, and the same for all of them', async () => {
    await labs.rule({ convener: 'lot' })
    await labs.take(labs.tue(0), 'Tempeh/Tue lab')
    await labs.take(labs.tue(1), 'Tempeh/Tue lab')
    const [one, two] = [await answersFor(labs.tue(0)), await answersFor(labs.tue(1))]
    expect([[one, two].includes('me'), one === two]).toEqual([true, false])
  })

  it('is named among those who sit there, and nobody else', async () => {
    await labs.rule({ convener: 'named' })
    await labs.take(labs.tue(1), 'Tempeh/Tue lab')
    const codeOf = (n: number) => {
      const { course_id } = harness.stores.sheets.byCode(school.sheet)!
      return harness.stores.roster
        .everybody(course_id)
        .find(({ email }) => email === studentEmail('Tue lab', n))!.code
    }
    const name = (convener: string) =>
      school.owner.patch<Problem>(`${labs.at}/groups/${school.groups['Tempeh/Tue lab']}`, { convener })
    expect((await name(codeOf(0))).body.errors?.[0]?.path).toBe('convener')
    expect((await name(codeOf(1))).status).toBe(200)
    expect(await answersFor(labs.tue(1))).toBe('me')
  })
})

describe('being visible before opening', () => {
  it('or not: then the sheet does not exist for students until it opens', async () => {
    harness.clock.set('2026-05-06T06:00:00.000Z')
    expect((await labs.sheetOf(labs.tue(0))).state).toBe('scheduled')
    await labs.rule({ visibleBefore: false })
    expect((await labs.tue(0).get(`${labs.at}/student`)).status).toBe(404)
    expect((await must<StudentHome>(labs.tue(0).get('/api/home'))).sheets).toEqual([])
    harness.clock.set(START)
    expect((await labs.sheetOf(labs.tue(0))).state).toBe('open')
  })
})
