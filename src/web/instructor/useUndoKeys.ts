import { useEffect, useRef } from 'react'
import { typing } from './keys.ts'

/** Ctrl or Cmd Z undoes, with Shift does again, wherever on the page the focus is, but in a field that is typed into. */
export function useUndoKeys(undo: () => void, redo: () => void): void {
  const newest = useRef({ undo, redo })
  useEffect(() => {
    newest.current = { undo, redo }
  })
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key.toLowerCase() !== 'z' || !(event.ctrlKey || event.metaKey)) return
      if (event.defaultPrevented || typing(event)) return
      event.preventDefault()
      if (event.shiftKey) newest.current.redo()
      else newest.current.undo()
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [])
}
