import { type MadeGroups, madeKey, type PlanContent, type SettleView } from '../../../contract/plans.ts'
import { rankWords } from '../../../contract/wishWords.ts'
import { namesSection } from '../../../core/pattern.ts'
import type { Plan, PlanInput } from '../../../core/plan/types.ts'
import type { Choices } from './input.ts'
import type { GroupAfter } from './MoveList.tsx'

/** What those who are left do not have. */
export function withoutWords({ settings: { wishes } }: Pick<PlanContent, 'settings'>): string {
  const round = wishes?.round ?? 1
  return round === 1 ? 'without a group' : `without a ${rankWords(round)} seat`
}

/** What a plan changes, in words. */
export function changesIn({ moves, left, after, settings }: PlanContent): string {
  const moved = moves.filter(({ from }) => from !== null).length
  const out = left.filter(({ from }) => from !== null).length
  return [
    `${moves.length - moved} get a ${(settings.wishes?.round ?? 1) > 1 ? 'further seat' : 'seat'}`,
    moved > 0 ? `${moved} move` : '',
    out > 0 ? `${out} lose theirs` : '',
    after.left > 0 ? `${after.left} are left ${withoutWords({ settings })}` : '',
  ]
    .filter(Boolean)
    .join(', ')
}

/** How many topics a plan adds: one for each name, or for each group where names have the section in them. */
export function madeCount({ settings: { made }, moves }: Pick<PlanContent, 'settings' | 'moves'>): number {
  if (made === null) return 0
  const keys = new Set(made.titles.flatMap((_, i) => [madeKey(i, null)]))
  const used = new Set(moves.map(({ to }) => to).filter((to) => to.startsWith('made ')))
  return !made.mixed && made.titles.some(namesSection) && [...used].some((to) => !keys.has(to))
    ? used.size
    : made.titles.length
}

/**
 * A name for a plan that follows from the choices.
 * @param round which seat of each person it gives
 */
export function titleFor({ method, pins, making }: Choices, round = 1): string {
  const how = { evenly: 'Evenly', lot: 'By lot', surname: 'By surname', wishes: 'By wishes' }[method]
  return [
    how,
    method === 'wishes' && round > 1 ? `the ${rankWords(round)} seat` : '',
    making ? 'into new groups' : '',
    pins.size > 0 ? 'changed by hand' : '',
  ]
    .filter(Boolean)
    .join(', ')
}

/** A plan as it is kept and applied. */
export function contentOf(
  plan: Plan,
  input: PlanInput,
  { making }: Choices,
  made: MadeGroups | null,
): PlanContent {
  const { method, lotNumber, floorsFirst, mayDissolve, release } = input
  const { moves, left, conflicts, dissolved, before, after, gap, evenChances, mix, wishes } = plan
  const settings = {
    method,
    lotNumber,
    floorsFirst,
    mayDissolve,
    release,
    made: making ? made : null,
    wishes: (method === 'wishes' && input.byWishes) || null,
  }
  return { settings, moves, left, conflicts, dissolved, before, after, gap, evenChances, mix, wishes }
}

/** Every group as a plan leaves it. */
export function groupsAfter(
  view: SettleView,
  content: PlanContent,
  input: PlanInput | null,
): Map<string, GroupAfter> {
  const gone = new Set([...content.moves, ...content.left].map(({ person, from }) => `${person} ${from}`))
  const stay = new Map<string, number>()
  for (const { person, group } of view.basis.seats) {
    if (!gone.has(`${person} ${group}`)) stay.set(group, (stay.get(group) ?? 0) + 1)
  }
  const planned = new Map<string, number>()
  for (const { to } of content.moves) planned.set(to, (planned.get(to) ?? 0) + 1)
  return new Map(
    (input?.groups ?? view.basis.groups).map(({ key, section, seats, blocked }) => [
      key,
      { key, section, seats, blocked, stay: stay.get(key) ?? 0, planned: planned.get(key) ?? 0 },
    ]),
  )
}

/** Whether seats were given by wishes, by a plan that stands. */
export const settledByWishes = ({ plans }: Pick<SettleView, 'plans'>): boolean =>
  plans.some(
    ({ appliedAt, undoneAt, content }) =>
      appliedAt !== null && undoneAt === null && content.settings.method === 'wishes',
  )
