import type { Restored } from '../../contract/restored.ts'

/** What is said when something that went away is back: who sits there again, and who could not return. */
export function restoredWords(what: string, { seated, out }: Restored): string {
  const back =
    seated === 0 ? '' : seated === 1 ? ' 1 person sits there again.' : ` ${seated} people sit there again.`
  const not = out.slice(0, 2).map(({ name, why }) => `${name} could not return: ${why}`)
  const more = out.length > not.length ? [`${out.length - not.length} more could not return.`] : []
  return [`${what} is back.${back}`, ...not, ...more].join(' ')
}
