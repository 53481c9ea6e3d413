import { drawer } from './drafted.ts'
import { solve } from './solve.ts'
import type { PlanInput } from './types.ts'
import { workOf } from './work.ts'

/** What many draws of the same plan came to. */
export interface Chances {
  /** How many lot numbers were drawn. */
  draws: number
  /** For each person to seat, in how many of them they sat in each group; a group that is missing, in none. */
  people: { person: string; groups: Record<string, number> }[]
}

/** Draws at the most, and people drawn in all. */
const DRAWS = 1_000
const MOST_DRAWN = 400_000

/**
 * What chances each person had: the same plan drawn with many lot numbers, from 0 on, and counted. What is best does
 * not depend on the lot, so that it is found once.
 */
export function chancesOf(input: PlanInput, onProgress?: (share: number) => void): Chances {
  const solved = solve(input, workOf(100_000_000))
  const draw = drawer(input, solved)
  const draws = Math.max(50, Math.min(DRAWS, Math.floor(MOST_DRAWN / Math.max(1, input.people.length))))
  const counted = new Map<string, Record<string, number>>()
  for (let lot = 0; lot < draws; lot++) {
    const { moves, left } = draw(lot)
    const count = (person: string, group: string) => {
      const own = counted.get(person) ?? {}
      counted.set(person, own)
      own[group] = (own[group] ?? 0) + 1
    }
    for (const { person, to } of moves) count(person, to)
    for (const { person } of left) count(person, '')
    if (lot % 20 === 0) onProgress?.(lot / draws)
  }
  const order = new Map(input.people.map(({ key }, i) => [key, i]))
  const people = [...counted]
    .map(([person, groups]) => ({ person, groups }))
    .sort((a, b) => (order.get(a.person) ?? 0) - (order.get(b.person) ?? 0))
  return { draws, people }
}
