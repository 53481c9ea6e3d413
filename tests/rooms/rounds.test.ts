import { describe, expect, it } from 'vitest'
import { MINUTE, shift } from '../../src/core/instant.ts'
import { USUAL_ORDER } from '../../src/core/wishes/rules.ts'
import { rulesOn } from './rules.ts'
import { CLOSES, stageEach } from './stage.ts'

const stage = stageEach((s) => {
  s.enrol(['Ina'], { role: 'instructor' })
  s.enrol(['Ada', 'Bo'])
  for (const title of ['Tempeh', 'Miso']) s.addTopic(title)
  s.rule({ at_close: 'seat', road: 'wished', aim: 'least-total', wishes_least: 1 })
})
const { closing, closeCode, mailsTo, planOf, troubles } = rulesOn(stage)

/** Ranks topics for somebody, the first most wanted. */
function ranks(name: string, ...titles: string[]): void {
  const { stores, sheet, person, group, now } = stage()
  const topics = titles.map((title) => [group(title).topic_id])
  const list = { ranks: JSON.stringify(topics), cannot: '[]', mates: '{"people":[],"first":false}' }
  stores.wishes.save(sheet().id, person(name).id, list, now())
}
const closed = () => stage().stores.plans.closed(stage().sheet().id, CLOSES)
const close = () => {
  stage().set(CLOSES)
  return closing()
}

describe('the rule at the close, where seats are given by wishes', () => {
  it('gives them by what was ranked, towards the aim of the sheet', async () => {
    const s = stage()
    s.rule({ seats: 1 })
    ranks('Ada', 'Miso', 'Tempeh')
    ranks('Bo', 'Miso')
    const { run, inputs } = close()
    await run()
    expect(inputs).toMatchObject([
      { method: 'wishes', byWishes: { aim: 'least-total', order: [...USUAL_ORDER], round: 1 } },
    ])
    expect([s.seated('Miso'), s.seated('Tempeh')]).toEqual([['Bo'], ['Ada']])
    expect(planOf(closeCode())!.content.settings).toMatchObject({
      method: 'wishes',
      wishes: { aim: 'least-total', order: [...USUAL_ORDER], round: 1 },
      floorsFirst: true,
    })
    expect(s.stores.wishes.settlings(s.sheet().id)).toHaveLength(1)
    const wish = (name: string) => /That is .*/.exec(mailsTo(name)[0]!.body)?.[0]
    expect(wish('Bo')).toBe('That is your first wish.')
    expect(wish('Ada')).toBe('That is your second wish. Why you have no better one stands on the sheet.')
    expect(closed()).toBe(true)
  })

  it('gives a further seat in a round of its own, and tells the instructors once all are given', async () => {
    const s = stage()
    s.rule({ seats_each: 2 })
    ranks('Ada', 'Miso', 'Tempeh')
    ranks('Bo', 'Miso', 'Tempeh')
    const { run, inputs } = close()
    await run()
    expect([s.seated('Miso'), s.seated('Tempeh')]).toEqual([['Ada', 'Bo'], []])
    expect([closed(), mailsTo('Ina')]).toEqual([false, []])
    s.advance(MINUTE)
    await run()
    expect([s.seated('Miso'), s.seated('Tempeh')]).toEqual([
      ['Ada', 'Bo'],
      ['Ada', 'Bo'],
    ])
    expect(closed()).toBe(true)
    expect(inputs.map(({ byWishes }) => byWishes!.round)).toEqual([1, 2])
    expect(planOf(closeCode())).toMatchObject({ title: 'At the close', applied_at: CLOSES })
    expect(planOf(`${closeCode()}-2`)).toMatchObject({
      title: 'At the close, the second seat',
      applied_at: shift(CLOSES, MINUTE),
      content: { moves: { length: 2 }, settings: { wishes: { round: 2 } } },
    })
    expect(mailsTo('Ina').map(({ body }) => body)).toEqual([
      expect.stringMatching(/has closed and 4 were seated by plan\. Nobody is left\./),
    ])
    s.advance(MINUTE)
    await run()
    expect(inputs).toHaveLength(2)
  })

  it('ends with a round in which nobody is seated', async () => {
    const s = stage()
    s.rule({ seats_each: 2 })
    s.except(s.group('Tempeh'), { offered: 0 })
    ranks('Ada', 'Miso')
    ranks('Bo', 'Miso')
    const { run, inputs } = close()
    await run()
    expect(closed()).toBe(false)
    await run()
    await run()
    expect([inputs.length, closed(), s.stores.plans.ofSheet(s.sheet().id).length]).toEqual([2, true, 1])
    expect(mailsTo('Ina')).toHaveLength(1)
  })

  it('drafts the first round alone where nothing is applied by itself', async () => {
    const s = stage()
    s.rule({ seats_each: 2, at_close: 'draft' })
    ranks('Ada', 'Miso')
    const { run, inputs } = close()
    await run()
    await run()
    expect([inputs.length, closed(), planOf(closeCode())!.applied_at]).toEqual([1, true, null])
    expect(s.stores.plans.ofSheet(s.sheet().id)).toHaveLength(1)
  })

  it('takes up a close at the round that it had come to when the server ended', async () => {
    const s = stage()
    s.rule({ seats_each: 2 })
    ranks('Ada', 'Tempeh', 'Miso')
    await close().run()
    const { run, inputs } = close()
    await run()
    expect(inputs.map(({ byWishes }) => byWishes!.round)).toEqual([2])
    expect(closed()).toBe(true)
  })

  it('seats who came later evenly in what is left, as they have ranked nothing', async () => {
    const s = stage()
    s.rule({ late: 'seat', at_close: 'leave' })
    s.set(shift(CLOSES, MINUTE))
    s.enrol(['Eve'])
    const { run, inputs } = closing()
    await run()
    expect(inputs).toMatchObject([{ method: 'evenly' }])
    expect(inputs[0]!.byWishes).toBeUndefined()
    expect([...s.seated('Miso'), ...s.seated('Tempeh')]).toEqual(['Eve'])
    expect(mailsTo('Eve')[0]!.body).not.toContain('That is')
    expect(troubles()).toEqual([])
  })
})

describe('the rule at the close, where seats are chosen', () => {
  it('has one round, however many seats somebody may hold', async () => {
    const s = stage()
    s.rule({ road: 'chosen', seats_each: 2 })
    const { run, inputs } = close()
    await run()
    expect([inputs.length, closed()]).toEqual([1, true])
    expect(inputs[0]!.method).toBe('evenly')
    await run()
    expect(inputs).toHaveLength(1)
  })
})
