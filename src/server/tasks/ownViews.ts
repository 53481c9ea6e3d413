import type { DraftView, OwnTask, OwnWork, ReleasedMark } from '../../contract/tasks.ts'
import { type Instant, MINUTE, shift } from '../../core/instant.ts'
import { totalOf } from '../../core/marks.ts'
import { ownersFor, type TaskTerms, taskGate } from '../../core/task.ts'
import { sheetState } from '../../core/window.ts'
import type { Course } from '../courses/store.ts'
import { fileViews } from '../files/views.ts'
import type { Mark } from '../marks/store.ts'
import type { Enrolment } from '../roster/store.ts'
import { namesFor } from '../seats/namesFor.ts'
import type { Sheet } from '../sheets/store.ts'
import { windowOf } from '../sheets/window.ts'
import type { Stores } from '../stores.ts'
import { criteriaOf } from './owners.ts'
import { workRoom } from './room.ts'
import type { HandIn, Owner, Task, WorkDraft } from './store.ts'
import { handInView } from './views.ts'

/** Milliseconds after which a draft that nobody saved is no longer held. */
export const HOLD = 2 * MINUTE

/** What decides whether a task is there for somebody, groups by their ids. */
export function termsOf(task: Task, { tasks }: Pick<Stores, 'tasks'>): TaskTerms<number> {
  return {
    out: task.out_at !== null,
    availableFrom: task.available_from,
    dueAt: task.due_at,
    late: task.late,
    lateUntil: task.late_until,
    forWhom: task.for_whom,
    groups: task.for_whom === 'some-groups' ? tasks.groups(task.id) : [],
    withoutGroup: task.without_group,
  }
}

/** Whose a student's work is, as the store knows owners. */
export function storedOwners(
  task: Task,
  studentId: number,
  seats: readonly number[],
  stores: Stores,
): Owner[] {
  return ownersFor(termsOf(task, stores), studentId, seats).map((owner) =>
    owner.kind === 'group'
      ? { group_id: owner.group, student_id: null }
      : { group_id: null, student_id: owner.student },
  )
}

/**
 * The tasks that are there for a student: those open, locked or over, and those for which a group that the student has
 * left handed in while the student was in it.
 */
export function ownWork(
  sheet: Sheet,
  course: Course,
  reader: Enrolment,
  now: Instant,
  stores: Stores,
): OwnWork {
  const { seats, tasks, sheets, marks } = stores
  const held = seats.heldBy(sheet.id, reader.id).map(({ group_id }) => group_id)
  const nameOf = namesFor(sheet, reader, now, stores)
  const titleOf = (groupId: number) => {
    const group = sheets.groupById(groupId)
    return group ? { code: group.code, title: sheets.topicById(group.topic_id)?.title ?? '' } : null
  }
  const own = tasks.ofSheet(sheet.id).flatMap((task): OwnTask[] => {
    const gate = taskGate(termsOf(task, stores), held, now)
    const head = {
      code: task.code,
      title: task.title,
      dueAt: task.due_at,
      lateUntil: task.late_until,
      late: task.late,
    }
    const given = marks.ofTask(task.id)
    const entry = (owner: Owner, state: OwnTask['gate'], past: boolean): OwnTask => {
      const mine = tasks.ofOwner(task.id, owner).filter((one) => !past || counts(one, reader.id))
      const draft = past ? undefined : tasks.draft(task.id, owner)
      return {
        ...head,
        gate: state,
        group: owner.group_id === null ? null : titleOf(owner.group_id),
        work: {
          instructions: task.instructions,
          takesText: task.takes_text === 1,
          takesLinks: task.takes_links === 1,
          takesFiles: task.takes_files === 1,
          files: fileViews(tasks.taskFiles(task.id), nameOf, stores),
          points: task.points,
          criteria: criteriaOf(task),
          forWhom: owner.group_id === null ? 'self' : 'group',
          handIns: mine
            .toReversed()
            .map((one) =>
              handInView(one, (id) => nameOf(id, counts(one, reader.id) && counts(one, id)), stores),
            ),
          draft: draft ? draftView(draft, reader, nameOf, now) : null,
          brought: past ? [] : fileViews(tasks.draftFiles(task.id, owner), nameOf, stores),
          room: workRoom(task, sheet, owner, stores),
          mark: releasedMark(task, owner, mine, given, reader.id),
        },
      }
    }
    const owners =
      gate.state === 'hidden' || gate.state === 'locked' ? [] : storedOwners(task, reader.id, held, stores)
    const current = owners.map((owner) => entry(owner, gate as OwnTask['gate'], false))
    const left = tasks.countedIn(task.id, reader.id).filter((id) => id !== null && !held.includes(id))
    const past = (left as number[]).map((group_id) =>
      entry({ group_id, student_id: null }, { state: 'over' }, true),
    )
    const locked: OwnTask[] = gate.state === 'locked' ? [{ ...head, gate, group: null, work: null }] : []
    return [...locked, ...current, ...past]
  })
  return {
    now,
    rev: stores.ledger.newest(sheet.id),
    sheet: {
      code: sheet.code,
      title: sheet.title,
      courseCode: course.course_code,
      zone: course.zone,
      open: sheetState(windowOf(sheet), now) === 'open',
      contact: sheet.contact,
    },
    tasks: own,
  }
}

function counts({ members }: HandIn, enrolmentId: number): boolean {
  return (JSON.parse(members) as number[]).includes(enrolmentId)
}

function draftView(
  draft: WorkDraft,
  reader: Enrolment,
  nameOf: (id: number) => string,
  now: Instant,
): DraftView {
  const { text, links, saved_at, holder_id, held_at } = draft
  const held = holder_id !== null && held_at !== null && held_at > shift(now, -HOLD)
  return {
    text,
    links: JSON.parse(links) as string[],
    savedAt: saved_at,
    holder: held ? nameOf(holder_id) : null,
    yours: held && holder_id === reader.id,
  }
}

/** The reader's own mark once it is released: the one set apart for them, else the group's. */
function releasedMark(
  task: Task,
  owner: Owner,
  handIns: readonly HandIn[],
  given: readonly Mark[],
  readerId: number,
): ReleasedMark | null {
  // Whoever joined after the hand-in has no part in its mark.
  const standing = handIns.find(({ taken_back_at }) => taken_back_at === null)
  if (
    standing &&
    !counts(handIns.findLast(({ taken_back_at }) => taken_back_at === null) ?? standing, readerId)
  )
    return null
  const own = given.filter(
    ({ group_id, student_id }) => group_id === owner.group_id && student_id === owner.student_id,
  )
  const apart = own.find(({ apart_id }) => apart_id === readerId)
  const mark = apart ?? own.find(({ apart_id }) => apart_id === null)
  if (!mark || mark.released_at === null) return null
  const placements = JSON.parse(mark.placements) as Record<string, number>
  return {
    points: totalOf({ criteria: criteriaOf(task) }, { placements, points: mark.points }),
    placements,
    feedback: mark.feedback,
    apart: apart !== undefined,
    releasedAt: mark.released_at,
  }
}
