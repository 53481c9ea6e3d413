import { useState } from 'react'
import { claim, type StudentSheet } from '../../contract/seats.ts'
import type { ClaimAsk } from '../../core/claim.ts'
import { call, type Fault, faultOf } from '../data/call.ts'

/** Pauses (milliseconds) before a claim that got no answer is sent again, with the same key. */
const RETRIES = [800, 2_000, 4_000]

/** A claim that is under way, and whether it had to be sent again. */
export interface Underway {
  group: string
  again: boolean
}

/**
 * Sends claims for the signed-in student. A claim whose answer is lost is sent again under its key, so that it
 * cannot take two seats; a seat counts as taken only when the server has said so.
 */
export function useClaim(sheet: string): {
  underway: Underway | null
  send: (ask: ClaimAsk<string>) => Promise<StudentSheet | Fault>
} {
  const [underway, setUnderway] = useState<Underway | null>(null)
  const send = async (ask: ClaimAsk<string>): Promise<StudentSheet | Fault> => {
    const group = 'to' in ask ? ask.to : ask.from
    const body = { key: newKey(), ...ask }
    setUnderway({ group, again: false })
    try {
      for (const pause of RETRIES) {
        try {
          return await call(claim, { sheet }, body)
        } catch (error) {
          const fault = faultOf(error)
          if (fault.code !== 'no-connection' && fault.code !== 'store-unavailable') return fault
          setUnderway({ group, again: true })
          await new Promise((resolve) => setTimeout(resolve, pause))
        }
      }
      return await call(claim, { sheet }, body)
    } catch (error) {
      return faultOf(error)
    } finally {
      setUnderway(null)
    }
  }
  return { underway, send }
}

function newKey(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16))
  return Array.from(bytes, (byte) => byte.toString(16).padStart(2, '0')).join('')
}
