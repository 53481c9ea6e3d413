import { expect, it } from 'vitest'
import type { PlanContent, SettleView } from '../../../contract/plans.ts'
import { demandOf, reachedBy } from './wishFigures.ts'

const group = (key: string, section: string | null, seats: number) => ({
  key,
  section,
  seats,
  blocked: 0,
  floor: 1,
})
const view: Pick<SettleView, 'basis' | 'sections' | 'topics'> = {
  sections: [
    { code: 'tue', name: 'Tue lab', students: 2 },
    { code: 'wed', name: 'Wed lab', students: 2 },
  ],
  topics: [
    { code: 'k', title: 'Kimchi' },
    { code: 'm', title: 'Miso' },
  ],
  basis: {
    people: ['ada', 'bao', 'cy', 'dee'].map((key, i) => ({ key, name: key, section: i < 2 ? 'tue' : 'wed' })),
    groups: [group('k1', 'tue', 1), group('k2', 'wed', 2), group('m1', null, 0)],
    seats: [{ person: 'dee', group: 'm1' }],
    heldFor: [],
    offers: 'section',
    keepings: [],
    wished: {
      topics: { k1: 'k', k2: 'k', m1: 'm' },
      codes: {},
      lists: [
        { person: 'ada', ranks: [['k'], ['m']], cannot: [] },
        { person: 'bao', ranks: [['k', 'm']], cannot: [] },
        { person: 'dee', ranks: [['k']], cannot: [] },
      ],
    },
  },
}

const settings = (round: number) =>
  ({ wishes: { aim: 'in-turn', order: [], round } }) as unknown as PlanContent['settings']

it('counts in a further round those alone who look for a seat in it, by the seat that it gives', () => {
  const moves = [
    { person: 'dee', from: null, to: 'k2', reason: { code: 'wish' as const, rank: 1, wished: true } },
  ]
  const left = [{ person: 'ada', from: null, reason: { code: 'no-room' as const } }]
  expect(reachedBy(view, { moves, left, settings: settings(2) })[0]).toMatchObject({
    people: 2,
    first: 1,
    noSeat: 1,
  })
})

it('counts who comes to which wish, over all and per section', () => {
  const reason = { code: 'wish' as const, rank: 1, wished: true }
  const moves = [
    { person: 'ada', from: null, to: 'm1', reason },
    { person: 'bao', from: null, to: 'k1', reason },
  ]
  const left = [{ person: 'cy', from: null, reason: { code: 'no-room' as const } }]
  const [all, tue, wed] = reachedBy(view, { moves, left, settings: settings(1) })
  expect(all).toMatchObject({ name: 'All', people: 4, first: 1, second: 1, none: 1, noSeat: 1, notRanked: 0 })
  expect(tue).toMatchObject({ people: 2, first: 1, second: 1 })
  expect(wed).toMatchObject({ people: 2, none: 1, noSeat: 1 })
})

it('counts how much topics are wanted beside their seats', () => {
  expect(demandOf(view)).toEqual([
    { title: 'Kimchi', first: 3, second: 0, seats: 3 },
    { title: 'Miso', first: 1, second: 1, seats: null },
  ])
})
