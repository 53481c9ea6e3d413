import type { HandInView, SecondReading, TaskView, WorkView } from '../../contract/tasks.ts'
import { isOnSheet } from '../../core/groupState.ts'
import type { Instant } from '../../core/instant.ts'
import { totalOf } from '../../core/marks.ts'
import type { Course } from '../courses/store.ts'
import { sectionViews } from '../courses/views.ts'
import { fileViews } from '../files/views.ts'
import type { Enrolment } from '../roster/store.ts'
import { mayEdit } from '../sheets/mayEdit.ts'
import { sectionsOn } from '../sheets/sectionsOn.ts'
import type { Sheet } from '../sheets/store.ts'
import { sheetHead } from '../sheets/views.ts'
import type { Stores } from '../stores.ts'
import { differenceViews } from './differences.ts'
import { createOwnerWork, createReads, criteriaOf, type Work, workOn } from './owners.ts'
import type { HandIn, Task } from './store.ts'

/** A task as its staff know it. */
export function taskView(task: Task, sheet: Sheet, stores: Stores): TaskView {
  const { tasks, sheets } = stores
  const codes = sheets.groupCodes(sheet.id)
  return {
    code: task.code,
    title: task.title,
    instructions: task.instructions,
    handsIn: task.hands_in === 1,
    takesText: task.takes_text === 1,
    takesLinks: task.takes_links === 1,
    takesFiles: task.takes_files === 1,
    mostWords: task.most_words,
    files: fileViews(tasks.taskFiles(task.id), nameIn(stores), stores),
    availableFrom: task.available_from,
    dueAt: task.due_at,
    datedBy: task.dated_by,
    late: task.late,
    lateUntil: task.late_until,
    forWhom: task.for_whom,
    list: task.list_id === null ? null : (stores.lists.byId(task.list_id)?.code ?? null),
    groups: tasks.groups(task.id).flatMap((id) => codes.get(id) ?? []),
    withoutGroup: task.without_group,
    points: task.points,
    shares: task.shares,
    answers: task.answers === 1,
    criteria: criteriaOf(task),
    outAt: task.out_at,
    handedIn: tasks.anyHandIn(task.id),
    begun: tasks.anyHandIn(task.id) || stores.marks.any(task.id),
    differences: differenceViews(task, sheet, stores),
  }
}

/** One version of what was handed in. */
export function handInView(
  handIn: HandIn,
  nameOf: (enrolmentId: number) => string,
  stores: Pick<Stores, 'files'>,
): HandInView {
  return {
    version: handIn.version,
    by: nameOf(handIn.by_id),
    members: (JSON.parse(handIn.members) as number[]).map(nameOf),
    text: handIn.text,
    links: JSON.parse(handIn.links) as string[],
    files: fileViews(JSON.parse(handIn.files) as number[], nameOf, stores),
    handedAt: handIn.handed_at,
    late: handIn.late === 1,
    takenBackAt: handIn.taken_back_at,
  }
}

const nameIn =
  ({ roster }: Pick<Stores, 'roster'>) =>
  (id: number) =>
    roster.enrolment(id)?.name ?? ''

/** In which groups a member of staff may mark. */
export function mayMark(enrolment: Enrolment, course: Course): WorkView['mayMark'] {
  if (enrolment.role === 'instructor') return 'all'
  return enrolment.role === 'tutor' && course.tutors_mark === 1 ? 'own' : 'none'
}

/** The tasks of a sheet, with how the work of everybody stands. */
export function workView(
  sheet: Sheet,
  course: Course,
  reader: Enrolment,
  now: Instant,
  stores: Stores,
): WorkView {
  const { roster, sheets, seats, tasks } = stores
  const sections = sectionsOn(sheet, stores)
  const sectionCodes = new Map(sections.map(({ id, code }) => [id, code]))
  const sectionOf = (id: number | null) => (id === null ? null : (sectionCodes.get(id) ?? null))
  const people = new Map(roster.everybody(course.id).map((enrolment) => [enrolment.id, enrolment]))
  const students = stores.audience.students(sheet)
  const taken = seats.ofSheet(sheet.id)
  const seated = new Set(taken.map(({ enrolment_id }) => enrolment_id))
  const topics = new Map(sheets.everyTopic(sheet.id).map((topic) => [topic.id, topic]))
  const tutors = sheets.tutors(sheet.id)
  const codeOf = (id: number) => people.get(id)?.code ?? ''
  const reads = createReads(reader, sheet, stores)
  const viewOf = createOwnerWork(seated, now, people)
  return {
    ...sheetHead(sheet, course, now, stores),
    sections: sectionViews(sections, students),
    topics: [...topics.values()].map(({ code, title }) => ({ code, title })),
    groups: sheets.everyGroup(sheet.id).map(({ id, code, topic_id, section_id, ...group }) => ({
      code,
      onSheet: isOnSheet(group),
      topic: topics.get(topic_id)?.code ?? '',
      section: sectionOf(section_id),
      tutors: tutors
        .filter(({ group_id }) => group_id === id)
        .map(({ enrolment_id }) => codeOf(enrolment_id)),
      members: taken
        .filter(({ group_id }) => group_id === id)
        .map(({ enrolment_id }) => codeOf(enrolment_id)),
    })),
    people: stores.roster
      .classList(course, students)
      .map(({ code, name, section_id }) => ({ code, name, section: sectionOf(section_id) })),
    lists: stores.lists.ofCourse(course.id).map(({ id, code, title }) => ({
      code,
      title,
      people: stores.lists.members(id).size,
    })),
    tutors: [...new Set(tutors.map(({ enrolment_id }) => enrolment_id))].flatMap((id) => {
      const tutor = people.get(id)
      return tutor ? [{ code: tutor.code, name: tutor.name }] : []
    }),
    noGroup: students.filter(({ id }) => !seated.has(id)).map(({ code }) => code),
    tasks: tasks.ofSheet(sheet.id).map((task) => ({
      ...taskView(task, sheet, stores),
      ...worksOf(task),
    })),
    staff: [...people.values()]
      .filter(({ role, status }) => role !== 'student' && status === 'active')
      .map(({ code, name }) => ({ code, name })),
    you: reader.code,
    mayEdit: mayEdit(reader, sheet),
    mayMark: sheet.archived_at === null ? mayMark(reader, course) : 'none',
  }

  function worksOf(task: Task): Pick<WorkView['tasks'][number], 'work' | 'second' | 'remarked'> {
    const works = workOn(task, sheet, stores)
    return {
      work: works.filter(({ owner }) => reads(owner)).map(viewOf),
      remarked: remarkedOf(task, works),
      second: secondOf(task, works, reader, people, stores),
    }
  }

  function remarkedOf(task: Task, works: readonly Work[]): WorkView['tasks'][number]['remarked'] {
    const counted = stores.remarks.counts(task.id)
    return works.flatMap(({ owner, code }) => {
      const found = counted.find(
        (one) => one.group_id === owner.group_id && one.student_id === owner.student_id,
      )
      return found && reads(owner) ? [{ owner: code, remarks: found.remarks, answers: found.answers }] : []
    })
  }
}

/** What was drawn for a second reading: all of it for instructors, for others what they read themselves. */
function secondOf(
  task: Task,
  works: readonly Work[],
  reader: Enrolment,
  people: ReadonlyMap<number, Enrolment>,
  { second }: Pick<Stores, 'second'>,
): SecondReading[] {
  const criteria = criteriaOf(task)
  const pointsIn = (mark: { placements: string; points: number | null }) =>
    totalOf({ criteria }, { placements: JSON.parse(mark.placements), points: mark.points })
  return second.ofTask(task.id).flatMap((one) => {
    const whole = reader.role === 'instructor'
    if (!whole && one.reader_id !== reader.id) return []
    const work = works.find(
      ({ owner }) => owner.group_id === one.group_id && owner.student_id === one.student_id,
    )
    if (!work) return []
    const points = pointsIn(one)
    return [
      {
        owner: work.code,
        reader: people.get(one.reader_id)?.code ?? '',
        lotNumber: one.lot_number,
        read: points !== null,
        first: whole && work.mark ? pointsIn(work.mark) : null,
        second: whole || one.reader_id === reader.id ? points : null,
      },
    ]
  })
}
