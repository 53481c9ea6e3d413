import type { PlanContent } from '../../contract/plans.ts'
import { boundWords, leftWords } from '../../contract/planWords.ts'
import type { Course } from '../courses/store.ts'
import { ProblemError } from '../http/problem.ts'
import { closedMail } from '../mail/letters.ts'
import type { Mailer } from '../mail/mailer.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'
import { boundWithRoom } from './boundWithRoom.ts'
import type { KeptPlanRow } from './store.ts'

// What instructors are told of the rules for the close and for late enrolments.

/** Why a rule failed, in a sentence for instructors. */
export function whyOf(error: unknown): string {
  if (error instanceof ProblemError) {
    const concerns = error.more.concerns ?? []
    return [error.detail, ...concerns.slice(0, 3).map(({ words }) => words)].join(' ')
  }
  return error instanceof Error ? error.message : String(error)
}

/** Who is left by a rule and why, in sentences for instructors. */
export function whoIsLeft({ left }: PlanContent, sheet: Sheet, stores: Stores): string {
  const { audience } = stores
  const names = new Map(audience.students(sheet).map(({ code, name }) => [code, name]))
  const free = boundWithRoom(sheet, stores)
  const noRoom = left.some(({ reason }) => reason.code === 'no-room')
  const handedIn = noRoom && free > 0 ? [boundWords(free)] : []
  const said = left.slice(0, 5).map(({ person, reason }) => `${names.get(person)}: ${leftWords(reason)}.`)
  const more = left.length > 5 ? [`And ${left.length - 5} more.`] : []
  return [...said, ...more, ...handedIn].join(' ')
}

/** Addresses of a course’s active instructors. */
export function instructorsOf(course: Course, { roster }: Stores): string[] {
  return roster
    .everybody(course.id)
    .flatMap(({ email, role, status }) => (role === 'instructor' && status === 'active' ? [email] : []))
}

/** Tells instructors that a sheet has closed, and what its rule did in all its rounds. */
export function tellInstructors(
  sheet: Sheet,
  course: Course,
  { moves, after, gap }: PlanContent,
  before: readonly (KeptPlanRow | undefined)[],
  stores: Stores,
  mailer: Mailer,
): void {
  const earlier = before.flatMap((row) => (row ? [JSON.parse(row.content) as PlanContent] : []))
  const closing = {
    course: course.course_code,
    sheet: sheet.title,
    moves: [moves, ...earlier.map((one) => one.moves)].reduce((sum, { length }) => sum + length, 0),
    applied: sheet.at_close === 'seat',
    left: (earlier[0]?.after ?? after).left,
    better: [gap, ...earlier.map((one) => one.gap)].some((one) => one !== null),
  }
  for (const email of instructorsOf(course, stores)) mailer.send(closedMail(email, closing))
}
