import { describe, expect, it } from 'vitest'
import { basisOf } from '../../src/server/plans/basis.ts'
import { settleView } from '../../src/server/plans/views.ts'
import { plannedOn } from './planned.ts'
import { PLAIN, stageEach } from './stage.ts'

const stage = stageEach((s) => {
  s.enrol(['Ina'], { role: 'instructor' })
  s.enrol(['Ada', 'Bo', 'Cleo', 'Dai'])
  for (const title of ['Tempeh', 'Miso']) s.addTopic(title)
})

describe('what Settle shows', () => {
  const view = (name = 'Ina') => {
    const { sheet, course, person, now, stores } = stage()
    return settleView(sheet(), course, person(name), now(), stores)
  }
  const code = (name: string) => stage().person(name).code

  it('is topics and groups with their sections and who answers for them', () => {
    const s = stage()
    s.addSections('Tue', 'Wed')
    s.addTopic('Koji', {}, ['Wed'])
    s.seat('Miso', 'Bo')
    const { topics, groups, basis, ...shown } = view()
    expect(topics.map(({ title }) => title)).toEqual(['Tempeh', 'Miso', 'Koji'])
    expect(groups).toEqual(
      ['Tempeh', 'Miso', 'Koji'].map((title, n) => ({
        code: s.group(title).code,
        topic: topics[n]!.code,
        section: title === 'Koji' ? s.section('Wed').code : null,
        convener: title === 'Miso' ? code('Bo') : null,
      })),
    )
    expect(basis).toEqual(basisOf(s.sheet(), s.now(), s.stores))
    expect(shown).toMatchObject({
      seats: 2,
      floor: 1,
      mixed: false,
      lotNumber: s.sheet().lot_number,
      boundWithRoom: 0,
      mayEdit: true,
    })
    expect([shown.plans, shown.troubles, shown.keepings, shown.sat]).toEqual([[], [], [], []])
    s.enrol(['Tom'], { role: 'tutor' })
    expect(view('Tom').mayEdit).toBe(false)
  })

  it('is who sits together on other sheets, of those who are here; nobody is alone a partner', () => {
    const s = stage()
    const other = (title: string, ...groups: string[][]) => {
      const { id, code } = s.stores.sheets.add(
        s.course.id,
        { title, contact: '', seats: 4, floor: 1 },
        s.now(),
      )
      groups.forEach((names, n) => {
        const topic = s.stores.sheets.addTopic(id, { title: `Topic ${n}`, ...PLAIN }, [null], s.now())
        const group = s.stores.sheets.groups(id).find(({ topic_id }) => topic_id === topic.id)!
        for (const name of names) s.stores.seats.seat(id, group.id, s.person(name).id, false, s.now())
      })
      return code
    }
    s.seat('Tempeh', 'Ada', 'Bo')
    const first = other('First', ['Ada', 'Bo', 'Cleo'], ['Dai'])
    other('Alone', ['Ada'], ['Bo'])
    const last = other('Last', ['Dai', 'Cleo'], ['Ada', 'Bo'])
    expect(view().sat).toEqual([
      { sheet: last, title: 'Last', groups: [['Dai', 'Cleo'].map(code), ['Ada', 'Bo'].map(code)] },
      { sheet: first, title: 'First', groups: [['Ada', 'Bo', 'Cleo'].map(code)] },
    ])
    s.status('Cleo', 'paused')
    expect(view().sat.map(({ groups }) => groups)).toEqual([
      [['Ada', 'Bo'].map(code)],
      [['Ada', 'Bo'].map(code)],
    ])
  })

  it('is what the roster says of people besides, as far as it tells any apart', () => {
    const s = stage()
    const say = (name: string, of: Record<string, string>) =>
      s.stores.roster.setAttributes(s.person(name).id, JSON.stringify(of))
    say('Ada', { Skill: 'new', Year: '2' })
    say('Bo', { Skill: 'old', Year: '2' })
    say('Cleo', { Year: '2' })
    say('Dai', { Year: '2' })
    expect(view().attributes).toEqual([{ name: 'Skill', of: { [code('Ada')]: 'new', [code('Bo')]: 'old' } }])
    say('Dai', {})
    expect(view().attributes.map(({ name }) => name)).toEqual(['Skill', 'Year'])
  })

  it('is the plans that were kept, by whom, with what changed since, and the rules for people', () => {
    const s = stage()
    const content = plannedOn(s)
    const by = s.person('Ina').person_id
    const kept = { code: 'plan-1', title: 'Kept', content: JSON.stringify(content), position: s.position() }
    s.stores.plans.add(s.sheet().id, kept, s.now(), by)
    s.stores.plans.add(s.sheet().id, { ...kept, code: 'plan-2', title: 'By rule' }, s.now(), null)
    const members = ['Ada', 'Bo'].map((name) => s.person(name).id)
    s.stores.plans.addKeeping(
      s.course.id,
      { kind: 'apart', note: 'Asked', expiresAt: null, members },
      s.now(),
    )
    s.stores.ledger.note({ sheetId: s.sheet().id, at: s.now(), actorId: null, kind: 'sheet-changed' })
    s.stores.ledger.note({ sheetId: s.sheet().id, at: s.now(), actorId: null, kind: 'seat-taken' })
    expect(view().plans).toMatchObject([
      { code: 'plan-2', title: 'By rule', madeBy: null, changedSince: 1 },
      {
        code: 'plan-1',
        title: 'Kept',
        madeBy: 'Ina',
        madeAt: s.now(),
        appliedAt: null,
        undoneAt: null,
        content,
      },
    ])
    s.status('Bo', 'left')
    expect(view().keepings).toMatchObject([
      { kind: 'apart', note: 'Asked', expiresAt: null, people: [{ name: 'Ada' }, { name: 'Bo' }] },
    ])
  })
})
