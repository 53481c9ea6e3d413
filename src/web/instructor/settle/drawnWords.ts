import type { PlanContent } from '../../../contract/plans.ts'
import { NO_LIMIT } from '../../../core/limit.ts'
import type { PlanInput } from '../../../core/plan/types.ts'

/** A share as people say it. */
export function shareWords(share: number): string {
  if (share === 0) return '0 %'
  const percent = share * 100
  if (percent < 0.95) return 'under 1 %'
  return `${Math.round(percent)} %`
}

const people = (n: number) => (n === 1 ? '1 person' : `${n} people`)
const seats = (n: number) => (n === 1 ? '1 free seat' : `${n} free seats`)

/**
 * What was drawn among what, in sentences that follow from the plan: for each section how many people over how many
 * free seats, what counts as equally likely, and whether keepings left the chances exactly even.
 */
export function drawnSentences(
  input: PlanInput,
  { moves, left, evenChances, settings }: Pick<PlanContent, 'moves' | 'left' | 'evenChances' | 'settings'>,
  nameOf: (section: string) => string,
): string[] {
  const drawn = new Set(
    [...moves, ...left]
      .filter(({ reason }) => reason.code !== 'by-hand' && reason.code !== 'held')
      .map(({ person }) => person),
  )
  const sections =
    input.offers === 'course' ? [null] : [...new Set(input.groups.map(({ section }) => section))]
  const taken = new Map<string, number>()
  const staying = settings.release === 'afresh' ? [] : input.seats
  for (const { group } of staying) taken.set(group, (taken.get(group) ?? 0) + 1)
  const held = new Map<string, number>()
  for (const { group } of input.heldFor) held.set(group, (held.get(group) ?? 0) + 1)
  const said = sections.flatMap((section) => {
    const own = input.people.filter(
      (person) => drawn.has(person.key) && (section === null || person.section === section),
    )
    if (own.length === 0) return []
    const groups = input.groups.filter(
      (group) => !group.closed && (section === null || group.section === section),
    )
    const endless = groups.some((group) => group.seats === NO_LIMIT)
    const free = groups.reduce(
      (sum, { key, seats: limit, blocked }) =>
        sum + Math.max(0, limit - blocked - (held.get(key) ?? 0) - (taken.get(key) ?? 0)),
      0,
    )
    const where = section === null ? '' : `${nameOf(section)}: `
    const over = endless
      ? 'groups without a limit'
      : `${seats(free)} in ${groups.length === 1 ? '1 group' : `${groups.length} groups`}`
    return [`${where}${people(own.length)} drawn over ${over}.`]
  })
  const among =
    settings.method === 'lot'
      ? 'Each way to seat these people into the free seats was equally likely, among those that leave the fewest people out, then the fewest groups under their floor, then move the fewest.'
      : 'First everything that makes a plan good: fewest left out, fewest groups under their floor, fewest moved, most even sizes. Among the plans as good as that, each was equally likely.'
  const keepings = evenChances
    ? []
    : [
        'Who keeps apart or together left no simple draw: one of the best plans was shuffled by many small exchanges, so that chances are nearly even, not exactly.',
      ]
  return [...said, among, ...keepings]
}
