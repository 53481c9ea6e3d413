import { expect, it } from 'vitest'
import { marksHead, readMarksCsv, writeMarksCsv } from './marksCsv.ts'
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

const known = {
  students: [
    { key: 'a', name: 'Ada Holt', email: 'ada@school.example' },
    { key: 'b', name: 'Bao Lin', email: 'bao@school.example' },
    { key: 'c', name: 'Bao Lin', email: 'lin@school.example' },
  ],
  groups: [
    { key: 'g', topic: 'Kefir', section: 'Tue lab' },
    { key: 'h', topic: 'Kefir', section: 'Wed lab' },
  ],
  tasks: [
    { key: 'r', title: 'Report', most: 20 },
    { key: 'p', title: 'Poster', most: 5 },
  ],
}

it('reads back what it wrote, of students and of groups', () => {
  const head = marksHead(['name', 'email', 'section', 'group'], known.tasks)
  const csv = writeMarksCsv(head, [
    { who: ['Ada Holt', 'ada@school.example', '', 'Kefir'], points: [17.5, null] },
    { who: ['Bao Lin', 'bao@school.example', '', 'Kefir'], points: [0, 5] },
  ])
  expect(readMarksCsv(csv, known)).toEqual({
    of: 'students',
    faults: [],
    points: [
      { line: 2, who: 'a', task: 'r', points: 17.5 },
      { line: 3, who: 'b', task: 'r', points: 0 },
      { line: 3, who: 'b', task: 'p', points: 5 },
    ],
  })
  const groups = writeMarksCsv(marksHead(['topic', 'section', 'members'], known.tasks), [
    { who: ['Kefir', 'Wed lab', 'Ada Holt'], points: [3, null] },
  ])
  expect(readMarksCsv(groups, known)).toMatchObject({
    of: 'groups',
    points: [{ who: 'h', points: 3 }],
    faults: [],
  })
})

it.each<[string, string, string]>([
  ['email,Report\nnobody@school.example,3', '2 email', 'No active student'],
  ['email,Report\nada@school.example,21', '2 Report', '0 to 20'],
  ['email,Report\nada@school.example,many', '2 Report', 'no number'],
  ['email,Report\nada@school.example,3.25', '2 Report', 'halves'],
  ['email,Report\nada@school.example,3\nada@school.example,4', '3 line', 'in line 2 already'],
  ['name,Report\nBao Lin,3', '2 name', 'Several students'],
  ['topic,Report\nKefir,3', '2 topic', 'Several groups'],
  ['topic,section,Report\nMiso,Tue lab,3', '2 topic', 'no such group'],
  ['email,Essay (of 9)\nada@school.example,3', '1 line', 'no such task'],
  ['email,remarks\nada@school.example,3', '1 line', 'No column'],
  ['who,what\n1,2', '1 line', 'first line names'],
  ['', '1 line', 'first line names'],
])('says where %j is wrong', (csv, where, message) => {
  const { faults } = readMarksCsv(csv, known)
  expect(faults.map(({ line, field }) => `${line} ${field}`)).toContain(where)
  expect(faults.map((one) => one.message).join()).toContain(message)
})

it('reads a comma as the decimal mark where the cells are set off otherwise', () => {
  expect(readMarksCsv('email;Report\nada@school.example;17,5', known).points[0]?.points).toBe(17.5)
})
