import { useEffect, useRef } from 'react'
import { useNavigate } from 'react-router'

/** True while somebody types into a field, when letters are text and not commands. */
export function typing(event: KeyboardEvent): boolean {
  const target = event.target as HTMLElement | null
  return (
    target?.closest(
      'input, textarea, select, [contenteditable="true"], [role="dialog"], [role="alertdialog"]',
    ) != null
  )
}

/** Calls a handler when a plain key is pressed outside any field. */
export function useKey(key: string, handler: () => void): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key.toLowerCase() !== key || event.ctrlKey || event.metaKey || event.altKey || typing(event))
        return
      event.preventDefault()
      handler()
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  })
}

const STAGES: Record<string, string> = { c: 'compose', r: 'run', s: 'settle', w: 'work', l: 'ledger' }
/** Milliseconds within which the second key has to follow the G. */
const PATIENCE = 1_200

/** G, then C, R, S, W or L, goes to that stage of the sheet. */
export function useStageKeys(sheet: string): void {
  const navigate = useNavigate()
  useEffect(() => {
    let since = 0
    const onKey = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || typing(event)) return
      const key = event.key.toLowerCase()
      const stage = STAGES[key]
      if (key === 'g') since = event.timeStamp
      else if (stage && since > 0 && event.timeStamp - since < PATIENCE) {
        since = 0
        event.preventDefault()
        event.stopImmediatePropagation()
        navigate(`/sheets/${sheet}/${stage}`)
      }
    }
    window.addEventListener('keydown', onKey, true)
    return () => window.removeEventListener('keydown', onKey, true)
  }, [sheet, navigate])
}

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
