import type { ComposeView } from '../../../contract/sheets.ts'
import { HOUR, msOf } from '../../../core/instant.ts'
import { sayLength } from '../../../core/window.ts'
import { changesClocks } from '../../../core/zone.ts'

/** What about a window may be a mistake, each in a sentence. None of it keeps the sheet from going out. */
export function windowDoubts(
  { opensAt, closesAt, course }: Pick<ComposeView, 'opensAt' | 'closesAt' | 'course'>,
  now: string,
): string[] {
  const doubts: string[] = []
  if (closesAt !== null && closesAt <= now) doubts.push('The window ends in the past.')
  if (closesAt !== null) {
    const from = opensAt !== null && opensAt > now ? opensAt : now
    const length = msOf(closesAt) - msOf(from)
    if (length > 0 && length < HOUR) doubts.push(`The window is only ${sayLength(length)} long.`)
  }
  const ends = [
    { what: 'opens', at: opensAt },
    { what: 'closes', at: closesAt },
  ]
  for (const { what, at } of ends) {
    if (at !== null && changesClocks(at, course.zone))
      doubts.push(`It ${what} in a night in which clocks change.`)
  }
  return doubts
}
