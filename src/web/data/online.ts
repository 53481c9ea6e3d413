import { useSyncExternalStore } from 'react'

function subscribe(changed: () => void): () => void {
  addEventListener('online', changed)
  addEventListener('offline', changed)
  return () => {
    removeEventListener('online', changed)
    removeEventListener('offline', changed)
  }
}

/** Whether this machine has a network at all. */
export function useOnline(): boolean {
  return useSyncExternalStore(subscribe, () => navigator.onLine)
}

/** Ends after so many milliseconds, when the network comes back, or when the signal is given, whichever is first. */
export function pauseOrOnline(ms: number, signal: AbortSignal): Promise<void> {
  return new Promise((resolve) => {
    const end = () => {
      clearTimeout(timer)
      removeEventListener('online', end)
      signal.removeEventListener('abort', end)
      resolve()
    }
    const timer = setTimeout(end, ms)
    addEventListener('online', end)
    signal.addEventListener('abort', end)
  })
}
