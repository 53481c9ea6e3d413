import { useSyncExternalStore } from 'react'

/** A value outside of all pages, which those that show it follow. */
export interface Watched<Value> {
  get: () => Value
  set: (value: Value) => void
  /** A part of it; whoever uses it is drawn anew only where that part changes. */
  use: <Part>(part: (value: Value) => Part) => Part
}

/** Makes such a value. */
export function watched<Value>(first: Value): Watched<Value> {
  let value = first
  const watchers = new Set<() => void>()
  const watch = (watcher: () => void) => {
    watchers.add(watcher)
    return () => watchers.delete(watcher)
  }
  return {
    get: () => value,
    set: (next) => {
      if (Object.is(next, value)) return
      value = next
      for (const watcher of watchers) watcher()
    },
    use: (part) => useSyncExternalStore(watch, () => part(value)),
  }
}
