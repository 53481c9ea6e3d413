import type { FileView } from '../../contract/files.ts'
import type { DraftView, OwnTask, OwnWork } from '../../contract/ownWork.ts'
import { type Instant, MINUTE, shift } from '../../core/instant.ts'
import { sheetState } from '../../core/window.ts'
import type { Course } from '../courses/store.ts'
import { fileViews } from '../files/views.ts'
import { standingIn } from '../remarks/standing.ts'
import type { Enrolment } from '../roster/store.ts'
import { namesFor } from '../seats/namesFor.ts'
import type { Sheet } from '../sheets/store.ts'
import { windowOf } from '../sheets/window.ts'
import type { Stores } from '../stores.ts'
import { criteriaOf } from './owners.ts'
import { ownParts } from './ownParts.ts'
import { counts, releasedMark } from './released.ts'
import { workRoom } from './room.ts'
import { ownShares } from './shares.ts'
import type { HandIn, Owner, Task, WorkDraft } from './store.ts'
import { handInView } from './views.ts'

/** Milliseconds after which a draft that nobody saved is no longer held. */
export const HOLD = 2 * MINUTE

/**
 * The tasks that are there for a student, each as it is for them: those open, locked or over, and those in which
 * something counts for the student that a group did which the student has left.
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
    const head = ({ code, title, hands_in, due_at, late_until, late }: Task) => ({
      code,
      title,
      handsIn: hands_in === 1,
      dueAt: due_at,
      lateUntil: late_until,
      late,
    })
    const given = marks.ofTask(task.id)
    const entry = (own: Task, owner: Owner, state: OwnTask['gate'], past: boolean): OwnTask => {
      const all = tasks.ofOwner(task.id, owner)
      const mine = all.filter((one) => !past || counts(one, reader.id))
      const draft = past ? undefined : tasks.draft(task.id, owner)
      const mark = releasedMark(task, owner, all, given, reader.id, stores)
      return {
        ...head(own),
        gate: state,
        group: owner.group_id === null ? null : titleOf(owner.group_id),
        work: {
          instructions: own.instructions,
          takesText: own.takes_text === 1,
          takesLinks: own.takes_links === 1,
          takesFiles: own.takes_files === 1,
          mostWords: own.most_words,
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
          room: workRoom(own, sheet, owner, stores),
          mark,
          ...remarksFor(task, owner, all, mark === null ? null : mine, nameOf, stores),
          shares: ownShares(task, owner.group_id, { sheet, reader, now }, stores),
        },
      }
    }
    return ownParts(task, reader.id, held, now, stores).map((part) =>
      part.owner === null
        ? { ...head(part.task), gate: part.gate, group: null, work: null }
        : entry(part.task, part.owner, part.gate, part.past),
    )
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

/**
 * How many remarks are on a work, and what goes back with its mark.
 * @param mine the versions that are the reader’s; null before the mark is out
 */
function remarksFor(
  task: Task,
  owner: Owner,
  all: readonly HandIn[],
  mine: readonly HandIn[] | null,
  nameOf: (id: number) => string,
  stores: Stores,
): { remarks: number; feedbackFiles: FileView[] } {
  if (mine === null) return { remarks: 0, feedbackFiles: [] }
  const { remarks } = stores
  const shown = mine.filter(({ taken_back_at }) => taken_back_at === null)
  return {
    remarks: standingIn(remarks.ofOwner(task.id, owner), all, shown, stores).length,
    feedbackFiles: fileViews(remarks.files(task.id, owner), nameOf, stores),
  }
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
