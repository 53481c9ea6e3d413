import type { CountsFor, OwnerWork, WorkState } from '../../contract/tasks.ts'
import { isOnSheet } from '../../core/groupState.ts'
import type { Instant } from '../../core/instant.ts'
import { type Criterion, totalOf } from '../../core/marks.ts'
import { markedFor } from '../../core/task.ts'
import type { Mark } from '../marks/store.ts'
import type { Enrolment } from '../roster/store.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'
import { createAsFor } from './asFor.ts'
import type { HandIn, Owner, Task } from './store.ts'

/** One owner's work for a task: what was handed in, for whom it counts, and its marks. */
export interface Work {
  owner: Owner
  /** The owner's code: a group's, or a student's. */
  code: string
  /** The task as it is for them. */
  task: Task
  /** The difference that makes it so, by code. */
  difference: string | null
  /** Every version, oldest first. */
  handIns: readonly HandIn[]
  /** The newest version that was not taken back. */
  standing: HandIn | null
  /** For whom it counts: as it was handed in, as the group stood when it was marked, or as it stands. */
  members: number[]
  countsFor: CountsFor
  /** Whether something is written, brought or handed in. */
  begun: boolean
  /** The mark of the whole, and those of members set apart. */
  mark: Mark | null
  apart: readonly Mark[]
}

export const criteriaOf = (task: Pick<Task, 'criteria'>) => JSON.parse(task.criteria) as Criterion[]

/** Everything that groups or students did for a task, and everybody from whom something is awaited. */
export function workOn(task: Task, sheet: Sheet, stores: Stores): Work[] {
  const { roster, sheets, seats, tasks, marks } = stores
  const handIns = tasks.handIns(task.id)
  const given = marks.ofTask(task.id)
  const students = new Map(stores.audience.students(sheet).map((student) => [student.id, student]))
  const taken = seats.ofSheet(sheet.id)
  const there = stores.there.ofTask(task.id)
  const asFor = createAsFor(task, stores)
  const begun = tasks.begunBy(task.id)
  const make = (owner: Owner, code: string, now: readonly number[]): Work => {
    const own = handIns.filter(({ group_id, student_id }) => isOf(owner, group_id, student_id))
    const standing = own.findLast(({ taken_back_at }) => taken_back_at === null) ?? null
    const ownMarks = given.filter(({ group_id, student_id }) => isOf(owner, group_id, student_id))
    const { task: theirs, difference } = asFor(owner)
    const wasThere = owner.group_id === null ? null : (there.get(owner.group_id) ?? null)
    return {
      owner,
      code,
      task: theirs,
      difference: difference?.code ?? null,
      handIns: own,
      standing,
      begun: own.length > 0 || begun.some(({ group_id, student_id }) => isOf(owner, group_id, student_id)),
      members: [
        ...markedFor({
          handedIn: standing ? (JSON.parse(standing.members) as number[]) : null,
          there: wasThere,
          now,
        }),
      ],
      countsFor: standing ? 'handed-in' : wasThere ? 'was-there' : 'sits-there',
      mark: ownMarks.find(({ apart_id }) => apart_id === null) ?? null,
      apart: ownMarks.filter(({ apart_id }) => apart_id !== null),
    }
  }
  if (task.for_whom === 'students') {
    const past = new Set([...handIns, ...given].flatMap(({ student_id }) => student_id ?? []))
    const listed = task.list_id === null ? null : stores.lists.members(task.list_id)
    const awaited = (id: number) => students.has(id) && (listed === null || listed.has(id))
    const everybody = roster.everybody(sheet.course_id).filter(({ id }) => awaited(id) || past.has(id))
    return everybody.map(({ id, code }) => make({ group_id: null, student_id: id }, code, [id]))
  }
  const only = new Set(tasks.groups(task.id))
  const past = new Set([...handIns.flatMap(({ group_id }) => group_id ?? []), ...there.keys()])
  return sheets
    .everyGroup(sheet.id)
    .filter(
      (group) =>
        past.has(group.id) || (isOnSheet(group) && (task.for_whom === 'groups' || only.has(group.id))),
    )
    .map(({ id, code }) => {
      const sits = taken.filter(({ group_id, enrolment_id }) => group_id === id && students.has(enrolment_id))
      return make(
        { group_id: id, student_id: null },
        code,
        sits.map(({ enrolment_id }) => enrolment_id),
      )
    })
    .filter(({ members, handIns }) => members.length > 0 || handIns.length > 0)
}

function isOf(owner: Owner, groupId: number | null, studentId: number | null): boolean {
  return owner.group_id === groupId && owner.student_id === studentId
}

/** How an owner's work stands. */
export function stateOf(work: Work, seated: ReadonlySet<number>, now: Instant): WorkState {
  const { standing, owner, task } = work
  if (standing) return standing.late === 1 ? 'late' : 'handed-in'
  const needsGroup = task.for_whom === 'students' && task.without_group !== 'open'
  if (needsGroup && owner.student_id !== null && !seated.has(owner.student_id)) return 'no-group'
  const past = task.due_at !== null && now >= task.due_at
  if (task.hands_in === 0) return past || work.mark !== null || work.apart.length > 0 ? 'took-place' : 'ahead'
  return past ? 'missing' : 'not-due'
}

/**
 * Makes what says how an owner's work stands, as the staff see it.
 * @param seated whoever sits somewhere on the sheet
 * @param people everybody of the course
 */
export function createOwnerWork(
  seated: ReadonlySet<number>,
  now: Instant,
  people: ReadonlyMap<number, Enrolment>,
): (work: Work) => OwnerWork {
  const codeOf = (id: number | null) => people.get(id ?? 0)?.code ?? ''
  // Marks are kept with persons, who are named as the course knows them.
  const markers = new Map([...people.values()].map(({ person_id, name }) => [person_id, name]))
  return (work) => {
    const criteria = criteriaOf(work.task)
    const points = (mark: Mark | null) =>
      mark && totalOf({ criteria }, { placements: JSON.parse(mark.placements), points: mark.points })
    const { code, owner, standing, members, mark, apart } = work
    const whole = points(mark)
    return {
      owner: code,
      kind: owner.group_id === null ? 'student' : 'group',
      state: stateOf(work, seated, now),
      dueAt: work.task.due_at,
      difference: work.difference,
      handedAt: standing?.handed_at ?? null,
      version: standing?.version ?? 0,
      members: members.map(codeOf),
      countsFor: work.countsFor,
      points: whole,
      apart: apart.map((one) => ({ person: codeOf(one.apart_id), points: points(one) })),
      marked: whole !== null,
      markedBy: mark && (markers.get(mark.changed_by) ?? ''),
      released: mark?.released_at != null,
      begun: work.begun,
    }
  }
}

/**
 * Whether a member of staff reads this work: instructors all of it, tutors that of the groups they look after, or of
 * students who sit in one.
 */
export function createReads(
  reader: Enrolment,
  sheet: Sheet,
  { sheets, seats }: Pick<Stores, 'sheets' | 'seats'>,
): (owner: Owner) => boolean {
  if (reader.role === 'instructor') return () => true
  const own = new Set(
    sheets
      .tutors(sheet.id)
      .filter(({ enrolment_id }) => enrolment_id === reader.id)
      .map(({ group_id }) => group_id),
  )
  return ({ group_id, student_id }) =>
    group_id !== null
      ? own.has(group_id)
      : seats.heldBy(sheet.id, student_id).some((seat) => own.has(seat.group_id))
}
