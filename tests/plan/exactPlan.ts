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
  const objective: string[] = []
  const rows: string[] = []
  const binaries: string[] = []
  const seatOf = new Map(input.seats.map(({ person, group }) => [person, group]))
  const released = (person: string) =>
    typeof input.release === 'string' ? input.release !== 'none' : input.release.includes(person)
  const may = (p: number, g: number) =>
    input.offers === 'course' || input.people[p]?.section === input.groups[g]?.section
  let constant = 0
  const x = (p: number, g: number) => `x_${p}_${g}`
  const free: number[] = []
  const fixedIn: number[][] = input.groups.map(() => [])
  const emptiable: boolean[] = []
  input.groups.forEach(({ key, floor }, g) => {
    const members = input.people.flatMap((person, p) => (seatOf.get(person.key) === key ? [p] : []))
    const low = members.length > 0 && members.length < floor && input.floorsFirst
    emptiable[g] = input.mayDissolve && low && members.every((p) => may(p, g))
    fixedIn[g] = members.filter((p) => !released(input.people[p]?.key ?? '') || !may(p, g))
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
    if (places.length === 0) {
      constant += WEIGHTS.left
      return
    }
    for (const to of places) {
      binaries.push(x(p, to))
      objective.push(`- ${WEIGHTS.left} ${x(p, to)}`)
    }
    constant += WEIGHTS.left
    rows.push(`${places.map((to) => x(p, to)).join(' + ')} <= 1`)
    const at = fixed ? g : home(p)
    if (at >= 0) {
      constant += WEIGHTS.moved
      objective.push(`- ${WEIGHTS.moved} ${x(p, at)}`)
    }
    if (fixed) {
      binaries.push(`e_${g}`)
      rows.push(`${x(p, g)} + e_${g} = 1`)
    }
  })
  input.groups.forEach(({ seats, blocked, floor, closed }, g) => {
    const stay = emptiable[g] ? 0 : (fixedIn[g]?.length ?? 0)
    const members = input.people.filter((person) => seatOf.get(person.key) === input.groups[g]?.key).length
    const room = closed ? members : seats === NO_LIMIT ? input.people.length : Math.max(0, seats - blocked)
    const most = Math.max(room, fixedIn[g]?.length ?? 0)
    const comers = free.filter((p) => binaries.includes(x(p, g)))
    const sizes = Array.from({ length: most + 1 }, (_, k) => k)
    for (const k of sizes) {
      binaries.push(`y_${g}_${k}`)
      const under = k > 0 && k < (input.floorsFirst ? floor : 1) ? WEIGHTS.under : 0
      const even = input.method === 'lot' ? 0 : WEIGHTS.squares * k * k
      objective.push(`+ ${under + even} y_${g}_${k}`)
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
  for (const { kind, people } of input.keepings) {
    people.forEach((a, i) => {
      for (const b of people.slice(i + 1)) {
        const [p, q] = [a, b].map((key) => input.people.findIndex((person) => person.key === key)) as [
          number,
          number,
        ]
        input.groups.forEach(({ key }, g) => {
          const term = (at: number) =>
            binaries.includes(x(at, g))
              ? { name: x(at, g), one: 0 }
              : { name: '', one: seatOf.get(input.people[at]?.key ?? '') === key ? 1 : 0 }
          const [left, right] = [term(p), term(q)]
          const names = (sign: string) =>
            [left.name, right.name && `${sign} ${right.name}`].filter(Boolean).join(' ')
          if (!left.name && !right.name) return
          if (kind === 'apart') rows.push(`${names('+')} <= ${1 - left.one - right.one}`)
          else rows.push(`${names('-')} = ${right.one - left.one}`)
        })
      }
    })
  }
  const unique = [...new Set(binaries)]
  const model = `Minimize\n obj: ${objective.join(' ') || '0 none'}\nSubject To\n${rows
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
  input.groups.forEach(({ seats, floor }, g) => {
    void seats
    const k = Object.keys(values).find((name) => name.startsWith(`y_${g}_`) && is(name))
    const size = Number(k?.split('_')[2] ?? 0)
    if (input.floorsFirst && size > 0 && size < floor) cost.under += 1
    cost.squares += size * size
  })
  void constant
  return cost
}
