import { useState } from 'react'

/** The value as it was before, for as long as the new one says the same; so that what follows from it is not made anew. */
export function useSame<T>(value: T): T {
  const [kept, setKept] = useState(value)
  if (kept === value) return kept
  if (JSON.stringify(kept) === JSON.stringify(value)) return kept
  setKept(value)
  return value
}
