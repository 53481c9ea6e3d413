import type { PlanGroup, PlanInput } from '../../src/core/plan/types.ts'

/** An input of a plan with nothing in it but what is given. */
export function input(more: Partial<PlanInput>): PlanInput {
  return {
    people: [],
    groups: [],
    seats: [],
    heldFor: [],
    offers: 'section',
    keepings: [],
    method: 'evenly',
    lotNumber: 0,
    floorsFirst: true,
    mayDissolve: false,
    release: 'none',
    pins: [],
    ...more,
  }
}

export function group(key: string, seats: number, more: Partial<PlanGroup> = {}): PlanGroup {
  return { key, section: null, seats, blocked: 0, floor: 1, ...more }
}

/** People called p0, p1 and so on. */
export function people(n: number, section: string | null = null, from = 0): PlanInput['people'] {
  return Array.from({ length: n }, (_, i) => ({ key: `p${from + i}`, name: `Given Sur${from + i}`, section }))
}
