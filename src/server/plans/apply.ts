import { madeKey, type PlanContent } from '../../contract/plans.ts'
import type { Instant } from '../../core/instant.ts'
import { inSection, namesSection } from '../../core/pattern.ts'
import type { SeatingChange } from '../../core/seating.ts'
import type { Course } from '../courses/store.ts'
import { ProblemError } from '../http/problem.ts'
import type { Person } from '../roster/store.ts'
import { type Remark, seatPeople } from '../seats/byHand.ts'
import type { Sheet } from '../sheets/store.ts'
import { addTopics, changeGroup } from '../sheets/topicEdits.ts'
import type { Stores } from '../stores.ts'
import { inputOfPlan } from '../wishes/settling.ts'
import { basisOf } from './basis.ts'

/** A plan that is to be applied. The caller holds the transaction. */
export interface Applying {
  sheet: Sheet
  course: Course
  /** Who applies it; null for a house rule. */
  person: Person | null
  code: string
  title: string
  content: PlanContent
  now: Instant
  stores: Stores
}

/** The changes of seats that a plan comes to. */
export function changesOf({ moves, left }: Pick<PlanContent, 'moves' | 'left'>): SeatingChange[] {
  return [
    ...moves.map(({ person, from, to }) => ({ person, from, to })),
    ...left.flatMap(({ person, from }) => (from === null ? [] : [{ person, from, to: null }])),
  ]
}

/**
 * Applies a plan as far as nothing: all of it or none. What was set by hand, or reported as a rule that cannot hold, is
 * taken as known; whatever else speaks against it means that the sheet has changed since.
 * @returns the plan as it was applied, with the groups that were made for it named by their codes
 * @throws ProblemError `plan-applied-already` or `plan-does-not-fit`
 */
export function applyPlan(applying: Applying): PlanContent {
  const { sheet, person, code, title, now, stores } = applying
  const { plans, ledger } = stores
  const kept = plans.byCode(sheet.id, code)
  if (kept?.applied_at) {
    throw new ProblemError('plan-applied-already', 'It was applied before. Look at Run, or make a new plan.')
  }
  // What people wish for and who sits where, before anything of it changes.
  const input =
    applying.content.settings.method === 'wishes'
      ? inputOfPlan(basisOf(sheet, now, stores), applying.content)
      : null
  const content = withMadeGroups(applying)
  const byHand = new Set(
    content.moves
      .filter(({ reason }) => reason.code === 'by-hand' || reason.code === 'extra')
      .map((move) => move.person),
  )
  const reported = new Set(content.conflicts.flatMap(({ people }) => people))
  const knows = (remark: Remark) =>
    byHand.has(remark.person) ||
    ((remark.code === 'kept-apart' || remark.code === 'not-together') &&
      [remark.person, ...remark.others].some((one) => reported.has(one)))
  const reasons = new Map(content.moves.map((move) => [move.person, move.reason]))
  try {
    seatPeople(
      {
        sheet,
        changes: changesOf(content),
        actorId: person?.id ?? null,
        now,
        stores,
        detailOf: (who) => ({ plan: code, reason: reasons.get(who) ?? null }),
      },
      knows,
    )
  } catch (error) {
    const stale = ['seating-not-possible', 'seating-needs-care']
    if (!(error instanceof ProblemError) || !stale.includes(error.code)) throw error
    throw new ProblemError(
      'plan-does-not-fit',
      'The sheet has changed since the plan was made. Nothing was applied; plan again, or change these by hand.',
      error.more,
    )
  }
  const text = JSON.stringify(content)
  const position = ledger.newest(sheet.id)
  const id =
    kept?.id ?? plans.add(sheet.id, { code, title, content: text, position }, now, person?.id ?? null)
  plans.applied(id, text, position, now)
  if (input) stores.wishes.addSettling(id, sheet.id, JSON.stringify(input))
  return content
}

/** Adds the groups that a plan was made with, and names them in it by their codes. */
function withMadeGroups({ sheet, course, person, content, now, stores }: Applying): PlanContent {
  const { made } = content.settings
  if (made === null || person === null) return content
  const edit = { sheet, course, person, now, stores }
  const mixed = made.mixed === (sheet.mixed === 1) ? null : made.mixed
  const known = stores.roster.sections(course.id)
  const sections = new Map(known.map(({ id, code }) => [id, code]))
  const codes = new Map<string, string>()
  const sizes = new Map<string, number>()
  for (const { to } of content.moves) sizes.set(to, (sizes.get(to) ?? 0) + 1)
  // Names with the section in them are topics of their own there, in the order of the sections.
  const bySection = !made.mixed && known.length > 0 && made.titles.some(namesSection)
  const wanted = bySection
    ? known.flatMap(({ id, code, name }) =>
        made.titles.flatMap((title, i) =>
          sizes.has(madeKey(i, code)) ? [{ i, only: id, title: inSection(title, name) }] : [],
        ),
      )
    : made.titles.map((title, i) => ({ i, only: null, title: inSection(title, null) }))
  const topics = addTopics(
    edit,
    wanted.map(({ title }) => ({ title, seats: made.seats, floor: null, mixed })),
  )
  topics.forEach((topic, n) => {
    const { i = 0, only = null } = wanted[n] ?? {}
    for (const group of stores.sheets.groups(sheet.id).filter(({ topic_id }) => topic_id === topic.id)) {
      const key = madeKey(i, group.section_id === null ? null : (sections.get(group.section_id) ?? null))
      const here = only === null || group.section_id === only
      if (here) codes.set(key, group.code)
      const people = here ? (sizes.get(key) ?? 0) : 0
      // Where a section needs fewer groups than another, it is not offered the rest.
      if (people === 0) changeGroup(edit, group, { offered: false })
      // Nobody chooses there: a smaller group has no free seat that nobody meant.
      else if (sheet.road === 'made' && people < made.seats) changeGroup(edit, group, { seats: people })
    }
  })
  return {
    ...content,
    settings: { ...content.settings, made: { ...made, topics: topics.map(({ code }) => code) } },
    moves: content.moves.map((move) => ({ ...move, to: codes.get(move.to) ?? move.to })),
  }
}
