import { useState } from 'react'
import type { Fault } from '../../data/call.ts'

/**
 * A choice that shows at once and is kept by the server; while it is on its way, and only then, what was chosen
 * stands over what the server has. When it is refused, the page goes back to what the server has.
 */
export function useChosen<T>(
  value: T,
  save: (chosen: T) => Promise<Fault | null>,
): { value: T; choose: (chosen: T) => Promise<Fault | null> } {
  const [pending, setPending] = useState<{ chosen: T } | null>(null)
  const choose = async (chosen: T) => {
    setPending({ chosen })
    const fault = await save(chosen)
    setPending(null)
    return fault
  }
  return { value: pending ? pending.chosen : value, choose }
}
