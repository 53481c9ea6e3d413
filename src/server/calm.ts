import type { Logger } from 'pino'
import { MINUTE } from '../core/instant.ts'

/** Faults of one kind are told once in this long, in milliseconds; what came between is counted. */
const QUIET = MINUTE
/** Kinds that are told apart; past that they are told as one. */
const MOST_KINDS = 200

/** Logs a fault, or counts it where its like was told a moment ago. */
export type Calm = (error: unknown, words: string, more?: Readonly<Record<string, unknown>>) => void

/**
 * Makes a way to log faults that may come by the thousand, as on a full disk: each kind is told once a minute, with how
 * many there were since, so that the log never becomes the next thing that fills the disk.
 */
export function createCalm(log: Logger, time: () => number = Date.now): Calm {
  const told = new Map<string, { at: number; since: number }>()
  return (error, words, more = {}) => {
    const { code, message } = error instanceof Error ? (error as Error & { code?: string }) : {}
    const wanted = `${words} ${code ?? message ?? ''}`
    const kind = told.has(wanted) || told.size < MOST_KINDS ? wanted : ''
    const known = told.get(kind)
    if (known && time() - known.at < QUIET) {
      known.since += 1
      return
    }
    log.error({ err: error, ...more, ...(known && known.since > 0 && { moreSince: known.since }) }, words)
    told.set(kind, { at: time(), since: 0 })
  }
}
