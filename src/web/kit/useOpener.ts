import { useRef } from 'react'
import { keepFocus } from './focus.ts'

const FIELDS =
  'input:not([type="hidden"]):not(:disabled):not([readonly]), textarea:not(:disabled), select:not(:disabled)'

/**
 * Puts the focus on the first field of a box that opens, where it has one, and lets it return to where it was when the
 * box closes, however it was opened: spread it over the box’s content.
 */
export function useOpener(): {
  onOpenAutoFocus: (event: Event) => void
  onCloseAutoFocus: (event: Event) => void
} {
  const opener = useRef<Element | null>(null)
  return {
    onOpenAutoFocus: (event) => {
      opener.current = document.activeElement
      const field = event.target instanceof Element ? event.target.querySelector<HTMLElement>(FIELDS) : null
      if (!field) return
      event.preventDefault()
      field.focus()
    },
    onCloseAutoFocus: (event) => {
      const { current } = opener
      // What was pressed to open it may be gone by then, or go with what was done.
      keepFocus()
      if (!(current instanceof HTMLElement) || !current.isConnected) return
      event.preventDefault()
      current.focus()
    },
  }
}
