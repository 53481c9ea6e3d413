import { useState } from 'react'

/** The value as it was before, for as long as the new one says the same; so that what follows from it is not made anew. */
export function useSame<T>(value: T): T {
  const [kept, setKept] = useState(value)
  if (kept === value) return kept
  if (JSON.stringify(kept) === JSON.stringify(value)) return kept
  setKept(value)
  return value
}

/** A map whose values are the same objects as before wherever they say the same, and itself where all do. */
export function useSameEach<Key, Value>(value: ReadonlyMap<Key, Value>): ReadonlyMap<Key, Value> {
  const [kept, setKept] = useState(value)
  if (kept === value) return kept
  const next = keepSame(kept, value)
  if (next !== kept) setKept(next)
  return next
}

/** The new map with the old one's values wherever both say the same; the old map itself where nothing differs. */
export function keepSame<Key, Value>(
  before: ReadonlyMap<Key, Value>,
  after: ReadonlyMap<Key, Value>,
): ReadonlyMap<Key, Value> {
  let changed = before.size !== after.size
  const next = new Map<Key, Value>()
  for (const [key, value] of after) {
    const old = before.get(key)
    const same = old !== undefined && (old === value || JSON.stringify(old) === JSON.stringify(value))
    next.set(key, same ? old : value)
    changed ||= !same
  }
  return changed ? next : before
}
