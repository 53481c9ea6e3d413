import { useEffect, useState } from 'react'
import { type Instant, instantFromMs } from '../../core/instant.ts'

let aheadMs = 0

/**
 * Learns from an answer that carries the server's time how far this machine's clock is off.
 * @param sent when the request went out (milliseconds), so that the way there and back is split evenly
 */
export function noteServerTime(answer: unknown, sent: number): void {
  if (typeof answer !== 'object' || answer === null || !('now' in answer) || typeof answer.now !== 'string')
    return
  const received = Date.now()
  aheadMs = Date.parse(answer.now) - (sent + received) / 2
}

/** The present instant by the server's clock. */
export function serverNow(): Instant {
  return instantFromMs(Date.now() + aheadMs)
}

/** The present instant by the server's clock, kept current as time goes by. */
export function useNow(everyMs = 1_000): Instant {
  const [now, setNow] = useState(serverNow)
  useEffect(() => {
    const timer = setInterval(() => setNow(serverNow()), everyMs)
    return () => clearInterval(timer)
  }, [everyMs])
  return now
}
