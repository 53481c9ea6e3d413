import type { PlanInput, PlanLeft, PlanMove } from './types.ts'

/** Who sits where once a plan is applied. */
export function seatsAfter(
  { seats }: Pick<PlanInput, 'seats'>,
  moves: readonly Pick<PlanMove, 'person' | 'from' | 'to'>[],
  left: readonly Pick<PlanLeft, 'person' | 'from'>[],
): { person: string; group: string }[] {
  const gone = new Set(
    [...moves, ...left].flatMap(({ person, from }) => (from === null ? [] : [`${person} ${from}`])),
  )
  const stay = seats.filter(({ person, group }) => !gone.has(`${person} ${group}`))
  return [...stay, ...moves.map(({ person, to }) => ({ person, group: to }))]
}
