import { expect, it } from 'vitest'
import type { GroupLine } from '../../../contract/groups.ts'
import { matching, NO_FILTER } from './filter.ts'

const group = (code: string, more: Partial<GroupLine>): GroupLine => ({
  code,
  topic: { code: `t-${code}`, title: code },
  section: null,
  name: '',
  emblem: '',
  members: [],
  convener: null,
  tutors: [],
  yours: false,
  unread: 0,
  files: 0,
  missing: 0,
  differs: false,
  ...more,
})
const groups = [
  group('Kefir', { section: 'Tue lab', members: [{ code: 'a', name: 'Ada Holt' }] }),
  group('Miso', { section: 'Wed lab', tutors: [{ code: 't', name: 'Jo Wren' }], name: 'Bean counters' }),
]
const codes = (filter: object) => matching(groups, { ...NO_FILTER, ...filter }).map(({ code }) => code)

it('groups are found by section, tutor, topic, and by words of names', () => {
  expect(codes({})).toEqual(['Kefir', 'Miso'])
  expect(codes({ section: 'Tue lab' })).toEqual(['Kefir'])
  expect(codes({ tutor: 't' })).toEqual(['Miso'])
  expect(codes({ topic: 't-Miso' })).toEqual(['Miso'])
  expect(codes({ sought: 'holt ada' })).toEqual(['Kefir'])
  expect(codes({ sought: 'bean wren' })).toEqual(['Miso'])
  expect(codes({ sought: 'holt', section: 'Wed lab' })).toEqual([])
})
