import { array, boolean, mixed, object, string } from 'yup'
import { LIMITS } from '../core/limits.ts'
import { isLanguage, type NameOrder, PARTICLES, type Particles } from '../core/names.ts'
import type { MendingKind } from '../core/plan/mend.ts'
import type { Role } from '../core/roster.ts'
import type { Road } from '../core/rules.ts'
import type { SheetState } from '../core/window.ts'
import { isZone } from '../core/zone.ts'
import type { Restored } from './restored.ts'
import { plainRoute, route, whileArchived } from './route.ts'

export interface SectionView {
  code: string
  name: string
  /** Active students in it. */
  students: number
}

/** What tutors may do: see their groups, or also seat people in them. */
export type TutorsMay = 'see' | 'seat'

export interface CourseView {
  code: string
  /** What the school calls the course: `FERM 210`. */
  courseCode: string
  title: string
  zone: string
  sections: SectionView[]
  /** Active students, sections or not. */
  students: number
  role: Role
  tutorsMay: TutorsMay
  /** Whether tutors mark the groups they look after. */
  tutorsMark: boolean
  /** How names are put in order. */
  names: NameOrder
  /** Since when it is put away; null as long as it is not. */
  archivedAt: string | null
}

/** A sheet as its stub shows it. */
export interface SheetStub {
  road: Road
  code: string
  title: string
  state: SheetState
  opensAt: string | null
  closesAt: string | null
  topics: number
  /** Every group by its limit and the seats taken. */
  groups: { seats: number; taken: number }[]
  /** Active students for whom it is, and those of them without a group. */
  students: number
  noGroup: number
  /** While topics are ranked: students whose order does not count yet; null else. */
  notRanked: number | null
  /** Seats missing in sections that are short, and seats left over in the others; null without limit. */
  short: number
  spare: number | null
}

/** A group that fell under its floor when somebody left the course, and what can be done about it. */
export interface SmallGroup {
  group: string
  title: string
  size: number
  floor: number
  /** Its own floor, where it has one; null where it follows its topic. */
  ownFloor: number | null
  leavers: string[]
  can: MendingKind[]
}

/** Something that waits for an instructor, with the sheet it concerns. */
export interface WaitingItem {
  kind: 'rule-failed' | 'plan-drafted' | 'under-floor' | 'no-group' | 'seats-short' | 'no-sheet' | 'no-roster'
  count: number
  /** Why, for a rule that could not be carried out; null else. */
  why: string | null
  course: string
  sheet: string | null
  sheetTitle: string | null
  state: SheetState | null
  /** Sections concerned, by name; none when it is all of them. */
  sections: string[]
  /** Of groups under the floor, those that somebody left. */
  small: SmallGroup[]
}

export interface CoursesView {
  now: string
  courses: (CourseView & { sheets: SheetStub[] })[]
  waiting: WaitingItem[]
}

const required = (what: string, most: number) =>
  string().trim().required(`${what} is missing.`).max(most, `${what} holds ${most} characters at most.`)

const zone = string().test(
  'zone',
  'No such time zone is known here. Choose one from the list.',
  (value) => value === undefined || isZone(value),
)

export const courseBody = object({
  courseCode: required('The course code', 20),
  title: required('The title', LIMITS.title),
  zone: zone.required('The time zone is missing.'),
  sections: array(required('A section’s name', LIMITS.sectionName))
    .required()
    .max(LIMITS.sections, `A course holds ${LIMITS.sections} sections at most.`),
})

/** Courses where the caller is tutor or instructor, with their sheets and what waits there. */
export const courses = plainRoute<CoursesView>()('GET', '/api/courses', 'signed-in')
export const addCourse = route<CourseView>()('POST', '/api/courses', 'course-adder', courseBody)
export const course = plainRoute<CourseView>()('GET', '/api/courses/:course', 'staff')

const renamed = (what: string, most: number) =>
  string().trim().min(1, `${what} is missing.`).max(most, `${what} holds ${most} characters at most.`)

export const courseChanges = object({
  courseCode: renamed('The course code', 20),
  title: renamed('The title', LIMITS.title),
  zone,
  /** With `zone`: whether times to come stay the same on the clock, or the same moments. */
  zoneKeeps: mixed<'clock' | 'moment'>().oneOf(['clock', 'moment'], 'Clock times stay, or moments do.'),
  tutorsMay: mixed<TutorsMay>().oneOf(['see', 'seat'], 'Tutors may see, or seat people too.'),
  tutorsMark: boolean(),
  nameLanguage: string()
    .max(35, 'No such language is known here. Choose one from the list.')
    .test('language', 'No such language is known here. Choose one from the list.', (value) =>
      value === undefined ? true : isLanguage(value),
    ),
  nameParticles: mixed<Particles>().oneOf([...PARTICLES], 'Particles count, or are passed over.'),
})
/** Changes the course: code, title, zone, what its tutors may do, how names are put in order. */
export const changeCourse = route<CourseView>()('PATCH', '/api/courses/:course', 'instructor', courseChanges)

export const sectionBody = object({ name: required('The section’s name', LIMITS.sectionName) })
/**
 * Adds a section. Topics that have a group in each section get one in it. In a course that had none, the groups that
 * there are stay as they are, for all sections.
 */
export const addSection = route<CourseView>()(
  'POST',
  '/api/courses/:course/sections',
  'instructor',
  sectionBody,
)
export const renameSection = route<CourseView>()(
  'PATCH',
  '/api/courses/:course/sections/:section',
  'instructor',
  sectionBody,
)

export const removeSectionBody = object({
  /** The section that takes its people, by its code; null leaves them without one. */
  into: string().nullable().defined('Say where its people go.'),
  confirmed: boolean(),
})
/** Takes a section off the course. People and seats that it concerns are asked about first. */
export const removeSection = route<CourseView>()(
  'POST',
  '/api/courses/:course/sections/:section/remove',
  'instructor',
  removeSectionBody,
)
/** Puts a removed section back, with its people and their seats as far as they can return. */
export const restoreSection = plainRoute<CourseView & { restored: Restored }>()(
  'POST',
  '/api/courses/:course/sections/:section/restore',
  'instructor',
)

export const archiveCourseBody = object({ archived: boolean().required() })
/** Puts a course away with its sheets, which can be read then and not changed, or takes it out again. */
export const archiveCourse = whileArchived(
  route<CourseView>()('POST', '/api/courses/:course/archive', 'instructor', archiveCourseBody),
)
/** Deletes a course for everybody. It can be brought back. */
export const deleteCourse = whileArchived(
  plainRoute<null>()('POST', '/api/courses/:course/delete', 'instructor'),
)
/** Brings back a deleted course of which the caller is an instructor. */
export const restoreCourse = plainRoute<CourseView>()('POST', '/api/courses-gone/:gone/restore', 'signed-in')
