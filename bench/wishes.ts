// How long seating by wishes takes as courses grow, six wishes each with skewed demand, and against an exact solver on
// the same instance in the same run. Prints time, memory and growth for each aim, `wishes ratio R` (our time over the
// solver's) and whether both come to the same.
import { drawLots } from '../src/core/lot.ts'
import { PLAN_STEPS, workOf } from '../src/core/plan/work.ts'
import { gapIn, USUAL_ORDER, type WishRules } from '../src/core/wishes/rules.ts'
import { seatByWishes } from '../src/core/wishes/seat.ts'
import type { WishAim, WishInput } from '../src/core/wishes/types.ts'
import { seatWithin } from '../src/core/wishes/within.ts'
import { solveWishes } from '../tests/wishes/exactWishes.ts'

const AIMS = ['most-first', 'nobody-far-down', 'least-total'] as const
const SIZES = [
  { people: 500, groups: 50, compared: true },
  { people: 2_000, groups: 200, compared: true },
  { people: 5_000, groups: 500, compared: true },
  { people: 20_000, groups: 1_000, compared: false },
]
const WISHES = 6
/** Runs of which the median counts, after one that warms up: small classes are over before the engine knows the code. */
const runsOf = (people: number) => (people <= 500 ? 15 : 5)

/** A course with a seat in ten to spare, in which a few topics are wanted by many. */
function course(people: number, groups: number): Omit<WishInput, 'aim'> {
  const lot = drawLots(people + groups)
  const share = Math.ceil((1.1 * people) / groups)
  const weights = Array.from({ length: groups }, (_, i) => 1 / (i + 3))
  const sums: number[] = []
  for (const weight of weights) sums.push((sums.at(-1) ?? 0) + weight)
  const draw = () => {
    const at = lot.next() * (sums.at(-1) ?? 1)
    let [low, high] = [0, groups - 1]
    while (low < high) {
      const middle = (low + high) >> 1
      if ((sums[middle] ?? 0) < at) low = middle + 1
      else high = middle
    }
    return `topic ${low}`
  }
  const wishers = Array.from({ length: people }, (_, i) => {
    const wanted = new Set<string>()
    while (wanted.size < WISHES) wanted.add(draw())
    return { key: `person ${i}`, section: null, ranks: [...wanted].map((topic) => [topic]), cannot: [] }
  })
  return {
    wishers,
    groups: Array.from({ length: groups }, (_, i) => ({
      key: `group ${i}`,
      topic: `topic ${i}`,
      section: null,
      seats: share,
    })),
    offers: 'section',
    lotNumber: 48_213,
  }
}

/** The median time of several runs and that of the first in milliseconds, the most memory that the heap grew by in MiB, and what it came to. */
function measure(input: WishInput) {
  const used = () => process.memoryUsage().heapUsed + process.memoryUsage().arrayBuffers
  const timed = () => {
    const start = performance.now()
    const { figures } = seatByWishes(input)
    return { figures, ms: performance.now() - start }
  }
  const { ms: first, figures } = timed()
  const times = Array.from({ length: runsOf(input.wishers.length) }, () => timed().ms).sort((a, b) => a - b)
  // Memory is measured apart: cleaning up before a run makes that run slower.
  globalThis.gc?.()
  const before = used()
  timed()
  const mib = (used() - before) / 2 ** 20
  return { ms: times[Math.floor(times.length / 2)] ?? 0, first, mib, figures }
}

const worst = new Map<WishAim, number>()
for (const aim of AIMS) {
  let last = 0
  for (const { people, groups, compared } of SIZES) {
    const input = { ...course(people, groups), aim }
    const { ms, first, mib, figures } = measure(input)
    const growth = last > 0 ? `, ${(ms / last).toFixed(1)} times the one before` : ''
    last = ms
    const got = [...figures.byRank, figures.none, figures.left].join(' ')
    console.log(
      `${aim}, ${people} by ${groups}: ${ms.toFixed(0)} ms (the first time ${first.toFixed(0)}), ${mib.toFixed(0)} MiB${growth}; ranks ${got}`,
    )
    if (!compared) continue
    const start = performance.now()
    const exact = await solveWishes(input)
    const theirs = performance.now() - start
    const same = JSON.stringify([figures.byRank, figures.none, figures.left]) === JSON.stringify(exact)
    // Of the least total several lists of ranks are as good.
    const total = (ranks: readonly number[], none: number) =>
      ranks.reduce((sum, n, i) => sum + n * (i + 1), 0) + none * (WISHES + 1)
    const equal =
      same || (aim === 'least-total' && total(figures.byRank, figures.none) === total(exact[0], exact[1]))
    console.log(
      `  the solver: ${theirs.toFixed(0)} ms, ${equal ? 'the same' : `ANOTHER: ${JSON.stringify(exact)}`}`,
    )
    worst.set(aim, Math.max(worst.get(aim) ?? 0, ms / theirs))
  }
}

// With floors and three in a hundred who keep together: what was found, and by how much it could be better at most.
for (const aim of AIMS) {
  for (const { people, groups, compared } of SIZES) {
    if (!compared) continue
    const input: WishInput = { ...course(people, groups), aim }
    const pairs = Math.round((0.03 * people) / 2)
    const rules: WishRules = {
      together: Array.from({ length: pairs }, (_, i) => [`person ${2 * i}`, `person ${2 * i + 1}`]),
      apart: [],
      floors: new Map(input.groups.map(({ key }) => [key, { floor: 3, fixed: 0 }])),
      order: USUAL_ORDER,
    }
    const start = performance.now()
    const { cost, bound } = seatWithin(input, rules, workOf(PLAN_STEPS))
    const ms = performance.now() - start
    const gap = gapIn(input, rules, cost, bound)
    const words = gap ? `${gap.by} (${gap.part}${gap.rank ? `, wish ${gap.rank}` : ''})` : '0'
    console.log(
      `${aim}, ${people} by ${groups} with floors and ${pairs} pairs: ${ms.toFixed(0)} ms, gap ${words}; ${cost.join(' ')}`,
    )
  }
}
console.log(`wishes ratio ${Math.max(...worst.values()).toFixed(3)}`)
