import { createHash } from 'node:crypto'
import type { MarksPreview } from '../../contract/marks.ts'
import { readMarksCsv, type Scale } from '../../core/formats/marksCsv.ts'
import { short } from '../../core/formats/table.ts'
import { mostPoints, totalOf } from '../../core/marks.ts'
import { changesFor, feedbackFor, type MarkChange, type StandingMarks } from '../../core/marksIn.ts'
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

/** Feedback that a file puts in place of another: of the whole, or of a member set apart. */
export interface AskedFeedback {
  task: Task
  work: Work
  member: number | null
  to: string
}

/** Reads a file of marks against what stands: what it would change, and what of it cannot be taken. */
export function readMarks(
  { csv, scale }: { csv: string; scale?: Scale | undefined },
  sheet: Sheet,
  course: Course,
  stores: Stores,
): { preview: MarksPreview; changes: AskedChange[]; feedback: AskedFeedback[] } {
  const { roster, sheets, tasks } = stores
  const students = stores.audience.students(sheet)
  const sections = roster.sectionNames(course.id)
  const titleOf = (topicId: number) => sheets.topicById(topicId)?.title ?? ''
  const groups = sheets.groups(sheet.id)
  const all = tasks.ofSheet(sheet.id)
  const known = {
    students: students.map(({ id, name, email, number }) => ({ key: String(id), name, email, number })),
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
  }
  const { of, points, faults, scales, ...read } = readMarksCsv(csv, known, scale)
  const changes: AskedChange[] = []
  const feedback: AskedFeedback[] = []
  for (const task of all) {
    const given = points.filter((one) => one.task === task.code)
    const texts = read.feedback.filter((one) => one.task === task.code)
    if (given.length === 0 && texts.length === 0) continue
    const works = workOn(task, sheet, stores)
    const fault = (who: number | undefined, message: string) => {
      const line =
        given.find((one) => Number(one.who) === who) ?? texts.find((one) => Number(one.who) === who)
      const found = line && ('points' in line ? String(line.points) : line.text)
      if (line) faults.push({ line: line.line, field: task.title, found: short(found ?? ''), message })
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
    } else changes.push(...asked.changes)
    const own = criteriaOf(task).length > 0 ? [] : asked.changes
    const written = feedbackOn(works, of, texts, own)
    for (const one of written.changes) feedback.push({ ...one, task })
    for (const who of written.unclear) {
      const line = texts.find((one) => Number(one.who) === who)
      const message =
        'The members of a group read one feedback. Give all of them the same, or set the mark of this one apart first.'
      if (line)
        faults.push({ line: line.line, field: `${task.title}: feedback`, found: short(line.text), message })
    }
  }
  const nameOf = new Map(students.map(({ id, name }) => [id, name]))
  /** Whose it is, in words. */
  const whose = ({ task, work, member }: { task: Task; work: Work; member: number | null }) => {
    const group = work.owner.group_id === null ? undefined : sheets.groupById(work.owner.group_id)
    const section = sections.get(group?.section_id ?? 0)
    const owner = group
      ? [titleOf(group.topic_id), section].filter(Boolean).join(', ')
      : (nameOf.get(work.owner.student_id ?? 0) ?? '')
    return {
      task: task.title,
      owner,
      member: member === null ? null : (nameOf.get(member) ?? ''),
      out: work.mark?.released_at != null,
    }
  }
  const shown = changes.map((change) => ({ ...whose(change), from: change.from, to: change.to }))
  const written = feedback.map((change) => ({ ...whose(change), to: change.to }))
  const fingerprint = createHash('sha256')
    .update(JSON.stringify([shown, written, faults]))
    .digest('hex')
  const sorted = faults.toSorted((a, b) => a.line - b.line)
  const preview = { of, scales, changes: shown, feedback: written, faults: sorted, fingerprint }
  return { preview, changes, feedback }
}

/**
 * Which feedback becomes another, by the texts that a file gives.
 * @param changes the marks that the same file changes: whoever is set apart by it has feedback of their own
 */
function feedbackOn(
  works: readonly Work[],
  of: 'students' | 'groups',
  texts: readonly { who: string; text: string }[],
  changes: readonly AskedChange[],
): { changes: Omit<AskedFeedback, 'task'>[]; unclear: number[] } {
  const wanted = new Map(texts.map(({ who, text }) => [Number(who), text]))
  const found: Omit<AskedFeedback, 'task'>[] = []
  const unclear: number[] = []
  for (const work of works) {
    const whole = work.mark?.feedback ?? ''
    if (of === 'groups') {
      const to = wanted.get(work.owner.group_id ?? 0)
      if (to !== undefined && to !== whole) found.push({ work, member: null, to })
      continue
    }
    const apart = new Map(work.apart.map(({ apart_id, feedback }) => [apart_id ?? 0, feedback]))
    for (const { member, to } of changes.filter((one) => one.work === work)) {
      if (member === null) continue
      if (to === null) apart.delete(member)
      else if (!apart.has(member)) apart.set(member, '')
    }
    const asked = feedbackFor({ members: work.members, whole, apart }, wanted)
    found.push(...asked.changes.map((one) => ({ ...one, work })))
    unclear.push(...asked.unclear)
  }
  return { changes: found, unclear }
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
