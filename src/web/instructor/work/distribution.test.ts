import { expect, it } from 'vitest'
import type { WorkView } from '../../../contract/tasks.ts'
import { distributionOf } from './distribution.ts'

const view = {
  sections: [
    { code: 'tue', name: 'Tue lab', students: 3 },
    { code: 'wed', name: 'Wed lab', students: 1 },
  ],
  topics: [
    { code: 't1', title: 'Tempeh' },
    { code: 't2', title: 'Kefir' },
  ],
  people: [
    { code: 'ada', name: 'Ada', section: 'tue' },
    { code: 'bao', name: 'Bao', section: 'tue' },
    { code: 'cy', name: 'Cy', section: 'tue' },
    { code: 'dee', name: 'Dee', section: 'wed' },
  ],
  groups: [
    { code: 'g1', topic: 't1', section: 'tue', tutors: [], members: ['ada', 'bao'] },
    { code: 'g2', topic: 't2', section: 'tue', tutors: [], members: ['cy'] },
    { code: 'g3', topic: 't1', section: 'wed', tutors: [], members: ['dee'] },
  ],
  tasks: [
    {
      code: 'k',
      forWhom: 'groups',
      work: [
        {
          owner: 'g1',
          version: 1,
          countsFor: 'handed-in',
          markedBy: 'Jo Wren',
          members: ['ada', 'bao'],
          points: 17,
          apart: [{ person: 'bao', points: 4 }],
        },
        {
          owner: 'g2',
          version: 1,
          countsFor: 'handed-in',
          markedBy: 'Al Moss',
          members: ['cy'],
          points: 20,
          apart: [],
        },
        {
          owner: 'g3',
          version: 0,
          countsFor: 'sits-there',
          markedBy: null,
          members: ['dee'],
          points: null,
          apart: [],
        },
      ],
    },
  ],
} as unknown as WorkView

it('counts the marks that count for each student, by section and by topic', () => {
  expect(distributionOf(view, 'k', 20, 'section')).toEqual([
    { name: 'Tue lab', count: 3, fifths: [0, 1, 0, 0, 2], median: 17 },
  ])
  expect(distributionOf(view, 'k', 20, 'topic')).toEqual([
    { name: 'Tempeh', count: 2, fifths: [0, 1, 0, 0, 1], median: 10.5 },
    { name: 'Kefir', count: 1, fifths: [0, 0, 0, 0, 1], median: 20 },
  ])
  expect(distributionOf(view, 'none', 20, 'topic')).toEqual([])
})

it('compares the measures of two markers', () => {
  expect(distributionOf(view, 'k', 20, 'marker')).toEqual([
    { name: 'Jo Wren', count: 2, fifths: [0, 1, 0, 0, 1], median: 10.5 },
    { name: 'Al Moss', count: 1, fifths: [0, 0, 0, 0, 1], median: 20 },
  ])
})
