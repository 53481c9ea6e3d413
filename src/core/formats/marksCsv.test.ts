import { expect, it } from 'vitest'
import { criteriaHead, feedbackHead, marksHead, readMarksCsv, writeMarksCsv } from './marksCsv.ts'
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
    scales: [],
    notes: [],
    feedback: [],
    points: [
      { line: 2, who: 'a', task: 'r', criterion: null, points: 17.5 },
      { line: 3, who: 'b', task: 'r', criterion: null, points: 0 },
      { line: 3, who: 'b', task: 'p', criterion: null, points: 5 },
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
  ['email,Report\nnobody@school.example,3', '2 email', 'Nobody active'],
  ['email,Report\nada@school.example,21', '2 Report', '0 to 20'],
  ['email,Report\nada@school.example,many', '2 Report', 'no number'],
  ['email,Report\nada@school.example,3.25', '2 Report', 'halves'],
  ['email,Report\nada@school.example,3\nada@school.example,4', '3 line', 'in line 2 already'],
  ['name,Report\nBao Lin,3', '2 name', '2 people are called that'],
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

it.each(['1,000', '1.000', '1 000', '12.500', "1'000"])('does not take %j for a number of points', (cell) => {
  const { points, faults } = readMarksCsv(`email;Report\nada@school.example;${cell}`, known)
  expect(points).toEqual([])
  expect(faults).toMatchObject([
    { line: 2, field: 'Report', found: cell, message: expect.stringMatching(/thousand/) },
  ])
})

it('asks about a column that is of other points than its task, then converts it or takes it as it stands', () => {
  const csv =
    'email,Report (of 100),Poster\nada@school.example,85,4\nbao@school.example,10,\nlin@school.example,130,'
  const asked = readMarksCsv(csv, known)
  expect(asked.scales).toEqual([{ title: 'Report', said: 100, most: 20 }])
  expect(asked.faults).toMatchObject([
    { line: 1, field: 'Report', message: expect.stringMatching(/Say below/) },
  ])
  // The other columns go on.
  expect(asked.points).toEqual([{ line: 2, who: 'a', task: 'p', criterion: null, points: 4 }])
  const converted = readMarksCsv(csv, known, 'convert')
  expect(converted.points.filter(({ task }) => task === 'r')).toEqual([
    { line: 2, who: 'a', task: 'r', criterion: null, points: 17 },
    { line: 3, who: 'b', task: 'r', criterion: null, points: 2 },
  ])
  expect(converted.faults).toMatchObject([{ line: 4, message: 'The column is of 0 to 100 points.' }])
  const asIs = readMarksCsv(csv, known, 'as-is')
  expect(asIs.faults.map(({ line }) => line)).toEqual([2, 4])
  expect(asIs.points).toContainEqual({ line: 3, who: 'b', task: 'r', criterion: null, points: 10 })
})

it('finds groups by topic and section, and says which it did not find', () => {
  const ofGroups = (text: string) => readMarksCsv(`topic,section,Report\n${text}`, known)
  expect(ofGroups('kefir,WED lab,3').points).toMatchObject([{ who: 'h', points: 3 }])
  expect(ofGroups('Kefir,Fri lab,3').faults).toMatchObject([
    { line: 2, found: 'Kefir, Fri lab', message: 'The sheet has no such group.' },
  ])
  expect(ofGroups('Miso,,3').faults).toMatchObject([{ line: 2, found: 'Miso' }])
  expect(ofGroups('Kefir,,3').faults).toMatchObject([
    { found: 'Kefir', message: 'Several groups fit. Give the section.' },
  ])
})

it('finds students by their number, too', () => {
  const numbered = { ...known, students: known.students.map((one, i) => ({ ...one, number: `00${i + 1}` })) }
  expect(readMarksCsv('student number,Report\n2,3', numbered).points).toMatchObject([{ who: 'b', points: 3 }])
  expect(readMarksCsv('student number,name,Report\n9,Ada Holt,3', numbered).faults).toMatchObject([
    { line: 2, found: '9' },
  ])
})

it('reads feedback beside the points, and what goes out with it comes in again', () => {
  const head = [...marksHead(['name', 'email'], known.tasks), ...feedbackHead(known.tasks)]
  const csv = writeMarksCsv(head, [
    { who: ['Ada Holt', 'ada@school.example'], points: [17.5, null], feedback: ['Good, and\n=brave.', ''] },
  ])
  expect(readMarksCsv(csv, known)).toMatchObject({
    faults: [],
    points: [{ who: 'a', task: 'r', criterion: null, points: 17.5 }],
    feedback: [{ line: 2, who: 'a', task: 'r', text: 'Good, and\n=brave.' }],
  })
  const alone = readMarksCsv('email,Report: Feedback\nada@school.example,Well done', known)
  expect(alone).toMatchObject({ faults: [], points: [], feedback: [{ task: 'r', text: 'Well done' }] })
  const long = readMarksCsv(`email,Report: feedback\nada@school.example,${'x'.repeat(4_001)}`, known)
  expect(long).toMatchObject({ feedback: [], faults: [{ line: 2, field: 'Report' }] })
})

const byCriteria = {
  ...known,
  tasks: [
    {
      key: 'r',
      title: 'Report',
      most: 8,
      criteria: [
        { id: 'seen', title: 'What was seen', points: 5 },
        { id: 'said', title: 'feedback', points: 3 },
      ],
    },
  ],
}

it('reads points of criteria, and what goes out with them comes in again', () => {
  const head = [
    ...marksHead(['name', 'email'], byCriteria.tasks),
    ...criteriaHead(byCriteria.tasks),
    ...feedbackHead(byCriteria.tasks),
  ]
  expect(head.slice(2)).toEqual([
    'Report (of 8)',
    'Report: What was seen (of 5)',
    'Report: feedback (of 3)',
    'Report: feedback',
  ])
  const csv = writeMarksCsv(head, [
    { who: ['Ada Holt', 'ada@school.example'], points: [6.5], placed: [4, 2.5], feedback: ['3'] },
    { who: ['Bao Lin', 'bao@school.example'], points: [null], placed: [4, null], feedback: [''] },
  ])
  const { points, feedback, faults } = readMarksCsv(csv, byCriteria)
  expect(faults).toEqual([])
  expect(points.map(({ who, criterion, points }) => [who, criterion, points])).toEqual([
    ['a', null, 6.5],
    ['a', 'seen', 4],
    ['a', 'said', 2.5],
    ['b', 'seen', 4],
  ])
  expect(feedback).toMatchObject([{ who: 'a', text: '3' }])
})

it('says where points of a criterion are wrong', () => {
  const { faults, scales } = readMarksCsv(
    'email,report: what was seen,Report: Charm (of 5),Report: feedback (of 6)\nada@school.example,6,1,2',
    byCriteria,
  )
  expect(faults).toMatchObject([
    { line: 1, message: 'The sheet has no such task or criterion.' },
    { line: 1, field: 'Report: feedback', message: expect.stringMatching(/brings 3 points/) },
    { line: 2, field: 'Report: What was seen', message: 'It brings 0 to 5 points.' },
  ])
  expect(scales).toEqual([{ title: 'Report: feedback', said: 6, most: 3 }])
})

it('steps over titles above the headings, names what is not read, and a quotation mark that is not closed', () => {
  const csv =
    'Marks of the spring,,,\nemail,Report,Reprot,Poster\nada@school.example,3,4,5\nbao@school.example,"3"x,4,5'
  const { points, faults, notes } = readMarksCsv(csv, known)
  expect(points.map(({ line, task, points }) => [line, task, points])).toEqual([
    [3, 'r', 3],
    [3, 'p', 5],
  ])
  expect(faults).toMatchObject([{ line: 4, field: 'line', message: expect.stringMatching(/quotation mark/) }])
  expect(notes).toEqual([expect.stringMatching(/^Line 1 above/), 'Not read: “Reprot”.'])
})

it('takes no two columns for one thing: the second is a fault, and nothing is dropped in silence', () => {
  const csv = 'email,Report (of 20),report,Report: feedback,Report: Feedback\nada@school.example,12,9,One,Two'
  const { points, feedback, faults } = readMarksCsv(csv, known)
  expect(faults.map(({ line, found, message }) => [line, found, message])).toEqual([
    [1, 'report', 'The column “Report (of 20)” is of the same. Leave one of them out.'],
    [1, 'Report: Feedback', 'The column “Report: feedback” is of the same. Leave one of them out.'],
  ])
  expect(points).toMatchObject([{ points: 12 }])
  expect(feedback).toMatchObject([{ text: 'One' }])
})
