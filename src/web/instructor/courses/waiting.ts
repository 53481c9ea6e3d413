import type { SmallGroup, WaitingItem } from '../../../contract/courses.ts'

const plural = (n: number, one: string, many: string) => (n === 1 ? `1 ${one}` : `${n} ${many}`)

/** How a group became too small, in words that follow its name. */
export function smallWords({ size, floor, leavers }: Pick<SmallGroup, 'size' | 'floor' | 'leavers'>): string {
  const who = leavers.length > 2 ? `${leavers[0]} and ${leavers.length - 1} others` : leavers.join(' and ')
  return `has ${size} of at least ${floor}, since ${who} left`
}

/** Something that waits, in words, and where to go for it. */
export function waitingWords(item: WaitingItem): { what: string; where: string; to: string } {
  const { kind, count, course, sheet, sheetTitle, sections, why } = item
  const mostly = sections.length > 0 ? `, ${sections.join(', ')}` : ''
  const where = `${sheetTitle ?? ''}${mostly}`
  switch (kind) {
    case 'rule-failed':
      return {
        what: 'A rule could not be carried out',
        where: `${sheetTitle}: ${why}`,
        to: `/sheets/${sheet}/settle`,
      }
    case 'plan-drafted':
      return {
        what: `A plan of ${plural(count, 'move', 'moves')} waits`,
        where,
        to: `/sheets/${sheet}/settle`,
      }
    case 'under-floor':
      return {
        what: `${plural(count, 'group is', 'groups are')} under the floor`,
        where,
        to: `/sheets/${sheet}/run`,
      }
    case 'no-group':
      return {
        what: `${plural(count, 'student has', 'students have')} no group`,
        where,
        to: `/sheets/${sheet}/run`,
      }
    case 'seats-short':
      return { what: `${plural(count, 'seat', 'seats')} short`, where, to: `/sheets/${sheet}/compose` }
    case 'no-roster':
      return {
        what: 'Nobody is on the roster',
        where: 'Import it from a file',
        to: `/courses/${course}/roster`,
      }
    case 'no-sheet':
      return {
        what: 'No sheet yet',
        where: 'Say how the groups come about',
        to: `/courses/${course}/sheets/new`,
      }
  }
}
