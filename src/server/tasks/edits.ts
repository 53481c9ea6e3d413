import type { InferType } from 'yup'
import type { newTaskBody, taskChanges } from '../../contract/tasks.ts'
import { isOnSheet } from '../../core/groupState.ts'
import type { Instant } from '../../core/instant.ts'
import type { Criterion, Placements } from '../../core/marks.ts'
import { timesFault } from '../../core/task.ts'
import { sayInstant } from '../../core/zone.ts'
import { fieldProblem, ProblemError } from '../http/problem.ts'
import { count, differences, type Edit, instantOf, note } from '../sheets/edit.ts'
import type { Task, TaskFields } from './store.ts'

type Changes = InferType<typeof taskChanges>

/** A task as it is before anything of it is chosen. */
export const FRESH: TaskFields = {
  title: '',
  instructions: '',
  takes_text: 1,
  takes_links: 1,
  takes_files: 0,
  available_from: null,
  due_at: null,
  late: 'no',
  late_until: null,
  for_whom: 'groups',
  without_group: 'locked',
  points: 10,
  criteria: '[]',
  out_at: null,
}

/** Adds a task to a sheet. */
export function addTask(edit: Edit, body: InferType<typeof newTaskBody>): void {
  const { sheet, stores, now } = edit
  const fields = fieldsAfter(edit, FRESH, body)
  const task = stores.tasks.add(sheet.id, fields, now)
  if (body.groups) stores.tasks.setGroups(task.id, groupIds(edit, body.groups))
  note(edit, 'task-added', { task: task.code, title: task.title })
}

/** Changes a task. Whose the work is stays as it is once something was handed in. */
export function changeTask(edit: Edit, task: Task, changes: Changes): void {
  const { stores } = edit
  const next = fieldsAfter(edit, task, changes)
  askAboutMarks(edit, task, next, changes.confirmed === true)
  const started = stores.tasks.anyHandIn(task.id)
  if (started) {
    const groups = changes.groups && sameSet(groupIds(edit, changes.groups), stores.tasks.groups(task.id))
    if (next.for_whom !== task.for_whom || (changes.groups && !groups)) {
      throw fieldProblem(
        'forWhom',
        'Something was handed in already, so whose the work is does not change any more.',
        'task-fixed',
      )
    }
    if (next.out_at === null && task.out_at !== null) {
      throw fieldProblem(
        'out',
        'Something was handed in already, so it cannot be hidden again.',
        'task-fixed',
      )
    }
  }
  stores.tasks.change(task.id, next)
  if (changes.groups) stores.tasks.setGroups(task.id, groupIds(edit, changes.groups))
  note(edit, 'task-changed', { task: task.code, ...differences<TaskFields>(task, next) })
}

/** Marks that were given stay right: none ends up past the points, and rows are not taken from under them unasked. */
function askAboutMarks({ stores }: Edit, before: Task, after: TaskFields, confirmed: boolean): void {
  const given = stores.marks
    .ofTask(before.id)
    .map((mark) => ({ points: mark.points, placements: JSON.parse(mark.placements) as Placements }))
  if (given.length === 0) return
  const [old, criteria] = [before, after].map((one) => JSON.parse(one.criteria) as Criterion[]) as [
    Criterion[],
    Criterion[],
  ]
  for (const [i, { id, title, points }] of criteria.entries()) {
    const past = given.filter(({ placements }) => (placements[id] ?? 0) > points).length
    if (past > 0) {
      const message = `“${title}” would bring ${points}, and ${count(past, 'mark has', 'marks have')} more than that. Change those first.`
      throw fieldProblem(`criteria[${i}].points`, message, 'points-past-most')
    }
  }
  const past = given.filter(({ points }) => criteria.length === 0 && (points ?? 0) > after.points).length
  if (past > 0) {
    const message = `${count(past, 'mark has', 'marks have')} more points than that. Change those first.`
    throw fieldProblem('points', message, 'points-past-most')
  }
  if (confirmed) return
  const gone = old.filter(({ id }) => !criteria.some((one) => one.id === id))
  const added = criteria.filter(({ id }) => !old.some((one) => one.id === id))
  const titles = (rows: readonly Criterion[]) => rows.map(({ title }) => `“${title}”`).join(', ')
  const words = [
    gone.length > 0 &&
      `${titles(gone)} would not count any more in ${count(given.length, 'mark', 'marks')} given.`,
    added.length > 0 &&
      `${count(given.length, 'mark', 'marks')} given would be unfinished until ${titles(added)} is placed in them.`,
  ].filter((one) => one !== false)
  if (words.length > 0) throw new ProblemError('marks-affected', words.join(' '))
}

/** Takes a task away, or brings it back. */
export function setTaskRemoved(edit: Edit, task: Task, removed: boolean): void {
  if ((task.removed_at !== null) === removed) return
  edit.stores.tasks.setRemoved(task.id, removed ? edit.now : null)
  note(edit, removed ? 'task-removed' : 'task-restored', { task: task.code, title: task.title })
}

function fieldsAfter(edit: Edit, before: TaskFields, changes: Changes): TaskFields {
  const { now } = edit
  const flag = (given: boolean | undefined, kept: 0 | 1): 0 | 1 =>
    given === undefined ? kept : given ? 1 : 0
  const out = changes.out === undefined ? before.out_at : changes.out ? (before.out_at ?? now) : null
  const next: TaskFields = {
    title: changes.title ?? before.title,
    instructions: changes.instructions ?? before.instructions,
    takes_text: flag(changes.takesText, before.takes_text),
    takes_links: flag(changes.takesLinks, before.takes_links),
    takes_files: flag(changes.takesFiles, before.takes_files),
    available_from: instantOf(edit, 'availableFrom', changes.availableFrom, before.available_from, 'first'),
    due_at: instantOf(edit, 'dueAt', changes.dueAt, before.due_at, 'first'),
    late: changes.late ?? before.late,
    late_until: instantOf(edit, 'lateUntil', changes.lateUntil, before.late_until, 'first'),
    for_whom: changes.forWhom ?? before.for_whom,
    without_group: changes.withoutGroup ?? before.without_group,
    points: changes.points ?? before.points,
    criteria: changes.criteria === undefined ? before.criteria : JSON.stringify(changes.criteria),
    out_at: out,
  }
  if (next.takes_text + next.takes_links + next.takes_files === 0)
    throw fieldProblem('takesText', 'Say what is handed in: text, links, files, or several of them.')
  if (next.for_whom !== 'students' && next.without_group === 'open') next.without_group = 'locked'
  checkTimes(edit, next)
  const ids = (JSON.parse(next.criteria) as { id: string }[]).map(({ id }) => id)
  if (new Set(ids).size < ids.length)
    throw fieldProblem('criteria', 'Two criteria have the same id. Load the page anew.')
  return next
}

function checkTimes({ course }: Edit, task: TaskFields): void {
  const fault = timesFault({
    availableFrom: task.available_from,
    dueAt: task.due_at,
    late: task.late,
    lateUntil: task.late_until,
  })
  const say = (instant: Instant | null) => (instant === null ? '' : sayInstant(instant, course.zone))
  switch (fault) {
    case 'due-before-start':
      throw fieldProblem(
        'dueAt',
        `It would be due ${say(task.due_at)}, before it is there (${say(task.available_from)}).`,
        'task-times-wrong',
      )
    case 'late-without-due':
      throw fieldProblem(
        'dueAt',
        'Without a due time nothing is late. Give one, or take nothing late.',
        'task-times-wrong',
      )
    case 'late-without-end':
      throw fieldProblem('lateUntil', 'Say until when late work is taken.', 'task-times-wrong')
    case 'late-before-due':
      throw fieldProblem(
        'lateUntil',
        `Late work would be taken until ${say(task.late_until)}, before it is due.`,
        'task-times-wrong',
      )
    default:
  }
}

function groupIds({ sheet, stores }: Edit, codes: readonly string[]): number[] {
  return [...new Set(codes)].map((code, i) => {
    const group = stores.sheets.group(code)
    if (!group || group.sheet_id !== sheet.id || !isOnSheet(group))
      throw fieldProblem(`groups[${i}]`, 'The sheet has no such group any more.')
    return group.id
  })
}

function sameSet(a: readonly number[], b: readonly number[]): boolean {
  return a.length === b.length && a.every((one) => b.includes(one))
}

/** The task that a path names. */
export function taskOn(edit: Pick<Edit, 'sheet' | 'stores'>, code: string): Task {
  const task = edit.stores.tasks.byCode(edit.sheet.id, code)
  if (!task) throw new ProblemError('not-found', 'The sheet has no such task.')
  return task
}
