import { spawnSync } from 'node:child_process'
import { drawLots } from '../../src/core/lot.ts'
import type { SizedGroup } from '../../src/core/plan/sizeProblem.ts'
import { bestSizes } from '../../src/core/plan/sizes.ts'
import { workOf } from '../../src/core/plan/work.ts'

const STUDENTS = 20_000
const GROUPS = 2_500
const LIMIT = 500
/** Seconds that the exact solver gets. */
const MINUTE = 60

/**
 * The sizes of a very large course, beside the exact solver's relaxation of the same: a variable for each group and
 * size. The solver runs in a process of its own, so that it can be ended.
 */
export async function largeCase(): Promise<void> {
  const lot = drawLots(7)
  const groups = Array.from({ length: GROUPS }, (): SizedGroup => {
    const stay = lot.below(3) === 0 ? lot.below(12) : 0
    const floor = 4 + lot.below(14)
    return { stay, loose: 0, most: LIMIT, floor, mayEmpty: stay > 0 && stay < floor }
  })
  const people = STUDENTS - groups.reduce((sum, { stay }) => sum + stay, 0)
  const start = performance.now()
  const ours = bestSizes(groups, people, workOf(400_000_000))
  const time = performance.now() - start
  const same = JSON.stringify(ours.cost) === JSON.stringify(ours.bound)
  console.log(
    `${STUDENTS} students, ${GROUPS} groups of up to ${LIMIT}: ${time.toFixed(0)} ms, ${JSON.stringify(ours.cost)}, ${same ? 'proven best' : 'not proven'}`,
  )
  const model = relaxation(groups, people)
  const code = `
    const { default: load } = await import('highs')
    const highs = await load()
    const chunks = []
    for await (const chunk of process.stdin) chunks.push(chunk)
    const start = performance.now()
    const { Status, ObjectiveValue } = highs.solve(Buffer.concat(chunks).toString(), { output_flag: false })
    console.log(JSON.stringify({ Status, ObjectiveValue, ms: performance.now() - start }))`
  const run = spawnSync(process.execPath, ['--max-old-space-size=8000', '--input-type=module', '-e', code], {
    input: model,
    timeout: (MINUTE + 30) * 1_000,
    maxBuffer: 2 ** 28,
    encoding: 'utf8',
  })
  const said =
    run.status === 0
      ? (JSON.parse(run.stdout.trim()) as { Status: string; ms: number; ObjectiveValue: number })
      : null
  if (said?.Status !== 'Optimal' || said.ms > MINUTE * 1_000) {
    console.log(
      `large ratio: none, the solver's relaxation did not end within ${MINUTE} s (${said?.Status ?? run.signal ?? 'it broke'})`,
    )
    return
  }
  const { under, moved, uneven } = ours.cost
  const reached = under * PER_UNDER + moved * PER_MOVED + uneven
  console.log(
    `the solver's relaxation: ${said.ms.toFixed(0)} ms, ${said.ObjectiveValue.toFixed(1)}; ours reaches ${reached}, ${((reached / said.ObjectiveValue - 1) * 100).toFixed(3)} % above it`,
  )
  console.log(`large ratio ${(time / said.ms).toFixed(3)}`)
}

const PER_UNDER = 1e6
const PER_MOVED = 1e3

/** The linear relaxation in CPLEX's LP format: sizes up to three times the mean, beyond which no best answer goes. */
function relaxation(groups: readonly SizedGroup[], people: number): string {
  const most = Math.ceil((3 * STUDENTS) / GROUPS)
  const cost: string[] = []
  const rows: string[] = []
  const terms: string[] = []
  groups.forEach(({ stay, floor, mayEmpty }, g) => {
    const options = mayEmpty ? [0] : []
    for (let k = stay; k <= Math.max(stay, most); k++) options.push(k)
    for (const k of options) {
      const under = k > 0 && k < floor ? PER_UNDER : 0
      const moved = k < stay ? PER_MOVED * stay : 0
      cost.push(`${under + moved + k * k} y_${g}_${k}`)
      if (k > 0) terms.push(`${k} y_${g}_${k}`)
    }
    rows.push(`${options.map((k) => `y_${g}_${k}`).join(' + ')} = 1`)
  })
  const staying = groups.reduce((sum, { stay }) => sum + stay, 0)
  rows.push(`${terms.join(' + ')} = ${people + staying}`)
  // Lines of the format have a length that readers bear.
  const broken = (line: string) => line.replace(/ \+ /g, ' +\n ')
  return `Minimize\n obj: ${broken(cost.join(' + '))}\nSubject To\n${rows
    .map((row, i) => ` c${i}: ${broken(row)}`)
    .join('\n')}\nEnd\n`
}
