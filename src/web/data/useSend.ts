import { useState } from 'react'
import { type Fault, faultOf } from './call.ts'

/** Sends what a form holds: whether it is under way, and what stood in its way. */
export function useSend(): {
  busy: boolean
  fault: Fault | null
  /** Runs a call and what follows from it. */
  send: (work: () => Promise<void>) => Promise<void>
} {
  const [busy, setBusy] = useState(false)
  const [fault, setFault] = useState<Fault | null>(null)
  return {
    busy,
    fault,
    send: async (work) => {
      setBusy(true)
      setFault(null)
      try {
        await work()
      } catch (error) {
        setFault(faultOf(error))
      } finally {
        setBusy(false)
      }
    },
  }
}
