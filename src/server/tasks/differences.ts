import type { InferType } from 'yup'
import {
  type DifferenceView,
  type DifferingFields as DifferingView,
  type differenceBody,
  MOST_DIFFERENCES,
} from '../../contract/tasks.ts'
import { counted } from '../../core/counted.ts'
import { isOnSheet } from '../../core/groupState.ts'
import type { DifferenceFor } from '../../core/task.ts'
import { fieldProblem, notFound, ProblemError } from '../http/problem.ts'
import { chosenList } from '../lists/chosen.ts'
import { affectedPeople, type Edit, note } from '../sheets/edit.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'
import { createAsFor } from './asFor.ts'
import type { Difference, DifferingFields } from './differenceStore.ts'
import { checkDiffering, differingAfter, nothingAnyMore } from './edits.ts'
import type { Owner, Task } from './store.ts'

type Body = InferType<typeof differenceBody>

/** What each field that may differ is called on the wire. */
const ON_THE_WIRE = {
  instructions: 'instructions',
  hands_in: 'handsIn',
  takes_text: 'takesText',
  takes_links: 'takesLinks',
  takes_files: 'takesFiles',
  most_words: 'mostWords',
  available_from: 'availableFrom',
  due_at: 'dueAt',
  dated_by: 'datedBy',
  late: 'late',
  late_until: 'lateUntil',
} as const satisfies Record<keyof DifferingFields, keyof DifferingView>

/** Makes a task differ for some, or changes such a difference. */
export function setDifference(edit: Edit, task: Task, code: string | null, body: Body): void {
  const { stores, now } = edit
  const others = stores.differences.ofTask(task.id).filter((one) => one.code !== code)
  const known = code === null ? null : differenceOn(edit, task, code)
  if (known === null && others.length >= MOST_DIFFERENCES)
    throw new ProblemError(
      'body-invalid',
      `A task has ${MOST_DIFFERENCES} differences at most. Put some together.`,
    )
  const targets = targetsOf(edit, task, body)
  if (targets.length === 0) throw fieldProblem('groups', 'Say for whom it differs.')
  const fields = fieldsOf(edit, task, body)
  if (Object.keys(fields).length === 0)
    throw fieldProblem('fields', 'Say what differs: a date, the text, or what is handed in.')
  checkDiffering(edit, { ...task, ...fields })
  const next = { note: body.note.trim(), fields, for: targets }
  askWhereTwoMeet(edit, task, others, next, body.confirmed === true)
  const same = new Set(targets.map(keyOf))
  for (const other of others) {
    const left = other.for.filter((target) => !same.has(keyOf(target)))
    if (left.length === other.for.length) continue
    if (left.length === 0) stores.differences.drop(other.id)
    else stores.differences.change(other.id, { ...other, for: left })
  }
  if (known) stores.differences.change(known.id, next)
  else stores.differences.add(task.id, next, now)
  refuseWithoutHandIn(edit, task)
  record(edit, task, known ? 'difference-changed' : 'difference-made', [...targets, ...(known?.for ?? [])])
}

/** Ends a difference. */
export function endDifference(edit: Edit, task: Task, code: string): void {
  const known = differenceOn(edit, task, code)
  edit.stores.differences.drop(known.id)
  refuseWithoutHandIn(edit, task)
  record(edit, task, 'difference-ended', known.for)
}

/** One entry for each student whom it concerns: their pages are told, and nobody else's. */
function record(
  edit: Edit,
  task: Task,
  kind: 'difference-made' | 'difference-changed' | 'difference-ended',
  targets: readonly DifferenceFor<number>[],
): void {
  const { sheet, stores, now, person } = edit
  const students = new Set(targets.flatMap((target) => studentsOf(target, stores)))
  const detail = { task: task.code, title: task.title }
  if (students.size === 0) note(edit, kind, detail)
  for (const enrolmentId of students)
    stores.ledger.note({ sheetId: sheet.id, at: now, actorId: person.id, kind, enrolmentId, detail })
}

/** The students whom a target names, by id. */
function studentsOf(
  target: DifferenceFor<number>,
  { lists, seats }: Pick<Stores, 'lists' | 'seats'>,
): number[] {
  if (target.kind === 'student') return [target.student]
  if (target.kind === 'list') return [...lists.members(target.list)]
  return seats.ofGroup(target.group).map(({ enrolment_id }) => enrolment_id)
}

/** The differences of a task as its staff see them. What they are for and is gone is left out. */
export function differenceViews(task: Task, sheet: Sheet, stores: Stores): DifferenceView[] {
  const { differences, lists, roster, sheets } = stores
  const codes = sheets.groupCodes(sheet.id)
  return differences.ofTask(task.id).map((one) => ({
    code: one.code,
    note: one.note,
    groups: one.for.flatMap((target) => (target.kind === 'group' ? (codes.get(target.group) ?? []) : [])),
    lists: one.for.flatMap((target) => (target.kind === 'list' ? (lists.byId(target.list)?.code ?? []) : [])),
    students: one.for.flatMap((target) =>
      target.kind === 'student' ? (roster.enrolment(target.student)?.code ?? []) : [],
    ),
    fields: viewOf(one.fields),
  }))
}

const viewOf = (fields: DifferingFields): DifferingView =>
  Object.fromEntries(
    Object.entries(fields).map(([key, value]) => {
      const flag = key === 'hands_in' || key.startsWith('takes_')
      return [ON_THE_WIRE[key as keyof DifferingFields], flag ? value === 1 : value]
    }),
  )

function differenceOn({ stores }: Edit, task: Task, code: string): Difference {
  const known = stores.differences.ofTask(task.id).find((one) => one.code === code)
  if (!known) throw notFound('That difference was ended meanwhile.')
  return known
}

/** What was given of the fields that may differ. */
function fieldsOf(edit: Edit, task: Task, { fields }: Body): DifferingFields {
  const after = differingAfter(edit, task, fields)
  const given = (Object.keys(ON_THE_WIRE) as (keyof DifferingFields)[]).filter(
    (key) => fields[ON_THE_WIRE[key]] !== undefined,
  )
  return Object.fromEntries(given.map((key) => [key, after[key]]))
}

function targetsOf(edit: Edit, task: Task, body: Body): DifferenceFor<number>[] {
  const { sheet, course, stores } = edit
  const { groups, lists, students } = body
  if (task.for_whom !== 'students' && lists.length + students.length > 0) {
    const field = lists.length > 0 ? 'lists' : 'students'
    throw fieldProblem(field, 'Groups hand this in together, so it differs for whole groups.')
  }
  const only = task.for_whom === 'some-groups' ? new Set(stores.tasks.groups(task.id)) : null
  return [
    ...[...new Set(groups)].map((code, i): DifferenceFor<number> => {
      const group = stores.sheets.group(code)
      if (!group || group.sheet_id !== sheet.id || !isOnSheet(group))
        throw fieldProblem(
          `groups[${i}]`,
          'The sheet has no such group any more. Take it out, and save again.',
        )
      if (only?.has(group.id) === false)
        throw fieldProblem(`groups[${i}]`, 'The task is not for that group, so nothing differs for it.')
      return { kind: 'group', group: group.id }
    }),
    ...[...new Set(lists)].map((code): DifferenceFor<number> => {
      return { kind: 'list', list: chosenList(course, code, 'the difference', stores, 'lists') }
    }),
    ...[...new Set(students)].map((code, i): DifferenceFor<number> => {
      const student = stores.roster.everybody(course.id).find((one) => one.code === code)
      if (student?.role !== 'student')
        throw fieldProblem(`students[${i}]`, 'That person is no student of this course any more.')
      return { kind: 'student', student: student.id }
    }),
  ]
}

const keyOf = (target: DifferenceFor<number>): string =>
  `${target.kind} ${target.kind === 'group' ? target.group : target.kind === 'list' ? target.list : target.student}`

/** Whoever would be in two differences is asked about, with which of the two would hold. */
function askWhereTwoMeet(
  edit: Edit,
  task: Task,
  others: readonly Difference[],
  next: Pick<Difference, 'for' | 'note'>,
  confirmed: boolean,
): void {
  if (confirmed || others.length === 0) return
  const { stores } = edit
  const reachedBy = (one: Pick<Difference, 'for'>) => new Set(one.for.flatMap((target) => whomOf(target)))
  const mine = reachedBy(next)
  const both = new Set(others.flatMap((other) => [...reachedBy(other)].filter((who) => mine.has(who))))
  if (both.size === 0) return
  if (task.for_whom === 'students') {
    const words =
      'They would be in two differences of this task. What names a student holds before what is for a list, and that before what is for a group; of two alike, this one holds.'
    throw new ProblemError('differences-meet', words, { affected: affectedPeople(edit, [...both]) })
  }
  const titles = [...both].map(
    (id) => stores.sheets.topicById(stores.sheets.groupById(id)?.topic_id ?? 0)?.title,
  )
  const words = `${counted(both.size, 'group is', 'groups are')} in another difference of this task: ${titles.join(', ')}. This one would hold, and the other one would be without them.`
  throw new ProblemError('differences-meet', words)

  /** Ids of groups where groups hand in, else of students. */
  function whomOf(target: DifferenceFor<number>): number[] {
    if (task.for_whom !== 'students') return target.kind === 'group' ? [target.group] : []
    return studentsOf(target, stores)
  }
}

/** Nobody who has handed in ends up with a task without a hand-in. */
function refuseWithoutHandIn({ stores }: Edit, task: Task): void {
  const asFor = createAsFor(task, stores)
  for (const { group_id, student_id } of stores.tasks.handIns(task.id)) {
    if (asFor({ group_id, student_id } as Owner).task.hands_in === 0) throw nothingAnyMore('fields.handsIn')
  }
}
