import { describe, expect, it } from 'vitest'
import type { TaskView } from '../../../contract/tasks.ts'
import { bodyOf, draftOf } from './taskDraft.ts'

const task: TaskView = {
  code: 't',
  title: 'Report',
  instructions: 'Write.',
  handsIn: true,
  takesText: false,
  takesLinks: true,
  takesFiles: true,
  mostWords: null,
  files: [],
  availableFrom: null,
  dueAt: '2026-05-13T15:00:00.000Z',
  datedBy: 'task',
  late: 'until',
  lateUntil: '2026-05-14T15:00:00.000Z',
  forWhom: 'some-groups',
  list: null,
  groups: ['g'],
  withoutGroup: 'hidden',
  points: 5,
  shares: 'staff',
  answers: true,
  criteria: [{ id: 'seen', title: 'Seen', points: 5, levels: ['thin', 'strong'] }],
  outAt: null,
  handedIn: false,
  begun: false,
  differences: [],
}

describe('a task’s draft', () => {
  it('sends back what it was made from, in the course’s zone', () => {
    expect(bodyOf(draftOf(task, 'Europe/Copenhagen'), false)).toEqual({
      title: 'Report',
      instructions: 'Write.',
      handsIn: true,
      takesText: false,
      takesLinks: true,
      takesFiles: true,
      mostWords: null,
      availableFrom: null,
      dueAt: '2026-05-13T17:00',
      datedBy: 'task',
      late: 'until',
      lateUntil: '2026-05-14T17:00',
      forWhom: 'some-groups',
      groups: ['g'],
      list: null,
      withoutGroup: 'hidden',
      points: 5,
      shares: 'staff',
      answers: true,
      criteria: task.criteria,
      out: false,
    })
  })

  it('does not send whose the work is once something was handed in, nor what does not apply', () => {
    const draft = { ...draftOf(task, 'UTC'), late: 'no' as const, without: 'open' as const }
    const body = bodyOf(draft, true)
    expect(body).not.toHaveProperty('forWhom')
    expect(body).not.toHaveProperty('groups')
    expect(body).toMatchObject({ lateUntil: null, withoutGroup: 'locked' })
    expect(bodyOf({ ...draft, forWhom: 'students' }, false)).toMatchObject({
      withoutGroup: 'open',
      groups: [],
    })
  })

  it('of a new task is for every group, locked without one, seen by students', () => {
    expect(draftOf(null, 'UTC')).toMatchObject({
      forWhom: 'groups',
      without: 'locked',
      out: true,
      points: '10',
    })
  })

  it('sends no end of lateness where nothing is handed in, or where each group’s own date counts', () => {
    const draft = draftOf(task, 'UTC')
    expect(bodyOf({ ...draft, handsIn: false }, false)).toMatchObject({ late: 'no', lateUntil: null })
    expect(bodyOf({ ...draft, datedBy: 'group' }, false)).toMatchObject({
      dueAt: null,
      late: 'no',
      lateUntil: null,
    })
    expect(bodyOf({ ...draft, takesText: true, words: ' 300 ' }, false)).toMatchObject({ mostWords: 300 })
  })
})
