import { watched } from './watched.ts'

declare const __BUILD__: string | undefined

/** Names the build that this page is of; empty while developing. */
const BUILD = typeof __BUILD__ === 'string' ? __BUILD__ : ''

/** The header in which the server says of which build its pages are. */
const HEADER = 'Haplon-Build'

const older = watched(false)

/** Learns from an answer whether the server has newer pages than this one. */
export function noteBuild(headers: Pick<Headers, 'get'>): void {
  const build = headers.get(HEADER)
  if (BUILD !== '' && build !== null && build !== BUILD) older.set(true)
}

/** Whether the server has newer pages than this one: the next change of page loads them. */
export const useOlder = (): boolean => older.use((is) => is)
