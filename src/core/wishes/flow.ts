import { createHeap } from './heap.ts'

/**
 * What people can have, one after the other in long rows: person `i` has the options from `first[i]` up to `first[i + 1]`.
 * Somebody's last option is to have no seat.
 */
export interface Options {
  first: Int32Array
  /** Where each option leads. */
  node: Int32Array
  /** What each costs, by its place in `costs`. */
  cost: Int32Array
  /** Costs, each of so many words. */
  costs: Float64Array
  words: number
}

/** Where people can go: groups with seats, then pools that lead to any of several groups, then nowhere. */
export interface Network {
  people: number
  /** Seats of each group; Infinity without a limit. */
  seats: readonly number[]
  /** For each pool the groups that it leads to, at no cost; its node comes after those of the groups. */
  pools: readonly (readonly number[])[]
  options: Options
  /** For each group how many of its seats have to be taken, and what each of those costs while it is; null for none. */
  floors: { seats: readonly number[]; cost: Float64Array } | null
}

export interface Flow {
  /** Which option each person has, by its place in the rows. */
  chosen: Int32Array
  /** For each pool how many go from it into which of its groups, by the group’s place among them. */
  flows: Int32Array[]
  /** How many sit at each node; of pools none, as they sit in groups. */
  load: Int32Array
  /**
   * What a seat at each node is worth, in words, as a proof that this is the cheapest: nobody has an option that is cheaper
   * once this is added, groups with room are worth nothing or less than nothing to others, full ones may be worth more;
   * where seats have to be taken, as much less as such a seat costs.
   */
  potential: Float64Array
}

/**
 * Seats people at the least cost, one after the other, each along a shortest way over those who are seated: successive
 * shortest paths with potentials (Edmonds and Karp, “Theoretical improvements in algorithmic efficiency for network flow
 * problems”, Journal of the ACM 19, 1972; Tomizawa, Networks 1, 1971). People are no nodes: a step from one group to
 * another is the move of somebody who sits there. Costs are exact, so the outcome is the best there is.
 * @param onSeated called after each person
 */
export function cheapest(
  { people, seats, pools, options, floors }: Network,
  onSeated?: (done: number) => void,
): Flow {
  const { first, node: leads, cost: costAt, costs, words } = options
  const groups = seats.length
  const nowhere = groups + pools.length
  const nodes = nowhere + 1
  const chosen = new Int32Array(people).fill(-1)
  const flows = pools.map((members) => new Int32Array(members.length))
  const load = new Int32Array(nodes)
  const potential = new Float64Array(nodes * words)
  const distance = new Float64Array(nodes * words)
  /**
   * How a node is reached: by whose move with which option; out of a pool (−2 less its number) or back into one (−1), by
   * the group’s place among its groups.
   */
  const mover = new Int32Array(nodes)
  const by = new Int32Array(nodes)
  const seen = new Uint8Array(nodes)
  const touched: number[] = []
  // Who sits where, as lists.
  const head = new Int32Array(nodes).fill(-1)
  const next = new Int32Array(people).fill(-1)
  const before = new Int32Array(people).fill(-1)
  /** The pools from which a group can be reached, with its place among theirs. */
  const poolsOf: { pool: number; at: number }[][] = seats.map(() => [])
  pools.forEach((members, pool) => {
    members.forEach((group, at) => {
      poolsOf[group]?.push({ pool, at })
    })
  })
  const heap = createHeap(nodes, (a, b) => compare(distance, a * words, distance, b * words) < 0)
  const key = new Float64Array(words)
  const best = new Float64Array(words)
  const base = new Float64Array(words)

  function compare(a: Float64Array, i: number, b: Float64Array, j: number): number {
    for (let w = 0; w < words; w++) {
      const d = (a[i + w] as number) - (b[j + w] as number)
      if (d !== 0) return d
    }
    return 0
  }
  const UNSEEN = 0
  const OPEN = 1
  const DONE = 2
  /** Notes a way to a node whose length is in `key`, where it is the shortest so far. */
  function reach(node: number, person: number, option: number): void {
    const at = node * words
    if (seen[node] === OPEN && compare(key, 0, distance, at) >= 0) return
    for (let w = 0; w < words; w++) distance[at + w] = key[w] as number
    mover[node] = person
    by[node] = option
    if (seen[node] === UNSEEN) {
      seen[node] = OPEN
      touched.push(node)
      heap.add(node)
    } else heap.rise(node)
  }
  const hasRoom = (node: number) =>
    node === nowhere || (node < groups && (load[node] as number) < (seats[node] as number))
  /** Whether a seat that is taken here is one of those that have to be. */
  const isWanted = (node: number) =>
    floors !== null && node < groups && (load[node] as number) < (floors.seats[node] as number)
  // A seat that has to be taken is near from the beginning.
  if (floors)
    for (let node = 0; node < nowhere; node++) {
      const leadsTo = node < groups ? [node] : (pools[node - groups] as readonly number[])
      if (leadsTo.some(isWanted))
        for (let w = 0; w < words; w++) potential[node * words + w] = -(floors.cost[w] as number)
    }

  function leave(person: number): void {
    const node = leads[chosen[person] as number] as number
    const [p, n] = [before[person] as number, next[person] as number]
    if (p < 0) head[node] = n
    else next[p] = n
    if (n >= 0) before[n] = p
  }
  function sit(person: number, option: number): void {
    chosen[person] = option
    const node = leads[option] as number
    const after = head[node] as number
    next[person] = after
    before[person] = -1
    if (after >= 0) before[after] = person
    head[node] = person
  }

  function seat(newcomer: number): void {
    heap.clear()
    for (let o = first[newcomer] as number; o < (first[newcomer + 1] as number); o++) {
      const node = leads[o] as number
      const paid = (costAt[o] as number) * words
      for (let w = 0; w < words; w++)
        key[w] = (costs[paid + w] as number) - (potential[node * words + w] as number)
      reach(node, newcomer, o)
    }
    let end = -1
    while (heap.size() > 0) {
      const u = heap.take()
      const at = u * words
      // All that is left is as far as the end, or farther.
      if (end >= 0 && compare(distance, at, best, 0) >= 0) break
      seen[u] = DONE
      if (hasRoom(u)) {
        const wanted = isWanted(u)
        for (let w = 0; w < words; w++)
          key[w] =
            (distance[at + w] as number) +
            (potential[at + w] as number) +
            (wanted ? (floors?.cost[w] as number) : 0)
        if (end < 0 || compare(key, 0, best, 0) < 0) {
          best.set(key)
          end = u
        }
      }
      for (let q = head[u] as number; q >= 0; q = next[q] as number) {
        const now = chosen[q] as number
        const paid = (costAt[now] as number) * words
        for (let w = 0; w < words; w++)
          base[w] = (distance[at + w] as number) + (potential[at + w] as number) - (costs[paid + w] as number)
        const last = first[q + 1] as number
        for (let o = first[q] as number; o < last; o++) {
          const node = leads[o] as number
          if (o === now || seen[node] === DONE) continue
          const pays = (costAt[o] as number) * words
          for (let w = 0; w < words; w++)
            key[w] =
              (base[w] as number) + (costs[pays + w] as number) - (potential[node * words + w] as number)
          reach(node, q, o)
        }
      }
      if (u >= groups && u < nowhere) {
        for (const [i, group] of (pools[u - groups] as number[]).entries())
          step(u, group, -2 - (u - groups), i)
      } else if (u < groups) {
        for (const { pool, at: i } of poolsOf[u] as { pool: number; at: number }[])
          if ((flows[pool]?.[i] as number) > 0) step(u, groups + pool, -1, i)
      }
    }
    // Only what is nearer than the end changes: potentials are told from the end, where all seats are.
    for (const node of touched) {
      const at = node * words
      if (seen[node] === DONE && compare(distance, at, best, 0) < 0) {
        for (let w = 0; w < words; w++)
          potential[at + w] =
            (potential[at + w] as number) + (distance[at + w] as number) - (best[w] as number)
      }
      seen[node] = UNSEEN
    }
    touched.length = 0
    load[end] = (load[end] as number) + 1
    goBack(end, newcomer)
  }

  /** A step between a group and a pool, at no cost. */
  function step(from: number, to: number, kind: number, place: number): void {
    if (seen[to] === DONE) return
    for (let w = 0; w < words; w++)
      key[w] =
        (distance[from * words + w] as number) +
        (potential[from * words + w] as number) -
        (potential[to * words + w] as number)
    reach(to, kind, place)
  }

  /** Makes the moves along the way to a node. */
  function goBack(end: number, newcomer: number): void {
    let node = end
    for (;;) {
      const person = mover[node] as number
      const option = by[node] as number
      if (person <= -2) {
        // One more goes from the pool into this group.
        const pool = -2 - person
        const flow = flows[pool] as Int32Array
        flow[option] = (flow[option] as number) + 1
        node = groups + pool
      } else if (person === -1) {
        // One fewer goes from this pool into the group before.
        const pool = node - groups
        const flow = flows[pool] as Int32Array
        flow[option] = (flow[option] as number) - 1
        node = pools[pool]?.[option] as number
      } else if (person === newcomer) {
        sit(newcomer, option)
        return
      } else {
        const from = leads[chosen[person] as number] as number
        leave(person)
        sit(person, option)
        node = from
      }
    }
  }

  for (let person = 0; person < people; person++) {
    seat(person)
    onSeated?.(person + 1)
  }
  return { chosen, flows, load, potential }
}
