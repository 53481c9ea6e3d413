import type { Logger } from 'pino'
import type { PlanContent } from '../../contract/plans.ts'
import { rankWords } from '../../contract/wishWords.ts'
import { type Instant, MINUTE, msOf } from '../../core/instant.ts'
import type { Plan, PlanInput } from '../../core/plan/types.ts'
import { sheetState } from '../../core/window.ts'
import { USUAL_ORDER } from '../../core/wishes/rules.ts'
import type { Course } from '../courses/store.ts'
import { ruleTroubleMail } from '../mail/letters.ts'
import type { Mailer } from '../mail/mailer.ts'
import type { Sheet } from '../sheets/store.ts'
import { windowOf } from '../sheets/window.ts'
import type { Stores } from '../stores.ts'
import type { UnitOfWork } from '../unitOfWork.ts'
import { applyPlan } from './apply.ts'
import { basisOf } from './basis.ts'
import { instructorsOf, tellInstructors, whoIsLeft, whyOf } from './closingWords.ts'
import { LATE, lateOn } from './late.ts'
import { withRoomFor } from './lateRoom.ts'
import { tellSeated } from './mail.ts'
import type { Planner } from './planner.ts'
import type { TroubleRow } from './store.ts'

/** What of the planner the rules for the close ask for. */
export type ClosingPlanner = Pick<Planner, 'plan' | 'close'>

export interface ClosingParts {
  log: Logger
  stores: Stores
  unit: UnitOfWork
  mailer: Mailer
  planner: ClosingPlanner
}

/** Carries out the house rules for the close and for late enrolments. */
export interface Closing {
  /** Begins whatever is due and not under way; settles when that is done. It never rejects. */
  carryOut: (now: Instant) => Promise<void>
  /** Ends what is under way without a trace; it is found again after a start. */
  stop: () => Promise<void>
}

/** How house rules plan: evenly, groups brought to their floor first, nobody moved who sits. */
const BY_RULE = {
  method: 'evenly',
  floorsFirst: true,
  mayDissolve: false,
  release: 'none',
} as const

/** A rule that failed is tried again when the sheet has changed, and after this long. */
const PAUSE = 5 * MINUTE

type Rule = TroubleRow['rule']

/** A rule that is due on a sheet. */
interface Due {
  rule: Rule
  sheet: Sheet
  course: Course
  closesAt: Instant
  now: Instant
}

/**
 * Does what the house rules want at the close and after: drafts or applies a plan once for each closing time, and
 * seats those who came onto the roster later. Found by query, so that a restart at that very moment misses nothing.
 * The plan is made beside the server's thread; it is carried out and noted in one transaction, if everything that it
 * was made from still stands, so that nothing is done twice. What cannot be carried out is noted with why, and told
 * to the instructors once.
 */
export function createClosing({ log, stores, unit, mailer, planner }: ClosingParts): Closing {
  const { plans, ledger, sheets } = stores
  /** What is under way, and what was tried in vain: how the sheet stood, and when. */
  const underWay = new Map<string, Promise<void>>()
  const inVain = new Map<string, { mark: string; at: Instant }>()
  let stopped = false

  const isDue = ({ rule, sheet, closesAt, now }: Due): boolean => {
    const state = sheetState(windowOf(sheet), now)
    if (state === 'open' && (rule === 'close' || sheet.late_from !== 'opening')) return false
    if ((state !== 'closed' && state !== 'open') || turnOf(sheet) !== closesAt) return false
    if (rule === 'close') return sheet.at_close !== 'leave' && !plans.closed(sheet.id, closesAt)
    return sheet.late === 'seat' && lateOn(sheet, stores).length > 0
  }
  /** Which round the close has come to: the one after those that it has carried out. */
  const roundOf = (sheet: Sheet, closesAt: Instant): number => {
    for (let round = 1; ; round++)
      if (round === sheet.seats_each || !plans.byCode(sheet.id, closeCode(sheet, closesAt, round)))
        return round
  }
  const inputFor = ({ rule, sheet, closesAt, now }: Due): PlanInput =>
    rule === 'late'
      ? inputOf(sheet, now, stores, { only: new Set(lateOn(sheet, stores)) })
      : inputOf(sheet, now, stores, { round: roundOf(sheet, closesAt) })

  /** How things stand for a rule: another mark means that it may go otherwise now. */
  const markOf = ({ rule, sheet }: Due): string =>
    `${ledger.newest(sheet.id)} ${rule === 'late' ? lateOn(sheet, stores) : ''}`
  /** Carries a plan out; false when the sheet has changed since the plan was begun. */
  const write = (due: Due, input: PlanInput, plan: Plan): boolean =>
    unit.onSheet(
      due.sheet,
      due.now,
      (sheet) => {
        const fresh = { ...due, sheet }
        if (sheet.deleted_at !== null || !isDue(fresh)) return true
        if (JSON.stringify(inputFor(fresh)) !== JSON.stringify(input)) return false
        if (due.rule === 'close') writeClose(fresh, plan)
        else writeLate(fresh, plan)
        return true
      },
      'allowed',
    )
  const writeClose = ({ sheet, course, closesAt, now }: Due, plan: Plan): void => {
    const content = contentOf(sheet, plan)
    const round = content.settings.wishes?.round ?? 1
    const code = closeCode(sheet, closesAt, round)
    const title = round === 1 ? 'At the close' : `At the close, the ${rankWords(round)} seat`
    let planId: number | null = null
    if (content.moves.length > 0) {
      if (sheet.at_close === 'seat') {
        applyPlan({ sheet, course, person: null, code, title, content, now, stores })
        planId = plans.byCode(sheet.id, code)?.id ?? null
        tellSeated(sheet, course, content.moves, '', null, stores, mailer)
      } else {
        const position = ledger.newest(sheet.id)
        planId = plans.add(sheet.id, { code, title, content: JSON.stringify(content), position }, now, null)
      }
    }
    // Where everybody may hold several seats that are given by wishes, each round is a plan of its own.
    if (planId !== null && sheet.at_close === 'seat' && byWishes(sheet) && round < sheet.seats_each) return
    plans.close(sheet.id, closesAt, now, planId)
    plans.endTrouble(sheet.id, 'close')
    const before = Array.from({ length: round - 1 }, (_, i) =>
      plans.byCode(sheet.id, closeCode(sheet, closesAt, i + 1)),
    )
    tellInstructors(sheet, course, content, before, stores, mailer)
  }
  const writeLate = (due: Due, plan: Plan): void => {
    const { sheet, course, now } = due
    const content = withRoomFor(contentOf(sheet, plan), { sheet, course, now, stores })
    if (content.moves.length > 0) {
      const code = `${LATE}${sheet.code}-${now.replace(/\D/g, '')}-${ledger.newest(sheet.id)}`
      applyPlan({ sheet, course, person: null, code, title: 'Late enrolments', content, now, stores })
      tellSeated(sheet, course, content.moves, '', null, stores, mailer)
    }
    if (content.left.length === 0) plans.endTrouble(sheet.id, 'late')
    else noteTrouble(due, whoIsLeft(content, sheet, stores))
  }

  /** Notes that a rule could not be carried out; told by mail when that is news. The caller holds the transaction. */
  const noteTrouble = ({ rule, sheet, course, closesAt, now }: Due, why: string): void => {
    if (!plans.addTrouble(sheet.id, rule, closesAt, why, now)) return
    for (const email of instructorsOf(course, stores)) {
      mailer.send(ruleTroubleMail(email, { course: course.course_code, sheet: sheet.title, rule, why }))
    }
  }

  const carryOutOne = async (due: Due, key: string): Promise<void> => {
    const mark = markOf(due)
    try {
      const input = inputFor(due)
      const plan = await planner.plan(input)
      if (stopped) return
      if (!write(due, input, plan)) return
      // Those for whom there is no room are looked for again when something has changed.
      // A close that is still due has a further round to give.
      if (due.rule === 'late' && isDue({ ...due, sheet: sheets.byId(due.sheet.id) ?? due.sheet }))
        inVain.set(key, { mark: markOf(due), at: due.now })
      else inVain.delete(key)
    } catch (error) {
      if (stopped) return
      inVain.set(key, { mark, at: due.now })
      log.error(
        { err: error, sheet: due.sheet.code, rule: due.rule },
        'a house rule could not be carried out',
      )
      unit.onSheet(due.sheet, due.now, () => noteTrouble(due, whyOf(error)), 'allowed')
    }
  }

  const dueNow = (now: Instant): Due[] =>
    [...sheets.closedWithRules(now), ...sheets.openToLate(now)].flatMap((sheet) => {
      const course = stores.courses.byId(sheet.course_id)
      const closesAt = turnOf(sheet)
      if (closesAt === null || !course) return []
      const rules: readonly Rule[] = ['close', 'late']
      return rules.map((rule) => ({ rule, sheet, course, closesAt, now })).filter(isDue)
    })
  /** Begins what is due, and adds all that is under way of it. */
  const begin = (now: Instant, begun: Promise<void>[]): void => {
    for (const due of stopped ? [] : dueNow(now)) {
      const key = `${due.sheet.id} ${due.rule}`
      const before = inVain.get(key)
      const waits = before?.mark === markOf(due) && msOf(now) - msOf(before.at) < PAUSE
      const own = waits ? undefined : (underWay.get(key) ?? carryOutOne(due, key))
      if (!own) continue
      underWay.set(key, own)
      begun.push(own.finally(() => underWay.delete(key)))
    }
  }
  return {
    carryOut: async (now) => {
      const begun: Promise<void>[] = []
      try {
        begin(now, begun)
      } catch (error) {
        // What was begun before goes on; the rest is found again by the next look.
        log.error({ err: error }, 'what is due by house rules could not be read')
      }
      const ended = await Promise.allSettled(begun)
      for (const one of ended)
        if (one.status === 'rejected') log.error({ err: one.reason }, 'a house rule could not be noted')
    },
    stop: async () => {
      stopped = true
      await planner.close()
      await Promise.allSettled(underWay.values())
    },
  }
}

/** Whether seats of a sheet are given by wishes. */
const byWishes = ({ road }: Sheet) => road === 'wished'

/** The code of the plan that a close made, for the first seat of each person or a further one. */
const closeCode = ({ code }: Sheet, closesAt: Instant, round: number) =>
  `close-${code}-${closesAt.replace(/\D/g, '')}${round === 1 ? '' : `-${round}`}`

/** Which turn of a sheet its rules are carried out for: its close, or its opening where it never closes. */
const turnOf = ({ closes_at, opens_at }: Sheet): Instant | null => closes_at ?? opens_at

/** What a house rule plans from: for all who are left, or for some of them. */
function inputOf(
  sheet: Sheet,
  now: Instant,
  stores: Stores,
  { only, round = 1 }: { only?: ReadonlySet<string>; round?: number },
): PlanInput {
  const basis = basisOf(sheet, now, stores)
  const seated = new Set(basis.seats.map(({ person }) => person))
  const people = only ? basis.people.filter(({ key }) => only.has(key) || seated.has(key)) : basis.people
  // Whoever comes late has ranked nothing: what is left is theirs, evenly.
  const wishes =
    byWishes(sheet) && !only
      ? { method: 'wishes' as const, byWishes: { aim: sheet.aim, order: [...USUAL_ORDER], round } }
      : {}
  return { ...basis, ...BY_RULE, ...wishes, people, lotNumber: sheet.lot_number, pins: [] }
}

function contentOf(sheet: Sheet, plan: Plan): PlanContent {
  const { moves, left, conflicts, dissolved, before, after, gap, evenChances, mix, wishes } = plan
  const how = wishes
    ? {
        method: 'wishes' as const,
        wishes: { aim: wishes.aim, order: wishes.order, round: wishes.round ?? 1 },
      }
    : { wishes: null }
  const settings = { ...BY_RULE, ...how, lotNumber: sheet.lot_number, made: null }
  return { settings, moves, left, conflicts, dissolved, before, after, gap, evenChances, mix, wishes }
}
