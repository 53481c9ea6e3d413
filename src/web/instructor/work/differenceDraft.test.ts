import { expect, it } from 'vitest'
import type { TaskView } from '../../../contract/tasks.ts'
import { differenceBodyOf, differenceDraftOf, differsWords } from './differenceDraft.ts'

const task = {
  instructions: 'Write.',
  handsIn: true,
  takesText: true,
  takesLinks: false,
  takesFiles: false,
  mostWords: 800,
  availableFrom: null,
  dueAt: '2026-05-13T15:00:00.000Z',
  datedBy: 'task',
  late: 'no',
  lateUntil: null,
} as unknown as TaskView

it('sends the parts that differ and no others', () => {
  const draft = differenceDraftOf(task, null, 'UTC')
  expect(differenceBodyOf(draft).fields).toEqual({})
  expect(differenceBodyOf({ ...draft, text: true, instructions: 'Draw.' }).fields).toEqual({
    instructions: 'Draw.',
  })
  expect(differenceBodyOf({ ...draft, form: true, words: '300' }).fields).toEqual({
    handsIn: true,
    takesText: true,
    takesLinks: false,
    takesFiles: false,
    mostWords: 300,
  })
})

it('begins as it was made, and sends back the same', () => {
  const difference = {
    code: 'd',
    note: 'ill',
    groups: ['g'],
    lists: [],
    students: ['s'],
    fields: {
      availableFrom: null,
      dueAt: '2026-05-20T15:00:00.000Z',
      datedBy: 'task',
      late: 'no',
      lateUntil: null,
    },
  } as const
  const draft = differenceDraftOf(task, { ...difference, groups: ['g'], lists: [], students: ['s'] }, 'UTC')
  expect(draft).toMatchObject({ dates: true, text: false, form: false, note: 'ill' })
  expect(differenceBodyOf(draft)).toMatchObject({
    note: 'ill',
    groups: ['g'],
    students: ['s'],
    fields: { dueAt: '2026-05-20T15:00' },
  })
  expect(differsWords(difference, 'UTC')).toMatch(/^due .*20 May.*15:00$/)
})

it('says in words what differs', () => {
  expect(differsWords({ fields: { datedBy: 'group', dueAt: null } }, 'UTC')).toBe(
    'due on each group’s own date',
  )
  expect(differsWords({ fields: { handsIn: false, instructions: '' } }, 'UTC')).toBe(
    'another text; nothing is handed in',
  )
  expect(
    differsWords({ fields: { handsIn: true, takesText: true, takesFiles: true, mostWords: 300 } }, 'UTC'),
  ).toBe('handed in as text or files, 300 words at most')
})
