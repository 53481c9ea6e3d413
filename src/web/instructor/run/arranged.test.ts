import { expect, it } from 'vitest'
import type { RunGroup } from '../../../contract/seats.ts'
import { arranged } from './arranged.ts'

const group = (code: string, topic: string, seats: number, more: Partial<RunGroup> = {}): RunGroup => ({
  code,
  topic,
  section: null,
  seats,
  ownSeats: null,
  floor: 2,
  held: 0,
  called: '',
  line: [],
  place: '',
  startsAt: null,
  endsAt: null,
  convener: null,
  tutors: [],
  ...more,
})
const view = {
  you: 'me',
  topics: ['Kefir', 'Miso', 'Tempeh'].map((title) => ({ code: title, title })),
  groups: [group('k', 'Kefir', 3), group('m', 'Miso', 2, { tutors: ['me'] }), group('t', 'Tempeh', 0)],
}
const taken = new Map([
  ['k', 1],
  ['m', 2],
])
const titles = (look: Parameters<typeof arranged>[2]) =>
  arranged(view, taken, look).topics.map(({ title }) => title)

it('keeps the written order, one’s own topics first', () => {
  expect(titles({ only: 'all', order: 'written' })).toEqual(['Miso', 'Kefir', 'Tempeh'])
})

it('shows the groups that are looked for', () => {
  expect(titles({ only: 'full', order: 'title' })).toEqual(['Miso'])
  expect(titles({ only: 'room', order: 'title' })).toEqual(['Kefir', 'Tempeh'])
  expect(titles({ only: 'under-floor', order: 'title' })).toEqual(['Kefir'])
  expect(titles({ only: 'empty', order: 'title' })).toEqual(['Tempeh'])
  expect(titles({ only: 'own', order: 'title' })).toEqual(['Miso'])
  expect([...(arranged(view, taken, { only: 'full', order: 'title' }).sought ?? [])]).toEqual(['m'])
})

it('orders by how many sit there and by free seats', () => {
  expect(titles({ only: 'all', order: 'fewest' })).toEqual(['Tempeh', 'Kefir', 'Miso'])
  expect(titles({ only: 'all', order: 'most-free' })).toEqual(['Tempeh', 'Kefir', 'Miso'])
})
