import type { CourseView, SheetStub, WaitingItem } from './courses.ts'
import { plainRoute } from './route.ts'

/** A task as the course's page lists it: how much of it is in, and how much of that has a mark. */
export interface CourseTask {
  sheet: string
  sheetTitle: string
  code: string
  title: string
  /** When it is due, for those for whom it is due first, and null where it has no date. */
  dueAt: string | null
  /** False where nothing is handed in. */
  handsIn: boolean
  /** Works that are awaited, handed in (or took place), and not marked of those, among what the reader looks after. */
  awaited: number
  handedIn: number
  toMark: number
}

/** One course with everything in it that has to be done. */
export interface CoursePageView {
  now: string
  course: CourseView
  sheets: SheetStub[]
  waiting: WaitingItem[]
  /** Tasks that are due, or wait for marks, the next due first. */
  tasks: CourseTask[]
}

/** A course with its sheets, what waits there and what is due. */
export const coursePage = plainRoute<CoursePageView>()('GET', '/api/courses/:course/page', 'staff')

/** A time of a course that would be another moment if its clock time stays in another zone. */
export interface ZoneMove {
  sheet: string
  what: string
  at: string
  moved: string
}

/** What another zone would mean for the times that are still to come. */
export interface ZoneMoves {
  zone: string
  moves: ZoneMove[]
}

export const zoneMoves = plainRoute<ZoneMoves>()('GET', '/api/courses/:course/zones/:zone', 'instructor')
