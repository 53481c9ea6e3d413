import { useSyncExternalStore } from 'react'
import type { ExternalToast } from 'sonner'

let wanted = false
const watchers = new Set<() => void>()
let shown: () => void = () => {}
const place = new Promise<void>((resolve) => {
  shown = resolve
})

/** Whether anything was to be said yet: only then is the place for messages loaded. */
export function useWanted(): boolean {
  return useSyncExternalStore(
    (watcher) => {
      watchers.add(watcher)
      return () => watchers.delete(watcher)
    },
    () => wanted,
  )
}

/** Says that the place for messages is on the page. */
export const placeShown = (): void => shown()

async function say(
  how: 'message' | 'success' | 'error',
  words: string,
  options?: ExternalToast,
): Promise<void> {
  if (!wanted) {
    wanted = true
    for (const watcher of watchers) watcher()
  }
  const [{ toast }] = await Promise.all([import('sonner'), place])
  toast[how](words, options)
}

/** Says something in passing, at the top of the page; screen readers say it too. */
export const toast = Object.assign(
  (words: string, options?: ExternalToast) => void say('message', words, options),
  {
    success: (words: string, options?: ExternalToast) => void say('success', words, options),
    error: (words: string, options?: ExternalToast) => void say('error', words, options),
  },
)
