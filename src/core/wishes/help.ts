import { NO_LIMIT } from '../limit.ts'
import { planByWishes } from '../plan/byWishes.ts'
import type { Plan, PlanGroup, PlanInput } from '../plan/types.ts'
import { rankOf } from './rules.ts'

/** What could be done at one group so that wishes come true: a seat more, a group more, one fewer to work, all sections. */
export type HelpKind = 'seat' | 'group' | 'floor' | 'course'

/** What one of these would do. */
export interface Help {
  kind: HelpKind
  /** How many would come to a better wish, to a worse one. */
  better: number
  worse: number
  /** How many groups would be below their floor that are not now; fewer where below 0. */
  under: number
}

/** Steps that each may take. */
const STEPS = 20_000_000

/**
 * What would help at a group, the best first: each is tried by planning again.
 * @param input a plan by wishes for the sheet as it stands
 */
export function helpFor(input: PlanInput, group: string, steps = STEPS): Help[] {
  const at = input.groups.find(({ key }) => key === group)
  if (!at) return []
  const before = planByWishes(input, { steps })
  const was = ranksIn(input, before)
  return variants(input, at)
    .map(({ kind, changed }): Help => {
      const after = planByWishes(changed, { steps })
      const now = ranksIn(changed, after)
      const count = (is: (a: number, b: number) => boolean) =>
        input.people.filter(({ key }) => is(now.get(key) ?? NOWHERE, was.get(key) ?? NOWHERE)).length
      return {
        kind,
        better: count((a, b) => a < b),
        worse: count((a, b) => a > b),
        under: after.after.under - before.after.under,
      }
    })
    .sort((a, b) => b.better - b.worse - (a.better - a.worse) || a.under - b.under)
}

/** A seat that is none of one’s wishes, and no seat, as ranks; who ranked nothing is as well off with any seat. */
const NONE = 1_000
const NOWHERE = 2_000

/** Which wish everybody comes to. */
function ranksIn(input: PlanInput, { moves, left }: Plan): Map<string, number> {
  const lists = new Map(input.wished?.lists.map((one) => [one.person, one]))
  const at = new Map(input.seats.map(({ person, group }) => [person, group]))
  for (const { person, from } of left) if (from !== null) at.delete(person)
  for (const { person, to } of moves) at.set(person, to)
  return new Map(
    [...at].map(([person, group]) => {
      const list = lists.get(person)
      return [person, list ? (rankOf(list, input.wished?.topics[group]) ?? NONE) : 0]
    }),
  )
}

function variants(input: PlanInput, at: PlanGroup): { kind: HelpKind; changed: PlanInput }[] {
  const instead = (more: Partial<PlanGroup>): PlanInput => ({
    ...input,
    groups: input.groups.map((group) => (group === at ? { ...group, ...more } : group)),
  })
  // No code of ours has a space in it.
  const further = `${at.key} further`
  const topic = input.wished?.topics[at.key] ?? at.key
  return [
    ...(at.seats === NO_LIMIT ? [] : [{ kind: 'seat' as const, changed: instead({ seats: at.seats + 1 }) }]),
    {
      kind: 'group',
      changed: {
        ...input,
        groups: [...input.groups, { ...at, key: further, blocked: 0 }],
        ...(input.wished && {
          wished: { ...input.wished, topics: { ...input.wished.topics, [further]: topic } },
        }),
      },
    },
    ...(at.floor > 1 ? [{ kind: 'floor' as const, changed: instead({ floor: at.floor - 1 }) }] : []),
    ...(at.section !== null && input.offers === 'section'
      ? [{ kind: 'course' as const, changed: instead({ section: null }) }]
      : []),
  ]
}
