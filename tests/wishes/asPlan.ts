import type { PlanGroup, PlanInput } from '../../src/core/plan/types.ts'

export const person = (key: string, section: string | null = null) => ({ key, name: key, section })
export const group = (key: string, seats: number, floor = 1, section: string | null = null): PlanGroup => ({
  key,
  section,
  seats,
  blocked: 0,
  floor,
})

/** A plan’s input by wishes for people and groups, each group a topic; those named want the topics in that order. */
export function askedFor(
  people: readonly string[],
  groups: readonly PlanGroup[],
  who: readonly string[],
  topics: readonly string[],
): PlanInput {
  return {
    people: people.map((key) => person(key)),
    groups,
    seats: [],
    heldFor: [],
    offers: 'section',
    keepings: [],
    method: 'wishes',
    byWishes: { aim: 'most-first', order: ['floors', 'moved', 'wishes'] },
    wished: {
      topics: Object.fromEntries(groups.map(({ key }) => [key, key])),
      codes: {},
      lists: who.map((one) => ({ person: one, ranks: topics.map((topic) => [topic]), cannot: [] })),
    },
    lotNumber: 3,
    floorsFirst: true,
    mayDissolve: false,
    release: 'none',
    pins: [],
  }
}
