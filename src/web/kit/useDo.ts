import { useEffect, useRef } from 'react'
import { useSearchParams } from 'react-router'

/**
 * Does what the address asks for with `?do=`, once: how the find box gets something done on another page.
 * @param deeds what can be asked for, by name; one that is not ready yet is left out, and done once it is there
 */
export function useDo(deeds: Readonly<Record<string, (() => void) | false>>): void {
  const [params, setParams] = useSearchParams()
  const wanted = params.get('do')
  const deed = wanted === null ? undefined : deeds[wanted]
  const newest = useRef(deed)
  useEffect(() => {
    newest.current = deed
  })
  const ready = Boolean(deed)
  useEffect(() => {
    if (!ready || !newest.current) return
    newest.current()
    setParams(
      (before) => {
        const rest = new URLSearchParams(before)
        rest.delete('do')
        return rest
      },
      { replace: true },
    )
  }, [ready, setParams])
}
