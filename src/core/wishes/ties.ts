import type { Flow } from './flow.ts'
import { rankAt, type WishNetwork } from './network.ts'

/** How a node is reached: by somebody who moves there, out of a pool or back into one, or over the seats that are free. */
type Step =
  | { by: 'person'; person: number; option: number }
  | { by: 'pool'; pool: number; at: number }
  | { by: 'back'; pool: number; at: number }
  | { by: 'room'; from: number }

/**
 * Among all outcomes that are as cheap, the one in which the first person has the best rank that there is, then the second,
 * and so on in the order of the people.
 *
 * What is as cheap is told by the potentials of the cheapest (complementary slackness): people may have those options that
 * cost them no more than theirs, and a group whose seats are worth something stays full. Somebody comes to a better rank
 * along a cycle of such moves in which those before them keep their rank.
 */
export function byLot(network: WishNetwork, { chosen, flows, load, potential }: Flow): Flow {
  const { people, seats, pools, options, floors } = network
  const { first, node: leads, cost: costAt, costs, words } = options
  const groups = seats.length
  const nowhere = groups + pools.length
  const nodes = nowhere + 1

  /** What an option comes to, worth of the seat included, as compared with another one: 0 where it is the same. */
  const differ = (a: number, b: number): boolean => {
    for (let w = 0; w < words; w++) {
      const of = (o: number) =>
        (costs[(costAt[o] as number) * words + w] as number) -
        (potential[(leads[o] as number) * words + w] as number)
      if (of(a) !== of(b)) return true
    }
    return false
  }
  const sameWorth = (a: number, b: number): boolean => {
    for (let w = 0; w < words; w++) if (potential[a * words + w] !== potential[b * words + w]) return false
    return true
  }
  /** Whether the seat at a node that is taken after so many costs nothing, what it is worth included. */
  const isFree = (node: number, after: number): boolean => {
    const wanted = floors !== null && node < groups && after < (floors.seats[node] as number)
    for (let w = 0; w < words; w++)
      if (potential[node * words + w] !== (wanted ? -(floors.cost[w] as number) : 0)) return false
    return true
  }
  /** Options that are as cheap for each, with how good they are. */
  const cheap = Array.from({ length: people }, (_, person) => {
    const own: { option: number; rank: number }[] = []
    for (let o = first[person] as number; o < (first[person + 1] as number); o++)
      if (!differ(o, chosen[person] as number)) own.push({ option: o, rank: rankAt(network, o) })
    return own.sort((a, b) => a.rank - b.rank)
  })
  const sitting: Set<number>[] = Array.from({ length: nodes }, () => new Set())
  for (let person = 0; person < people; person++)
    sitting[leads[chosen[person] as number] as number]?.add(person)
  const poolsOf: { pool: number; at: number }[][] = seats.map(() => [])
  pools.forEach((members, pool) => {
    members.forEach((group, at) => {
      if (sameWorth(group, groups + pool)) poolsOf[group]?.push({ pool, at })
    })
  })
  /** Where seats may be given up or taken, one for another, at no cost. */
  const ends = Array.from({ length: nodes }, (_, node) => node).filter(
    (node) => node < groups || node === nowhere,
  )
  const mayTake = (node: number) =>
    (node === nowhere || (load[node] as number) < (seats[node] as number)) &&
    isFree(node, load[node] as number)
  const mayGive = (node: number) => (load[node] as number) > 0 && isFree(node, (load[node] as number) - 1)

  /** Moves somebody to an option where a cycle of moves makes that as cheap; those up to `fixed` keep their rank. */
  const moveTo = (person: number, option: number): boolean => {
    const home = leads[chosen[person] as number] as number
    const from = new Map<number, Step>()
    const queue: number[] = []
    let room = false
    const reach = (node: number, step: Step) => {
      if (from.has(node)) return
      from.set(node, step)
      queue.push(node)
    }
    reach(leads[option] as number, { by: 'person', person, option })
    for (const node of queue) {
      if (node === home) {
        goBack(home, person, from)
        return true
      }
      const isEnd = node < groups || node === nowhere
      if (!room && isEnd && mayTake(node)) {
        // A seat that is free is taken here, so that one elsewhere may become free.
        room = true
        for (const other of ends) if (mayGive(other)) reach(other, { by: 'room', from: node })
      }
      for (const q of sitting[node] ?? []) {
        const now = chosen[q] as number
        const own = rankAt(network, now)
        for (const one of cheap[q] ?? [])
          if (one.option !== now && (q > person || one.rank === own))
            reach(leads[one.option] as number, { by: 'person', person: q, option: one.option })
      }
      if (node >= groups && node < nowhere) {
        const pool = node - groups
        for (const [at, group] of (pools[pool] ?? []).entries())
          if (sameWorth(group, node)) reach(group, { by: 'pool', pool, at })
      } else if (node < groups) {
        for (const { pool, at } of poolsOf[node] ?? [])
          if ((flows[pool]?.[at] as number) > 0) reach(groups + pool, { by: 'back', pool, at })
      }
    }
    return false
  }

  function goBack(home: number, person: number, from: ReadonlyMap<number, Step>): void {
    let node = home
    for (;;) {
      const step = from.get(node)
      if (!step) return
      if (step.by === 'room') {
        load[node] = (load[node] as number) - 1
        load[step.from] = (load[step.from] as number) + 1
        node = step.from
      } else if (step.by === 'person') {
        const before = leads[chosen[step.person] as number] as number
        sitting[before]?.delete(step.person)
        sitting[leads[step.option] as number]?.add(step.person)
        chosen[step.person] = step.option
        if (step.person === person) return
        node = before
      } else {
        const flow = flows[step.pool] as Int32Array
        flow[step.at] = (flow[step.at] as number) + (step.by === 'back' ? -1 : 1)
        node = step.by === 'back' ? (pools[step.pool]?.[step.at] as number) : groups + step.pool
      }
    }
  }

  for (let person = 0; person < people; person++) {
    const now = rankAt(network, chosen[person] as number)
    cheap[person]?.some(({ option, rank }) => rank < now && moveTo(person, option))
  }
  return { chosen, flows, load, potential }
}
