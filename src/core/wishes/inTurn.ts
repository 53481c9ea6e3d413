import { rankAt, type WishNetwork } from './network.ts'

/** How a node is reached: by somebody who moves there, or out of a pool into a group and back. */
type Step = { person: number; option: number } | { pool: number; at: number; back: boolean }

/**
 * Seats people one after the other, each at the best that is left for them, whoever came before keeping the rank they
 * have: serial dictatorship, with wishes of equal rank told apart only as far as it helps those who come later (Krysta,
 * Manlove, Rastegari and Zhang, “Size versus truthfulness in the house allocation problem”, EC 2014). Nobody gains by
 * ranking otherwise than they mean. People without wishes come after the others, in the same order.
 * @returns which option each has
 */
export function inTurn(network: WishNetwork): { chosen: Int32Array; flows: Int32Array[] } {
  const { people, seats, pools, options, wants } = network
  const { first, node: leads } = options
  const groups = seats.length
  const nowhere = groups + pools.length
  const chosen = new Int32Array(people).fill(-1)
  const flows = pools.map((members) => new Int32Array(members.length))
  const load = new Int32Array(groups)
  const sitting: Set<number>[] = Array.from({ length: nowhere + 1 }, () => new Set())
  const optionsOf = (person: number) => {
    const from = first[person] as number
    return Array.from({ length: (first[person + 1] as number) - from }, (_, i) => from + i)
  }
  const rankOf = (option: number) => rankAt(network, option)
  /** Seats somebody at a rank, with moves of others to places that are as good for them; false where there is no room. */
  const seatAt = (person: number, rank: number): boolean => {
    const from = new Map<number, Step>()
    const queue: number[] = []
    const reach = (node: number, way: Step) => {
      if (from.has(node)) return
      from.set(node, way)
      queue.push(node)
    }
    for (const option of optionsOf(person))
      if (rankOf(option) === rank) reach(leads[option] as number, { person, option })
    for (const node of queue) {
      if (node === nowhere || (node < groups && (load[node] as number) < (seats[node] as number))) {
        if (node < groups) load[node] = (load[node] as number) + 1
        goBack(node)
        return true
      }
      for (const q of sitting[node] ?? []) {
        const now = chosen[q] as number
        for (const option of optionsOf(q))
          if (option !== now && rankOf(option) === rankOf(now))
            reach(leads[option] as number, { person: q, option })
      }
      pools.forEach((members, pool) => {
        if (node === groups + pool) {
          for (const [at, group] of members.entries()) reach(group, { pool, at, back: false })
        } else {
          const at = members.indexOf(node)
          if (at >= 0 && (flows[pool]?.[at] as number) > 0) reach(groups + pool, { pool, at, back: true })
        }
      })
    }
    return false

    function goBack(end: number): void {
      let node = end
      for (;;) {
        const way = from.get(node)
        if (!way) return
        if ('pool' in way) {
          const flow = flows[way.pool] as Int32Array
          flow[way.at] = (flow[way.at] as number) + (way.back ? -1 : 1)
          node = way.back ? (pools[way.pool]?.[way.at] as number) : groups + way.pool
          continue
        }
        const before = leads[chosen[way.person] as number]
        chosen[way.person] = way.option
        sitting[leads[way.option] as number]?.add(way.person)
        if (before === undefined) return
        sitting[before]?.delete(way.person)
        node = before
      }
    }
  }
  const order = Array.from({ length: people }, (_, i) => i)
  for (const person of [...order.filter((one) => wants[one]), ...order.filter((one) => !wants[one])]) {
    const there = [...new Set(optionsOf(person).map(rankOf))].sort((a, b) => a - b)
    there.some((rank) => seatAt(person, rank))
  }
  return { chosen, flows }
}
