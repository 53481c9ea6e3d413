import { gapBetween } from '../../src/core/plan/cost.ts'
import { draft } from '../../src/core/plan/drafted.ts'
import { PLAN_STEPS, workOf } from '../../src/core/plan/work.ts'
import { hardCase } from './hardPlans.ts'

/** Milliseconds within which a plan is to be proven. */
const PATIENCE = 10_000

/** Plans random hard cases: how soon there is a plan, how many are proven best in time, and how far the rest may be off. */
export function hardCases(count: number): void {
  // Code that has not run yet is slow once: that is not what is measured.
  draft(hardCase(9_999), workOf(PLAN_STEPS / 10))
  const firsts: number[] = []
  const gaps: number[] = []
  let proven = 0
  for (let i = 0; i < count; i++) {
    const input = hardCase(i)
    const start = performance.now()
    let first = 0
    const drafted = draft(input, workOf(PLAN_STEPS), () => {
      first ||= performance.now() - start
    })
    const time = performance.now() - start
    firsts.push(first || time)
    const gap = gapBetween(drafted.cost, drafted.bound)
    if (gap === null && time <= PATIENCE) proven += 1
    else if (gap) {
      gaps.push(gap.by)
      console.log(
        `hard case ${i}: ${input.people.length} students, ${input.groups.length} groups, ${input.keepings.length} rules: not proven after ${time.toFixed(0)} ms, ${gap.part} by ${gap.by} at most`,
      )
    } else console.log(`hard case ${i}: proven after ${time.toFixed(0)} ms`)
  }
  firsts.sort((a, b) => a - b)
  const late = firsts[Math.min(count - 1, Math.ceil(count * 0.95) - 1)] ?? 0
  const mean = gaps.reduce((sum, gap) => sum + gap, 0) / Math.max(1, gaps.length)
  console.log(`hard first ${late.toFixed(0)} ms`)
  console.log(`hard proven ${((proven / count) * 100).toFixed(1)} %`)
  console.log(`hard gap ${mean.toFixed(1)}`)
}
