import { isUnderFloor, NO_LIMIT } from '../limit.ts'
import type { PlanBasis } from './basis.ts'
import { figuresOf } from './figures.ts'
import type { Plan, PlanGroup, PlanMove } from './types.ts'

/** What can be done about a group that fell under its floor: put it together with another, or fill it up. */
export const MENDINGS = ['merge', 'fill'] as const
export type MendingKind = (typeof MENDINGS)[number]

export interface Mending {
  kind: MendingKind
  moves: PlanMove[]
}

/**
 * What can be done about one small group, without bringing any other under its floor, past its limit, or people into
 * one group who keep apart. Groups whose work is handed in are left alone.
 */
export function mendingsFor(basis: PlanBasis, small: string): Mending[] {
  const group = basis.groups.find(({ key }) => key === small)
  const members = membersIn(basis)
  const own = members.get(small) ?? []
  if (!group || group.closed || own.length === 0 || !isUnderFloor(own.length, group.floor)) return []
  return [merging(basis, group, members), filling(basis, group, members)].filter((found) => found !== null)
}

/** A mending as a plan, to be looked at, compared, kept and applied like any other. */
export function planOf(basis: PlanBasis, { kind, moves }: Mending): Plan {
  const to = new Map(moves.map((move) => [`${move.person} ${move.from}`, move.to]))
  const after = basis.seats.map(({ person, group }) => ({
    person,
    group: to.get(`${person} ${group}`) ?? group,
  }))
  const seated = new Set(basis.seats.map(({ person }) => person))
  return {
    moves,
    left: basis.people
      .filter(({ key }) => !seated.has(key))
      .map(({ key }) => ({ person: key, from: null, reason: { code: 'by-hand' } })),
    conflicts: [],
    dissolved: kind === 'merge' ? [...new Set(moves.flatMap(({ from }) => from ?? []))] : [],
    before: figuresOf(basis, basis.seats),
    after: figuresOf(basis, after),
    moved: moves.length,
    proven: false,
    gap: null,
    evenChances: true,
    mix: null,
    wishes: null,
  }
}

type Members = ReadonlyMap<string, readonly string[]>

function membersIn({ seats }: PlanBasis): Members {
  const members = new Map<string, string[]>()
  for (const { person, group } of seats) members.set(group, [...(members.get(group) ?? []), person])
  return members
}

/** All of a small group into one other: another small one before the rest, then the smallest that has room. */
function merging(basis: PlanBasis, small: PlanGroup, members: Members): Mending | null {
  const own = members.get(small.key) ?? []
  const size = (group: PlanGroup) => members.get(group.key)?.length ?? 0
  const targets = basis.groups
    .filter((group) => group.key !== small.key && size(group) > 0 && takes(basis, group, own, members))
    .sort(
      (a, b) =>
        Number(isUnderFloor(size(b), b.floor)) - Number(isUnderFloor(size(a), a.floor)) || size(a) - size(b),
    )
  const [target] = targets
  if (!target) return null
  return {
    kind: 'merge',
    moves: own.map((person) => ({
      person,
      from: small.key,
      to: target.key,
      reason: { code: 'dissolved' },
    })),
  }
}

/** As many into a small group as it lacks, from the largest groups, who sat down last; nobody from a friend they keep. */
function filling(basis: PlanBasis, small: PlanGroup, members: Members): Mending | null {
  const bound = new Set(
    basis.keepings.filter(({ kind }) => kind === 'together').flatMap(({ people }) => people),
  )
  const sizes = new Map([...members].map(([key, people]) => [key, [...people]]))
  const come: PlanMove[] = []
  const own = [...(members.get(small.key) ?? [])]
  while (isUnderFloor(own.length, small.floor)) {
    const donors = basis.groups
      .filter(
        ({ key, closed, floor }) =>
          key !== small.key && !closed && (sizes.get(key)?.length ?? 0) - 1 >= Math.max(floor, 1),
      )
      .sort((a, b) => (sizes.get(b.key)?.length ?? 0) - (sizes.get(a.key)?.length ?? 0))
    const found = donors.flatMap(({ key }) => {
      const person = sizes
        .get(key)
        ?.findLast((one) => !bound.has(one) && takes(basis, small, [one], new Map([[small.key, own]])))
      return person === undefined ? [] : [{ key, person }]
    })[0]
    if (!found) return null
    sizes.set(found.key, sizes.get(found.key)?.filter((one) => one !== found.person) ?? [])
    own.push(found.person)
    come.push({ person: found.person, from: found.key, to: small.key, reason: { code: 'floor' } })
  }
  return { kind: 'fill', moves: come }
}

/** Whether a group takes all of these besides those it has: room, section, none of them there already, none kept apart. */
function takes(basis: PlanBasis, group: PlanGroup, come: readonly string[], members: Members): boolean {
  if (group.closed) return false
  const there = members.get(group.key) ?? []
  const held = basis.heldFor.filter((one) => one.group === group.key && !there.includes(one.person))
  const kept = held.filter(({ person }) => !come.includes(person)).length
  if (group.seats !== NO_LIMIT && there.length + come.length + kept + group.blocked > group.seats)
    return false
  if (come.some((person) => there.includes(person))) return false
  const sections = new Map(basis.people.map(({ key, section }) => [key, section]))
  const fits = (person: string) =>
    basis.offers === 'course' || group.section === null || sections.get(person) === group.section
  if (!come.every(fits)) return false
  const together = new Set([...there, ...come])
  return !basis.keepings.some(
    ({ kind, people }) =>
      kind === 'apart' &&
      people.filter((one) => together.has(one)).length > 1 &&
      people.some((one) => come.includes(one)),
  )
}
