import { expect, it } from 'vitest'
import { marksHead, writeMarksCsv } from './marksCsv.ts'
import { readRows } from './table.ts'

it('writes a column for each task, open marks empty, and no formula', () => {
  const head = marksHead(
    ['name'],
    [
      { title: '=Report', most: 20 },
      { title: 'Poster', most: 5 },
    ],
  )
  const csv = writeMarksCsv(head, [
    { who: ['+Ada'], points: [17.5, null] },
    { who: ['Bao'], points: [0, 5] },
  ])
  expect(csv).toContain("'+Ada,17.5,")
  expect(readRows(csv).map(({ cells }) => cells)).toEqual([
    ['name', '=Report (of 20)', 'Poster (of 5)'],
    ['+Ada', '17.5', ''],
    ['Bao', '0', '5'],
  ])
})
