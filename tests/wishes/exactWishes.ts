import loadHighs from 'highs'
import { digitsOf, longestOf, openTo } from '../../src/core/wishes/network.ts'
import type { WishInput } from '../../src/core/wishes/types.ts'

/**
 * What the best seating comes to, by an exact solver (HiGHS), one level of the aim after the other: what was reached on a
 * level holds on all that follow. People without wishes are not told apart from those with.
 * @returns how many have each rank, how many none of theirs, and how many are left
 */
export async function solveWishes(input: WishInput): Promise<[number[], number, number]> {
  const { wishers, groups, aim } = input
  if (aim === 'in-turn') throw new RangeError('There is nothing to be solved in turn.')
  const highs = await loadHighs()
  const longest = longestOf(input)
  const terms = new Map<number, string[]>()
  const levels = new Map<number, string[]>()
  const at = (map: Map<number, string[]>, key: number, text: string) => {
    const known = map.get(key)
    if (known) known.push(text)
    else map.set(key, [text])
  }
  const inGroup = groups.map((): string[] => [])
  const byRank = Array.from({ length: longest + 1 }, (): string[] => [])
  const left: string[] = []
  const rows: string[] = []
  const bounds: string[] = []
  wishers.forEach((wisher, i) => {
    const own: string[] = []
    const option = (name: string, rank: number) => {
      own.push(name)
      bounds.push(`0 <= ${name} <= 1`)
      byRank[rank - 1]?.push(name)
      for (const [level, digit] of digitsOf(aim, rank, longest))
        at(levels, level, `${digit < 0 ? '-' : '+'} ${Math.abs(digit)} ${name}`)
    }
    const open = openTo(wisher, input)
    for (const g of open) {
      const rank = wisher.ranks.findIndex((topics) => topics.includes(groups[g]?.topic ?? ''))
      const name = `x${i}_${g}`
      if (rank < 0) continue
      option(name, rank + 1)
      inGroup[g]?.push(name)
    }
    // Any other group: all are open to all here, so that seats are counted together.
    option(`y${i}`, longest + 1)
    left.push(`z${i}`)
    rows.push(`o${i}: ${[...own, `z${i}`].join(' + ')} = 1`)
    bounds.push(`0 <= z${i} <= 1`)
  })
  terms.set(
    0,
    left.map((name) => `+ 1 ${name}`),
  )
  for (const [level, texts] of levels) terms.set(level, texts)
  const seats = groups.reduce((sum, group) => sum + group.seats, 0)
  groups.forEach((group, g) => {
    const names = inGroup[g] ?? []
    if (names.length > 0) rows.push(`g${g}: ${names.join(' + ')} <= ${group.seats}`)
  })
  rows.push(`all: ${left.join(' + ')} >= ${wishers.length - seats}`)
  let columns: Record<string, number> = {}
  for (const level of [...terms.keys()].sort((a, b) => a - b)) {
    const goal = terms.get(level)?.join(' ') ?? '0'
    const model = `Minimize\n obj: ${goal}\nSubject To\n ${rows.join('\n ')}\nBounds\n ${bounds.join('\n ')}\nEnd`
    const solved = highs.solve(model, { output_flag: false })
    if (solved.Status !== 'Optimal') throw new Error(`The solver says ${solved.Status}.`)
    columns = Object.fromEntries(
      Object.entries(solved.Columns).map(([name, column]) => [name, 'Primal' in column ? column.Primal : 0]),
    )
    rows.push(`l${level}: ${goal} <= ${Math.round(solved.ObjectiveValue)}`)
  }
  const counted = (names: readonly string[]) =>
    Math.round(names.reduce((sum, name) => sum + (columns[name] ?? 0), 0))
  return [byRank.slice(0, longest).map(counted), counted(byRank[longest] ?? []), counted(left)]
}
