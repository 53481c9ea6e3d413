import { describe, expect, it } from 'vitest'
import { DAY, HOUR } from '../../src/core/instant.ts'
import type { NamesShown } from '../../src/core/rules.ts'
import { namesFor } from '../../src/server/seats/namesFor.ts'
import { refusalFacts } from '../../src/server/seats/refusalFacts.ts'
import { claimAnswer, studentHome, studentSheet } from '../../src/server/seats/studentViews.ts'
import { runView } from '../../src/server/seats/views.ts'
import { CLOSES, stageEach } from './stage.ts'

const stage = stageEach((s) => {
  s.rule({ seats: 3 })
  s.enrol(['Ada', 'Bo', 'Cleo', 'Dai'])
  for (const title of ['Tempeh', 'Miso']) s.addTopic(title)
  s.seat('Tempeh', 'Ada', 'Bo')
  s.seat('Miso', 'Cleo')
})
const sheetOf = (name: string) => {
  const { sheet, course, person, now, stores } = stage()
  return studentSheet(sheet(), course, person(name), now(), stores)
}
const groupOf = (name: string, title: string) => sheetOf(name).groups.find((one) => one.title === title)!
const answerTo = (name: string, asked: string[], byLine = false) => {
  const { sheet, person, now, stores, group } = stage()
  const codes = asked.map((title) => group(title).code)
  return claimAnswer(sheet(), person(name), codes, byLine, now(), stores)
}

describe('names that a student reads', () => {
  // Who reads: Ada of her own group and the other, Dai who has no seat; while open, then closed.
  it.each<[NamesShown, open: (string[] | null)[], closed: (string[] | null)[]]>([
    ['nobody', [null, null, null], [null, null, null]],
    ['mates', [['Bo'], null, null], [['Bo'], null, null]],
    ['seated', [['Bo'], ['Cleo'], null], [['Bo'], ['Cleo'], null]],
    ['after-close', [null, null, null], [['Bo'], ['Cleo'], ['Cleo']]],
    ['everyone', [['Bo'], ['Cleo'], ['Cleo']], [['Bo'], ['Cleo'], ['Cleo']]],
  ])('by the rule “%s” are those it shows, and no others', (names, open, closed) => {
    const { rule, set, status, sheet, person } = stage()
    rule({ names })
    const read = () =>
      [groupOf('Ada', 'Tempeh'), groupOf('Ada', 'Miso'), groupOf('Dai', 'Miso')].map((one) => one.names)
    expect(read()).toEqual(open)
    const mates = sheetOf('Ada').seats[0]!.mates
    expect(mates).toEqual(open[0] && [{ name: 'Bo', email: person('Bo').email }])
    set(CLOSES)
    expect(read()).toEqual(closed)
    // Whose place is paused reads of nobody, and is not read of.
    status('Ada', 'paused')
    expect([groupOf('Ada', 'Tempeh').names, sheetOf('Ada').seats[0]!.mates]).toEqual([null, null])
    expect(groupOf('Bo', 'Tempeh').names ?? []).toEqual([])
    expect(sheet().names).toBe(names)
  })

  it('are with the group’s convener where they are shown, and say of oneself that it is so', () => {
    const { rule, group, person, stores } = stage()
    rule({ names: 'everyone', convener: 'first' })
    expect([groupOf('Bo', 'Tempeh').convener, sheetOf('Bo').seats[0]!.convener]).toEqual(['Ada', false])
    expect([groupOf('Ada', 'Tempeh').convener, sheetOf('Ada').seats[0]!.convener]).toEqual([null, true])
    rule({ convener: 'named' })
    expect(groupOf('Ada', 'Tempeh').convener).toBeNull()
    stores.sheets.nameConvener(group('Tempeh').id, person('Bo').id)
    expect(groupOf('Ada', 'Tempeh').convener).toBe('Bo')
    rule({ names: 'nobody' })
    expect(groupOf('Ada', 'Tempeh').convener).toBeNull()
    expect(sheetOf('Bo').seats[0]!.convener).toBe(true)
    rule({ convener: 'none' })
    expect(sheetOf('Bo').seats[0]!.convener).toBe(false)
  })

  it('stay with who sat in a group together; whoever came later does not learn who sat there before', () => {
    const { sheet, person, now, stores, rule, claim, advance, status, enrol } = stage()
    enrol(['Tutor'], { role: 'tutor' })
    const said = (reader: string, of: string, were?: boolean) =>
      namesFor(sheet(), person(reader), now(), stores)(person(of).id, were)
    advance(HOUR)
    return claim('Bo', 'give-up', 'Tempeh').then(async () => {
      advance(HOUR)
      expect(await claim('Dai', 'take', 'Tempeh')).toBe('yes')
      expect(said('Ada', 'Bo')).toBe('Bo')
      expect(said('Ada', 'Dai')).toBe('Dai')
      expect(said('Dai', 'Bo')).toBe('Somebody who sat here before')
      expect(said('Dai', 'Bo', true)).toBe('Bo')
      expect(said('Dai', 'Dai')).toBe('Dai')
      expect(said('Dai', 'Tutor')).toBe('Tutor')
      expect(said('Tutor', 'Bo')).toBe('Bo')
      expect(said('Ada', 'Cleo')).toBe('Somebody who sat here before')
      rule({ names: 'nobody' })
      expect(said('Ada', 'Dai')).toBe('A member of your group')
      expect(said('Ada', 'Bo', true)).toBe('A member of your group')
      expect(said('Ada', 'Bo')).toBe('Somebody who sat here before')
      expect(said('Ada', 'Ada')).toBe('Ada')
      rule({ names: 'mates' })
      status('Ada', 'paused')
      expect(said('Ada', 'Dai')).toBe('A member of your group')
    })
  })
})

describe('a group as a student sees it', () => {
  it('has its seats, those held for others, and whether one is for the reader', () => {
    const { hold } = stage()
    hold('Miso', 'Dai')
    hold('Miso', null)
    expect(groupOf('Dai', 'Miso')).toMatchObject({
      seats: 3,
      taken: 1,
      held: 1,
      heldForYou: true,
      section: null,
    })
    expect(groupOf('Ada', 'Miso')).toMatchObject({ taken: 1, held: 2, heldForYou: false })
  })

  it('has its line, and the reader’s place in it', async () => {
    const { rule, claim, enrol, seat } = stage()
    rule({ seats: 2, full_groups: 'line' })
    enrol(['Eve'])
    seat('Miso', 'Eve')
    await claim('Ada', 'wait', 'Miso')
    await claim('Dai', 'wait', 'Miso')
    expect(groupOf('Dai', 'Miso')).toMatchObject({ waiting: 2, yourPlace: 2 })
    expect(groupOf('Ada', 'Miso')).toMatchObject({ waiting: 2, yourPlace: 1 })
    expect(groupOf('Bo', 'Miso')).toMatchObject({ waiting: 2, yourPlace: null })
    expect(answerTo('Dai', ['Miso']).groups).toMatchObject([{ waiting: 2, yourPlace: 2 }])
  })

  it('is listed where it is offered to the reader, or where they sit', () => {
    const { addSections, addTopic, putIn, except, group, rule } = stage()
    addSections('Tue', 'Wed')
    addTopic('Koji', {}, ['Tue', 'Wed'])
    putIn('Ada', 'Tue')
    const titles = (name: string) => sheetOf(name).groups.map(({ title, section }) => [title, section])
    expect(titles('Ada')).toEqual([
      ['Tempeh', null],
      ['Miso', null],
      ['Koji', null],
    ])
    expect(titles('Dai')).toEqual([
      ['Tempeh', null],
      ['Miso', null],
    ])
    rule({ offers: 'course' })
    expect(titles('Dai').slice(2)).toEqual([
      ['Koji', 'Tue'],
      ['Koji', 'Wed'],
    ])
    except(group('Tempeh'), { offered: 0 })
    expect(titles('Dai').map(([title]) => title)).not.toContain('Tempeh')
    expect(titles('Ada').map(([title]) => title)).toContain('Tempeh')
    expect(sheetOf('Ada').section).toBe('Tue')
    expect(sheetOf('Dai').section).toBeNull()
  })
})

describe('the answer to a claim', () => {
  it('has the seats one has now and the groups it touched, as of the newest entry', () => {
    const { position, now, group } = stage()
    const answer = answerTo('Ada', ['Miso', 'Tempeh'])
    expect(answer).toMatchObject({ now: now(), rev: position(), more: false, received: [], sent: [] })
    expect(answer.seats).toMatchObject([{ group: group('Tempeh').code, mates: [{ name: 'Bo' }], toOffer: 0 }])
    expect(answer.groups.map(({ title, names }) => [title, names])).toEqual([
      ['Miso', null],
      ['Tempeh', ['Bo']],
    ])
    const { received: _, sent: __, seats, groups } = sheetOf('Ada')
    expect(answer.seats).toEqual(seats)
    expect(answer.groups.toSorted((a, b) => a.title.localeCompare(b.title))).toEqual(
      groups.toSorted((a, b) => a.title.localeCompare(b.title)),
    )
  })

  it('says that there is more to fetch where a line seated one, or names turn with the first seat or the last', () => {
    const { rule } = stage()
    expect(answerTo('Ada', ['Tempeh'], true).more).toBe(true)
    rule({ names: 'seated' })
    expect(answerTo('Ada', ['Tempeh']).more).toBe(true)
    expect(answerTo('Ada', ['Miso', 'Tempeh']).more).toBe(false)
    expect(answerTo('Dai', ['Miso', 'Tempeh']).more).toBe(true)
    rule({ names: 'mates' })
    expect(answerTo('Dai', ['Tempeh']).more).toBe(false)
  })

  it('counts the seats that a convener can offer, while the sheet is open and seats are chosen', () => {
    const { rule, hold, set } = stage()
    const toOffer = (name: string) => sheetOf(name).seats[0]?.toOffer
    rule({ invitations: 'convener' })
    expect([toOffer('Ada'), toOffer('Bo'), toOffer('Cleo')]).toEqual([1, 0, 2])
    hold('Miso', null)
    expect(toOffer('Cleo')).toBe(1)
    rule({ road: 'wished' })
    expect(toOffer('Cleo')).toBe(0)
    rule({ road: 'chosen', convener: 'none' })
    expect(toOffer('Cleo')).toBe(0)
    rule({ convener: 'first' })
    set(CLOSES)
    expect(toOffer('Cleo')).toBe(0)
  })
})

describe('a student’s first page', () => {
  it('has every sheet that is out and for them, with what there is to do', () => {
    const { person, now, stores, sheet, status, rule, hold } = stage()
    const home = (name: string) => studentHome(person(name).person_id, now(), stores).sheets
    expect(home('Dai')).toMatchObject([
      { title: 'Benches', state: 'open', groups: 2, groupsWithRoom: 2, seats: [], ranked: null, swap: null },
    ])
    expect(home('Ada')[0]!.seats).toMatchObject([{ title: 'Tempeh', taken: 2, names: ['Bo'] }])
    hold('Tempeh', 'Cleo')
    expect([home('Dai')[0]!.groupsWithRoom, home('Cleo')[0]!.groupsWithRoom]).toEqual([1, 2])
    status('Dai', 'paused')
    expect(home('Dai')).toEqual([])
    rule({ opens_at: '2026-05-12T08:00:00.000Z', visible_before: 0 })
    expect(home('Ada')).toEqual([])
    rule({ visible_before: 1 })
    expect(home('Ada')).toMatchObject([{ state: 'scheduled' }])
    stores.sheets.withdraw(sheet().id)
    expect(home('Ada')).toEqual([])
  })
})

describe('what a refusal speaks of', () => {
  it('is the sheet as it stands for that student: seats they hold, groups with a free seat for them', () => {
    const { sheet, course, person, stores, hold, rule, addSections, putIn, addTopic, claim } = stage()
    const facts = (name: string) => refusalFacts(sheet(), course, person(name), stores)
    expect(facts('Ada')).toMatchObject({ held: 1, withRoom: 2, section: null, zone: 'UTC', closesAt: CLOSES })
    hold('Tempeh', 'Dai')
    rule({ seats_each: 2 })
    // What is counted is kept until the ledger moves.
    return claim('Cleo', 'give-up', 'Miso').then(() => {
      expect([facts('Ada').withRoom, facts('Dai').withRoom, facts('Cleo').held]).toEqual([1, 2, 0])
      addSections('Tue')
      addTopic('Koji', { seats: 0 }, ['Tue'])
      putIn('Ada', 'Tue')
      return claim('Cleo', 'take', 'Miso').then(() => {
        expect([facts('Ada').withRoom, facts('Dai').withRoom, facts('Ada').section]).toEqual([2, 2, 'Tue'])
      })
    })
  })
})

describe('a sheet as staff watch it', () => {
  it('has every group with its people, tutors, line and what is held, and those who are away but seated', async () => {
    const s = stage()
    s.enrol(['Tutor'], { role: 'tutor' })
    s.rule({ full_groups: 'line', seats: 2 })
    s.stores.sheets.setTutors(s.group('Tempeh').id, [s.person('Tutor').id])
    s.hold('Miso', null)
    await s.claim('Dai', 'wait', 'Tempeh')
    s.status('Cleo', 'paused')
    s.addTopic('Koji')
    s.except(s.group('Koji'), { offered: 0 })
    s.except(s.group('Miso'), { offered: 0 })
    s.advance(DAY)
    const view = runView(s.sheet(), s.course, s.person('Tutor'), s.now(), s.stores)
    const code = (name: string) => s.person(name).code
    expect(view.topics.map(({ title }) => title)).toEqual(['Tempeh', 'Miso', 'Koji'])
    expect(view.groups).toMatchObject([
      {
        code: s.group('Tempeh').code,
        line: [code('Dai')],
        tutors: [code('Tutor')],
        held: 0,
        convener: code('Ada'),
      },
      { code: s.group('Miso').code, line: [], tutors: [], held: 1, seats: 2, ownSeats: null, convener: null },
    ])
    expect(view.people.map(({ name }) => name)).toEqual(['Ada', 'Bo', 'Dai'])
    expect(view.away.map(({ name }) => name)).toEqual(['Cleo'])
    expect(view.seats.map(({ group, person }) => [group, person])).toEqual([
      [s.group('Tempeh').code, code('Ada')],
      [s.group('Tempeh').code, code('Bo')],
      [s.group('Miso').code, code('Cleo')],
    ])
    expect(view.staff).toEqual([{ code: code('Tutor'), name: 'Tutor' }])
    expect([view.you, view.maySeat, view.requests]).toEqual([code('Tutor'), 'none', 0])
  })
})
