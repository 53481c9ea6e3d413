import { watched } from '../../data/watched.ts'

/** Attributes by which the page knows, under the pointer, whom one drags and where one drops. */
export const PICK = 'data-pick'
export const DROP = 'data-drop'
export const SCROLLS = 'data-scrolls'

/** Where those who are dropped lose their seat. */
export const TRAY = 'tray'

const over = watched<string | null>(null)

/** Says over which group, or the tray, people are dragged now; null for none. */
export const dragOver = (place: string | null): void => over.set(place)

/** Whether people are dragged over this place. Only the places that begin or end to be so are drawn anew. */
export const useDraggedOver = (place: string): boolean => over.use((at) => at === place)

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
