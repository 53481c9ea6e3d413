import { expect, it } from 'vitest'
import { taskWords } from './CoursePage.tsx'

const task = {
  sheet: 's',
  sheetTitle: 'Brew partners',
  code: 't',
  title: 'Log book',
  dueAt: '2026-05-13T15:00:00.000Z',
  awaited: 8,
  handsIn: true,
  handedIn: 3,
  toMark: 0,
}

it('a task says when it is due, how much is in, and what waits for marks', () => {
  const before = '2026-05-12T00:00:00.000Z'
  expect(taskWords(task, 'UTC', before)).toBe('due Wed 13 May, 15:00 · 3 of 8 handed in')
  expect(taskWords({ ...task, toMark: 2 }, 'UTC', '2026-05-14T00:00:00.000Z')).toBe(
    'was due Wed 13 May, 15:00 · 3 of 8 handed in · 2 to mark',
  )
  expect(taskWords({ ...task, dueAt: null }, 'UTC', before)).toBe('no date · 3 of 8 handed in')
})
