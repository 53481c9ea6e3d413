import { createHash } from 'node:crypto'
import type { MarksPreview } from '../../contract/marks.ts'
import { type PointsRead, readMarksCsv, type Scale } from '../../core/formats/marksCsv.ts'
import { short } from '../../core/formats/table.ts'
import { type Criterion, mostPoints, type Placements, totalOf, writtenPlacements } from '../../core/marks.ts'
import {
  changesFor,
  feedbackFor,
  type Given,
  type MarkChange,
  pointsFor,
  type StandingMarks,
} from '../../core/marksIn.ts'
import type { Course } from '../courses/store.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'
import { criteriaOf, type Work, workOn } from '../tasks/owners.ts'
import type { Task } from '../tasks/store.ts'
import type { Mark } from './store.ts'

/** A change of a mark that a file asks for, with all that is needed to make it: to points, or to placements. */
export interface AskedChange extends MarkChange<number, Given> {
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
      criteria: criteriaOf(task),
    })),
  }
  const { of, points, faults, scales, notes, ...read } = readMarksCsv(csv, known, scale)
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
    const criteria = criteriaOf(task)
    const marks = of === 'students' ? studentMarks(works, criteria) : groupMarks(works, criteria)
    const wanted = criteria.length === 0 ? pointsIn(given) : placementsIn(given, criteria, marks, fault)
    for (const who of new Set(given.map((one) => Number(one.who)))) {
      if (marks.has(who)) continue
      const whose = of === 'students' ? 'This student' : 'This group'
      const where =
        of === 'students'
          ? 'has no group for this task, so there is no work to mark'
          : 'is not asked for this task'
      fault(who, `${whose} ${where}.`)
    }
    const firstOf = firstWorkOf(works)
    /** What a file says of those whose line is of this work: of several groups the first counts. */
    const here = <Value>(all: ReadonlyMap<number, Value>, work: Work) =>
      of === 'groups' ? all : new Map([...all].filter(([id]) => firstOf.get(id) === work))
    const own = works.flatMap((work) =>
      changesIn(work, of, here(wanted, work), criteria).map(
        (change): AskedChange => ({ ...change, task, work }),
      ),
    )
    changes.push(...own)
    const saidOf = new Map(texts.map(({ who, text }) => [Number(who), text]))
    const written = feedbackOn(works, of, (work) => here(saidOf, work), own)
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
  const shown = changes.map((change) => ({
    ...whose(change),
    ...inPoints(change),
    again: change.to === null,
  }))
  const written = feedback.map((change) => ({ ...whose(change), to: change.to }))
  const fingerprint = createHash('sha256')
    .update(JSON.stringify([shown, written, faults]))
    .digest('hex')
  const sorted = faults.toSorted((a, b) => a.line - b.line)
  const preview = { of, scales, notes, changes: shown, feedback: written, faults: sorted, fingerprint }
  return { preview, changes, feedback }
}

/**
 * Which feedback becomes another, by the texts that a file gives for each work, by whose they are.
 * @param changes the marks that the same file changes: whoever is set apart by it has feedback of their own
 */
function feedbackOn(
  works: readonly Work[],
  of: 'students' | 'groups',
  saidFor: (work: Work) => ReadonlyMap<number, string>,
  changes: readonly AskedChange[],
): { changes: Omit<AskedFeedback, 'task'>[]; unclear: number[] } {
  const found: Omit<AskedFeedback, 'task'>[] = []
  const unclear: number[] = []
  for (const work of works) {
    const wanted = saidFor(work)
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

type Points = Pick<PointsRead, 'who' | 'criterion' | 'points'>

/** The work that counts for each student, by id: of several groups the first. */
function firstWorkOf(works: readonly Work[]): Map<number, Work> {
  return new Map(works.flatMap((work) => work.members.map((member) => [member, work] as const)).toReversed())
}

/** What counts for each student whose work there is, by id: points, or placements in writing. */
function studentMarks(works: readonly Work[], criteria: readonly Criterion[]): Map<number, Given | null> {
  return new Map(
    [...firstWorkOf(works)].map(([member, work]) => [member, pointsFor(standingOf(work, criteria), member)]),
  )
}

/** The mark of each group whose work there is, by id. */
function groupMarks(works: readonly Work[], criteria: readonly Criterion[]): Map<number, Given | null> {
  return new Map(works.map((work) => [work.owner.group_id ?? 0, standingOf(work, criteria).whole]))
}

const pointsIn = (given: readonly Points[]): Map<number, Given> =>
  new Map(given.map(({ who, points }) => [Number(who), points]))

/**
 * Where each is placed once the cells of a file are taken, in writing. A total in the file has to be the one that the
 * criteria come to, or the one that stood before they were changed.
 * @param marks what stands: a criterion with an empty cell stays as it is
 */
function placementsIn(
  given: readonly Points[],
  criteria: readonly Criterion[],
  marks: ReadonlyMap<number, Given | null>,
  fault: (who: number, message: string) => void,
): Map<number, Given> {
  const wanted = new Map<number, Given>()
  const totals = new Map<number, number>()
  for (const { who, criterion, points } of given) {
    const id = Number(who)
    if (criterion === null) totals.set(id, points)
    else {
      const placed = placementsOf(wanted.get(id) ?? marks.get(id) ?? null)
      wanted.set(id, writtenPlacements(criteria, { ...placed, [criterion]: points }) ?? '{}')
    }
  }
  for (const [id, total] of totals) {
    const to = wanted.get(id)
    const placements = placementsOf(to ?? marks.get(id) ?? null)
    const inAll = (given: Placements) => totalOf({ criteria }, { placements: given, points: null })
    const comes = inAll(placements)
    // A total that stands as it went out is only behind criteria that were changed.
    const untouched =
      to !== undefined && to !== marks.get(id) && total === inAll(placementsOf(marks.get(id) ?? null))
    if (!marks.has(id) || comes === total || untouched) continue
    wanted.delete(id)
    fault(
      id,
      to === undefined
        ? `This task is marked by criteria. Give the points of each, in columns such as “${criteria[0]?.title}” behind its title, or place the group at the desk.`
        : `Its criteria come to ${comes ?? 'no total yet'}, and the total says ${total}. Put one of them right.`,
    )
  }
  return wanted
}

const placementsOf = (given: Given | null): Placements =>
  typeof given === 'string' ? (JSON.parse(given) as Placements) : {}

/** What has to change of one owner's marks. */
function changesIn(
  work: Work,
  of: 'students' | 'groups',
  wanted: ReadonlyMap<number, Given>,
  criteria: readonly Criterion[],
): MarkChange<number, Given>[] {
  const standing = standingOf(work, criteria)
  if (of === 'students') return changesFor(standing, wanted)
  const to = wanted.get(work.owner.group_id ?? 0)
  const from = standing.whole
  return to === undefined || to === from ? [] : [{ owner: standing.owner, member: null, from, to }]
}

function standingOf(
  { owner, members, mark, apart }: Work,
  criteria: readonly Criterion[],
): StandingMarks<number, Given> {
  const given = (one: Mark | null): Given | null => {
    if (!one) return null
    return criteria.length === 0 ? one.points : writtenPlacements(criteria, JSON.parse(one.placements))
  }
  return {
    owner: owner.group_id ?? owner.student_id,
    members,
    whole: given(mark),
    apart: new Map(apart.map((one) => [one.apart_id ?? 0, given(one)])),
  }
}

/** A change in points: what it was and will be in all (null while something is open), and on which criteria. */
function inPoints({
  task,
  from,
  to,
}: AskedChange): Pick<MarksPreview['changes'][number], 'from' | 'to' | 'placed'> {
  const criteria = criteriaOf(task)
  const inAll = (given: Given | null) =>
    typeof given === 'number'
      ? given
      : totalOf({ criteria }, { placements: placementsOf(given), points: null })
  const [before, after] = [placementsOf(from), placementsOf(to)]
  const placed = criteria.flatMap(({ id, title }) =>
    before[id] === after[id] || to === null
      ? []
      : [{ title, from: before[id] ?? null, to: after[id] ?? null }],
  )
  return { from: inAll(from), to: inAll(to), placed }
}
