import type { InferType } from 'yup'
import type { differenceBody, newTaskBody, taskChanges } from '../../contract/tasks.ts'
import { counted } from '../../core/counted.ts'
import { isOnSheet } from '../../core/groupState.ts'
import type { Instant } from '../../core/instant.ts'
import type { Criterion, Placements } from '../../core/marks.ts'
import { timesFault } from '../../core/task.ts'
import { sayInstant } from '../../core/zone.ts'
import { fieldProblem, ProblemError } from '../http/problem.ts'
import { chosenList } from '../lists/chosen.ts'
import { differences, type Edit, instantOf, note } from '../sheets/edit.ts'
import { local, refuseMeanwhile } from '../sheets/meanwhile.ts'
import type { DifferingFields } from './differenceStore.ts'
import type { Task, TaskFields } from './store.ts'

type Changes = InferType<typeof taskChanges>

/** A task as it is before anything of it is chosen. */
export const FRESH: TaskFields = {
  title: '',
  instructions: '',
  hands_in: 1,
  takes_text: 1,
  takes_links: 1,
  takes_files: 0,
  most_words: null,
  available_from: null,
  due_at: null,
  dated_by: 'task',
  late: 'no',
  late_until: null,
  for_whom: 'groups',
  list_id: null,
  without_group: 'locked',
  points: 10,
  shares: 'no',
  answers: 0,
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
  refuseMeanwhile(taskAsSent(edit, task), changes, changes.was)
  const next = fieldsAfter(edit, task, changes)
  askAboutMarks(edit, task, next, changes.confirmed === true)
  const handedIn = stores.tasks.anyHandIn(task.id)
  if (handedIn || stores.marks.any(task.id)) {
    const what = handedIn ? 'handed in' : 'marked'
    const groups = changes.groups && sameSet(groupIds(edit, changes.groups), stores.tasks.groups(task.id))
    const others = next.for_whom !== task.for_whom || next.list_id !== task.list_id
    if (others || (changes.groups && !groups)) {
      throw fieldProblem(
        'forWhom',
        `Something was ${what} already, so whose the work is does not change any more.`,
        'task-fixed',
      )
    }
    if (next.out_at === null && task.out_at !== null) {
      throw fieldProblem('out', `Something was ${what} already, so it cannot be hidden again.`, 'task-fixed')
    }
  }
  if (handedIn && next.hands_in === 0) throw nothingAnyMore('handsIn')
  for (const { fields } of stores.differences.ofTask(task.id)) checkTimes(edit, { ...next, ...fields }, true)
  stores.tasks.change(task.id, next)
  if (changes.groups) stores.tasks.setGroups(task.id, groupIds(edit, changes.groups))
  note(edit, 'task-changed', { task: task.code, named: next.title, ...differences<TaskFields>(task, next) })
}

/** A task's fields in the shape in which changes of them are sent. */
function taskAsSent({ stores, sheet, course: { zone } }: Edit, task: Task): Record<string, unknown> {
  const codes = stores.sheets.groupCodes(sheet.id)
  return {
    title: task.title,
    instructions: task.instructions,
    handsIn: task.hands_in === 1,
    takesText: task.takes_text === 1,
    takesLinks: task.takes_links === 1,
    takesFiles: task.takes_files === 1,
    mostWords: task.most_words,
    availableFrom: local(task.available_from, zone),
    dueAt: local(task.due_at, zone),
    datedBy: task.dated_by,
    late: task.late,
    lateUntil: local(task.late_until, zone),
    forWhom: task.for_whom,
    list: task.list_id === null ? null : (stores.lists.byId(task.list_id)?.code ?? null),
    groups: stores.tasks.groups(task.id).map((id) => codes.get(id) ?? ''),
    withoutGroup: task.without_group,
    points: task.points,
    shares: task.shares,
    answers: task.answers === 1,
    criteria: JSON.parse(task.criteria),
    out: task.out_at !== null,
  }
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
      const message = `“${title}” would bring ${points}, and ${counted(past, 'mark has', 'marks have')} more than that. Change those first.`
      throw fieldProblem(`criteria[${i}].points`, message, 'points-past-most')
    }
  }
  const past = given.filter(({ points }) => criteria.length === 0 && (points ?? 0) > after.points).length
  if (past > 0) {
    const message = `${counted(past, 'mark has', 'marks have')} more points than that. Change those first.`
    throw fieldProblem('points', message, 'points-past-most')
  }
  if (confirmed) return
  const gone = old.filter(({ id }) => !criteria.some((one) => one.id === id))
  const added = criteria.filter(({ id }) => !old.some((one) => one.id === id))
  const titles = (rows: readonly Criterion[]) => rows.map(({ title }) => `“${title}”`).join(', ')
  const words = [
    gone.length > 0 && `${titles(gone)} would not count any more in ${counted(given.length, 'mark')} given.`,
    added.length > 0 &&
      `${counted(given.length, 'mark')} given would be unfinished until ${titles(added)} is placed in them.`,
  ].filter((one) => one !== false)
  if (words.length > 0) throw new ProblemError('marks-affected', words.join(' '))
}

/** Takes a task away, or brings it back. */
export function setTaskRemoved(edit: Edit, task: Task, removed: boolean): void {
  if ((task.removed_at !== null) === removed) return
  edit.stores.tasks.setRemoved(task.id, removed ? edit.now : null)
  note(edit, removed ? 'task-removed' : 'task-restored', { task: task.code, title: task.title })
}

/** Once something was handed in, a task cannot become one without a hand-in. */
export const nothingAnyMore = (field: string) =>
  fieldProblem(field, 'Something was handed in already, so it stays a task with a hand-in.', 'task-fixed')

/** What may differ for some, as it is after some changes. */
export function differingAfter(
  edit: Edit,
  before: Required<DifferingFields>,
  changes: Pick<Changes, keyof InferType<typeof differenceBody>['fields']>,
): Required<DifferingFields> {
  const flag = (given: boolean | undefined, kept: 0 | 1): 0 | 1 =>
    given === undefined ? kept : given ? 1 : 0
  const { instructions, hands_in, takes_text, takes_links, takes_files, most_words, dated_by, late } = before
  return {
    instructions: changes.instructions ?? instructions,
    hands_in: flag(changes.handsIn, hands_in),
    takes_text: flag(changes.takesText, takes_text),
    takes_links: flag(changes.takesLinks, takes_links),
    takes_files: flag(changes.takesFiles, takes_files),
    most_words: changes.mostWords === undefined ? most_words : changes.mostWords,
    available_from: instantOf(edit, 'availableFrom', changes.availableFrom, before.available_from, 'first'),
    due_at: instantOf(edit, 'dueAt', changes.dueAt, before.due_at, 'first'),
    dated_by: changes.datedBy ?? dated_by,
    late: changes.late ?? late,
    late_until: instantOf(edit, 'lateUntil', changes.lateUntil, before.late_until, 'first'),
  }
}

/**
 * Checks what may differ as a whole.
 * @throws ProblemError beside the field that is wrong
 */
export function checkDiffering(edit: Edit, next: Required<DifferingFields>): void {
  if (next.hands_in === 1 && next.takes_text + next.takes_links + next.takes_files === 0)
    throw fieldProblem('takesText', 'Say what is handed in: text, links, files, or several of them.')
  checkTimes(edit, next)
}

function fieldsAfter(edit: Edit, before: TaskFields, changes: Changes): TaskFields {
  const { now } = edit
  const out = changes.out === undefined ? before.out_at : changes.out ? (before.out_at ?? now) : null
  const next: TaskFields = {
    title: changes.title ?? before.title,
    ...differingAfter(edit, before, changes),
    for_whom: changes.forWhom ?? before.for_whom,
    list_id: listAfter(edit, before, changes),
    without_group: changes.withoutGroup ?? before.without_group,
    points: changes.points ?? before.points,
    shares: changes.shares ?? before.shares,
    answers: changes.answers === undefined ? before.answers : changes.answers ? 1 : 0,
    criteria: changes.criteria === undefined ? before.criteria : JSON.stringify(changes.criteria),
    out_at: out,
  }
  // What somebody did alone was shared with nobody.
  if (next.for_whom === 'students') next.shares = 'no'
  if (next.for_whom !== 'students' && next.without_group === 'open') next.without_group = 'locked'
  checkDiffering(edit, next)
  const ids = (JSON.parse(next.criteria) as { id: string }[]).map(({ id }) => id)
  if (new Set(ids).size < ids.length)
    throw fieldProblem('criteria', 'Two criteria have the same id. Load the page anew.')
  return next
}

/**
 * The list whose students a task is for: only where each hands in alone.
 * @throws ProblemError beside the list, where there is none, or nobody is on it
 */
function listAfter(
  { course, stores }: Edit,
  before: TaskFields,
  { forWhom, list }: Pick<Changes, 'forWhom' | 'list'>,
): number | null {
  if ((forWhom ?? before.for_whom) !== 'students') return null
  if (list === undefined) return before.list_id
  if (list === null) return null
  return chosenList(course, list, 'the task', stores)
}

/**
 * @param forSome whether it is about a difference, whose times follow from those of the task
 * @throws ProblemError beside the time that is wrong
 */
function checkTimes({ course }: Edit, task: Required<DifferingFields>, forSome = false): void {
  if (task.dated_by === 'group') {
    if (task.due_at !== null)
      throw fieldProblem(
        'dueAt',
        'Each group’s own date says when it is due, so it has no other date.',
        'task-times-wrong',
      )
    if (task.late === 'until')
      throw fieldProblem(
        'late',
        'Where each group’s own date says when it is due, late work is taken always or never.',
        'task-times-wrong',
      )
    return
  }
  const some = forSome ? 'For some, by a difference: ' : ''
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
        `${some}It would be due ${say(task.due_at)}, before it is there (${say(task.available_from)}).`,
        'task-times-wrong',
      )
    case 'late-without-due':
      throw fieldProblem(
        'dueAt',
        `${some}Without a due time nothing is late. Give one, or take nothing late.`,
        'task-times-wrong',
      )
    case 'late-without-end':
      throw fieldProblem('lateUntil', `${some}Say until when late work is taken.`, 'task-times-wrong')
    case 'late-before-due':
      throw fieldProblem(
        'lateUntil',
        `${some}Late work would be taken until ${say(task.late_until)}, before it is due.`,
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

/**
 * The task that a path names, where it was not removed.
 * @throws ProblemError `not-found`
 */
export function standingTask(edit: Pick<Edit, 'sheet' | 'stores'>, code: string): Task {
  const task = taskOn(edit, code)
  if (task.removed_at !== null) throw new ProblemError('not-found', 'That task was deleted meanwhile.')
  return task
}

/** The task that a path names. */
export function taskOn(edit: Pick<Edit, 'sheet' | 'stores'>, code: string): Task {
  const task = edit.stores.tasks.byCode(edit.sheet.id, code)
  if (!task) throw new ProblemError('not-found', 'The sheet has no such task.')
  return task
}
