// How long a plan takes as courses grow, and against an exact solver on the same instance.
// Prints time, memory and growth per step, and `plan ratio R`: our time over the exact solver's. Then hard cases:
// `hard first N ms` to a plan to look at, `hard proven N %` within ten seconds, `hard gap N` of those that are not;
// and `large ratio R`: 20,000 students in 2,500 groups of up to 500 with floors, against the solver's relaxation.
import { NO_LIMIT } from '../src/core/limit.ts'
import { drawLots } from '../src/core/lot.ts'
import { makePlan } from '../src/core/plan/plan.ts'
import type { Keeping, Plan, PlanInput } from '../src/core/plan/types.ts'
import { solve } from '../tests/plan/exactPlan.ts'
import { hardCases } from './lib/hardCases.ts'
import { largeCase } from './lib/largeCase.ts'

const SECTIONS = 5
/** People per group in the mean. */
const SHARE = 8
const RUNS = 5

/** A course whose groups differ in limit and floor, two fifths of whose people sit already. */
function course(people: number, inPairs: number): PlanInput {
  const lot = drawLots(people)
  const sections = Array.from({ length: SECTIONS }, (_, i) => `section ${i}`)
  const groups = Array.from({ length: Math.round(people / SHARE) }, (_, i) => ({
    key: `group ${i}`,
    section: sections[i % SECTIONS] ?? '',
    seats: 7 + lot.below(5),
    blocked: lot.below(12) === 0 ? 1 : 0,
    floor: 3 + lot.below(4),
  }))
  const room = new Map(groups.map(({ key, seats, blocked }) => [key, seats - blocked]))
  const made = Array.from({ length: people }, (_, i) => ({
    key: `person ${i}`,
    name: `Given ${lot.below(500)} Surname ${lot.below(2_000)}`,
    section: sections[i % SECTIONS] ?? '',
  }))
  const bySection = sections.map((section) => groups.filter((group) => group.section === section))
  const seats = made.flatMap(({ key }, i) => {
    const own = bySection[i % SECTIONS] ?? []
    const at = own[lot.below(own.length)]
    if (!at || lot.below(5) > 1 || (room.get(at.key) ?? 0) === 0) return []
    room.set(at.key, (room.get(at.key) ?? 0) - 1)
    return [{ person: key, group: at.key }]
  })
  // Pairs are drawn within a section: across sections they are apart anyhow.
  const pairs = Math.round((people * inPairs) / 2)
  const keepings = Array.from({ length: pairs }, (_, i): Keeping => {
    const section = i % SECTIONS
    const pick = () => `person ${section + SECTIONS * lot.below(Math.floor(people / SECTIONS))}`
    return { key: `pair ${i}`, kind: 'apart', people: [pick(), pick()] }
  }).filter(({ people: [a, b] }) => a !== b)
  return {
    people: made,
    groups,
    seats,
    heldFor: [],
    offers: 'section',
    keepings,
    method: 'evenly',
    lotNumber: 48_213,
    floorsFirst: true,
    mayDissolve: true,
    release: 'none',
    pins: [],
  }
}

/** The median of several runs of a plan, in milliseconds, with the most memory that the heap grew by, in MiB. */
function measure(input: PlanInput): { ms: number; mib: number; plan: Plan } {
  let plan = makePlan(input)
  const times: number[] = []
  let mib = 0
  for (let run = 0; run < RUNS; run++) {
    globalThis.gc?.()
    const heap = process.memoryUsage().heapUsed + process.memoryUsage().arrayBuffers
    const start = performance.now()
    plan = makePlan(input)
    times.push(performance.now() - start)
    const grown = process.memoryUsage().heapUsed + process.memoryUsage().arrayBuffers - heap
    mib = Math.max(mib, grown / 2 ** 20)
  }
  return { ms: times.sort((a, b) => a - b)[Math.floor(RUNS / 2)] ?? 0, mib, plan }
}

/**
 * The same instance for the exact solver, in the tightest form we know: who sits where does not matter without pairs,
 * so that it chooses a size per group, each size with its cost.
 */
function sizesModel(input: PlanInput): string {
  const size = new Map<string, number>()
  for (const { group } of input.seats) size.set(group, (size.get(group) ?? 0) + 1)
  const cost: string[] = []
  const rows: string[] = []
  const names: string[] = []
  const sections = [...new Set(input.groups.map(({ section }) => section))]
  for (const section of sections) {
    const own = input.groups.filter((group) => group.section === section)
    const students = input.people.filter((person) => person.section === section).length
    const terms: string[] = []
    own.forEach(({ key, seats, blocked, floor }) => {
      const here = size.get(key) ?? 0
      const g = input.groups.findIndex((group) => group.key === key)
      const most = Math.max(here, seats === NO_LIMIT ? students : seats - blocked)
      const options = here > 0 && here < floor ? [0] : []
      for (let k = here; k <= most; k++) options.push(k)
      for (const k of options) {
        const name = `y_${g}_${k}`
        names.push(name)
        const under = k > 0 && k < floor ? 1e7 : 0
        const moved = k < here ? 1e4 * here : 0
        cost.push(`${under + moved + k * k} ${name}`)
        if (k > 0) terms.push(`${k} ${name}`)
      }
      rows.push(`${options.map((k) => `y_${g}_${k}`).join(' + ')} = 1`)
    })
    rows.push(`${terms.join(' + ')} = ${students}`)
  }
  return `Minimize\n obj: ${cost.join(' + ')}\nSubject To\n${rows.map((row, i) => ` c${i}: ${row}`).join('\n')}\nBinary\n ${names.join(' ')}\nEnd\n`
}

/** What was reached, to be compared: groups under their floor, people moved, sum of squared sizes. */
function reached(input: PlanInput, sizes: ReadonlyMap<string, number>): string {
  const before = new Map<string, number>()
  for (const { group } of input.seats) before.set(group, (before.get(group) ?? 0) + 1)
  let [under, moved, squares] = [0, 0, 0]
  for (const { key, floor } of input.groups) {
    const k = sizes.get(key) ?? 0
    if (k > 0 && k < floor) under += 1
    if (k < (before.get(key) ?? 0)) moved += before.get(key) ?? 0
    squares += k * k
  }
  return `${under} under their floor, ${moved} moved, squares ${squares}`
}

let last: { n: number; ms: number } | null = null
for (const n of [600, 5_000, 20_000]) {
  const { ms, mib, plan } = measure(course(n, 0.03))
  const growth = last
    ? `, ${(ms / last.ms).toFixed(1)} times the step before (n log n: ${((n * Math.log2(n)) / (last.n * Math.log2(last.n))).toFixed(1)})`
    : ''
  console.log(
    `${n} students, ${Math.round(n / SHARE)} groups, 3 % in pairs: ${ms.toFixed(0)} ms, ${mib.toFixed(0)} MiB, ${plan.moves.length} moves, ${plan.left.length} left, ${plan.proven ? 'proven best' : 'not proven'}${growth}`,
  )
  last = { n, ms }
}

const input = course(5_000, 0)
const ours = measure(input)
const sizes = new Map<string, number>()
const moved = new Map(ours.plan.moves.map((move) => [move.person, move.to]))
const seated = new Map(input.seats.map(({ person, group }) => [person, group]))
for (const { key } of input.people) {
  const at = moved.get(key) ?? seated.get(key)
  if (at) sizes.set(at, (sizes.get(at) ?? 0) + 1)
}
const model = sizesModel(input)
await solve('Minimize\n obj: x\nSubject To\n c: x >= 1\nEnd\n')
const start = performance.now()
const solution = await solve(model)
const exact = performance.now() - start
const solved = new Map<string, number>()
for (const [name, value] of Object.entries(solution)) {
  const [, g, k] = name.split('_')
  if (value > 0.5) solved.set(input.groups[Number(g)]?.key ?? '', Number(k))
}
const [mine, theirs] = [reached(input, sizes), reached(input, solved)]
console.log(
  `5000 students without pairs: ours ${ours.ms.toFixed(0)} ms, ${mine}; exact solver ${exact.toFixed(0)} ms, ${theirs}`,
)
console.log(mine === theirs ? 'same optimum' : 'NOT the same optimum')
console.log(`plan ratio ${(ours.ms / exact).toFixed(3)}`)

hardCases(Number(process.env.HARD ?? 200))
await largeCase()
