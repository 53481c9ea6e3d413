import { type Drafted, draft, type SeatedPool } from './drafted.ts'
import { figuresOf } from './figures.ts'
import type { Keeping, LeftReason, MoveReason, PlanConflict, PlanInput } from './types.ts'
import { isSpent, type Work, workOf } from './work.ts'

export interface Explained {
  reasons: ReadonlyMap<string, MoveReason>
  leftReasons: ReadonlyMap<string, LeftReason>
  conflicts: readonly PlanConflict[]
}

/** Steps that planning again takes at the least, for each person and group. */
const STEPS_EACH = 1_500

/**
 * Why everybody sits where they do, as far as it can be told without planning again: what the method did. Of people
 * whom a rule names, and of those who are moved, it is not known.
 */
export function plainReasons(input: PlanInput, drafted: Drafted, checked = false): Explained {
  const reasons = new Map<string, MoveReason>()
  const kept = new Map(input.keepings.map((keeping) => [keeping.key, keeping]))
  for (const { keeping } of drafted.conflicts) kept.delete(keeping)
  const named = new Set([...kept.values()].flatMap(({ people }) => people))
  for (const seated of drafted.pools) {
    const byGroup = byMethod(input, seated)
    const groupOf = new Map(seated.pool.groups.map(({ key }, g) => [key, g]))
    for (const { person, from, to } of drafted.moves) {
      const g = groupOf.get(to)
      const reason = g === undefined ? undefined : byGroup[g]
      const open = named.has(person) || (from !== null && kept.size > 0)
      if (reason) reasons.set(person, open && !checked ? { code: 'unchecked' } : reason)
    }
  }
  const forced = drafted.cost.left > leastLeft(drafted)
  const leftReasons = new Map<string, LeftReason>()
  for (const { person } of drafted.left) {
    const own = [...kept.values()].filter(({ people }) => people.includes(person)).map(({ key }) => key)
    leftReasons.set(
      person,
      forced && own.length > 0 ? { code: 'keepings', keepings: own } : { code: 'no-room' },
    )
  }
  return { reasons, leftReasons, conflicts: drafted.conflicts }
}

function leastLeft({ pools }: Drafted): number {
  return pools.reduce((sum, { found }) => sum + found.leastLeft, 0)
}

/**
 * Why everybody sits where they do. A reason is said only when it is one: planned again without it, the person sits
 * elsewhere or a figure is worse. Of several the first: their group is emptied, somebody they keep together with,
 * somebody they keep apart from, the floor that the group just reaches, no other group with room; else the method.
 * @param work what planning again may take; what could not be checked is not said
 */
export function explain(input: PlanInput, drafted: Drafted, work: Work): Explained {
  const plain = plainReasons(input, drafted, true)
  const reasons = new Map(plain.reasons)
  const again = planner(input, work)
  const move = new Map(drafted.moves.map((one) => [one.person, one]))
  const reached = justReached(input, drafted)
  const floors = drafted.moves.filter(({ to }) => reached.has(to))
  const withoutFloors = floors.length > 0 ? again({ floorsFirst: false }) : null
  const only = onlyOnes(drafted)
  for (const { person, to } of drafted.moves) if (only.has(to)) reasons.set(person, { code: 'only-room' })
  if (withoutFloors) {
    const worse = underIn(input, withoutFloors) > underIn(input, drafted)
    const elsewhere = seatsOf(withoutFloors)
    for (const { person, to } of floors) {
      if (worse || elsewhere.get(person) !== to) reasons.set(person, { code: 'floor' })
    }
  }
  const refused = new Set(drafted.conflicts.map(({ keeping }) => keeping))
  const held = input.keepings.filter(({ key }) => !refused.has(key))
  const leftNow = new Map(drafted.left.map(({ person, from }) => [person, from]))
  const frees = new Map<string, Freed>()
  let open = false
  const mayEmptyBy = emptyingBy(input, drafted)
  const missed = (keeping: Keeping) =>
    keeping.people.some((person) => move.has(person) || leftNow.has(person))
  for (const kind of ['apart', 'together'] as const) {
    for (const keeping of held.filter((one) => one.kind === kind && missed(one))) {
      const seats = seatsWithout(input, drafted, keeping, mayEmptyBy(keeping), again)
      if (!seats) {
        for (const person of keeping.people) if (move.has(person)) reasons.set(person, { code: 'unchecked' })
        open = true
        continue
      }
      for (const { person, from } of drafted.moves) {
        if (from === null || keeping.people.includes(person) || seats.seats.get(person) !== from) continue
        if (METHODS.has(reasons.get(person)?.code ?? 'lot'))
          reasons.set(person, { code: 'make-room', for: keeping.people })
      }
      for (const person of keeping.people) {
        const to = move.get(person)?.to
        if (to === undefined || seats.seats.get(person) === to) continue
        const others = keeping.people.filter((one) => one !== person)
        reasons.set(
          person,
          kind === 'together' ? { code: 'together', with: others } : { code: 'apart', from: others },
        )
      }
      const seated = [...leftNow.keys()].filter((person) => seats.seats.has(person))
      if (seated.length > 0) frees.set(keeping.key, { seated, fewer: seats.left < drafted.left.length })
    }
  }
  // Whoever is moved for a reason that was not checked is not said to be drawn.
  for (const { person, from } of open ? drafted.moves : []) {
    if (from !== null && METHODS.has(reasons.get(person)?.code ?? 'lot'))
      reasons.set(person, { code: 'unchecked' })
  }
  for (const [person, reason] of dissolving(input, drafted, again)) reasons.set(person, reason)
  return { reasons, ...whyLeft(drafted, held, frees, again) }
}

/** What the method alone gives as a reason. */
const METHODS: ReadonlySet<MoveReason['code']> = new Set(['even', 'lot', 'surname'])

/** Those left who would be seated without a rule, and whether fewer would be left in all. */
interface Freed {
  seated: readonly string[]
  fewer: boolean
}

/** Plans again with something changed, as long as there is work left; null where nothing certain came of it. */
type Again = (change: Partial<PlanInput>) => Drafted | null

function planner(input: PlanInput, work: Work): Again {
  return (change) => {
    const least = STEPS_EACH * (input.people.length + input.groups.length)
    if (isSpent(work) || work.most - work.spent < least) return null
    const own = workOf(work.most - work.spent)
    const drafted = draft({ ...input, ...change }, own)
    work.spent += own.spent + least
    return isSpent(own) ? null : drafted
  }
}

/** Who would sit where without a rule, and how many would be left; null where it is not known, or nothing changes. */
function seatsWithout(
  input: PlanInput,
  drafted: Drafted,
  keeping: Keeping,
  empties: boolean,
  again: Again,
): { seats: ReadonlyMap<string, string>; left: number } | null {
  const tangled = drafted.conflicts.some(({ code }) => code === 'both')
  const seated = drafted.pools.filter(({ pool }) =>
    pool.units.some(({ people }) => people.some((person) => keeping.people.includes(person))),
  )
  const aside = !tangled && !empties
  if (keeping.kind === 'apart' && aside && seated.every(({ without }) => without !== null)) {
    const seats = new Map<string, string>()
    for (const { pool, seats: now, without } of seated) {
      const other = without?.get(keeping.key) ?? now
      pool.groups.forEach(({ key }, g) => {
        for (const person of other[g] ?? []) seats.set(person, key)
      })
    }
    return { seats, left: drafted.left.length }
  }
  const other = again({ keepings: input.keepings.filter(({ key }) => key !== keeping.key) })
  if (!other) return null
  return {
    seats: seatsOf(other),
    left: other.left.length,
  }
}

/** Says of a rule whether it names somebody whose group could be emptied, so that without it other groups may be. */
function emptyingBy(input: PlanInput, { solved }: Drafted): (keeping: Keeping) => boolean {
  if (!input.mayDissolve || !input.floorsFirst) return () => false
  const low = new Set(solved.emptied)
  for (const { groups } of solved.prepared.pools) {
    for (const { key, fixed, loose, floor } of groups) if (fixed.length + loose.length < floor) low.add(key)
  }
  const inLow = new Set(input.seats.flatMap(({ person, group }) => (low.has(group) ? [person] : [])))
  return ({ people }) => people.some((person) => inLow.has(person))
}

function seatsOf({ seats }: Drafted): Map<string, string> {
  return new Map(seats.map(({ person, group }) => [person, group]))
}

function underIn(input: PlanInput, { seats }: Drafted): number {
  return figuresOf(input, seats).under
}

/** Groups that have just as many people as their floor asks for, so that each who comes is needed. */
function justReached(input: PlanInput, { pools }: Drafted): Set<string> {
  if (!input.floorsFirst) return new Set()
  return new Set(
    pools.flatMap(({ pool, seats }) =>
      pool.groups.flatMap(({ key, floor }, g) => (floor > 1 && seats[g]?.length === floor ? [key] : [])),
    ),
  )
}

/** Groups whose newcomers could have come to no other, because no other had room for anybody. */
function onlyOnes({ pools }: Drafted): Set<string> {
  const only = new Set<string>()
  for (const { pool, seats } of pools) {
    if (pool.groups.length < 2) continue
    const open = pool.groups.filter(({ fixed, loose, limit }, g) => {
      const here = new Set([...fixed, ...loose])
      return (seats[g] ?? []).filter((person) => here.has(person)).length < limit
    })
    if (open.length === 1 && open[0]) only.add(open[0].key)
  }
  return only
}

/**
 * What the method did for each group of a pool: by evenness where one person less there and one more in any other
 * group with room were less even; else the lot, or the class list.
 */
function byMethod(input: PlanInput, { pool, seats }: SeatedPool): MoveReason[] {
  if (input.method === 'surname') return pool.groups.map(() => ({ code: 'surname' }))
  const free = pool.groups.reduce(
    (sum, { limit, fixed, loose }) => sum + Math.max(0, limit - fixed.length - loose.length),
    0,
  )
  const lot: MoveReason = { code: 'lot', among: free === Number.POSITIVE_INFINITY ? null : free }
  if (input.method === 'lot') return pool.groups.map(() => lot)
  // One alone in an empty group is no choice where more are needed.
  const open = pool.groups.flatMap(({ limit, floor }, g) => {
    const size = seats[g]?.length ?? 0
    return size < limit && (size > 0 || floor <= 1) ? [{ g, size }] : []
  })
  const [least, next] = open.toSorted((a, b) => a.size - b.size)
  return pool.groups.map((_, g) => {
    const other = least?.g === g ? next : least
    return other && other.size >= (seats[g]?.length ?? 0) ? { code: 'even' } : lot
  })
}

/** Those who sit elsewhere because their group is emptied. */
function dissolving(input: PlanInput, drafted: Drafted, again: Again): Map<string, MoveReason> {
  const gone = new Set(drafted.dissolved)
  const moved = drafted.moves.filter(({ from }) => from !== null && gone.has(from))
  if (moved.length === 0) return new Map()
  // Where nobody else is released, they would have stayed.
  const other = input.release === 'none' ? null : again({ mayDissolve: false })
  const elsewhere = other && seatsOf(other)
  const stays = (person: string, to: string) =>
    input.release === 'none' || (elsewhere !== null && elsewhere.get(person) !== to)
  return new Map(
    moved.flatMap(({ person, to }) => (stays(person, to) ? [[person, { code: 'dissolved' } as const]] : [])),
  )
}

/** Why some are left, and which rules keep whom without a seat. */
function whyLeft(
  drafted: Drafted,
  held: readonly Keeping[],
  frees: ReadonlyMap<string, Freed>,
  again: Again,
): Pick<Explained, 'leftReasons' | 'conflicts'> {
  const conflicts = drafted.conflicts.map((conflict) => ({ ...conflict }))
  const leftReasons = new Map<string, LeftReason>()
  const people = drafted.left.map(({ person }) => person)
  // Where no single rule is what keeps people out, all of them together may be.
  const none = people.length > 0 && held.length > 0 ? again({ keepings: [] }) : null
  const forced = none !== null && none.left.length < drafted.left.length
  for (const person of people) {
    const own = held.filter((keeping) => keeping.people.includes(person)).map(({ key }) => key)
    const alone = own.filter((key) => frees.get(key)?.seated.includes(person))
    const keepings = alone.length > 0 ? alone : forced ? own : []
    leftReasons.set(person, keepings.length > 0 ? { code: 'keepings', keepings } : { code: 'no-room' })
  }
  for (const { key } of held) {
    const freed = frees.get(key)
    if (!freed?.fewer) continue
    const seats = freed.seated
    const kept = people.filter((person) => held.some((one) => one.key === key && one.people.includes(person)))
    conflicts.push({
      keeping: key,
      code: 'no-room',
      people: kept.length > 0 ? kept : [...seats],
      seats: [...seats],
    })
  }
  if (forced && !conflicts.some(({ code }) => code === 'no-room')) {
    for (const keeping of held) {
      const kept = people.filter((person) => keeping.people.includes(person))
      if (kept.length > 0) conflicts.push({ keeping: keeping.key, code: 'no-room', people: kept, seats: [] })
    }
  }
  return { leftReasons, conflicts }
}
