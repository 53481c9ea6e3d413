import type { TabStorage } from './tabKept.ts'

/** A storage as a browser has it, for tests: it takes no more than so many entries, and lists its keys. */
export function tabStorage(most = 9): TabStorage & { keys: () => string[] } {
  const held = new Map<string, string>()
  return {
    getItem: (key) => held.get(key) ?? null,
    setItem: (key, value) => {
      if (!held.has(key) && held.size >= most) throw new DOMException('full', 'QuotaExceededError')
      held.set(key, value)
    },
    removeItem: (key) => void held.delete(key),
    key: (n) => [...held.keys()][n] ?? null,
    get length() {
      return held.size
    },
    keys: () => [...held.keys()],
  }
}
