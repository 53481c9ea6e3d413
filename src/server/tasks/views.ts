import type { HandInView, TaskView, WorkView } from '../../contract/tasks.ts'
import type { Instant } from '../../core/instant.ts'
import type { Course } from '../courses/store.ts'
import { sectionViews } from '../courses/views.ts'
import { fileViews } from '../files/views.ts'
import type { Enrolment } from '../roster/store.ts'
import { mayEdit } from '../sheets/mayEdit.ts'
import type { Sheet } from '../sheets/store.ts'
import { sheetHead } from '../sheets/views.ts'
import type { Stores } from '../stores.ts'
import { createReads, criteriaOf, ownerWork, workOn } from './owners.ts'
import type { HandIn, Task } from './store.ts'

/** A task as its staff know it. */
export function taskView(task: Task, sheet: Sheet, stores: Stores): TaskView {
  const { tasks, sheets } = stores
  const codes = sheets.groupCodes(sheet.id)
  return {
    code: task.code,
    title: task.title,
    instructions: task.instructions,
    takesText: task.takes_text === 1,
    takesLinks: task.takes_links === 1,
    takesFiles: task.takes_files === 1,
    files: fileViews(tasks.taskFiles(task.id), nameIn(stores), stores),
    availableFrom: task.available_from,
    dueAt: task.due_at,
    late: task.late,
    lateUntil: task.late_until,
    forWhom: task.for_whom,
    groups: tasks.groups(task.id).flatMap((id) => codes.get(id) ?? []),
    withoutGroup: task.without_group,
    points: task.points,
    criteria: criteriaOf(task),
    outAt: task.out_at,
    handedIn: tasks.anyHandIn(task.id),
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
  const sections = roster.sections(course.id)
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
  return {
    ...sheetHead(sheet, course, now, stores),
    sections: sectionViews(sections, students),
    topics: [...topics.values()].map(({ code, title }) => ({ code, title })),
    groups: sheets.everyGroup(sheet.id).map(({ id, code, topic_id, section_id }) => ({
      code,
      topic: topics.get(topic_id)?.code ?? '',
      section: sectionOf(section_id),
      tutors: tutors
        .filter(({ group_id }) => group_id === id)
        .map(({ enrolment_id }) => codeOf(enrolment_id)),
      members: taken
        .filter(({ group_id }) => group_id === id)
        .map(({ enrolment_id }) => codeOf(enrolment_id)),
    })),
    people: students.map(({ code, name, section_id }) => ({ code, name, section: sectionOf(section_id) })),
    tutors: [...new Set(tutors.map(({ enrolment_id }) => enrolment_id))].flatMap((id) => {
      const tutor = people.get(id)
      return tutor ? [{ code: tutor.code, name: tutor.name }] : []
    }),
    noGroup: students.filter(({ id }) => !seated.has(id)).map(({ code }) => code),
    tasks: tasks.ofSheet(sheet.id).map((task) => ({
      ...taskView(task, sheet, stores),
      work: workOn(task, sheet, stores)
        .filter(({ owner }) => reads(owner))
        .map((work) => ownerWork(task, work, seated, now, people)),
    })),
    you: reader.code,
    mayEdit: mayEdit(reader, sheet),
    mayMark: sheet.archived_at === null ? mayMark(reader, course) : 'none',
  }
}
