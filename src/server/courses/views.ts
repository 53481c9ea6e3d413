import type { CoursePageView, CourseTask } from '../../contract/coursePage.ts'
import type { CoursesView, CourseView, SheetStub, SmallGroup, WaitingItem } from '../../contract/courses.ts'
import { takesPeople } from '../../core/groupState.ts'
import type { Instant } from '../../core/instant.ts'
import { isUnderFloor } from '../../core/limit.ts'
import { seatsCheck, seatsShort } from '../../core/supply.ts'
import { justOpened, type SheetState, sheetState } from '../../core/window.ts'
import type { Enrolment, Section } from '../roster/store.ts'
import type { Sheet } from '../sheets/store.ts'
import { windowOf } from '../sheets/window.ts'
import type { Stores } from '../stores.ts'
import { createReads, workOn } from '../tasks/owners.ts'
import { rankedOn } from '../wishes/lists.ts'
import { namesOrder } from './namesOrder.ts'
import { smallGroups } from './smallGroups.ts'
import type { Course } from './store.ts'

/** A course as its staff see it. */
export function courseView(
  course: Course,
  role: CourseView['role'],
  { roster }: Pick<Stores, 'roster'>,
): CourseView {
  const students = roster.students(course.id)
  return {
    code: course.code,
    courseCode: course.course_code,
    title: course.title,
    zone: course.zone,
    sections: sectionViews(roster.sections(course.id), students),
    students: students.length,
    role,
    tutorsMay: course.tutors_may,
    tutorsMark: course.tutors_mark === 1,
    names: namesOrder(course),
    archivedAt: course.archived_at,
  }
}

/** Sections with the number of students in each. */
export function sectionViews(
  sections: readonly Section[],
  students: readonly Enrolment[],
): CourseView['sections'] {
  return sections.map(({ id, code, name }) => ({
    code,
    name,
    students: students.filter(({ section_id }) => section_id === id).length,
  }))
}

/** All courses that a person looks after, with their sheets and what waits there. */
export function coursesView(personId: number, now: Instant, stores: Stores): CoursesView {
  const mine = stores.roster
    .enrolmentsOfPerson(personId)
    .filter(({ role, status }) => role !== 'student' && status === 'active')
  const courses: CoursesView['courses'] = []
  const waiting: WaitingItem[] = []
  for (const { course_id, role } of mine) {
    const course = stores.courses.byId(course_id)
    if (!course) continue
    const { sheets, waiting: here, course: view } = withSheets(course, role, now, stores)
    courses.push({ ...view, sheets })
    waiting.push(...here)
  }
  return { now, courses, waiting }
}

/** One course, with its sheets, what waits there, and the tasks that are due. */
export function coursePageView(
  course: Course,
  reader: Enrolment,
  now: Instant,
  stores: Stores,
): CoursePageView {
  const tasks = stores.sheets.ofCourse(course.id).flatMap((sheet) => tasksDue(sheet, reader, now, stores))
  return {
    now,
    ...withSheets(course, reader.role, now, stores),
    tasks: tasks.sort((a, b) => (a.dueAt ?? '9').localeCompare(b.dueAt ?? '9')),
  }
}

function withSheets(
  course: Course,
  role: CourseView['role'],
  now: Instant,
  stores: Stores,
): Pick<CoursePageView, 'course' | 'sheets' | 'waiting'> {
  const view = courseView(course, role, stores)
  const states = stores.sheets
    .ofCourse(course.id)
    .map((sheet) => sheetStanding(sheet, view, now, stores))
    .sort((a, b) => ORDER.indexOf(a.stub.state) - ORDER.indexOf(b.stub.state))
  const waiting = course.archived_at === null ? waitingIn(view, states, now) : []
  return { course: view, sheets: states.map(({ stub }) => stub), waiting }
}

/** Tasks of a sheet that are due or wait for marks; those of an archived sheet do neither. */
function tasksDue(sheet: Sheet, reader: Enrolment, now: Instant, stores: Stores): CourseTask[] {
  if (sheet.archived_at !== null) return []
  const reads = createReads(reader, sheet, stores)
  return stores.tasks.ofSheet(sheet.id).flatMap((task) => {
    if (task.out_at === null) return []
    const work = workOn(task, sheet, stores).filter(({ owner }) => reads(owner))
    // What takes place is there to be marked once its moment has passed, as what was handed in is.
    const handed = work.filter(({ standing, task: { hands_in, due_at } }) =>
      hands_in === 1 ? standing !== null : due_at !== null && due_at <= now,
    )
    const toMark = handed.filter(({ mark }) => mark === null).length
    const ahead = work.filter(({ task: { due_at } }) => due_at === null || due_at > now)
    const open = ahead.length > 0
    if (work.length === 0 || (!open && toMark === 0)) return []
    return [
      {
        sheet: sheet.code,
        sheetTitle: sheet.title,
        code: task.code,
        title: task.title,
        // Where groups have dates of their own, the next one.
        dueAt: ahead.map(({ task }) => task.due_at ?? '').toSorted()[0] || task.due_at,
        handsIn: task.hands_in === 1,
        awaited: work.length,
        handedIn: handed.length,
        toMark,
      },
    ]
  })
}

/** Sheets stand in this order: what runs first, what is over last. */
const ORDER: readonly SheetState[] = ['open', 'scheduled', 'draft', 'closed', 'archived']

interface Standing {
  stub: SheetStub
  underFloor: { count: number; sections: string[]; small: SmallGroup[] }
  shortSections: string[]
  /** Moves of a plan that a house rule drafted and nobody has applied or dropped. */
  drafted: number
  /** Rules that could not be carried out, with why. */
  troubles: string[]
}

function sheetStanding(sheet: Sheet, course: CourseView, now: Instant, stores: Stores): Standing {
  const { sheets, seats, roster, plans } = stores
  const groups = sheets.groups(sheet.id).filter(takesPeople)
  const counts = seats.counts(sheet.id)
  const students = stores.audience.students(sheet)
  const seated = new Set(seats.ofSheet(sheet.id).map(({ enrolment_id }) => enrolment_id))
  const names = new Map(roster.sections(sheet.course_id).map(({ id, name }) => [id, name]))
  const keys = course.sections.length > 0 ? [...names.keys()] : [null]
  const supply = seatsCheck({
    sections: keys.map((key) => ({
      key: key === null ? null : String(key),
      students:
        key === null ? students.length : students.filter(({ section_id }) => section_id === key).length,
    })),
    groups: groups.map(({ section_id, seats, floor }) => ({
      section: section_id === null ? null : String(section_id),
      seats,
      floor,
    })),
    everybody: students.length,
  })
  const low = groups.filter(({ id, floor }) => isUnderFloor(counts.get(id) ?? 0, floor))
  const nameOf = (id: number | null) => (id === null ? null : (names.get(id) ?? null))
  const distinct = (ids: (number | null)[]) => {
    const named = [...new Set(ids.map(nameOf))].filter((name) => name !== null)
    return named.length === names.size ? [] : named
  }
  return {
    stub: {
      code: sheet.code,
      title: sheet.title,
      road: sheet.road,
      state: sheetState(windowOf(sheet), now),
      opensAt: sheet.opens_at,
      closesAt: sheet.closes_at,
      topics: new Set(groups.map(({ topic_id }) => topic_id)).size,
      groups: groups.map(({ id, seats }) => ({ seats, taken: counts.get(id) ?? 0 })),
      students: students.length,
      noGroup: students.filter(({ id }) => !seated.has(id)).length,
      notRanked:
        sheet.road === 'wished' && sheetState(windowOf(sheet), now) === 'open'
          ? students.length - rankedOn(sheet, stores).size
          : null,
      short: seatsShort(supply),
      spare: finite(supply.reduce((sum, { spare }) => sum + Math.max(0, spare), 0)),
    },
    underFloor: {
      count: low.length,
      sections: distinct(low.map(({ section_id }) => section_id)),
      small: course.role === 'instructor' ? smallGroups(sheet, low, counts, now, stores) : [],
    },
    drafted: plans.drafted(sheet.id),
    troubles: plans.troubles(sheet.id).map(({ why }) => why),
    shortSections: distinct(
      supply.filter(({ spare }) => spare < 0).map(({ key }) => (key === null ? null : Number(key))),
    ),
  }
}

function waitingIn(course: CourseView, states: readonly Standing[], now: Instant): WaitingItem[] {
  const base = {
    course: course.code,
    sheet: null,
    sheetTitle: null,
    state: null,
    sections: [],
    why: null,
    small: [],
  }
  if (course.students === 0) return [{ ...base, kind: 'no-roster', count: 0 }]
  if (states.length === 0) return [{ ...base, kind: 'no-sheet', count: 0 }]
  return states.flatMap(({ stub, underFloor, shortSections, drafted, troubles }) => {
    const item = (kind: WaitingItem['kind'], count: number, sections: string[] = []): WaitingItem[] =>
      count === 0
        ? []
        : [
            {
              kind,
              count,
              course: course.code,
              sheet: stub.code,
              sheetTitle: stub.title,
              state: stub.state,
              sections,
              why: null,
              small: kind === 'under-floor' ? underFloor.small : [],
            },
          ]
    switch (stub.state) {
      case 'draft':
      case 'scheduled':
        return stub.topics > 0 ? item('seats-short', stub.short, shortSections) : []
      case 'open':
        return [
          ...item('seats-short', stub.short, shortSections),
          // Nobody is to blame yet for a group that waits for its second member.
          ...(justOpened(stub, now) && underFloor.small.length === 0
            ? []
            : item('under-floor', underFloor.count, underFloor.sections)),
        ]
      case 'closed':
        return [
          ...troubles.flatMap((why) => item('rule-failed', 1).map((one) => ({ ...one, why }))),
          ...item('plan-drafted', drafted),
          ...item('no-group', stub.noGroup),
          ...item('under-floor', underFloor.count, underFloor.sections),
        ]
      default:
        return []
    }
  })
}

/** A number as it travels: JSON knows no infinity, so endless is null. */
function finite(n: number): number | null {
  return Number.isFinite(n) ? n : null
}
