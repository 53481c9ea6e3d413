import { describe, expect, it } from 'vitest'
import { DAY } from '../../src/core/instant.ts'
import { serveLines } from '../../src/server/seats/lines.ts'
import { CLOSES, stageEach } from './stage.ts'

const PEOPLE = ['Ada', 'Bo', 'Cleo', 'Dai', 'Eve', 'Fritz']
const stage = stageEach((s) => {
  s.rule({ full_groups: 'line' })
  s.enrol(PEOPLE)
  for (const title of ['Tempeh', 'Miso', 'Kefir']) s.addTopic(title)
})

/** Fills a group with two, and lets others wait for it. */
async function waiting(title: string, seated: readonly string[], inLine: readonly string[]) {
  for (const name of seated) expect(await stage().claim(name, 'take', title)).toBe('yes')
  for (const name of inLine) expect(await stage().claim(name, 'wait', title)).toBe('yes')
}
const serve = () => {
  const { sheet, now, stores } = stage()
  return serveLines(sheet().id, now(), stores)
}

describe('a line', () => {
  it('is served strictly in order, one seat to one of them, with an entry that says so', async () => {
    const { claim, seated, line, entries, position } = stage()
    await waiting('Tempeh', ['Ada', 'Bo'], ['Cleo', 'Dai'])
    const before = position()
    expect(await claim('Ada', 'give-up', 'Tempeh')).toBe('yes')
    expect([seated('Tempeh'), line('Tempeh')]).toEqual([['Bo', 'Cleo'], ['Dai']])
    expect(entries(before)).toEqual([
      'seat-given-up Ada Tempeh',
      'seat-taken Cleo Tempeh because=waiting-line',
    ])
  })

  it('gives as many seats as a raised limit brings, and none of a closed sheet', async () => {
    const { rule, seated, line, set } = stage()
    await waiting('Tempeh', ['Ada', 'Bo'], ['Cleo', 'Dai', 'Eve'])
    rule({ seats: 4 })
    set(CLOSES)
    expect(serve()).toEqual([])
    rule({ closes_at: '2026-05-20T08:00:00.000Z' })
    expect(serve()).toMatchObject([{ fromGroupId: null }, { fromGroupId: null }])
    expect([seated('Tempeh'), line('Tempeh')]).toEqual([['Ada', 'Bo', 'Cleo', 'Dai'], ['Eve']])
  })

  it('is not served where the sheet keeps none', async () => {
    await waiting('Tempeh', ['Ada', 'Bo'], ['Cleo'])
    stage().rule({ seats: 4, full_groups: 'full' })
    expect(serve()).toEqual([])
    expect(stage().line('Tempeh')).toEqual(['Cleo'])
  })

  it('makes a move of a seat that somebody has, whose seat goes on to the next', async () => {
    const { claim, seated, line, entries, position, mails, stores, group, person } = stage()
    await waiting('Tempeh', ['Ada', 'Bo'], ['Cleo'])
    await waiting('Miso', ['Cleo', 'Dai'], ['Eve'])
    const before = position()
    expect(await claim('Ada', 'give-up', 'Tempeh')).toBe('yes')
    expect([seated('Tempeh'), seated('Miso')]).toEqual([
      ['Bo', 'Cleo'],
      ['Dai', 'Eve'],
    ])
    expect([line('Tempeh'), line('Miso')]).toEqual([[], []])
    expect(entries(before)).toEqual([
      'seat-given-up Ada Tempeh',
      'seat-moved Cleo Miso Tempeh because=waiting-line',
      'seat-taken Eve Miso because=waiting-line',
    ])
    expect(mails().map(({ recipient }) => recipient)).toEqual(['eve@haplon.example', 'cleo@haplon.example'])
    expect(mails()[1]!.body).toContain('Miso')
    expect(stores.seats.heldBy(group('Tempeh').sheet_id, person('Cleo').id)).toHaveLength(1)
  })

  it('lets whoever it seats leave the others, or stay in them, by house rule', async () => {
    for (const [rule, left] of [
      ['leave', []],
      ['keep', ['Cleo']],
    ] as const) {
      const { claim, line, rule: set, entries, position } = stage()
      set({ other_lines: rule })
      if (rule === 'leave') {
        await waiting('Tempeh', ['Ada', 'Bo'], ['Cleo'])
        await waiting('Miso', ['Dai', 'Eve'], ['Cleo'])
      } else {
        expect(await claim('Cleo', 'give-up', 'Tempeh')).toBe('yes')
        expect(await claim('Ada', 'take', 'Tempeh')).toBe('yes')
        for (const title of ['Tempeh', 'Miso']) expect(await claim('Cleo', 'wait', title)).toBe('yes')
      }
      const before = position()
      expect(await claim('Ada', 'give-up', 'Tempeh')).toBe('yes')
      expect(line('Miso')).toEqual(left)
      expect(entries(before).filter((entry) => entry.startsWith('line-left'))).toEqual(
        rule === 'leave' ? ['line-left Cleo Miso because=seated-elsewhere'] : [],
      )
    }
  })

  it('is left by whoever sits in the group already, who was paused, left, or is of another section', async () => {
    const { addSections, addTopic, putIn, claim, seat, line, entries, position, status, group, stores } =
      stage()
    addSections('Tue', 'Wed')
    addTopic('Koji', {}, ['Tue'])
    for (const name of PEOPLE) putIn(name, 'Tue')
    await waiting('Koji', ['Ada', 'Bo'], ['Cleo', 'Dai', 'Eve', 'Fritz'])
    putIn('Cleo', 'Wed')
    status('Dai', 'paused')
    stores.seats.giveUp(group('Koji').id, stage().person('Ada').id)
    seat('Koji', 'Eve')
    stores.seats.giveUp(group('Koji').id, stage().person('Bo').id)
    const before = position()
    serve()
    expect(line('Koji')).toEqual([])
    expect(entries(before)).toEqual([
      'line-left Cleo Koji because=other-section',
      'line-left Dai Koji because=enrolment-not-active',
      'line-left Eve Koji because=seated-elsewhere',
      'seat-taken Fritz Koji because=waiting-line',
    ])
    expect(await claim('Fritz', 'leave-line', 'Koji')).toBe('not-in-line')
  })

  it('is over where its group is not to be had, and passes over who sits elsewhere at that time', async () => {
    const { rule, claim, seated, line, entries, position, except, group, addTopic } = stage()
    const at = (hour: number) => `2026-05-20T0${hour}:00:00.000Z`
    addTopic('Koji', { starts_at: at(8), ends_at: at(9) })
    addTopic('Natto', { starts_at: at(8), ends_at: at(9) })
    rule({ seats_each: 2 })
    await waiting('Koji', ['Ada', 'Bo'], ['Cleo', 'Dai'])
    expect(await claim('Cleo', 'take', 'Natto')).toBe('yes')
    expect(await claim('Ada', 'give-up', 'Koji')).toBe('yes')
    expect([seated('Koji'), line('Koji')]).toEqual([['Bo', 'Dai'], ['Cleo']])
    const before = position()
    except(group('Koji'), { offered: 0 })
    serve()
    expect(line('Koji')).toEqual(['Cleo'])
    expect(await claim('Bo', 'give-up', 'Koji')).toBe('yes')
    expect(line('Koji')).toEqual([])
    expect(entries(before)).toContain('line-left Cleo Koji because=group-not-offered')
  })

  it('gives the seat that is kept for one of them to that one, and to nobody else', async () => {
    const { hold, seated, line, rule } = stage()
    rule({ seats: 3 })
    hold('Tempeh', 'Dai')
    await waiting('Tempeh', ['Ada', 'Bo'], ['Cleo'])
    expect(serve()).toEqual([])
    expect(await stage().claim('Dai', 'take', 'Tempeh')).toBe('line-goes-first')
    expect(await stage().claim('Dai', 'wait', 'Tempeh')).toBe('yes, by a line')
    expect([seated('Tempeh'), line('Tempeh')]).toEqual([['Ada', 'Bo', 'Dai'], ['Cleo']])
  })

  it('cannot be passed by somebody quicker, and is joined only where it makes sense', async () => {
    const { claim, rule, advance } = stage()
    await waiting('Tempeh', ['Ada', 'Bo'], ['Cleo'])
    rule({ seats: 3 })
    expect(await claim('Dai', 'take', 'Tempeh')).toBe('line-goes-first')
    expect(await claim('Cleo', 'wait', 'Tempeh')).toBe('already-in-line')
    expect(await claim('Dai', 'wait', 'Miso')).toBe('seat-is-free')
    expect(await claim('Ada', 'wait', 'Tempeh')).toBe('already-seated-here')
    rule({ full_groups: 'full' })
    expect(await claim('Dai', 'wait', 'Tempeh')).toBe('no-waiting-line')
    advance(10 * DAY)
    expect(await claim('Cleo', 'leave-line', 'Tempeh')).toBe('window-closed')
  })
})
