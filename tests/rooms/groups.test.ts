import { describe, expect, it } from 'vitest'
import { type Extra, FIRST_EXTRAS } from '../../src/core/extras.ts'
import { HOUR } from '../../src/core/instant.ts'
import { extraOn } from '../../src/server/groups/extras.ts'
import { lately } from '../../src/server/groups/lately.ts'
import { reachedBy, reaches, reachGroup } from '../../src/server/groups/reach.ts'
import { groupPage, groupsView, mayName, maySetMeeting } from '../../src/server/groups/views.ts'
import type { LedgerNote } from '../../src/server/ledger/store.ts'
import { stageEach } from './stage.ts'

const stage = stageEach((s) => {
  s.rule({ seats: 3 })
  s.enrol(['Ina'], { role: 'instructor' })
  s.enrol(['Tom', 'Tea'], { role: 'tutor' })
  s.enrol(['Ada', 'Bo', 'Cleo'])
  for (const title of ['Tempeh', 'Miso']) s.addTopic(title)
  s.seat('Tempeh', 'Ada', 'Bo')
  s.seat('Miso', 'Cleo')
  s.stores.sheets.setTutors(s.group('Tempeh').id, [s.person('Tom').id])
})
const EVERYBODY = ['Ina', 'Tom', 'Tea', 'Ada', 'Bo', 'Cleo']
const note = (fields: Partial<LedgerNote>) => {
  const { stores, sheet, now } = stage()
  stores.ledger.note({ sheetId: sheet().id, at: now(), actorId: null, kind: 'seat-taken', ...fields })
}
const extras = (changes: Partial<typeof FIRST_EXTRAS>) => {
  const { stores, sheet } = stage()
  stores.groups.setExtras(sheet().id, { ...FIRST_EXTRAS, ...changes })
}
const pageOf = (name: string, title = 'Tempeh') => {
  const { sheet, course, person, group, now, stores } = stage()
  const reader = person(name)
  return groupPage(
    sheet(),
    course,
    reachGroup(sheet(), reader, group(title).code, stores),
    reader,
    now(),
    stores,
  )
}

describe('a group’s page', () => {
  it('is reached by its members, those who look after it and instructors, each as what they are', () => {
    const { sheet, person, group, stores, status } = stage()
    const as = (title: string) =>
      EVERYBODY.map((name) => reaches(sheet(), person(name), group(title), stores))
    expect(as('Tempeh')).toEqual(['instructor', 'tutor', null, 'member', 'member', null])
    expect(as('Miso')).toEqual(['instructor', null, null, null, null, 'member'])
    for (const name of ['Ina', 'Tom', 'Ada']) status(name, 'paused')
    expect(as('Tempeh')).toEqual([null, null, null, null, 'member', null])
    expect(reaches({ ...sheet(), id: 99 }, person('Bo'), group('Tempeh'), stores)).toBeNull()
  })

  it('does not exist for anybody else, nor once its topic is gone; it does where it takes nobody more', () => {
    const { sheet, person, group, stores, except, now } = stage()
    const { code, topic_id } = group('Tempeh')
    const reach = (name: string, of = code) => reachGroup(sheet(), person(name), of, stores).as
    expect(() => reach('Cleo')).toThrow(expect.objectContaining({ code: 'not-found' }))
    expect(() => reach('Ina', 'nothing')).toThrow(expect.objectContaining({ code: 'not-found' }))
    except(group('Tempeh'), { offered: 0 })
    expect(reach('Ada')).toBe('member')
    stores.sheets.removeTopic(topic_id, now())
    expect(() => reach('Ada')).toThrow(expect.objectContaining({ code: 'not-found' }))
  })

  it('is told of to its active members as they sat down, its tutors and all instructors', () => {
    const { sheet, group, stores, status, seat, enrol } = stage()
    const told = () => {
      const { members, tutors, instructors } = reachedBy(sheet(), group('Tempeh').id, stores)
      return [members, tutors, instructors].map((some) => some.map(({ name }) => name))
    }
    enrol(['Aaron'])
    seat('Tempeh', 'Aaron')
    expect(told()).toEqual([['Ada', 'Bo', 'Aaron'], ['Tom'], ['Ina']])
    for (const name of ['Ada', 'Tom', 'Ina']) status(name, 'left')
    expect(told()).toEqual([['Bo', 'Aaron'], [], []])
  })
})

describe('what groups have', () => {
  it('is refused where it is turned off, for the sheet or for one group alone', () => {
    const { stores, group, sheet } = stage()
    const on = (extra: Extra, title = 'Tempeh') => {
      try {
        extraOn(group(title), extra, stores)
        return true
      } catch (error) {
        expect(error).toMatchObject({ code: 'extra-off' })
        return false
      }
    }
    extras({ talk: true, files: false })
    expect([on('talk'), on('files')]).toEqual([true, false])
    stores.groups.setOwnExtras(group('Tempeh').id, { talk: false, files: true })
    expect([on('talk'), on('files'), on('talk', 'Miso'), on('files', 'Miso')]).toEqual([
      false,
      true,
      true,
      false,
    ])
    expect(stores.groups.ownExtras(group('Tempeh').id)).toEqual({ talk: false, files: true })
    stores.groups.setOwnExtras(group('Tempeh').id, {})
    expect([on('talk'), stores.groups.ownExtras(group('Tempeh').id)]).toEqual([true, null])
    const all = {
      messages: true,
      talk: false,
      files: true,
      meeting: false,
      name: true,
      calendar: false,
      starts: 'threads' as const,
      meetingBy: 'convener' as const,
      fileBytes: 1_000,
      groupBytes: 5_000,
    }
    stores.groups.setExtras(sheet().id, all)
    expect(stores.groups.extras(sheet().id)).toEqual(all)
  })

  it('may be set by staff, by the convener where that was chosen, and named by all where nobody answers', () => {
    const s = stage()
    const may = (name: string) => {
      const as = reaches(s.sheet(), s.person(name), s.group('Tempeh'), s.stores)!
      const asked = [s.sheet(), s.group('Tempeh'), as, s.person(name), s.stores] as const
      return [maySetMeeting(...asked), mayName(...asked)]
    }
    const all = () => ['Ina', 'Tom', 'Ada', 'Bo'].map(may)
    extras({ meeting: false })
    expect(all()).toEqual([
      [false, true],
      [false, true],
      [false, true],
      [false, false],
    ])
    extras({ meeting: true, meetingBy: 'staff' })
    expect(all().map(([meeting]) => meeting)).toEqual([true, true, false, false])
    extras({ meeting: true, meetingBy: 'convener' })
    expect(all().map(([meeting]) => meeting)).toEqual([true, true, true, false])
    s.rule({ convener: 'none' })
    expect(all()).toEqual([
      [true, true],
      [true, true],
      [false, true],
      [false, true],
    ])
  })

  it('lets members write as far as it says, and nobody on an archived sheet', () => {
    const s = stage()
    extras({ talk: true, name: true, starts: 'everybody' })
    expect(pageOf('Bo').may).toMatchObject({
      write: true,
      name: false,
      start: true,
      thread: false,
      replyToSubject: true,
    })
    extras({ talk: true, name: true, starts: 'threads' })
    expect(pageOf('Bo').may).toMatchObject({ start: false, thread: true, replyToSubject: false })
    expect(pageOf('Tom').may).toMatchObject({ start: true, thread: true, replyToSubject: true, name: true })
    extras({ talk: true, name: false, starts: 'staff' })
    expect(pageOf('Ada').may).toMatchObject({
      start: false,
      thread: false,
      replyToSubject: true,
      name: false,
    })
    extras({ talk: false })
    expect(pageOf('Ina').may).toMatchObject({ start: false, thread: false, replyToSubject: false })
    extras({ talk: true, name: true, meeting: true, starts: 'threads' })
    s.stores.sheets.archive(s.sheet().id, s.now())
    expect(new Set(Object.values(pageOf('Ina').may))).toEqual(new Set([false]))
    expect(pageOf('Ina').sheet.archived).toBe(true)
  })
})

describe('a group as its page shows it', () => {
  it('has people with their addresses where the rules show names, and else the reader alone', () => {
    const s = stage()
    const names = (page: ReturnType<typeof pageOf>) =>
      page.members.map(({ name, you }) => `${name}${you ? '*' : ''}`)
    expect([names(pageOf('Bo')), names(pageOf('Tom'))]).toEqual([
      ['Ada', 'Bo*'],
      ['Ada', 'Bo'],
    ])
    expect([pageOf('Bo').convener, pageOf('Bo').size, pageOf('Bo').as]).toEqual(['Ada', 2, 'member'])
    expect(pageOf('Bo').sheet.archived).toBe(false)
    s.stores.sheets.archive(s.sheet().id, s.now())
    expect(pageOf('Bo').sheet.archived).toBe(true)
    s.stores.sheets.archive(s.sheet().id, null)
    s.rule({ names: 'nobody' })
    expect([names(pageOf('Bo')), pageOf('Bo').convener, pageOf('Bo').size]).toEqual([['Bo*'], null, 2])
    expect([pageOf('Ada').convener, pageOf('Tom').convener, names(pageOf('Tom'))]).toEqual([
      'Ada',
      'Ada',
      ['Ada', 'Bo'],
    ])
    expect(pageOf('Bo').tutors.map(({ name }) => name)).toEqual(['Tom'])
  })

  it('has its name, emblem and meeting where groups have those, and says to staff whether it differs', () => {
    const s = stage()
    s.stores.groups.setPlace(s.group('Tempeh').id, {
      meeting: 'https://meet.example/1',
      name: 'Hyphae',
      emblem: 'leaf',
    })
    extras({ name: true, meeting: true })
    expect(pageOf('Bo')).toMatchObject({
      name: 'Hyphae',
      emblem: 'leaf',
      meeting: 'https://meet.example/1',
      extrasDiffer: null,
    })
    expect(pageOf('Tom').extrasDiffer).toBe(false)
    expect(pageOf('Bo').extras).toEqual({ ...FIRST_EXTRAS, name: true, meeting: true })
    extras({ calendar: true, talk: false })
    expect([pageOf('Bo').extras.calendar, pageOf('Bo').calendar === null, pageOf('Bo').talk]).toEqual([
      true,
      false,
      [],
    ])
    extras({ name: true, meeting: true })
    s.stores.groups.setOwnExtras(s.group('Tempeh').id, { name: false, meeting: false })
    expect(pageOf('Tom')).toMatchObject({ name: '', emblem: '', meeting: '', extrasDiffer: true })
  })

  it('has messages, newest first, where groups have them', () => {
    const s = stage()
    const say = (subject: string) =>
      s.stores.groups.addMessage(
        s.group('Tempeh').id,
        { by_id: s.person('Tom').id, subject, text: 'Text', reached: 2 },
        s.now(),
      )
    extras({ messages: true })
    say('First')
    s.advance(HOUR)
    say('Second')
    expect(pageOf('Bo').messages).toMatchObject([
      { by: 'Tom', subject: 'Second', text: 'Text', sentAt: s.now(), reached: 2 },
      { subject: 'First' },
    ])
    expect(pageOf('Cleo', 'Miso').messages).toEqual([])
    expect(pageOf('Bo').lately.map(({ kind, what, by }) => [kind, what, by])).toEqual([
      ['message', 'Second', 'Tom'],
      ['message', 'First', 'Tom'],
    ])
    extras({ messages: false })
    expect([pageOf('Bo').messages, pageOf('Bo').lately]).toEqual([[], []])
  })
})

describe('what happened lately', () => {
  const said = (reader: string, title = 'Tempeh') => {
    const { sheet, group, person, now, stores } = stage()
    return lately(sheet(), group(title), person(reader), now(), stores).map(({ kind, by, what }) =>
      [kind, by, what].filter(Boolean).join(' '),
    )
  }

  it('is who came and went, works, and names that changed, newest first, as the reader may know them', async () => {
    const s = stage()
    expect(await s.claim('Bo', 'move', 'Miso', 'Tempeh')).toBe('yes')
    s.advance(HOUR)
    expect(await s.claim('Bo', 'move', 'Tempeh', 'Miso')).toBe('yes')
    s.advance(HOUR)
    const actorId = s.person('Ada').person_id
    const group = s.group('Tempeh').id
    note({ kind: 'place-changed', actorId, detail: { group, what: 'name' } })
    s.advance(HOUR)
    // One hand-in is noted for each member.
    for (const name of ['Ada', 'Bo'])
      note({
        kind: 'work-handed-in',
        actorId,
        enrolmentId: s.person(name).id,
        detail: { group, title: 'Essay' },
      })
    s.advance(HOUR)
    note({
      kind: 'work-taken-back',
      actorId,
      enrolmentId: s.person('Ada').id,
      detail: { group, title: 'Essay' },
    })
    note({ kind: 'marks-released', actorId, detail: { group, title: 'Essay' } })
    expect(said('Ada')).toEqual([
      'taken-back Ada Essay',
      'handed-in Ada Essay',
      'place Ada name',
      'came Bo',
      'went Bo',
    ])
    expect(said('Cleo', 'Miso')).toEqual(['went Bo', 'came Bo'])
    s.rule({ names: 'nobody' })
    expect(said('Bo').slice(0, 2)).toEqual([
      'taken-back A member of your group Essay',
      'handed-in A member of your group Essay',
    ])
    expect(said('Ina')[0]).toBe('taken-back Ada Essay')
  })

  it('is twelve things at most', async () => {
    const s = stage()
    for (let n = 0; n < 8; n++) {
      s.advance(HOUR)
      const [from, to] = n % 2 === 0 ? (['Tempeh', 'Miso'] as const) : (['Miso', 'Tempeh'] as const)
      expect(await s.claim('Bo', 'move', to, from)).toBe('yes')
    }
    expect(said('Ada')).toHaveLength(8)
    extras({ messages: true })
    for (let n = 0; n < 9; n++)
      s.stores.groups.addMessage(
        s.group('Tempeh').id,
        { by_id: s.person('Tom').id, subject: `${n}`, text: '', reached: 0 },
        s.now(),
      )
    expect(said('Ada')).toHaveLength(12)
  })
})

describe('all groups of a sheet, for staff', () => {
  it('has those that the reader reaches, their own first, with people and what there is to see', () => {
    const s = stage()
    const view = (name: string) => groupsView(s.sheet(), s.course, s.person(name), s.now(), s.stores)
    s.stores.sheets.setTutors(s.group('Miso').id, [s.person('Tea').id, s.person('Ina').id])
    s.stores.groups.setPlace(s.group('Tempeh').id, { meeting: '', name: 'Hyphae', emblem: 'leaf' })
    s.stores.groups.setOwnExtras(s.group('Tempeh').id, { calendar: false })
    extras({ name: true })
    s.status('Bo', 'paused')
    const lines = view('Ina').groups
    expect(lines.map(({ topic, yours }) => [topic.title, yours])).toEqual([
      ['Miso', true],
      ['Tempeh', false],
    ])
    expect(lines[1]).toMatchObject({
      name: 'Hyphae',
      emblem: 'leaf',
      members: [{ name: 'Ada' }],
      convener: 'Ada',
      tutors: [{ name: 'Tom' }],
      unread: 0,
      files: 0,
      missing: 0,
      differs: true,
    })
    expect(lines[0]).toMatchObject({ name: '', convener: 'Cleo', differs: false })
    expect([lines[0]!.emblem, lines[0]!.section]).toEqual(['', null])
    s.rule({ convener: 'none' })
    expect(view('Ina').groups.map(({ convener }) => convener)).toEqual([null, null])
    s.rule({ convener: 'first' })
    expect(view('Tom').groups.map(({ topic, yours }) => [topic.title, yours])).toEqual([['Tempeh', true]])
    expect([view('Ina').mayEdit, view('Tom').mayEdit]).toEqual([true, false])
    expect(view('Ina').kept).toEqual({ talk: 0, files: 0, messages: 0 })
    s.stores.groups.addMessage(
      s.group('Miso').id,
      { by_id: s.person('Ina').id, subject: 'x', text: '', reached: 1 },
      s.now(),
    )
    expect([view('Ina').kept.messages, view('Tom').kept.messages]).toEqual([1, 0])
    extras({ name: false })
    expect(view('Ina').groups[1]).toMatchObject({ name: '', emblem: '' })
  })
})
