import { useSyncExternalStore } from 'react'

declare const __BUILD__: string | undefined

/** Names the build that this page is of; empty while developing. */
const BUILD = typeof __BUILD__ === 'string' ? __BUILD__ : ''

/** The header in which the server says of which build its pages are. */
const HEADER = 'Haplon-Build'

let older = false
const watchers = new Set<() => void>()

/** Learns from an answer whether the server has newer pages than this one. */
export function noteBuild(headers: Pick<Headers, 'get'>): void {
  const build = headers.get(HEADER)
  if (older || BUILD === '' || build === null || build === BUILD) return
  older = true
  for (const watcher of watchers) watcher()
}

/** Whether the server has newer pages than this one: the next change of page loads them. */
export function useOlder(): boolean {
  return useSyncExternalStore(
    (watcher) => {
      watchers.add(watcher)
      return () => watchers.delete(watcher)
    },
    () => older,
  )
}
