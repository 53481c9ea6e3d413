/** Numbers below a bound, of which the least by an order that others keep is taken first; each stands in it once. */
export interface Heap {
  size: () => number
  clear: () => void
  add: (item: number) => void
  /** Says that an item comes earlier than before. */
  rise: (item: number) => void
  /** Takes the first; only from a heap with something in it. */
  take: () => number
}

/** A binary heap that knows where each item stands (Williams, “Heapsort”, Communications of the ACM 7, 1964). */
export function createHeap(bound: number, isBefore: (a: number, b: number) => boolean): Heap {
  const items = new Int32Array(bound)
  const place = new Int32Array(bound)
  let size = 0
  const put = (item: number, at: number) => {
    items[at] = item
    place[item] = at
  }
  const up = (item: number, from: number) => {
    let at = from
    while (at > 0) {
      const above = (at - 1) >> 1
      const other = items[above] as number
      if (!isBefore(item, other)) break
      put(other, at)
      at = above
    }
    put(item, at)
  }
  const down = (item: number) => {
    let at = 0
    for (;;) {
      let below = 2 * at + 1
      if (below >= size) break
      if (below + 1 < size && isBefore(items[below + 1] as number, items[below] as number)) below += 1
      const other = items[below] as number
      if (!isBefore(other, item)) break
      put(other, at)
      at = below
    }
    put(item, at)
  }
  return {
    size: () => size,
    clear: () => {
      size = 0
    },
    add: (item) => {
      size += 1
      up(item, size - 1)
    },
    rise: (item) => up(item, place[item] as number),
    take: () => {
      const first = items[0] as number
      size -= 1
      if (size > 0) down(items[size] as number)
      return first
    },
  }
}
