import { useSyncExternalStore } from 'react'

/** Where there is room for remarks beside the work. */
const WIDE = '(min-width: 64rem)'

/** Whether remarks stand beside the work; else they stand in it, each after its place. */
export function useWide(): boolean {
  return useSyncExternalStore(
    (changed) => {
      const query = window.matchMedia(WIDE)
      query.addEventListener('change', changed)
      return () => query.removeEventListener('change', changed)
    },
    () => window.matchMedia(WIDE).matches,
  )
}
