import { grouped } from '../grouped.ts'
import { drawStream } from '../lot.ts'
import { openTo } from './network.ts'
import { rankOf, type WishRules } from './rules.ts'
import { peopleByLot } from './seat.ts'
import type { WishInput, WishSeat } from './types.ts'

/**
 * Evens out groups through people whose seat is none of their wishes, last of all: for them any of the seats that are open
 * to them is as good as another. No wish, floor, limit or rule changes by it; a group that needs several people to work
 * and has nobody stays empty. Who of them goes where is drawn: people who could have the same seats are in the order of
 * the lot, so that their chances are the same.
 * @param staying people who sit in each group besides and stay there; left out, nobody
 * @param round each draws anew, so that the same people do not meet again in the next
 */
export function evenedOut(
  input: WishInput,
  rules: Pick<WishRules, 'together' | 'apart' | 'floors'>,
  seats: readonly WishSeat[],
  staying: ReadonlyMap<string, number> = new Map(),
  round = 1,
): WishSeat[] {
  const named = new Set([...rules.together, ...rules.apart].flat())
  const at = new Map(seats.map((seat) => [seat.person, seat]))
  const load = input.groups.map(() => 0)
  const place = new Map(input.groups.map(({ key }, g) => [key, g]))
  for (const { group } of seats) {
    const g = place.get(group ?? '')
    if (g !== undefined) load[g] = (load[g] as number) + 1
  }
  // In the order of the lot, by which seats they could have: groups of people who are alike in that.
  const free = peopleByLot(input).flatMap((one) => {
    const seat = at.get(one.key)
    const g = place.get(seat?.group ?? '')
    if (!seat || g === undefined || seat.rank !== null || one.home != null || named.has(one.key)) return []
    return [
      {
        key: one.key,
        g,
        open: openTo(one, input).filter((o) => rankOf(one, input.groups[o]?.topic) === null),
      },
    ]
  })
  const kinds = [...grouped(free, ({ open }) => open.join(' ')).values()].map((people) => ({
    people: people.map(({ key }) => key),
    open: people[0]?.open ?? [],
    in: input.groups.map((_, g) => people.filter((one) => one.g === g).length),
  }))
  const before = input.groups.map(({ key }) => staying.get(key) ?? 0)
  const size = (g: number) => (before[g] as number) + (load[g] as number)
  const bounds = input.groups.map(({ key, seats: most }, g) => {
    const floor = rules.floors.get(key)?.floor ?? 1
    const now = size(g)
    if (floor <= 1) return { least: 0, most }
    if (now === 0) return { least: 0, most: 0 }
    // One that reached its floor keeps it; one that did not is not made smaller.
    return { least: Math.min(now, floor) - (before[g] as number), most }
  })
  const canLose = (g: number) => (load[g] as number) > (bounds[g]?.least ?? 0)
  const canGain = (g: number) => (load[g] as number) < (bounds[g]?.most ?? 0)
  for (let again = true; again; ) {
    again = false
    for (const kind of kinds) {
      const from = best(
        kind.open.filter((g) => (kind.in[g] as number) > 0 && canLose(g)),
        (g) => -size(g),
      )
      const to = best(kind.open.filter(canGain), size)
      if (from === null || to === null || size(from) - size(to) < 2) continue
      kind.in[from] = (kind.in[from] as number) - 1
      kind.in[to] = (kind.in[to] as number) + 1
      load[from] = (load[from] as number) - 1
      load[to] = (load[to] as number) + 1
      again = true
    }
  }
  const stream = drawStream(input.lotNumber, `wishes: even ${round}`)
  const moved = new Map<string, string>()
  for (const { people, open, in: counts } of kinds) {
    const places = stream.shuffle(
      open.flatMap((g) => Array.from({ length: counts[g] as number }, () => input.groups[g]?.key ?? '')),
    )
    people.forEach((person, i) => {
      const group = places[i]
      if (group !== undefined) moved.set(person, group)
    })
  }
  return seats.map((seat) => ({ ...seat, group: moved.get(seat.person) ?? seat.group }))
}

/** The one of which something is least, the first of several; null of none. */
function best(all: readonly number[], of: (one: number) => number): number | null {
  return all.reduce<number | null>(
    (least, one) => (least === null || of(one) < of(least) ? one : least),
    null,
  )
}
