import type { Logger } from 'pino'
import type { PlanContent } from '../../contract/plans.ts'
import type { Instant } from '../../core/instant.ts'
import { makePlan } from '../../core/plan/plan.ts'
import type { PlanInput } from '../../core/plan/types.ts'
import { sheetState } from '../../core/window.ts'
import type { Course } from '../courses/store.ts'
import type { Db } from '../db/open.ts'
import type { Mailer } from '../mail/mailer.ts'
import type { Sheet } from '../sheets/store.ts'
import { windowOf } from '../sheets/window.ts'
import type { Stores } from '../stores.ts'
import { applyPlan } from './apply.ts'
import { basisOf } from './basis.ts'
import { tellSeated } from './mail.ts'

export interface ClosingParts {
  db: Db
  log: Logger
  stores: Stores
  mailer: Mailer
  /** Called with each sheet on which something was written, after the commit. */
  touched: (sheetId: number) => void
}

/** How house rules plan: evenly, groups brought to their floor first, nobody moved who sits. */
const BY_RULE = {
  method: 'evenly',
  floorsFirst: true,
  mayDissolve: false,
  release: 'none',
} as const

/**
 * Does what the house rules want at the close and after: drafts or applies a plan once for each closing time, and
 * seats those who came onto the roster later. Found by query, so that a restart at that very moment misses nothing;
 * noted in the same transaction, so that nothing is done twice.
 */
export function createClosing({ db, log, stores, mailer, touched }: ClosingParts) {
  /** What was last looked at for late enrolments of a sheet, so that a plan is not made anew every few seconds. */
  const seen = new Map<number, string>()
  const closeOne = (sheet: Sheet, course: Course, now: Instant): void => {
    const closesAt = sheet.closes_at
    if (closesAt === null || stores.plans.closed(sheet.id, closesAt)) return
    db.transaction(() => {
      const content = planFor(sheet, now, stores)
      const { plans, ledger } = stores
      const code = `close-${sheet.code}-${closesAt.replace(/\D/g, '')}`
      const title = 'At the close'
      let planId: number | null = null
      if (content.moves.length > 0) {
        if (sheet.at_close === 'seat') {
          applyPlan({ sheet, course, person: null, code, title, content, now, stores })
          planId = plans.byCode(sheet.id, code)?.id ?? null
          tellSeated(sheet, course, content, stores, mailer)
        } else {
          const position = ledger.newest(sheet.id)
          planId = plans.add(sheet.id, { code, title, content: JSON.stringify(content), position }, now, null)
        }
      }
      plans.close(sheet.id, closesAt, now, planId)
      tellInstructors(sheet, course, content, stores, mailer)
    }).immediate()
    touched(sheet.id)
  }
  const seatLate = (sheet: Sheet, course: Course, now: Instant): void => {
    const late = lateOn(sheet, stores)
    const key = `${late.join()} ${stores.ledger.newest(sheet.id)}`
    if (late.length === 0 || seen.get(sheet.id) === key) return
    seen.set(sheet.id, key)
    const seated = db
      .transaction(() => {
        const content = planFor(sheet, now, stores, new Set(late))
        if (content.moves.length === 0) return false
        const code = `late-${sheet.code}-${now.replace(/\D/g, '')}`
        applyPlan({ sheet, course, person: null, code, title: 'Late enrolments', content, now, stores })
        tellSeated(sheet, course, content, stores, mailer)
        return true
      })
      .immediate()
    if (seated) touched(sheet.id)
  }
  return (now: Instant): void => {
    for (const course of stores.courses.all()) {
      for (const sheet of stores.sheets.ofCourse(course.id)) {
        if (sheetState(windowOf(sheet), now) !== 'closed') continue
        try {
          if (sheet.at_close !== 'leave') closeOne(sheet, course, now)
          if (sheet.late === 'seat') seatLate(sheet, course, now)
        } catch (error) {
          // One sheet whose rule cannot be carried out keeps no other waiting; it is tried again.
          log.error({ err: error, sheet: sheet.code }, 'the rule for a close could not be carried out')
        }
      }
    }
  }
}

/** Active students without a seat who came onto the roster after the close, by code. */
function lateOn(sheet: Sheet, { roster, seats }: Stores): string[] {
  const { closes_at: closesAt } = sheet
  if (closesAt === null) return []
  const since = new Set(roster.addedSince(sheet.course_id, closesAt))
  if (since.size === 0) return []
  const seated = new Set(seats.ofSheet(sheet.id).map(({ enrolment_id }) => enrolment_id))
  return roster
    .students(sheet.course_id)
    .filter(({ id }) => since.has(id) && !seated.has(id))
    .map(({ code }) => code)
}

/** The plan that a house rule makes: for all who are left, or for some of them. */
function planFor(sheet: Sheet, now: Instant, stores: Stores, only?: ReadonlySet<string>): PlanContent {
  const basis = basisOf(sheet, now, stores)
  const seated = new Set(basis.seats.map(({ person }) => person))
  const people = only ? basis.people.filter(({ key }) => only.has(key) || seated.has(key)) : basis.people
  const input: PlanInput = { ...basis, ...BY_RULE, people, lotNumber: sheet.lot_number, pins: [] }
  const { moves, left, conflicts, dissolved, before, after } = makePlan(input)
  const settings = { ...BY_RULE, lotNumber: sheet.lot_number, made: null }
  return { settings, moves, left, conflicts, dissolved, before, after }
}

function tellInstructors(
  sheet: Sheet,
  course: Course,
  { moves, after }: PlanContent,
  { roster }: Stores,
  mailer: Mailer,
): void {
  const left = after.left === 0 ? 'Nobody is left.' : `${after.left} could not be seated; Settle says why.`
  const done =
    moves.length === 0
      ? `The sheet “${sheet.title}” has closed. There was nobody to seat. ${left}`
      : sheet.at_close === 'seat'
        ? `The sheet “${sheet.title}” has closed and ${moves.length} were seated by plan. ${left} Settle shows the plan and can take it back.`
        : `The sheet “${sheet.title}” has closed. A plan for ${moves.length} waits for you under Settle; nothing was applied. ${left}`
  for (const { email, role, status } of roster.everybody(course.id)) {
    if (role !== 'instructor' || status !== 'active') continue
    mailer.send({ to: email, subject: `${course.course_code}: ${sheet.title} has closed`, text: done })
  }
}
