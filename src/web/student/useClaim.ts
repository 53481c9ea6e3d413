import { useCallback, useRef, useState } from 'react'
import { type ClaimAnswer, claim } from '../../contract/seats.ts'
import type { ClaimAsk } from '../../core/claim.ts'
import { call, Fault, faultOf } from '../data/call.ts'
import { pauseOrOnline } from '../data/online.ts'
import { type KeptClaim, keepClaim, keptClaim } from './keptClaim.ts'

/** Pauses (milliseconds) before a claim that got no answer is sent again; the last one repeats. */
const PAUSES = [800, 2_000, 4_000, 5_000]
/** Faults after which the same claim is sent again: nobody knows, or the server wants to be asked later. */
const AGAIN: readonly Fault['code'][] = ['no-connection', 'store-unavailable', 'too-busy']

/** A claim that is under way, and whether it had to be sent again. */
export interface Underway {
  group: string
  kind: ClaimAsk<string>['kind']
  again: boolean
}

/**
 * Sends claims for the signed-in student. A claim whose answer is lost is sent again under its key until it is
 * answered or stopped, so that it cannot take two seats, and is kept when the page is loaded anew. A seat counts as
 * taken only when the server has said so.
 */
export function useClaim(sheet: string): {
  underway: Underway | null
  /** The claim that an earlier load of the page left unanswered. */
  kept: ClaimAsk<string> | null
  send: (ask: ClaimAsk<string>) => Promise<ClaimAnswer | Fault>
  stop: () => void
} {
  const [underway, setUnderway] = useState<Underway | null>(null)
  const [kept] = useState(() => keptClaim(sheet)?.ask ?? null)
  const stopping = useRef<AbortController | null>(null)
  const send = useCallback(
    async (ask: ClaimAsk<string>): Promise<ClaimAnswer | Fault> => {
      const wanted = { group: 'to' in ask ? ask.to : ask.from, kind: ask.kind }
      const stop = new AbortController()
      stopping.current = stop
      const body = claimFor(sheet, ask)
      keepClaim(sheet, body)
      setUnderway({ ...wanted, again: false })
      try {
        for (let tries = 0; ; tries++) {
          try {
            return await call(claim, { sheet }, { key: body.key, ...ask })
          } catch (error) {
            const fault = faultOf(error)
            if (!AGAIN.includes(fault.code)) return fault
            setUnderway({ ...wanted, again: true })
            const pause = PAUSES[Math.min(tries, PAUSES.length - 1)] ?? 0
            // Spread a little, so that many who were sent away do not come back at one moment.
            await pauseOrOnline(Math.max(pause, fault.retryAfter) * (1 + Math.random() / 4), stop.signal)
            if (stop.signal.aborted) return STOPPED
          }
        }
      } finally {
        keepClaim(sheet, null)
        setUnderway(null)
      }
    },
    [sheet],
  )
  return { underway, kept, send, stop: () => stopping.current?.abort() }
}

/** The student stopped waiting for an answer. */
export const STOPPED = new Fault({
  type: 'about:blank',
  code: 'store-unavailable',
  title: 'No longer asked',
  status: 0,
  detail:
    'It is no longer asked. Should it have reached the server already, your page shows it once there is a connection.',
})

/** A claim under a new key, or under the key it had when the page was loaded anew before its answer came. */
function claimFor(sheet: string, ask: ClaimAsk<string>): KeptClaim {
  const kept = keptClaim(sheet)
  const same = kept && JSON.stringify(kept.ask) === JSON.stringify(ask)
  return same ? kept : { key: newKey(), ask, at: Date.now() }
}

function newKey(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16))
  return Array.from(bytes, (byte) => byte.toString(16).padStart(2, '0')).join('')
}
