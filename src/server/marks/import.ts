import { createHash } from 'node:crypto'
import type { MarksPreview } from '../../contract/marks.ts'
import { readMarksCsv } from '../../core/formats/marksCsv.ts'
import { mostPoints, totalOf } from '../../core/marks.ts'
import { changesFor, type MarkChange, type StandingMarks } from '../../core/marksIn.ts'
import type { Course } from '../courses/store.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'
import { criteriaOf, type Work, workOn } from '../tasks/owners.ts'
import type { Task } from '../tasks/store.ts'
import type { Mark } from './store.ts'

/** A change of a mark that a file asks for, with all that is needed to make it. */
export interface AskedChange extends MarkChange<number> {
  task: Task
  work: Work
}

/** Reads a file of marks against what stands: what it would change, and what of it cannot be taken. */
export function readMarks(
  csv: string,
  sheet: Sheet,
  course: Course,
  stores: Stores,
): { preview: MarksPreview; changes: AskedChange[] } {
  const { roster, sheets, tasks } = stores
  const students = stores.audience.students(sheet)
  const sections = new Map(roster.sections(course.id).map(({ id, name }) => [id, name]))
  const titleOf = (topicId: number) => sheets.topicById(topicId)?.title ?? ''
  const groups = sheets.groups(sheet.id)
  const all = tasks.ofSheet(sheet.id)
  const { of, points, faults } = readMarksCsv(csv, {
    students: students.map(({ id, name, email }) => ({ key: String(id), name, email })),
    groups: groups.map(({ id, topic_id, section_id }) => ({
      key: String(id),
      topic: titleOf(topic_id),
      section: sections.get(section_id ?? 0) ?? '',
    })),
    tasks: all.map((task) => ({
      key: task.code,
      title: task.title,
      most: mostPoints({ points: task.points, criteria: criteriaOf(task) }),
    })),
  })
  const changes: AskedChange[] = []
  for (const task of all) {
    const given = points.filter((one) => one.task === task.code)
    if (given.length === 0) continue
    const works = workOn(task, sheet, stores)
    const fault = (who: number | undefined, message: string) => {
      const line = given.find((one) => Number(one.who) === who)
      if (line) faults.push({ line: line.line, field: task.title, found: String(line.points), message })
    }
    const asked = of === 'students' ? forStudents(works, task, given) : forGroups(works, task, given)
    for (const who of asked.nobodys) {
      const where =
        of === 'students'
          ? 'has no group for this task, so there is no work to mark'
          : 'is not asked for this task'
      fault(who, `${of === 'students' ? 'This student' : 'This group'} ${where}.`)
    }
    if (criteriaOf(task).length > 0) {
      const touches = of === 'students' ? touchesStudent : touchesGroup
      for (const { who } of given) {
        if (touches(asked.changes, Number(who)))
          fault(Number(who), 'This task is marked by criteria. Place the group at the desk instead.')
      }
      continue
    }
    changes.push(...asked.changes)
  }
  const nameOf = new Map(students.map(({ id, name }) => [id, name]))
  const shown = changes.map(({ task, work, member, from, to }) => {
    const group = work.owner.group_id === null ? undefined : sheets.groupById(work.owner.group_id)
    const section = sections.get(group?.section_id ?? 0)
    const owner = group
      ? [titleOf(group.topic_id), section].filter(Boolean).join(', ')
      : (nameOf.get(work.owner.student_id ?? 0) ?? '')
    return {
      task: task.title,
      owner,
      member: member === null ? null : (nameOf.get(member) ?? ''),
      from,
      to,
      out: work.mark?.released_at != null,
    }
  })
  const fingerprint = createHash('sha256')
    .update(JSON.stringify([shown, faults]))
    .digest('hex')
  const sorted = faults.toSorted((a, b) => a.line - b.line)
  return { preview: { of, changes: shown, faults: sorted, fingerprint }, changes }
}

type Given = { who: string; points: number }
type Asked = { changes: AskedChange[]; nobodys: number[] }

function forStudents(works: readonly Work[], task: Task, given: readonly Given[]): Asked {
  const wanted = new Map(given.map(({ who, points }) => [Number(who), points]))
  const changes = works.flatMap((work) =>
    changesFor(standingOf(work, task), wanted).map((change) => ({ ...change, task, work })),
  )
  const known = new Set(works.flatMap(({ members }) => members))
  return { changes, nobodys: [...wanted.keys()].filter((id) => !known.has(id)) }
}

function forGroups(works: readonly Work[], task: Task, given: readonly Given[]): Asked {
  const wanted = new Map(given.map(({ who, points }) => [Number(who), points]))
  const changes = works.flatMap((work): AskedChange[] => {
    const { owner, whole } = standingOf(work, task)
    const to = wanted.get(work.owner.group_id ?? 0)
    return to === undefined || to === whole ? [] : [{ owner, member: null, from: whole, to, task, work }]
  })
  const known = new Set(works.map(({ owner }) => owner.group_id))
  return { changes, nobodys: [...wanted.keys()].filter((id) => !known.has(id)) }
}

function touchesStudent(changes: readonly AskedChange[], id: number): boolean {
  return changes.some(({ member, work }) => (member === null ? work.members.includes(id) : member === id))
}

function touchesGroup(changes: readonly AskedChange[], id: number): boolean {
  return changes.some(({ owner }) => owner === id)
}

function standingOf({ owner, members, mark, apart }: Work, task: Task): StandingMarks<number> {
  const criteria = criteriaOf(task)
  const points = (one: Mark | null) =>
    one && totalOf({ criteria }, { placements: JSON.parse(one.placements), points: one.points })
  return {
    owner: owner.group_id ?? owner.student_id,
    members,
    whole: points(mark),
    apart: new Map(apart.map((one) => [one.apart_id ?? 0, points(one)])),
  }
}
