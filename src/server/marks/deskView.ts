import type * as contract from '../../contract/marks.ts'
import type { Instant } from '../../core/instant.ts'
import type { Course } from '../courses/store.ts'
import type { Enrolment } from '../roster/store.ts'
import { mayEdit } from '../sheets/mayEdit.ts'
import type { Sheet } from '../sheets/store.ts'
import { sheetHead } from '../sheets/views.ts'
import type { Stores } from '../stores.ts'
import { createOwnerWork, createReads, type Work, workOn } from '../tasks/owners.ts'
import { pileShares } from '../tasks/shares.ts'
import type { Owner, Task } from '../tasks/store.ts'
import { handInView, mayMark, taskView } from '../tasks/views.ts'
import { pointsOf } from './exports.ts'
import type { Second } from './secondStore.ts'
import type { Mark } from './store.ts'

/** Everything that markers need of one task. */
export function deskView(
  task: Task,
  sheet: Sheet,
  course: Course,
  reader: Enrolment,
  now: Instant,
  stores: Stores,
): contract.DeskView {
  const { roster, seats, sheets } = stores
  const people = new Map(roster.everybody(course.id).map((enrolment) => [enrolment.id, enrolment]))
  const sectionCodes = roster.sectionNames(course.id)
  const seated = new Set(seats.ofSheet(sheet.id).map(({ enrolment_id }) => enrolment_id))
  const nameOf = (id: number) => people.get(id)?.name ?? ''
  const markView = (mark: Mark): contract.MarkView => {
    const by = roster.personById(mark.changed_by)
    return {
      placements: JSON.parse(mark.placements) as Record<string, number>,
      points: mark.points,
      feedback: mark.feedback,
      version: mark.version,
      changedAt: mark.changed_at,
      changedBy: by ? (roster.enrolmentIn(course.id, by.id)?.name ?? by.email) : '',
      releasedAt: mark.released_at,
    }
  }
  // Through the pile by section, in the order of the topics.
  const sectionOrder = new Map(roster.sections(course.id).map(({ id }, i) => [id, i]))
  const topicOrder = new Map(sheets.topics(sheet.id).map(({ id }, i) => [id, i]))
  const orderOf = ({ owner, members }: Work): number => {
    const group = owner.group_id === null ? undefined : sheets.groupById(owner.group_id)
    const section = group ? group.section_id : (people.get(members[0] ?? 0)?.section_id ?? null)
    return (sectionOrder.get(section ?? 0) ?? 0) * 100_000 + (topicOrder.get(group?.topic_id ?? 0) ?? 0)
  }
  const shares = task.shares === 'no' ? [] : stores.shares.ofTask(task.id)
  const reads = createReads(reader, sheet, stores)
  const viewOf = createOwnerWork(seated, now, people)
  const remarked = stores.remarks.counts(task.id)
  const works = workOn(task, sheet, stores)
    .filter(({ owner }) => reads(owner))
    .toSorted((a, b) => orderOf(a) - orderOf(b))
  return {
    ...sheetHead(sheet, course, now, stores),
    task: taskView(task, sheet, stores),
    piles: works.map((work) => {
      const group = work.owner.group_id === null ? undefined : sheets.groupById(work.owner.group_id)
      const student = work.owner.student_id === null ? undefined : people.get(work.owner.student_id)
      const section = group ? group.section_id : (student?.section_id ?? null)
      return {
        ...viewOf(work),
        title: group ? (sheets.topicById(group.topic_id)?.title ?? '') : (student?.name ?? ''),
        section: section === null ? null : (sectionCodes.get(section) ?? null),
        handsIn: work.task.hands_in === 1,
        people: work.members.map((id) => ({ code: people.get(id)?.code ?? '', name: nameOf(id) })),
        handIns: work.handIns.toReversed().map((one) => handInView(one, nameOf, stores)),
        mark: work.mark && markView(work.mark),
        setApart: Object.fromEntries(
          work.apart.map((one) => [people.get(one.apart_id ?? 0)?.code ?? '', markView(one)]),
        ),
        shares: pileShares(work, shares, people),
        ...saidOn(work.owner, remarked),
        mayMark: sheet.archived_at === null && mayMark(reader, course) !== 'none',
      }
    }),
    noGroup: stores.audience
      .students(sheet)
      .filter(({ id }) => !seated.has(id))
      .map(({ code, name }) => ({ code, name })),
    mayRelease: mayEdit(reader, sheet),
  }
}

/** How many remarks are on a work, and how many answers. */
export function saidOn(
  { group_id, student_id }: Owner,
  counted: readonly (Owner & { remarks: number; answers: number })[],
): { remarks: number; answers: number } {
  const { remarks = 0, answers = 0 } =
    counted.find((one) => one.group_id === group_id && one.student_id === student_id) ?? {}
  return { remarks, answers }
}

/**
 * The works that were drawn for somebody's second reading, with what they said of them, and nothing of the first mark.
 */
export function secondDesk(
  task: Task,
  sheet: Sheet,
  course: Course,
  reader: Enrolment,
  now: Instant,
  stores: Stores,
): contract.DeskView {
  const drawn = new Map<string, Second>()
  const works = new Map(workOn(task, sheet, stores).map((work) => [work.code, work]))
  for (const one of stores.second.ofTask(task.id)) {
    if (one.reader_id !== reader.id) continue
    for (const { code, owner } of works.values())
      if (owner.group_id === one.group_id && owner.student_id === one.student_id) drawn.set(code, one)
  }
  // Whoever reads a work a second time sees it whole, whoever looks after its group.
  const asInstructor = { ...reader, role: 'instructor' as const }
  const view = deskView(task, sheet, course, asInstructor, now, stores)
  return {
    ...view,
    piles: view.piles.flatMap((pile) => {
      const one = drawn.get(pile.owner)
      if (!one) return []
      const points = pointsOf(task, one)
      return [
        {
          ...pile,
          points,
          apart: [],
          marked: points !== null,
          markedBy: null,
          released: false,
          mark:
            one.read_at === null
              ? null
              : {
                  placements: JSON.parse(one.placements) as Record<string, number>,
                  points: one.points,
                  feedback: one.feedback,
                  version: one.version,
                  changedAt: one.read_at,
                  changedBy: reader.name,
                  releasedAt: null,
                },
          setApart: {},
          shares: null,
          // What the first marker said in the work stays unread as well.
          remarks: 0,
          answers: 0,
          mayMark: sheet.archived_at === null,
        },
      ]
    }),
    mayRelease: false,
  }
}
