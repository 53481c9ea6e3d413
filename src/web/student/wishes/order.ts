/** Topics by rank; those of one rank are wanted equally. */
export type Ranks = readonly (readonly string[])[]

/** Puts a topic last, alone. */
export function added(ranks: Ranks, topic: string): string[][] {
  return [...takenOut(ranks, topic), [topic]]
}

/** Takes a topic out; ranks close up. */
export function takenOut(ranks: Ranks, topic: string): string[][] {
  return ranks.map((topics) => topics.filter((one) => one !== topic)).filter((topics) => topics.length > 0)
}

/** Which rank a topic has, from 1; 0 where it has none. */
export const rankIn = (ranks: Ranks, topic: string): number =>
  ranks.findIndex((topics) => topics.includes(topic)) + 1

/** All topics, the most wanted first. */
export const inRow = (ranks: Ranks): string[] => ranks.flat()

/**
 * Puts a topic at a place in the row of all. Between two that are wanted equally it is wanted as they are; anywhere else
 * it stands alone.
 */
export function placed(ranks: Ranks, topic: string, place: number): string[][] {
  const rest = takenOut(ranks, topic)
  const row = inRow(rest)
  const at = Math.max(0, Math.min(place, row.length))
  const [before, after] = [row[at - 1], row[at]]
  const within = before !== undefined && after !== undefined && rankIn(rest, before) === rankIn(rest, after)
  if (within)
    return rest.map((topics) => {
      const i = topics.indexOf(after)
      return i < 0 ? topics : [...topics.slice(0, i), topic, ...topics.slice(i)]
    })
  const rank = before === undefined ? 0 : rankIn(rest, before)
  return [...rest.slice(0, rank), [topic], ...rest.slice(rank)]
}

/** Makes a topic as good as the one above it. The first stays as it is. */
export function joined(ranks: Ranks, topic: string): string[][] {
  const rank = rankIn(ranks, topic)
  if (rank < 1) return ranks.map((topics) => [...topics])
  const own = ranks[rank - 1] as readonly string[]
  // Within a bracket it is as good already; the first of one brings the others along.
  if (rank === 1) return ranks.map((topics) => [...topics])
  return [
    ...ranks.slice(0, rank - 2).map((topics) => [...topics]),
    [...(ranks[rank - 2] as readonly string[]), ...own],
    ...ranks.slice(rank).map((topics) => [...topics]),
  ]
}

/** Gives a topic a rank of its own again, after those that it was as good as. */
export function parted(ranks: Ranks, topic: string): string[][] {
  return ranks.flatMap((topics) => {
    if (!topics.includes(topic) || topics.length === 1) return [[...topics]]
    return [topics.filter((one) => one !== topic), [topic]]
  })
}
