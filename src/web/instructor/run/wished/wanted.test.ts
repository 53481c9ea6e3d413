import { expect, it } from 'vitest'
import type { RunView } from '../../../../contract/seats.ts'
import type { WishesView } from '../../../../contract/wishes.ts'
import { CAREFUL } from '../../../../core/rules.ts'
import { notRanked, wantedIn } from './wanted.ts'

const person = (code: string, section: string | null) => ({ code, name: code, section })
const group = (code: string, topic: string, section: string | null) =>
  ({ code, topic, section }) as RunView['groups'][number]
const list = (who: string, ranks: string[][], counts = true): WishesView['lists'][number] => ({
  person: who,
  ranks,
  cannot: [],
  mates: null,
  savedAt: '',
  counts,
})

const view = (offers: 'section' | 'course') => ({
  rules: { ...CAREFUL, offers },
  people: [person('ada', 'tue'), person('bao', 'wed'), person('cy', 'tue')],
  groups: [group('k-tue', 'kimchi', 'tue'), group('k-wed', 'kimchi', 'wed'), group('m', 'miso', null)],
})

it('counts who wants a group first, second and later, of its own section or of all', () => {
  const lists = [
    list('ada', [['kimchi'], ['miso']]),
    list('bao', [['miso'], ['kimchi']]),
    list('cy', [['kimchi', 'miso']]),
  ]
  expect(Object.fromEntries(wantedIn(view('section'), lists))).toEqual({
    'k-tue': { first: ['ada', 'cy'], second: 0, later: 0 },
    'k-wed': { first: [], second: 1, later: 0 },
    m: { first: ['bao', 'cy'], second: 1, later: 0 },
  })
  expect(wantedIn(view('course'), lists).get('k-wed')).toEqual({ first: ['ada', 'cy'], second: 1, later: 0 })
})

it('leaves out lists that do not count, and names of whom there are none', () => {
  const lists = [list('ada', [['kimchi']], false), list('gone', [['kimchi']]), list('cy', [['miso']])]
  expect(wantedIn(view('section'), lists).get('k-tue')?.first).toEqual([])
  expect(notRanked(view('section'), lists)).toEqual(['ada', 'bao'])
})
