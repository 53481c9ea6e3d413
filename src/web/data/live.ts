import { useEffect, useRef, useState } from 'react'
import { LIVE_EVENTS, live } from '../../contract/live.ts'
import { address } from './base.ts'

/** Whether a page hears of changes as they happen. */
export type LiveState = 'live' | 'reconnecting' | 'elsewhere'

/** Why a page does not hear of changes, in words; null while it does. */
export function liveWords(live: LiveState): string | null {
  if (live === 'live') return null
  return live === 'reconnecting'
    ? 'connection lost, trying again'
    : 'open in many places: it catches up when you come back to it'
}

/** Milliseconds before a stream that the browser gave up is tried again, each time it fails anew; the last from then on. */
const RETRIES = [2_000, 2_000, 4_000, 8_000, 15_000]

/**
 * Listens to a sheet's stream from a position on, for as long as the page is open. After a lost connection it
 * goes on from the last position heard, so that nothing is missed.
 * @param since position of the view that the page shows first; null waits
 * @param on handlers by event name, given the event's data and its position; `first` is told when the stream is there
 *   for the first time (what has no position may have been told before), `back` when a lost connection is there again
 */
export function useLive(
  sheet: string,
  since: number | null,
  on: Readonly<Record<string, (data: never, position: number) => void>>,
): LiveState {
  const [state, setState] = useState<LiveState>('live')
  const handlers = useRef(on)
  const position = useRef(since ?? 0)
  const ready = since !== null
  if (since !== null && since > position.current) position.current = since
  useEffect(() => {
    handlers.current = on
  })
  useEffect(() => {
    if (!ready) return
    let source: EventSource | null = null
    let timer: ReturnType<typeof setTimeout> | undefined
    let lost = false
    let first = true
    let tries = 0
    let stopWaiting = () => {}
    const connect = () => {
      source = new EventSource(`${address(live.path, { sheet })}?since=${position.current}`)
      source.onopen = () => {
        setState('live')
        if (lost) handlers.current.back?.(null as never, position.current)
        else if (first) handlers.current.first?.(null as never, position.current)
        lost = false
        first = false
        tries = 0
      }
      source.onerror = () => {
        setState('reconnecting')
        lost = true
        // Browsers give up for good on some failures; then it is up to us.
        if (source?.readyState !== EventSource.CLOSED) return
        timer = setTimeout(connect, RETRIES[Math.min(tries, RETRIES.length - 1)])
        tries += 1
      }
      // As many streams are open as one person may have, and this page's was the oldest: it waits to be looked at.
      source.addEventListener(LIVE_EVENTS.elsewhere, () => {
        source?.close()
        setState('elsewhere')
        lost = true
        stopWaiting = onFront(connect)
      })
      for (const event of Object.keys(handlers.current)) {
        source.addEventListener(event, ({ data, lastEventId }: MessageEvent<string>) => {
          position.current = Number(lastEventId)
          handlers.current[event]?.(JSON.parse(data) as never, position.current)
        })
      }
    }
    connect()
    return () => {
      clearTimeout(timer)
      stopWaiting()
      source?.close()
    }
  }, [sheet, ready])
  return state
}

/** Calls back once the page comes to the front. Gives what ends the waiting. */
function onFront(came: () => void): () => void {
  const look = () => {
    if (document.visibilityState !== 'visible') return
    stop()
    came()
  }
  const stop = () => {
    removeEventListener('focus', look)
    document.removeEventListener('visibilitychange', look)
  }
  addEventListener('focus', look)
  document.addEventListener('visibilitychange', look)
  return stop
}
