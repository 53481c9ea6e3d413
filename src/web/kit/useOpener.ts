import { useRef } from 'react'

/** Lets the focus return to where it was when a box opened, however it was opened: spread it over the box’s content. */
export function useOpener(): { onOpenAutoFocus: () => void; onCloseAutoFocus: (event: Event) => void } {
  const opener = useRef<Element | null>(null)
  return {
    onOpenAutoFocus: () => {
      opener.current = document.activeElement
    },
    onCloseAutoFocus: (event) => {
      const { current } = opener
      if (!(current instanceof HTMLElement) || !current.isConnected) return
      event.preventDefault()
      current.focus()
    },
  }
}
