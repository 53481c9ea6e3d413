import { useSyncExternalStore } from 'react'

/** Attributes by which the page knows, under the pointer, whom one drags and where one drops. */
export const PICK = 'data-pick'
export const DROP = 'data-drop'
export const SCROLLS = 'data-scrolls'

/** Where those who are dropped lose their seat. */
export const TRAY = 'tray'

let over: string | null = null
const watchers = new Set<() => void>()

/** Says over which group, or the tray, people are dragged now; null for none. */
export function dragOver(place: string | null): void {
  if (place === over) return
  over = place
  for (const watcher of watchers) watcher()
}

/** Whether people are dragged over this place. Only the places that begin or end to be so are drawn anew. */
export function useDraggedOver(place: string): boolean {
  return useSyncExternalStore(
    (watcher) => {
      watchers.add(watcher)
      return () => watchers.delete(watcher)
    },
    () => over === place,
  )
}

/** The place under a point of the window, and what scrolls there. */
export function placeAt({ x, y }: { x: number; y: number }): {
  place: string | null
  scrolls: HTMLElement | null
} {
  const element = document.elementFromPoint(x, y)
  return {
    place: element?.closest(`[${DROP}]`)?.getAttribute(DROP) ?? null,
    scrolls: element?.closest<HTMLElement>(`[${SCROLLS}]`) ?? null,
  }
}
