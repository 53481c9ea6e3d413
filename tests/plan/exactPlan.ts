import loadHighs, { type Highs } from 'highs'
import { NO_LIMIT } from '../../src/core/limit.ts'
import type { PlanInput } from '../../src/core/plan/types.ts'

/** What a plan costs, as an exact solver and our planner are compared by. */
export interface Cost {
  left: number
  under: number
  moved: number
  squares: number
}

let solver: Promise<Highs> | null = null

/** Solves a model in CPLEX's LP format. A solver that broke is loaded anew. */
export async function solve(model: string): Promise<Record<string, number>> {
  solver ??= loadHighs()
  const highs = await solver
  let solution: ReturnType<Highs['solve']>
  try {
    solution = highs.solve(model, { output_flag: false, mip_rel_gap: 0, mip_abs_gap: 0.5 })
  } catch (error) {
    solver = null
    throw error
  }
  if (solution.Status !== 'Optimal') throw new Error(`The solver says ${solution.Status}.`)
  return Object.fromEntries(
    Object.entries(solution.Columns).map(([name, column]) => [name, 'Primal' in column ? column.Primal : 0]),
  )
}

const WEIGHTS = { left: 1_000_000, under: 50_000, moved: 1_000, squares: 1 }

/**
 * The least cost of a small input, by integer programming: one variable per person and group, one per group and size.
 * Written from what a plan should be, sharing nothing with how ours is found. Pins and held seats are not modelled.
 */
export async function exactCost(input: PlanInput): Promise<Cost> {
  const objective = new Map<string, number>()
  const costs = (name: string, by: number) => objective.set(name, (objective.get(name) ?? 0) + by)
  const rows: string[] = []
  const binaries: string[] = []
  const seatOf = new Map(input.seats.map(({ person, group }) => [person, group]))
  const released = (person: string) =>
    typeof input.release === 'string' ? input.release !== 'none' : input.release.includes(person)
  const may = (p: number, g: number) =>
    input.offers === 'course' || input.people[p]?.section === input.groups[g]?.section
  const x = (p: number, g: number) => `x_${p}_${g}`
  const free: number[] = []
  const fixedIn: number[][] = input.groups.map(() => [])
  const emptiable: boolean[] = []
  input.groups.forEach(({ key, floor, closed }, g) => {
    const members = input.people.flatMap((person, p) => (seatOf.get(person.key) === key ? [p] : []))
    const low = members.length > 0 && members.length < floor && input.floorsFirst
    emptiable[g] = input.mayDissolve && !closed && low && members.every((p) => may(p, g))
    fixedIn[g] = members.filter((p) => closed || !released(input.people[p]?.key ?? '') || !may(p, g))
  })
  const home = (p: number) =>
    input.release === 'afresh'
      ? -1
      : input.groups.findIndex(({ key }) => key === seatOf.get(input.people[p]?.key ?? ''))
  input.people.forEach(({ key }, p) => {
    const g = input.groups.findIndex((group) => group.key === seatOf.get(key))
    const fixed = g >= 0 && fixedIn[g]?.includes(p)
    if (fixed && !emptiable[g]) return
    free.push(p)
    const places = input.groups.flatMap((_, to) => (may(p, to) || (fixed && to === g) ? [to] : []))
    if (places.length === 0) return
    for (const to of places) {
      binaries.push(x(p, to))
      costs(x(p, to), -WEIGHTS.left)
    }
    rows.push(`${places.map((to) => x(p, to)).join(' + ')} <= 1`)
    const at = fixed ? g : home(p)
    if (at >= 0) {
      costs(x(p, at), -WEIGHTS.moved)
    }
    if (fixed) {
      binaries.push(`e_${g}`)
      rows.push(`${x(p, g)} + e_${g} = 1`)
    }
  })
  input.groups.forEach(({ seats, blocked, floor, closed }, g) => {
    const stay = emptiable[g] ? 0 : (fixedIn[g]?.length ?? 0)
    const room = closed ? 0 : seats === NO_LIMIT ? input.people.length : Math.max(0, seats - blocked)
    const most = Math.max(room, fixedIn[g]?.length ?? 0)
    const comers = free.filter((p) => binaries.includes(x(p, g)))
    const sizes = Array.from({ length: most + 1 }, (_, k) => k)
    for (const k of sizes) {
      binaries.push(`y_${g}_${k}`)
      const under = k > 0 && k < (input.floorsFirst ? floor : 1) ? WEIGHTS.under : 0
      const even = input.method === 'lot' ? 0 : WEIGHTS.squares * k * k
      costs(`y_${g}_${k}`, under + even)
    }
    rows.push(`${sizes.map((k) => `y_${g}_${k}`).join(' + ')} = 1`)
    const inside = comers.map((p) => ` - ${x(p, g)}`).join('')
    rows.push(
      `${
        sizes
          .filter((k) => k > 0)
          .map((k) => `${k} y_${g}_${k}`)
          .join(' + ') || `0 y_${g}_0`
      }${inside} = ${stay}`,
    )
    // Emptied means that nobody at all is left, nor comes.
    if (binaries.includes(`e_${g}`)) rows.push(`e_${g} - y_${g}_0 <= 0`)
  })
  /** Whether somebody sits in a group: a variable's name, or what is settled. */
  const sits = (p: number, g: number): string | number =>
    binaries.includes(x(p, g))
      ? x(p, g)
      : seatOf.get(input.people[p]?.key ?? '') === input.groups[g]?.key && !free.includes(p)
        ? 1
        : 0
  /** The variable that says whether the group of somebody who else stays is emptied; null for those who stay or are free. */
  const emptying = (p: number) => {
    const g = fixedIn.findIndex((people) => people.includes(p))
    return g >= 0 && free.includes(p) ? `e_${g}` : null
  }
  const keepTogether = (p: number, q: number, g: number) => {
    const [a, b] = [sits(p, g), sits(q, g)]
    // Somebody may be left out beside one who stays, but not sit anywhere else.
    if (typeof a === 'number') rows.push(`${b} <= ${a}`)
    else if (emptying(p) === emptying(q)) rows.push(`${a} - ${b} = 0`)
    else if (emptying(p) !== null && emptying(q) === null) {
      rows.push(`${b} - ${a} <= 0`)
      rows.push(`${a} - ${b} + ${emptying(p)} <= 1`)
    } else rows.push(`${a} - ${b} = 0`)
  }
  for (const { kind, people } of input.keepings) {
    const indices = people.map((key) => input.people.findIndex((person) => person.key === key))
    for (const [i, p] of indices.entries()) {
      for (const q of indices.slice(i + 1)) {
        input.groups.forEach((_, g) => {
          const [a, b] = [sits(p, g), sits(q, g)]
          if (typeof a === 'number' && typeof b === 'number') return
          // Whoever stays for certain stands first; of two who do not, the one whose group cannot be emptied.
          const settled =
            typeof b === 'number' || (typeof a !== 'number' && emptying(q) !== null && emptying(p) === null)
          if (kind === 'together') keepTogether(settled ? q : p, settled ? p : q, g)
          else {
            const names = [a, b].filter((term) => typeof term === 'string')
            const ones = (a === 1 ? 1 : 0) + (b === 1 ? 1 : 0)
            rows.push(`${names.join(' + ')} <= ${1 - ones}`)
          }
        })
      }
    }
  }
  const unique = [...new Set(binaries)]
  const terms = [...objective].map(([name, by]) => `${by < 0 ? '-' : '+'} ${Math.abs(by)} ${name}`)
  const model = `Minimize\n obj: ${terms.join(' ')}\nSubject To\n${rows
    .map((row, i) => ` c${i}: ${row}`)
    .join('\n')}\nBinary\n ${unique.join(' ')}\nEnd\n`
  const values = await solve(model)
  const is = (name: string) => (values[name] ?? 0) > 0.5
  const cost: Cost = { left: 0, under: 0, moved: 0, squares: 0 }
  for (const p of free) {
    const at = input.groups.findIndex((_, g) => is(x(p, g)))
    if (at < 0) cost.left += 1
    const g = input.groups.findIndex(({ key }) => key === seatOf.get(input.people[p]?.key ?? ''))
    const was = g >= 0 && fixedIn[g]?.includes(p) ? g : home(p)
    if (was >= 0 && was !== at) cost.moved += 1
  }
  input.groups.forEach(({ floor }, g) => {
    const k = Object.keys(values).find((name) => name.startsWith(`y_${g}_`) && is(name))
    const size = Number(k?.split('_')[2] ?? 0)
    if (input.floorsFirst && size > 0 && size < floor) cost.under += 1
    cost.squares += size * size
  })
  return cost
}
