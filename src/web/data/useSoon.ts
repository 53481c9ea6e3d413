import { useCallback, useEffect, useRef } from 'react'

/**
 * Runs a task a little later, once for many calls: a call that wants it earlier than planned brings it forward, one
 * that wants it later changes nothing.
 * @returns a function that takes the milliseconds to wait
 */
export function useSoon(task: () => void): (ms: number) => void {
  const newest = useRef(task)
  const planned = useRef<{ timer: ReturnType<typeof setTimeout>; at: number } | null>(null)
  useEffect(() => {
    newest.current = task
  })
  useEffect(
    () => () => {
      if (planned.current) clearTimeout(planned.current.timer)
    },
    [],
  )
  return useCallback((ms) => {
    const at = Date.now() + ms
    if (planned.current && planned.current.at <= at) return
    if (planned.current) clearTimeout(planned.current.timer)
    const timer = setTimeout(() => {
      planned.current = null
      newest.current()
    }, ms)
    planned.current = { timer, at }
  }, [])
}
