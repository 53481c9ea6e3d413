/** Milliseconds after which what was pressed is gone from the page, where it goes. */
const AFTER = 60

/**
 * After something that had the focus is gone, puts it somewhere sensible: onto the first of these that is there, or onto
 * the page's heading. The page stays where it is; a focus that something else has by then is left.
 */
export function keepFocus(...selectors: readonly string[]): void {
  setTimeout(() => {
    const { activeElement } = document
    if (activeElement && activeElement !== document.body) return
    const next = [...selectors, '#page h1']
      .map((one) => document.querySelector<HTMLElement>(one))
      .find(Boolean)
    if (!next) return
    if (next.tabIndex < 0) next.tabIndex = -1
    next.focus({ preventScroll: true })
  }, AFTER)
}
